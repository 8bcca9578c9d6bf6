// Pitches of a file laid on the strings, where the hand finds them.
import { draftPlaces, type OnString } from '../../fretboard/lines/draft-places'
import { soundingMidi } from '../../document/part-pitch'
import type { Part } from '../../document/schema'

/** The way of the hand is looked for over so many notes at once: over a long line it would take long. */
const NOTES_AT_ONCE = 120
/** Any steady pulse: only order and distance count. */
const TICKS_PER_SECOND = 20_160

interface Pitched {
  midi: number
  startTicks: number
  lengthTicks: number
  /** Must lie under a finger: it is bent. */
  pressed?: boolean
}

/** Where each note lies; undefined for one that no string reaches. */
export function placesOnNeck(notes: readonly Pitched[], part: Part): (OnString | undefined)[] {
  const places: (OnString | undefined)[] = []
  for (let from = 0; from < notes.length; from += NOTES_AT_ONCE) {
    const some = notes.slice(from, from + NOTES_AT_ONCE).map(({ midi, startTicks, lengthTicks }) => ({
      midi,
      startSeconds: startTicks / TICKS_PER_SECOND,
      endSeconds: (startTicks + lengthTicks) / TICKS_PER_SECOND,
    }))
    places.push(...draftPlaces(some, part, { tonic: 'C', mode: 'major' }))
  }
  return eachOnItsOwn(notes, places, part)
}

/** Two notes that begin together need two strings: the second goes to another that reaches it, or nowhere. */
function eachOnItsOwn(
  notes: readonly Pitched[],
  places: readonly (OnString | undefined)[],
  part: Part,
): (OnString | undefined)[] {
  const taken = new Set<string>()
  const highest = part.instrument.fretCount - part.instrument.capo
  return places.map((place, index) => {
    const { midi, startTicks, pressed } = notes[index]!
    const free = ({ string, fret }: OnString): boolean =>
      !taken.has(`${startTicks}/${string}`) && !(pressed && fret === 0)
    const elsewhere = part.tuning.openMidi
      .map((_, at) => ({ string: at + 1, fret: midi - soundingMidi(part, at + 1, 0) }))
      .filter(({ fret }) => fret >= 0 && fret <= highest)
    const own = place && free(place) ? place : elsewhere.find(free)
    if (own) taken.add(`${startTicks}/${own.string}`)
    return own
  })
}
