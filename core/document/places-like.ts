// Where a figure that goes with another could be played: where that one is, as far as its part has nothing
// there yet.
import { placementTicks } from './figure-content'
import type { Figure, Placement, Song } from './schema'

type Placed = Extract<Placement, { kind: 'figure' }>

/** Placements of `figure` beside those of another figure, without ids; places that are taken are left out. */
export function placesLike(
  song: Song,
  figureId: string,
  figure: Pick<Figure, 'id' | 'partId' | 'lengthTicks'>,
): Omit<Placed, 'id'>[] {
  const all = Object.values(song.placements)
  return all.flatMap((placement): Omit<Placed, 'id'>[] => {
    if (placement.kind !== 'figure' || placement.figureId !== figureId) return []
    const { sectionId, startTicks, passes } = placement
    const end = startTicks + passes * figure.lengthTicks
    const taken = all.some(
      (other) =>
        other.partId === figure.partId &&
        other.sectionId === sectionId &&
        other.startTicks < end &&
        startTicks < other.startTicks + placementTicks(song, other),
    )
    if (taken) return []
    const place = { partId: figure.partId, sectionId, startTicks, figureId: figure.id, passes }
    return [{ kind: 'figure', ...place, shiftFrets: 0, form: 'exact' }]
  })
}
