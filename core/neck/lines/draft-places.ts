// Notes heard on a record laid on the strings, near the hand: what follows each other by the least way, what
// sounds together on strings of its own.
import { soundingMidi } from '../../document/part-pitch'
import type { Part } from '../../document/schema'
import type { Key } from '../../music/pitch'
import { findPaths } from './path'

export interface HeardNote {
  startSeconds: number
  endSeconds: number
  midi: number
}
export interface OnString {
  string: number
  fret: number
}

/** Any steady pulse does: paths ask only what comes after what, and how soon. */
const TICKS_PER_SECOND = 20_160

/** Where each note lies; undefined for one that is not on the neck. */
export function draftPlaces(notes: readonly HeardNote[], part: Part, key: Key): (OnString | undefined)[] {
  const reachable = notes.filter(({ midi }) => lowestPlace(part, midi))
  const paths = findPaths(
    reachable.map(({ startSeconds, endSeconds, midi }) => ({
      midi,
      startTicks: Math.round(startSeconds * TICKS_PER_SECOND),
      lengthTicks: Math.max(1, Math.round((endSeconds - startSeconds) * TICKS_PER_SECOND)),
      slurred: false,
      slid: false,
      pressed: false,
    })),
    part,
    key,
    {},
    1,
  )
  const places = paths.ok ? paths.value[0]?.places : undefined
  const placeOf = new Map(reachable.map((note, index) => [note, places?.[index]]))
  return notes.map((note) => {
    const place = placeOf.get(note)
    return place ? { string: place.string, fret: place.fret } : lowestPlace(part, note.midi)
  })
}

/** The place of a note nearest to the nut. */
function lowestPlace(part: Part, midi: number): OnString | undefined {
  const highest = part.instrument.fretCount - part.instrument.capo
  return part.tuning.openMidi
    .map((_, index) => ({ string: index + 1, fret: midi - soundingMidi(part, index + 1, 0) }))
    .filter(({ fret }) => fret >= 0 && fret <= highest)
    .sort((a, b) => a.fret - b.fret)
    .at(0)
}
