// Whether a call is written in the exact grammar: short forms and full words, each string before its frets.
// Everything else is read as it is said.
import { tokens, type Token } from './tokens'
import { numberOf, noteValue, ordinalOf, wordOf } from './vocabulary'

const STOPS = new Set([',', ';', '\n', '|', '(', ')', '[', ']', '·'])
const LETTER = /^[A-Ga-g](#|b|♯|♭)?$/
const JOINED = /^([A-G][#b]?|[a-g][#b]?)x?\d{1,2}$/
const CHORD_LIKE = /^[A-G][#b]?(5|6|7|9|11|13)$/
const GRIP = /^[x\d]{4,}$|^(x|\d{1,2})(-(x|\d{1,2})){3,}$/i
const UNITS = new Set(
  (
    'bar bars beat beats tick ticks step steps a an the half quarter full whole below above from off note ' +
    'notes semitone semitones tone tones half-step half-steps by light medium firm but last first of e to ' +
    'over string fret t struck round'
  ).split(' '),
)

type Is = (token: Token) => boolean
const isStop: Is = ({ text }) => STOPS.has(text)
const isLetter: Is = ({ text }) => LETTER.test(text)
const isNumber: Is = ({ text }) => numberOf(text) !== undefined || /^\d+([./]\d+)?$/.test(text)
const isFret: Is = (token) =>
  isNumber(token) || wordOf(token.text) === 'open' || /^x\d+$|^\d+(-\d+)+$/i.test(token.text)

/** Words that only the spoken reading gives their full sense. */
const SPOKEN = new Set(
  (
    'then now play just start starting back chuck scratch scratches mute mutes downs ups repeat sorry no ' +
    'with both together into'
  ).split(' '),
)
/** What may stand between a string's name and its frets. */
const AHEAD = new Set([
  'open',
  'hammer',
  'pull',
  'slide',
  'shift',
  'tap',
  'muted',
  'grace',
  'palm',
  'ring',
  'rest',
  'dead',
  'string',
  'accent',
  'staccato',
  'power',
  'flat',
  'sharp',
  'letting',
  'palming',
  'harmonic',
])

function known(token: Token): boolean {
  const { text } = token
  if (SPOKEN.has(text.toLowerCase())) return false
  return (
    isStop(token) ||
    isNumber(token) ||
    isLetter(token) ||
    isFret(token) ||
    wordOf(text) !== undefined ||
    noteValue(text) !== undefined ||
    GRIP.test(text) ||
    JOINED.test(text) ||
    UNITS.has(text.toLowerCase()) ||
    /^[A-Ga-g](-[A-Ga-g])+$/.test(text) ||
    text.split('-').every((word) => numberOf(word) !== undefined) ||
    /^\d{1,2}:(\d{1,2}|x\d{1,2}|o)?$|^\*\d|^[x×]\d|^1\/\d+$|^(flat|sharp)$/.test(text) ||
    /^-?\d+\.\d+$|^\d+\.\d+[&ea]?$/.test(text)
  )
}

const before = (list: readonly Token[], index: number): Token | undefined => list[index - 1]
const saysSide = (token: Token | undefined): boolean =>
  token !== undefined && ['low', 'high', 'middle'].includes(wordOf(token.text) ?? '')
const saysBut: Is = ({ text }) => text.toLowerCase() === 'but'
const isJoined: Is = ({ text }) => JOINED.test(text)

/** What may come after the name of a string. */
const goesOn: Is = (token) => isFret(token) || AHEAD.has(wordOf(token.text) ?? token.text.toLowerCase())

/** A string's name has its frets after it, and none of them before it in its thought. */
function stringFirst(list: readonly Token[], index: number): boolean {
  const next = list[index + 1]
  if (!next || isStop(next) || !goesOn(next)) return false
  const and = list[index - (saysSide(before(list, index)) ? 2 : 1)]
  if (and && /^(and|\+)$/i.test(and.text)) return true
  const from = list.slice(0, index).findLastIndex(isStop) + 1
  const thought = list.slice(from, index)
  // "10 D 9 G": frets before the first string of a thought belong to what is named after them.
  return (
    from === 0 ||
    !thought.some(isFret) ||
    thought.some((one) => saysBut(one) || isLetter(one) || isJoined(one))
  )
}

/** "on" ahead of frets at the start of a thought, or with several strings: "on 4-3-2". */
function exactOn(list: readonly Token[], index: number): boolean {
  const next = list[index + 1]
  if (next && /^[\w#]+(-[\w#]+)+$/.test(next.text)) return true
  const last = before(list, index)
  if (!last || isStop(last)) return true
  const strokes = ['down', 'up', 'strum', 'thumb', 'fingers', 'dead']
  return strokes.includes(wordOf(last.text) ?? '') || list[index - 2]?.text === 'bar'
}

const CHORD_WORDS = new Set(
  (
    'minor min major maj diminished dim augmented aug power dominant sus suspended add added over slash ' +
    'flat sharp the'
  ).split(' '),
)
/** A letter of a chord that is held by name, or of its bass. */
function inChord(list: readonly Token[], index: number): boolean {
  const start = list
    .slice(0, index)
    .findLastIndex((token) => !CHORD_WORDS.has(token.text.toLowerCase()) && !isLetter(token))
  return wordOf(list[start]?.text ?? '') === 'hold'
}
/** "a" and "e" as an article or a part of a beat. */
const isUnit = (list: readonly Token[], index: number): boolean =>
  /^[ae]$/.test(list[index]?.text ?? '') &&
  (/^(for|of|the|at|half|bend|,)$/i.test(list[index - 1]?.text ?? '') ||
    /^(of|bar|quarter|half|whole|step)$/i.test(list[index + 1]?.text ?? ''))

/** "E9, …": a chord's name as much as a string with its fret. */
const startsLikeChord = (list: readonly Token[]): boolean => {
  const [first, second] = list
  return first !== undefined && CHORD_LIKE.test(first.text) && (second === undefined || isStop(second))
}

function exactAt(list: readonly Token[], token: Token, index: number): boolean {
  if (inChord(list, index)) return true
  if (!known(token)) return false
  const word = wordOf(token.text)
  if (word === 'and') return followsString(list, index)
  if (word === 'on') return exactOn(list, index)
  if (isLetter(token)) return isUnit(list, index) || stringFirst(list, index)
  return !saysSide(before(list, index))
}

/** "D 9 and B 10": at once, each string before its fret; "bend 2 and hold"; "the and of 4". */
function followsString(list: readonly Token[], index: number): boolean {
  const next = list[index + 1]
  if (!next) return true
  const word = wordOf(next.text)
  return (
    /^(hold|release|re|of)$/i.test(next.text) ||
    isLetter(next) ||
    JOINED.test(next.text) ||
    /^\d{1,2}:/.test(next.text) ||
    ['low', 'high', 'middle', 'string', 'open', 'muted', 'tap', 'grace'].includes(word ?? '') ||
    // "D 9 + 10" on strings that go on.
    list[index]?.text === '+'
  )
}

/** Whether a call is in the exact grammar as far as its words go; whether it holds, reading it says. */
export function isExact(call: string): boolean {
  const list = tokens(call)
  const first = list.find((token) => !isStop(token))
  if (!first || /^(same|again|twice|times)$/i.test(first.text)) return false
  // "three times" by itself is what stands before the call.
  if (startsLikeChord(list) || wordOf(list[1]?.text ?? '') === 'times') return false
  return list.every((token, index) => ordinalOf(token.text) === undefined && exactAt(list, token, index))
}
