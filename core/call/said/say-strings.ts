// Strings as they are named: "the G", "low E", "third string", "the second and third", "the top three",
// "both".
import type { StringSpec } from './items'
import { here, is, isArticle, kind, spanFrom, take, text, type Scan } from './scan'

const stringCount = (s: Scan): number => s.context.part.tuning.openMidi.length

function sign(s: Scan, letter: string): string {
  if (is(s, 0, 'flat')) {
    s.i++
    return `${letter}b`
  }
  if (is(s, 0, 'sharp')) {
    s.i++
    return `${letter}#`
  }
  return letter
}
const takeStringWord = (s: Scan): boolean => take(s, 'string')

const WHICH: Readonly<Record<string, 'low' | 'high' | 'middle'>> = {
  low: 'low',
  lower: 'low',
  lowest: 'low',
  big: 'low',
  fat: 'low',
  thick: 'low',
  bottom: 'low',
  high: 'high',
  higher: 'high',
  thin: 'high',
  top: 'high',
  highest: 'high',
  skinny: 'high',
  little: 'high',
  middle: 'middle',
}
export const whichAt = (s: Scan, offset = 0): 'low' | 'high' | 'middle' | undefined =>
  kind(s, offset) === 'word' && Object.hasOwn(WHICH, text(s, offset)) ? WHICH[text(s, offset)] : undefined

const range = (from: number, to: number): StringSpec[] =>
  Array.from({ length: to - from + 1 }, (_, index) => ({ number: from + index }))

/** So many strings of one side, from the lowest of them up. */
function sideOf(s: Scan, which: 'low' | 'high' | 'middle', number: number): StringSpec[] {
  const count = stringCount(s)
  if (which === 'middle') {
    const from = Math.floor((count - number) / 2) + 1
    return range(from, from + number - 1).toReversed()
  }
  return (which === 'high' ? range(1, number) : range(count - number + 1, count)).toReversed()
}

/** "the top three", "the bottom two strings": how many of a side; undefined when none are counted. */
function takeSideCount(s: Scan): number | undefined {
  const { value } = here(s, 1)
  const counted = kind(s, 1) === 'number' && !is(s, 2, 'fingers', 'finger') && value <= stringCount(s)
  if (counted && /^(top|bottom|high|low|middle)$/.test(text(s))) {
    s.i += 2
    takeStringWord(s)
    return value
  }
  if (!is(s, 1, 'string') || whichAt(s) === 'middle') return undefined
  s.i += 2
  return here(s, -1).plural ? 2 : 1
}

/** "top three strings", "the bottom two", "the high E", "big string". */
function sideStrings(s: Scan): StringSpec[] | undefined {
  const which = whichAt(s)
  if (!which) return undefined
  if (kind(s, 1) === 'letter' && (!isArticle(s, 1) || is(s, 2, 'string'))) {
    s.i += 2
    const letter = sign(s, here(s, -1).text)
    takeStringWord(s)
    return [{ letter, which }]
  }
  const number = takeSideCount(s)
  return number === undefined ? undefined : sideOf(s, which, number)
}

/** "third string", "string 3", "the fourth" where `bareOrdinal`. */
function numberedString(s: Scan, bareOrdinal: boolean): StringSpec[] | undefined {
  const { value } = here(s)
  const inRange = value >= 1 && value <= stringCount(s)
  if (kind(s) === 'ordinal' && inRange && (is(s, 1, 'string') || bareOrdinal) && !is(s, 1, 'fret')) {
    s.i++
    takeStringWord(s)
    return [{ number: value }]
  }
  if (kind(s) === 'number' && is(s, 1, 'string') && !here(s, 1).plural && inRange && text(s).length <= 2) {
    s.i += 2
    return [{ number: value }]
  }
  if (is(s, 0, 'string') && kind(s, 1) === 'number' && here(s, 1).value <= stringCount(s)) {
    s.i += 2
    return [{ number: here(s, -1).value }]
  }
  return undefined
}

export function isLetter(s: Scan, offset = 0): boolean {
  return (
    kind(s, offset) === 'letter' &&
    !(isArticle(s, offset) && !here(s, offset).the && !is(s, offset + 1, 'string'))
  )
}

function lettered(s: Scan): StringSpec[] | undefined {
  if (!isLetter(s)) return undefined
  const which = text(s) === 'e' ? 'high' : undefined
  s.i++
  const letter = sign(s, here(s, -1).text)
  takeStringWord(s)
  return [{ letter, which }]
}

/** Whether a string may be named here: a letter, a side, an ordinal. */
export const namesString = (s: Scan): boolean =>
  isLetter(s) || whichAt(s) !== undefined || kind(s) === 'ordinal'

/** One string, or a few that have one name ("the top three"); nothing is taken when there is none. */
export const oneString = (s: Scan, bareOrdinal = false): StringSpec[] | undefined =>
  sideStrings(s) ?? numberedString(s, bareOrdinal) ?? lettered(s)

/** A string that begins a note of its own ("and B 8") is no part of a list. */
function beginsNote(s: Scan): boolean {
  return kind(s) === 'number' && !is(s, 1, 'string') && !is(s, 0, 'string')
}

/** Goes over a comma, "and" or both, with the "on" that may follow; says which there was. */
function takeJoint(s: Scan): { comma: boolean; and: boolean } {
  const comma = text(s) === ',' && kind(s) === 'stop'
  if (comma) s.i++
  const and = is(s, 0, 'and')
  if (and) s.i++
  if (is(s, 0, 'on', 'of')) s.i++
  return { comma, and }
}

/** The next string of a list; a string that begins a note of its own is none, and the cursor stays. */
function nextInList(s: Scan, bareOrdinal: boolean): StringSpec[] | undefined {
  const next = oneString(s, bareOrdinal)
  return next && (!beginsNote(s) || is(s, 0, 'at')) ? next : undefined
}

/** Goes on with "and G", ", G and B"; gives the strings said, the cursor stands after them. */
function moreStrings(s: Scan, bareOrdinal: boolean): StringSpec[] {
  const start = s.i
  const found: StringSpec[] = []
  let commas = 0
  for (;;) {
    const before = s.i
    const { comma, and } = takeJoint(s)
    if (!comma && !and) {
      s.i = before
      if (found.length > 0 && is(s, 0, 'together')) return found
      break
    }
    if (comma) commas++
    const next = nextInList(s, bareOrdinal)
    if (!next) break
    found.push(...next)
    // "second fret A, D and G open": the last two are open, and no part of what was said before the comma.
    if (and && commas > 0 && is(s, 0, 'open')) break
    if (and) return found
  }
  // A list ends with "and": "G, B" alone are two thoughts.
  s.i = start
  return []
}

/** Strings in a list: "the D and G", "second and third strings", "D, G and B"; undefined when none comes. */
export function stringList(s: Scan, bareOrdinal = false): StringSpec[] | undefined {
  const start = s.i
  const ordinalsAhead =
    kind(s) === 'ordinal' && is(s, 1, 'and') && kind(s, 2) === 'ordinal' && is(s, 3, 'string')
  const first = oneString(s, bareOrdinal || ordinalsAhead)
  if (!first) {
    s.i = start
    return undefined
  }
  return [...first, ...moreStrings(s, true)]
}

export function sayStrings(s: Scan, start: number, specs: StringSpec[], after: boolean): void {
  s.items.push({ k: 'strings', specs, after, ...spanFrom(s, start) })
  s.stringKnown = true
}
