// The words of the call line, each with what it does.
import { lastAsOne, lengthOfLast, sayStroke, setLength } from './events'
import { holdWord, readBarre, readFingered } from './grip-words'
import { readMark, spanWord } from './marks'
import { fretAt, readMove } from './moves'
import { inWord, readRelease } from './note-words'
import { goTo, readLength } from './places'
import { MOVES, advance, fail, hereToken, peek, skip, wordHere, type Reading } from './reading'
import { readSame, recentGroup, repeatGroup } from './repeats'
import { onStrings, readPluck } from './string-words'
import type { Stroke } from '../document/schema'
import type { Token } from './tokens'
import { noteValue, numberOf } from './vocabulary'

/** Strokes that are counted: "two dead", "one chord". */
const COUNTED: ReadonlySet<string> = new Set(['dead', 'strum', 'down', 'up', 'chord', 'bass'])

/** Numbers that count what follows: "two dead", "three times", "4 down". */
export function readCount(r: Reading, token: Token): boolean {
  const number = numberOf(token.text)
  if (number === undefined || number === 0) return false
  const next = peek(r, 1).toLowerCase()
  if (next === 'times') {
    r.i += 2
    repeatGroup(r, recentGroup(r), number, token)
    return true
  }
  // "two bars rest".
  if (/^(bars?|beats?)$/i.test(peek(r, 1)) && wordHere(r, 2) === 'rest') {
    const ticks = readLength(r, token)
    r.i++
    restFor(r, ticks, token)
    return true
  }
  const word = wordHere(r, 1)
  if (word === undefined || !COUNTED.has(word) || peek(r, 1) === 'x' || r.list[r.i + 1]?.line) return false
  if (number > 64) fail(r, token, `${number} strokes in a row: say it in bars.`)
  r.i++
  const at = r.i
  for (let stroke = 0; stroke < number; stroke++) {
    r.i = at
    saidWord(r, word, hereToken(r)!)
  }
  return true
}

export function restFor(r: Reading, ticks: number, token: Token): void {
  r.last = { kind: 'rest', startTicks: r.at, first: r.events.length }
  advance(r, ticks, token)
}

/** What a word does; the reader stands on it. */
type SaidWord = (r: Reading, token: Token, word: string) => void
const palmingWord: SaidWord = (r, token, word) => {
  r.i++
  spanWord(r, word as 'palming' | 'letting', token)
}
const downWord: SaidWord = (r, token, word) => {
  r.i++
  sayStroke(r, { direction: word as Stroke['direction'] }, token)
}
/** Each word of the call line that is no mark. */
const SAID: Record<string, SaidWord> = {
  tap: (r) => {
    r.i++
    r.nextMarks.push({ kind: 'tap' })
  },
  muted: (r) => {
    r.i++
    r.nextMarks.push({ kind: 'dead' })
  },
  grace: (r, token) => {
    r.i++
    const fret = fretAt(r, token, 'grace from which fret?')
    r.nextMarks.push({ kind: 'grace', fret })
  },
  release: (r, token) => {
    r.i++
    readRelease(r, token)
  },
  rest: (r, token) => {
    r.i++
    // "rest two beats": a number with its unit is the rest's length, a bare one the next fret.
    const timed =
      numberOf(peek(r)) !== undefined &&
      (/^(bars?|beats?|ticks?)$/i.test(peek(r, 1)) || noteValue(peek(r, 1)) !== undefined)
    restFor(r, timed ? readLength(r, token) : r.step, token)
  },
  for: (r, token) => {
    r.i++
    setLength(r, readLength(r, token), token)
  },
  ringing: (r, token) => {
    r.i++
    skip(r, 'for')
    const ticks = readLength(r, token)
    for (const event of lastAsOne(r, token)) {
      event.lengthTicks = ticks
      event.rings = true
    }
  },
  tie: (r, token) => {
    r.i++
    setLength(r, lengthOfLast(r, token) + r.step, token)
  },
  dotted: (r, token) => {
    r.i++
    setLength(r, Math.round(lengthOfLast(r, token) * 1.5), token)
  },
  in: (r, token) => {
    inWord(r, token)
  },
  at: (r, token) => {
    r.i++
    goTo(r, token)
  },
  on: (r, token) => {
    r.i++
    onStrings(r, token)
  },
  and: (r) => {
    r.i++
    if (peek(r).toLowerCase() === 'then') r.i++
    else if (r.last?.kind === 'notes') r.together = true
  },
  hold: holdWord,
  fingered: (r, token) => {
    r.i++
    readFingered(r, token)
  },
  barre: (r, token) => {
    r.i++
    readBarre(r, token)
  },
  down: downWord,
  up: downWord,
  thumb: downWord,
  fingers: downWord,
  // "strum down down up": the strokes are said after it.
  strum: (r, token) => {
    r.i++
    if ((wordHere(r) !== 'down' && wordHere(r) !== 'up') || hereToken(r)!.line) sayStroke(r, {}, token)
  },
  dead: (r, token) => {
    r.i++
    const way = wordHere(r)
    const direction = (way === 'down' || way === 'up') && !r.list[r.i]!.line ? way : undefined
    if (direction) r.i++
    sayStroke(r, { marks: [{ kind: 'dead' }], ...(direction ? { direction } : {}) }, token)
  },
  bass: (r, token) => {
    r.i++
    sayStroke(r, { on: 'bass', direction: 'down' }, token)
  },
  chord: (r, token) => {
    r.i++
    sayStroke(r, { on: 'chord' }, token)
  },
  pluck: (r, token) => {
    r.i++
    readPluck(r, token)
  },
  palming: palmingWord,
  letting: palmingWord,
  same: (r, token) => {
    r.i++
    skip(r, 'again')
    readSame(r, token)
  },
  again: (r, token) => {
    r.i++
    repeatGroup(r, recentGroup(r), 2, token)
  },
  twice: (r, token) => {
    r.i++
    repeatGroup(r, recentGroup(r), 2, token)
  },
  times: (r, token) => {
    fail(r, token, 'How many times?', ['twice', 'three times'])
  },
}

export function saidWord(r: Reading, word: string, token: Token): boolean {
  const move = MOVES[word]
  if (move) return readMove(r, word, move)
  const said = Object.hasOwn(SAID, word) ? SAID[word] : undefined
  if (!said) return readMark(r, word, token)
  said(r, token, word)
  return true
}
