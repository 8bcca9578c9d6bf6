// What a teacher says to the fretting hand about a line: where a finger rolls, where others help behind a
// bend, what is a stretch between notes that must be held together or follow without a shift.
import { hasMark, isSlurred } from '../marks/marks-of'
import type { Content, Note, Part } from '../document/schema'
import { fingerPlaceMm } from '../instrument/neck'
import { TICKS_PER_QUARTER } from '../time/meter'
import { fingerSpanMm, USUAL_HAND, type Hand } from './hand'
import { inTimeOrder } from './lines/line'

export interface HandAdvice {
  kind: 'roll' | 'helper' | 'stretch'
  startTicks: number
  noteId: string
  words: string
  /** Strings and frets it is about. */
  facts: readonly number[]
}

/** Faster than this one after the other, a finger has no time to hop a string: an eighth. */
const HOP_TICKS = TICKS_PER_QUARTER / 2
/** From a half step on, a bend wants more than one finger. */
const HELPED_SEMITONES = 1

const names: Record<string, string> = { 2: 'the first', 3: 'the first and second', 4: 'the first three' }

/** Consecutive notes at one fret on neighbouring strings: one finger, laid from one to the other. */
function rolls(line: readonly Note[]): HandAdvice[] {
  return line.flatMap((note, index): HandAdvice[] => {
    const before = line[index - 1]
    if (!before || note.fret === 0 || note.fret !== before.fret || isSlurred(note)) return []
    const gap = note.startTicks - before.startTicks
    if (Math.abs(note.string - before.string) !== 1 || gap === 0 || gap > HOP_TICKS) return []
    const words =
      `roll one finger at fret ${note.fret} from string ${before.string} to ${note.string}: tip and pad in ` +
      'turn, so that the first note stops when the second begins'
    const facts = [before.string, note.string, note.fret]
    return [{ kind: 'roll', startTicks: before.startTicks, noteId: before.id, words, facts }]
  })
}

/** The finger that bends: as written, else the third where there is room for others behind it. */
const bendingFinger = (note: Note): string =>
  note.finger ?? (note.fret >= 3 ? '3' : String(Math.max(1, note.fret)))

function helpers(line: readonly Note[]): HandAdvice[] {
  return line.flatMap((note): HandAdvice[] => {
    const mark = note.marks.find(({ kind }) => kind === 'bend')
    if (mark?.kind !== 'bend' || mark.semitones < HELPED_SEMITONES) return []
    const finger = bendingFinger(note)
    const behind = names[finger]
    const words = behind
      ? `bend with finger ${finger}, ${behind} behind it on the same string: turn the wrist rather than push`
      : 'bent with the first finger alone: nothing helps it; take the third a position lower where it can be'
    const facts = [note.string, note.fret]
    return [{ kind: 'helper', startTicks: note.startTicks, noteId: note.id, words, facts }]
  })
}

interface Reach {
  first: Note
  second: Note
  mm: number
  limit: number
  why: string
}

/** Two notes that are held at once, or joined by a slur: the hand cannot shift between them. */
function reachOf(first: Note, second: Note, place: (fret: number) => number, hand: Hand): Reach | undefined {
  if (first.fret === 0 || second.fret === 0) return undefined
  const mm = Math.abs(place(second.fret) - place(first.fret))
  const slid = second.marks.some(({ kind }) => kind === 'slide')
  if (slid) return undefined
  const together = first.startTicks === second.startTicks
  const ring = first.startTicks + first.lengthTicks > second.startTicks && first.string !== second.string
  const slurred = isSlurred(second) && first.string === second.string
  const why = [
    together ? 'struck together' : '',
    ring ? 'of which the first still rings' : '',
    slurred ? 'joined by a slur' : '',
  ].find(Boolean)
  const limit = fingerSpanMm('1', '4', hand)
  return why !== undefined && mm > limit ? { first, second, mm, limit, why } : undefined
}

function stretches(line: readonly Note[], part: Part, hand: Hand): HandAdvice[] {
  const { capo, scaleLengthMm } = part.instrument
  const place = (fret: number): number => fingerPlaceMm(fret + capo, scaleLengthMm)
  return line.flatMap((second, index): HandAdvice[] => {
    // What was begun within a bar may still be held.
    const near = line.slice(Math.max(0, index - 8), index)
    const reach = near
      .flatMap((first) => reachOf(first, second, place, hand) ?? [])
      .sort((a, b) => b.mm - a.mm)[0]
    if (!reach) return []
    const words =
      `${Math.round(reach.mm)} mm between notes ${reach.why}, frets ${reach.first.fret} and ${second.fret} ` +
      `(${hand.name.toLowerCase()}: up to ${Math.round(reach.limit)}): let the first go, or play one of ` +
      'them on another string. Stop at pain, ask a qualified teacher'
    const facts = [reach.first.string, reach.first.fret, second.string, second.fret]
    return [{ kind: 'stretch', startTicks: second.startTicks, noteId: second.id, words, facts }]
  })
}

/** Advice to the fretting hand, in time order. */
export function handAdvice({ notes }: Content, part: Part, hand: Hand = USUAL_HAND): HandAdvice[] {
  const line = inTimeOrder(notes.filter((note) => !hasMark(note, 'dead')))
  return [...rolls(line), ...helpers(line), ...stretches(line, part, hand)].sort(
    (a, b) => a.startTicks - b.startTicks,
  )
}
