// What differs between two contents, said as a teacher would: "bar 2, beat 4: string 5 fret 5 instead of
// fret 3".
import { hasMark, markOf } from '../marks/marks-of'
import { barTicks, countWords, type Meter } from '../time/meter'
import type { Content, Grip, GripSpan, Note, Stroke } from './schema'

export interface Difference {
  startTicks: number
  barNumber: number
  text: string
}

const marks = (note: Note): string =>
  note.marks
    .map((mark) => mark.kind)
    .sort()
    .join(', ')

/** Low to high, as grips are written. */
const gripText = (grip: Grip): string => {
  const frets = grip.strings.map((string) => string.fret ?? 'x').reverse()
  return frets.join(frets.some((fret) => String(fret).length > 1) ? '-' : '')
}
const isDead = (stroke: Stroke): boolean => hasMark(stroke, 'dead')
const strokeText = (stroke: Stroke): string =>
  `${isDead(stroke) ? 'dead stroke' : 'stroke'} ${stroke.direction}`

const slideOf = (stroke: Stroke) => markOf(stroke, 'slide')?.how
const palmOf = (stroke: Stroke) => markOf(stroke, 'palm mute')?.pressure
const slideText = (stroke: Stroke): string => {
  const how = slideOf(stroke)
  return how ? `slid (${how})` : 'struck'
}

/** One event before and after; one of the two may be missing. */
type Change<T> = (before: T | undefined, after: T | undefined) => string | undefined

const noteChange: Change<Note> = (before, after) => {
  if (!before) return `string ${after!.string} fret ${after!.fret} added`
  if (!after) return `string ${before.string} fret ${before.fret} left out`
  if (before.fret !== after.fret) return `string ${after.string} fret ${after.fret} instead of ${before.fret}`
  if (marks(before) !== marks(after))
    return `${marks(after) || 'plain'} instead of ${marks(before) || 'plain'}`
  return before.lengthTicks === after.lengthTicks ? undefined : 'other length'
}

const gripChange: Change<GripSpan> = (before, after) => {
  if (!before) return `grip ${gripText(after!.grip)} added`
  if (!after) return `grip ${gripText(before.grip)} left out`
  const [now, then] = [gripText(after.grip), gripText(before.grip)]
  return now === then ? undefined : `grip ${now} instead of ${then}`
}

const strokeChange: Change<Stroke> = (before, after) => {
  if (!before) return `${strokeText(after!)} added`
  if (!after) return `${strokeText(before)} left out`
  if (isDead(before) !== isDead(after))
    return isDead(after) ? 'dead stroke instead of a sounding one' : 'sounding stroke instead of a dead one'
  if (before.direction !== after.direction) return `${after.direction} instead of ${before.direction}`
  if (slideOf(before) !== slideOf(after)) return `${slideText(after)} instead of ${slideText(before)}`
  if (palmOf(before) === palmOf(after)) return undefined
  return `${palmOf(after) ?? 'no'} palm mute instead of ${palmOf(before) ?? 'none'}`
}

/** Differences from `base` to `other`, in time order. Empty when they play the same. */
export function contentDifferences(base: Content, other: Content, meter: Meter): Difference[] {
  const bar = barTicks(meter)
  const found: Difference[] = []
  const say =
    <T extends { startTicks: number }>(change: Change<T>) =>
    (before: T | undefined, after: T | undefined): void => {
      const text = change(before, after)
      if (text === undefined) return
      const { startTicks } = (after ?? before)!
      const barNumber = Math.floor(startTicks / bar) + 1
      const count = countWords(meter, startTicks % bar)
      found.push({ startTicks, barNumber, text: `bar ${barNumber}, ${count}: ${text}` })
    }
  compare(base.notes, other.notes, (note) => `${note.startTicks}/${note.string}`, say(noteChange))
  compare(base.grips, other.grips, (span) => String(span.startTicks), say(gripChange))
  compare(base.strokes, other.strokes, (stroke) => String(stroke.startTicks), say(strokeChange))
  return found.sort((a, b) => a.startTicks - b.startTicks)
}

function compare<T>(
  before: T[],
  after: T[],
  keyOf: (entry: T) => string,
  report: (before: T | undefined, after: T | undefined) => void,
): void {
  const old = new Map(before.map((entry) => [keyOf(entry), entry]))
  for (const entry of after) {
    report(old.get(keyOf(entry)), entry)
    old.delete(keyOf(entry))
  }
  for (const entry of old.values()) report(entry, undefined)
}

const MOST_TOLD = 2
/** "string 2 fret 5 instead of 3; palm mute left out and 4 more". */
export function differencesInShort(differences: readonly { text: string }[]): string {
  if (differences.length === 0) return 'the same'
  const first = differences.slice(0, MOST_TOLD).map(({ text }) => text)
  const more = differences.length > MOST_TOLD ? ` and ${differences.length - MOST_TOLD} more` : ''
  return first.join('; ') + more
}
