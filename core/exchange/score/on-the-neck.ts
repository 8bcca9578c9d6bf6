// Pitches of a file laid on the strings, where the hand finds them.
import { draftPlaces, type OnString } from '../../neck/lines/draft-places'
import { soundingMidi } from '../../document/part-pitch'
import type { Part } from '../../document/schema'
import { TICKS_PER_QUARTER } from '../../time/meter'

/** Any steady pulse: only order and distance count. */
const TICKS_PER_SECOND = 20_160
/** After so long a silence the hand begins anew: what follows lies as it would alone. */
const PARTING_TICKS = TICKS_PER_QUARTER
/** A line without a rest is laid in stretches of so many notes, each seen with what comes next. */
const STRETCH = 160
const AHEAD = 24

interface Pitched {
  midi: number
  startTicks: number
  lengthTicks: number
  /** Must lie under a finger: it is bent. */
  pressed?: boolean
}

/**
 * Where each note lies; undefined for one that no string reaches. Phrase by phrase: one that comes back, or
 * stands alone, lies where it lay.
 */
export function placesOnNeck(notes: readonly Pitched[], part: Part): (OnString | undefined)[] {
  const order = notes
    .map((note, index) => ({ note, index }))
    .sort((a, b) => a.note.startTicks - b.note.startTicks || a.note.midi - b.note.midi)
  const places: (OnString | undefined)[] = []
  const laid = laidInOrder(
    order.map(({ note }) => note),
    part,
  )
  order.forEach(({ index }, at) => (places[index] = laid[at]))
  return places
}

function laidInOrder(notes: readonly Pitched[], part: Part): (OnString | undefined)[] {
  const known = new Map<string, readonly (OnString | undefined)[]>()
  const places = phrasesOf(notes).flatMap((phrase) => {
    const start = phrase[0]?.startTicks ?? 0
    const key = phrase
      .map(({ midi, startTicks, lengthTicks }) => `${midi}@${startTicks - start}+${lengthTicks}`)
      .join()
    const laid = known.get(key) ?? laidPhrase(phrase, part)
    known.set(key, laid)
    return laid
  })
  return eachOnItsOwn(notes, places, part)
}

/** Cut where everything has ended for a while. */
function phrasesOf(notes: readonly Pitched[]): Pitched[][] {
  const phrases: Pitched[][] = []
  let ends = Number.NEGATIVE_INFINITY
  for (const note of notes) {
    const last = phrases.at(-1)
    if (last && note.startTicks - ends < PARTING_TICKS) last.push(note)
    else phrases.push([note])
    ends = Math.max(ends, note.startTicks + note.lengthTicks)
  }
  return phrases
}

function laidPhrase(phrase: readonly Pitched[], part: Part): (OnString | undefined)[] {
  const places: (OnString | undefined)[] = []
  const start = phrase[0]?.startTicks ?? 0
  for (let from = 0; from < phrase.length; from += STRETCH) {
    const seen = phrase.slice(from, from + STRETCH + AHEAD).map(({ midi, startTicks, lengthTicks }) => ({
      midi,
      startSeconds: (startTicks - start) / TICKS_PER_SECOND,
      endSeconds: (startTicks - start + lengthTicks) / TICKS_PER_SECOND,
    }))
    places.push(...draftPlaces(seen, part, { tonic: 'C', mode: 'major' }).slice(0, STRETCH))
  }
  return places
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
