// A pass of a placement that plays another figure: "a different fill the fourth time".
import type { Figure, Placement, Song } from './schema'

type Placed = Extract<Placement, { kind: 'figure' }>

/** What each pass plays. */
export const figureOfPass = (placement: Placed, pass: number): string =>
  placement.passFigures?.find((entry) => entry.pass === pass)?.figureId ?? placement.figureId

/** The placement with one pass set to a figure; to the placed one again when that is the figure. */
export function withPassFigure(placement: Placed, pass: number, figureId: string): Placed {
  const { passFigures = [], ...rest } = placement
  const others = passFigures.filter((entry) => entry.pass !== pass)
  const next = figureId === placement.figureId ? others : [...others, { pass, figureId }]
  return next.length ? { ...rest, passFigures: next.sort((a, b) => a.pass - b.pass) } : rest
}

/** The same place, passes and all, played by another figure of the same length. */
export function placedInstead(placement: Placed, figureId: string): Placed {
  const { passFigures = [], ...rest } = placement
  const others = passFigures.filter((entry) => entry.figureId !== figureId)
  return { ...rest, figureId, ...(others.length ? { passFigures: others } : {}) }
}

/** Figures that can stand in for a pass: of the same part and as long as the placed one, itself included. */
export function figuresForPass(song: Song, placement: Placed): Figure[] {
  const placed = song.figures[placement.figureId]
  return Object.values(song.figures).filter(
    (figure) => figure.partId === placement.partId && figure.lengthTicks === placed?.lengthTicks,
  )
}
