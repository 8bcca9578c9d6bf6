// Versions of a figure: a variation that names the source it was read from, and is placed nowhere itself,
// is how that source has it. Heard over that source, it is played wherever its base is placed.
import type { Figure, Placement, Song } from './schema'

/** The variation a source has of each figure, by the figure’s id. */
function versionsOf(song: Song, sourceId: string): Map<string, Figure> {
  const placed = new Set(
    Object.values(song.placements).flatMap((placement) =>
      placement.kind === 'figure'
        ? [placement.figureId, ...(placement.passFigures ?? []).map((other) => other.figureId)]
        : [],
    ),
  )
  const versions = new Map<string, Figure>()
  for (const figure of Object.values(song.figures)) {
    const base = figure.variationOf && song.figures[figure.variationOf.figureId]
    if (
      base &&
      isVersion(figure, sourceId) &&
      !placed.has(figure.id) &&
      figure.lengthTicks === base.lengthTicks
    )
      versions.set(base.id, figure)
  }
  return versions
}

/** Whether a figure is how a source has the one it varies. */
const isVersion = (figure: Figure, sourceId: string): boolean =>
  figure.variationOf !== undefined && figure.sourceId === sourceId

/** The placements as a source has them: its versions in place of their bases. */
export function placementsOver(song: Song, sourceId: string): Song['placements'] {
  const versions = versionsOf(song, sourceId)
  if (versions.size === 0) return song.placements
  const own = (figureId: string): string => versions.get(figureId)?.id ?? figureId
  const moved = (placement: Placement): Placement => {
    if (placement.kind !== 'figure') return placement
    const { passFigures, ...rest } = placement
    const passes = passFigures?.map((other) => ({ ...other, figureId: own(other.figureId) }))
    return { ...rest, figureId: own(placement.figureId), ...(passes ? { passFigures: passes } : {}) }
  }
  return Object.fromEntries(Object.entries(song.placements).map(([id, one]) => [id, moved(one)]))
}
