// The second of the recording at which everything that was set sounds: what corrections must leave alone.
import { sectionPlaces, songTimeMap } from '../../core/document/form'
import type { Song } from '../../core/document/schema'
import { ticksToSeconds } from '../../core/time/beat-grid'

export const at = (song: Song, ticks: number): number => ticksToSeconds(songTimeMap(song)!, ticks)

/** The second of everything that has a place, by a name that says what it is. */
export function moments(song: Song): Map<string, number> {
  const places = sectionPlaces(song)
  const found = new Map<string, number>()
  for (const { section, startTicks } of places)
    found.set(`section ${section.id}`, at(song, startTicks - section.pickupTicks))
  // By their order in the song: a border that moves may give a chord to the neighbour.
  const chords = places
    .flatMap(({ section, startTicks }) =>
      section.harmony.map((chord) => ({ ...chord, startTicks: startTicks + chord.startTicks })),
    )
    .sort((a, b) => a.startTicks - b.startTicks)
  chords.forEach(({ symbol, startTicks, lengthTicks }, index) => {
    found.set(`chord ${index} ${symbol}`, at(song, startTicks))
    found.set(`end of chord ${index} ${symbol}`, at(song, startTicks + lengthTicks))
  })
  const absolute = (sectionId: string, ticks: number): number =>
    at(song, places.find(({ section }) => section.id === sectionId)!.startTicks + ticks)
  for (const placement of Object.values(song.placements))
    found.set(`place ${placement.id}`, absolute(placement.sectionId, placement.startTicks))
  for (const spot of Object.values(song.spots))
    found.set(`spot ${spot.id}`, absolute(spot.place.sectionId, spot.place.startTicks))
  return found
}
export function mostMoved(before: Song, after: Song): { what: string; by: number } {
  const [was, now] = [moments(before), moments(after)]
  let most = { what: 'nothing', by: 0 }
  for (const [what, seconds] of was) {
    const by = Math.abs((now.get(what) ?? Number.POSITIVE_INFINITY) - seconds)
    if (by > most.by) most = { what, by }
  }
  return most
}
