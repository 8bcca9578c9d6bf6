// Ending a link without a sound changing: what stood on another figure keeps, as its own, what it plays.
import { figureContent } from '../figure-content'
import type { Figure, Song } from '../schema'

/** All figures, those that vary or follow one that `goes` standing by themselves. */
export function releasedFrom(song: Song, goes: (figureId: string) => boolean): Song['figures'] {
  const released = (figure: Figure): Figure => {
    const { variationOf, derivedFrom, ...rest } = figure
    const varies = variationOf && goes(variationOf.figureId)
    const follows = derivedFrom && goes(derivedFrom.figureId)
    if (!varies && !follows) return figure
    return {
      ...rest,
      ...(varies ? standingContent(song, figure) : variationOf && { variationOf }),
      ...(follows ? {} : derivedFrom && { derivedFrom }),
    }
  }
  return Object.fromEntries(Object.entries(song.figures).map(([id, figure]) => [id, released(figure)]))
}

/** All strokes are its own then, also those its hand pattern gave it: they come from it again as they are. */
const standingContent = (song: Song, figure: Figure): Pick<Figure, 'content'> => ({
  content: figureContent(song, figure),
})
