// Two parts for one player: the first is kept, of the second whatever strings and hand are free for; every
// dropped note says why.
import { hasMark } from '../../marks/marks-of'
import { fingerPlaceMm } from '../../instrument/neck'
import { ok, refuse, type Result } from '../../result'
import type { Content, Grip, Note, Part } from '../../document/schema'
import { USUAL_HAND, type Hand } from '../hand'
import { soundingMidi } from '../../document/part-pitch'

export interface Dropped {
  startTicks: number
  string: number
  fret: number
  midi: number
  why: string
}
/**
 * `octaves`: by how many the second part was moved; `kept`: its notes that fit; `shared`: those the first
 * part plays itself.
 */
export interface Merged {
  content: Content
  octaves: number
  kept: number
  shared: number
  dropped: Dropped[]
}

interface Busy {
  string: number
  fret: number
  startTicks: number
  endTicks: number
  own: boolean
}

/** Strokes of a part as what they sound: one entry a string. */
function struck(content: Content): Busy[] {
  return content.strokes.flatMap((stroke) => {
    if (hasMark(stroke, 'dead')) return []
    const grip: Grip | undefined = content.grips.findLast(
      (span) =>
        span.startTicks <= stroke.startTicks && stroke.startTicks < span.startTicks + span.lengthTicks,
    )?.grip
    return (grip?.strings ?? []).flatMap((string, index): Busy[] =>
      string.fret === null || (stroke.strings && !stroke.strings.includes(index + 1))
        ? []
        : [
            {
              string: index + 1,
              fret: string.fret,
              startTicks: stroke.startTicks,
              endTicks: stroke.startTicks + stroke.lengthTicks,
              own: true,
            },
          ],
    )
  })
}
const busyNotes = (notes: readonly Note[]): Busy[] =>
  notes.map((note) => ({
    string: note.string,
    fret: note.fret,
    startTicks: note.startTicks,
    endTicks: note.startTicks + note.lengthTicks,
    own: true,
  }))

/**
 * Octaves the second part may be moved by, in the order they are preferred: a bass is read an octave up on
 * a guitar.
 */
const OCTAVES = [0, 1, -1, 2, -2] as const

interface Merging {
  first: Content
  second: Content
  parts: { first: Part; second: Part }
  hand: Hand
}

/**
 * Both contents (aligned at their starts) on the first part's instrument. `second` is moved to the strings
 * that are free, as a whole by the octave in which most of it fits; what the hand cannot reach beside what
 * it holds is dropped.
 */
export function mergeParts(
  first: Content,
  second: Content,
  parts: { first: Part; second: Part },
  hand: Hand = USUAL_HAND,
): Result<Merged> {
  const asked = [...busyNotes(second.notes), ...struck(second)].sort(
    (a, b) => a.startTicks - b.startTicks || b.string - a.string,
  )
  if (asked.length === 0) return refuse('nothing', 'The second part has nothing here to take over.')
  const merging = { first, second, parts, hand }
  const tried = OCTAVES.map((octaves) => mergeAt(merging, asked, octaves))
  // An octave further away has to be worth it: a bass two octaves up is no bass any more.
  const worth = ({ kept, shared, octaves }: Merged): number =>
    (kept + shared) / asked.length - 0.08 * Math.abs(octaves)
  return ok(tried.reduce((best, next) => (worth(next) > worth(best) ? next : best)))
}

/** One part as it grows by what it takes over. */
interface Merge {
  part: Part
  hand: Hand
  /** Everything that sounds so far, the first part's own notes and what was taken in. */
  busy: Busy[]
  /** Where the note before on each string of the second part has gone: a slur can only follow it there. */
  went: Map<number, number | undefined>
}
/** A note that is to be taken over: at its pitch, with the written note it comes from. */
interface Wanted {
  want: Busy
  midi: number
  source: Note | undefined
  held: readonly Busy[]
}
type Fitted = { place: { string: number; fret: number } } | { why: string }

const hasSlur = (note: Note | undefined): boolean => note?.marks.some((mark) => SLURS.has(mark.kind)) ?? false

/** How far apart the hand is with one more fret, mm; open strings ask for nothing. */
function spreadMm({ part }: Merge, fretted: readonly number[], fret: number): number {
  if (fret === 0 || fretted.length === 0) return 0
  const { capo, scaleLengthMm } = part.instrument
  const places = [...fretted, fret].map((one) => fingerPlaceMm(one + capo, scaleLengthMm))
  return Math.max(...places) - Math.min(...places)
}

/** The place where a note lies best beside what is held, or why there is none. */
function fitNote(merge: Merge, { want, midi, source, held }: Wanted): Fitted {
  const { part, hand, went } = merge
  const highest = part.instrument.fretCount - part.instrument.capo
  const places = part.tuning.openMidi.flatMap((_, index) => {
    const fret = midi - soundingMidi(part, index + 1, 0)
    return fret >= 0 && fret <= highest && Number.isInteger(fret) ? [{ string: index + 1, fret }] : []
  })
  if (places.length === 0) {
    const low = midi < soundingMidi(part, part.tuning.openMidi.length, 0)
    return { why: `too ${low ? 'low' : 'high'} for ${part.name}` }
  }
  const free = places.filter((place) => !held.some((other) => other.string === place.string))
  if (free.length === 0) return { why: 'its strings are taken by the first part' }
  const fretted = held.flatMap((other) => (other.fret ? [other.fret] : []))
  const spread = (fret: number): number => spreadMm(merge, fretted, fret)
  const before = went.get(want.string)
  const strays = (string: number): number => (hasSlur(source) && string !== before ? 1 : 0)
  const best = free.toSorted(
    (a, b) =>
      spread(a.fret) - spread(b.fret) ||
      strays(a.string) - strays(b.string) ||
      Math.abs(a.string - want.string) - Math.abs(b.string - want.string),
  )[0]!
  if (spread(best.fret) > hand.cautionMm) return { why: 'the hand cannot be in two places' }
  const fingers = new Set([...fretted, ...(best.fret ? [best.fret] : [])]).size
  return fingers > 4 ? { why: 'it would need a fifth finger' } : { place: best }
}

/**
 * The note at its new place. A slur belongs to its string: without the note before it, the note is
 * picked.
 */
function takenNote({ want, source }: Wanted, place: { string: number; fret: number }, before?: number): Note {
  const marks = (source?.marks ?? []).filter(
    (mark) =>
      (place.string === before || !SLURS.has(mark.kind)) &&
      (place.fret > 0 || (mark.kind !== 'bend' && mark.kind !== 'vibrato')),
  )
  return {
    id: source?.id ?? `merged${want.startTicks}-${want.string}`,
    ...place,
    startTicks: want.startTicks,
    lengthTicks: want.endTicks - want.startTicks,
    marks,
  }
}

function mergeAt({ first, second, parts, hand }: Merging, asked: readonly Busy[], octaves: number): Merged {
  const part = parts.first
  const merge: Merge = { part, hand, busy: [...busyNotes(first.notes), ...struck(first)], went: new Map() }
  const { busy, went } = merge
  const byPlace = new Map(second.notes.map((note) => [`${note.startTicks}/${note.string}`, note]))
  const notes: Note[] = []
  const dropped: Dropped[] = []
  let shared = 0
  for (const want of asked) {
    const { startTicks, string, fret } = want
    const midi = soundingMidi(parts.second, string, fret) + 12 * octaves
    const held = busy.filter((other) => other.startTicks < want.endTicks && startTicks < other.endTicks)
    const sounds = (other: Busy): boolean =>
      other.startTicks === startTicks && soundingMidi(part, other.string, other.fret) === midi
    const wanted = { want, midi, held, source: byPlace.get(`${startTicks}/${string}`) }
    const before = went.get(string)
    const both = held.some(sounds)
    const fitted = both ? undefined : fitNote(merge, wanted)
    went.set(string, undefined)
    if (!fitted) shared++
    else if ('why' in fitted) dropped.push({ startTicks, string, fret, midi, why: fitted.why })
    else {
      busy.push({ ...want, ...fitted.place })
      went.set(string, fitted.place.string)
      notes.push(takenNote(wanted, fitted.place, before))
    }
  }
  const ids = new Set(first.notes.map((note) => note.id))
  const added = notes.map((note) => (ids.has(note.id) ? { ...note, id: `${note.id}-2` } : note))
  const all = [...first.notes, ...added].sort((a, b) => a.startTicks - b.startTicks || b.string - a.string)
  return { content: { ...first, notes: all }, octaves, kept: notes.length, shared, dropped }
}
const SLURS: ReadonlySet<string> = new Set(['hammer-on', 'pull-off', 'slide'])

/** What was dropped, reason by reason, the commonest first. */
export function droppedByReason(dropped: readonly Dropped[]): { why: string; notes: Dropped[] }[] {
  const groups = new Map<string, Dropped[]>()
  for (const one of dropped) groups.set(one.why, [...(groups.get(one.why) ?? []), one])
  return [...groups].map(([why, notes]) => ({ why, notes })).sort((a, b) => b.notes.length - a.notes.length)
}

/** An octave shift in words: "an octave up", "as written". */
export const octaveWords = (octaves: number): string =>
  octaves === 0
    ? 'as written'
    : [
        Math.abs(octaves) === 1 ? 'an octave' : `${Math.abs(octaves)} octaves`,
        octaves > 0 ? 'up' : 'down',
      ].join(' ')
