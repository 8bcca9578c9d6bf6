// The chords of the form in song time. Worked out once for each document.
import type { Song } from '../document/schema'
import { timelineOf } from '../timeline/timeline'

/** A chord of the form in song time. */
export interface SongChord {
  sectionId: string
  /** Within its section: by it the chord is known. */
  inSection: number
  startTicks: number
  endTicks: number
  symbol: string
}

const chordsOf = new WeakMap<Song, SongChord[]>()

/** The chords of all sections in song time; one that begins before its section takes from the one before. */
export function songChords(song: Song): SongChord[] {
  const known = chordsOf.get(song)
  if (known) return known
  const chords = timelineOf(song).places.flatMap(({ section, startTicks }) =>
    section.harmony.map((chord) => ({
      sectionId: section.id,
      inSection: chord.startTicks,
      startTicks: startTicks + chord.startTicks,
      endTicks: startTicks + chord.startTicks + chord.lengthTicks,
      symbol: chord.symbol,
    })),
  )
  chords.sort((a, b) => a.startTicks - b.startTicks)
  const made = chords.map((chord, index) => {
    const next = chords[index + 1]
    return next && next.startTicks < chord.endTicks ? { ...chord, endTicks: next.startTicks } : chord
  })
  chordsOf.set(song, made)
  return made
}
