// Whether a call is written in the exact grammar: short forms and full words, each string before its frets.
// Everything else is read as it is said.
import { tokens, type Token } from './tokens'
import { numberOf, noteValue, ordinalOf, wordOf } from './vocabulary'

const STOPS = new Set([',', ';', '\n', '|', '(', ')', '[', ']', '·'])
const LETTER = /^[A-Ga-g](#|b|♯|♭)?$/
const JOINED = /^([A-G][#b]?|[a-g][#b]?)x?\d{1,2}$/
const CHORD_LIKE = /^[A-G][#b]?(5|6|7|9|11|13)$/
const GRIP = /^[x\d]{4,}$|^(x|\d{1,2})(-(x|\d{1,2})){3,}$/i
const UNITS =
  /^(bars?|beats?|ticks?|steps?|a|an|the|half|quarter|full|whole|below|above|from|off|notes?|semitones?|tones?|half-steps?|by|light|medium|firm|but|last|first|of|e|to|over|string|fret|t)$/i

type Is = (token: Token) => boolean
const isStop: Is = ({ text }) => STOPS.has(text)
const isLetter: Is = ({ text }) => LETTER.test(text)
const isNumber: Is = ({ text }) => numberOf(text) !== undefined || /^\d+([./]\d+)?$/.test(text)
const isFret: Is = (token) =>
  isNumber(token) || wordOf(token.text) === 'open' || /^x\d+$|^\d+(-\d+)+$/i.test(token.text)

/** Words that only the spoken reading gives their full sense. */
const SPOKEN =
  /^(then|now|play|just|start|starting|back|chuck|scratch|scratches|mute|mutes|downs|ups|repeat|sorry|no|with|both|together|up to|into)$/i
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
  if (SPOKEN.test(text)) return false
  return (
    isStop(token) ||
    isNumber(token) ||
    isLetter(token) ||
    isFret(token) ||
    wordOf(text) !== undefined ||
    noteValue(text) !== undefined ||
    GRIP.test(text) ||
    JOINED.test(text) ||
    UNITS.test(text) ||
    /^[A-Ga-g](-[A-Ga-g])+$/.test(text) ||
    /^\d{1,2}:(\d{1,2}|x\d{1,2}|o)?$|^\*\d|^[x×]\d|^1\/\d+$|^-?\d+\.\d+$|^\d+\.\d+[&ea]?$|^(flat|sharp)$/.test(
      text,
    )
  )
}

/** A string's name has its frets after it, and none of them before it in its thought. */
function stringFirst(list: readonly Token[], index: number): boolean {
  const next = list[index + 1]
  if (!next || isStop(next) || isLetter(next)) return false
  if (!isFret(next) && !AHEAD.has(wordOf(next.text) ?? next.text.toLowerCase()) && !isLetter(next))
    return false
  let from = index
  while (from > 0 && !isStop(list[from - 1]!)) from--
  const before = list.slice(from, index)
  const side = ['low', 'high', 'middle'].includes(wordOf(list[index - 1]?.text ?? '') ?? '') ? 2 : 1
  if (/^(and|\+)$/i.test(list[index - side]?.text ?? '')) return true
  // "10 D 9 G": frets before the first string of a thought belong to what is named after them.
  if (before.some((one) => one.text.toLowerCase() === 'but')) return true
  return (
    !before.some(isFret) || before.some(isLetter) || from === 0 || before.some((one) => JOINED.test(one.text))
  )
}

/** "on" ahead of frets at the start of a thought, or with several strings: "on 4-3-2". */
function exactOn(list: readonly Token[], index: number): boolean {
  const next = list[index + 1]
  if (next && /^[\w#]+(-[\w#]+)+$/.test(next.text)) return true
  const first = index === 0 || isStop(list[index - 1]!)
  if (first) return true
  return (
    ['down', 'up', 'strum', 'thumb', 'fingers', 'dead'].includes(wordOf(list[index - 1]!.text) ?? '') ||
    wordOf(list[index - 2]?.text ?? '') === 'bar' ||
    list[index - 2]?.text === 'bar'
  )
}

function exactAt(list: readonly Token[], index: number): boolean {
  const token = list[index]!
  const { text } = token
  const word = wordOf(text)
  const named = list[index - 1] && ['low', 'high', 'middle'].includes(wordOf(list[index - 1]!.text) ?? '')
  if (inChord(list, index)) return true
  if (!known(token)) return false
  if (isLetter(token) && !isUnit(list, index) && !stringFirst(list, index)) return false
  if (word === 'on' && !exactOn(list, index)) return false
  if (word === 'and') return followsString(list, index)
  if (named && !isLetter(token)) return false
  return !(index === 0 && CHORD_LIKE.test(text) && (list.length === 1 || isStop(list[1]!)))
}
/** "a" and "e" as an article or a part of a beat. */
const CHORD_WORDS =
  /^(minor|min|major|maj|diminished|dim|augmented|aug|power|dominant|sus|suspended|add|added|over|slash|flat|sharp)$/i
/** A letter of a chord that is held by name, or of its bass. */
const inChord = (list: readonly Token[], index: number): boolean => {
  let from = index - 1
  while (
    from >= 0 &&
    (CHORD_WORDS.test(list[from]!.text) || isLetter(list[from]!) || /^the$/i.test(list[from]!.text))
  )
    from--
  return wordOf(list[from]?.text ?? '') === 'hold'
}
const isUnit = (list: readonly Token[], index: number): boolean =>
  /^[ae]$/.test(list[index]!.text) &&
  (/^(for|of|the|at|half|bend|,)$/i.test(list[index - 1]?.text ?? '') ||
    /^(of|bar|quarter|half|whole|step)$/i.test(list[index + 1]?.text ?? ''))

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
    list[index]!.text === '+'
  )
}

/** Whether a call is in the exact grammar as far as its words go; whether it holds, reading it says. */
export function isExact(call: string): boolean {
  const list = tokens(call)
  const first = list.find((token) => !isStop(token))
  if (!first || /^(same|again|twice|times)$/i.test(first.text)) return false
  return list.every((token, index) => ordinalOf(token.text) === undefined && exactAt(list, index))
}
