// Movements to the next fret: hammer, pull, slide, shift.
import { MOVES, TAKES_NUMBER, fail, isFret, peek, wordHere, type Reading } from './reading'
import type { Token } from './tokens'
import { numberOf, wordOf } from './vocabulary'

/** "hammer on", "pull off to", "slide up to", "hammer from 5 to": said for the ear. */
function skipMoveWords(r: Reading, word: string): void {
  const next = peek(r).toLowerCase()
  if ((word === 'hammer' && next === 'on') || (word === 'pull' && next === 'off')) r.i++
  if (word === 'shift' && wordHere(r) === 'slide') r.i++
  if (/^(up|down|back)$/i.test(peek(r)) && (/^(to|from)$/i.test(peek(r, 1)) || isFret(r, 1))) r.i++
  if (peek(r).toLowerCase() === 'from' && isFret(r, 1)) r.i++
}

export function readMove(r: Reading, word: string, move: (typeof MOVES)[string]): boolean {
  const token = r.list[r.i]!
  r.i++
  skipMoveWords(r, word)
  if (word === 'slide' && (wordHere(r) === 'in' || peek(r).toLowerCase() === 'into'))
    fail(r, token, 'Say the fret first, then where it is slid in from: 7 in from below 2.', [
      '7 in from below',
      '7 in from above',
    ])
  if (word === 'slide' && wordHere(r) === 'out') return true
  // Said first in its clause with several frets, the movement goes through all of them; said between two
  // frets, to the next one only.
  if (r.events.length === r.clause.first && fretsAhead(r) > 1) r.run = { move, started: false }
  else r.nextMove = move
  return true
}

const CLAUSE_ENDS: readonly string[] = ['', ',', ';', '\n', '(', ')', '|']
const saysNumber = (text: string): boolean => /\d/.test(text) || numberOf(text) !== undefined

/** How many words after this one belong to it: a number that is no fret. */
function takenAfter(r: Reading, offset: number): number | undefined {
  const text = peek(r, offset)
  const word = wordOf(text)
  if (word === 'on') return 1
  if (word && TAKES_NUMBER.has(word)) return saysNumber(peek(r, offset + 1)) ? 1 : 0
  if (/^(below|above)$/i.test(text) && numberOf(peek(r, offset + 1)) !== undefined) return 1
  return undefined
}
const fretsIn = (r: Reading, offset: number): number => {
  const text = peek(r, offset)
  if (/^\d{1,2}(-\d{1,2})+$/.test(text)) return text.split('-').length
  const one = isFret(r, offset) || /^[A-Ga-g](#|b)?\d{1,2}$/.test(text) || /^\d{1,2}:\d{1,2}$/.test(text)
  return one ? 1 : 0
}
const endsMove = (word: string): boolean =>
  Boolean(MOVES[word]) || word === 'and' || word === 'release' || word === 'rest'

/** Frets until the clause ends or another movement begins. */
function fretsAhead(r: Reading, beyondMoves = false): number {
  let frets = 0
  for (let offset = 0; ; offset++) {
    const text = peek(r, offset)
    const word = wordOf(text)
    if (CLAUSE_ENDS.includes(text) || word === 'at' || word === 'same') return frets
    if (word && !beyondMoves && endsMove(word)) return frets
    const taken = takenAfter(r, offset)
    if (taken === undefined) frets += fretsIn(r, offset)
    else offset += taken
  }
}

const STROKE_WORDS = ['down', 'up', 'strum', 'dead', 'chord', 'bass', 'thumb', 'fingers', 'pluck']
/** Whether this clause still has notes or strokes to come. */
export function playsAhead(r: Reading): boolean {
  if (fretsAhead(r, true) > 0) return true
  for (let offset = 0; ; offset++) {
    const text = peek(r, offset)
    if (CLAUSE_ENDS.includes(text) || text === '[') return false
    if (/^\d+[hpstb]/.test(text) || STROKE_WORDS.includes(wordOf(text) ?? '')) return true
  }
}

export function fretAt(r: Reading, token: Token, question: string): number {
  if (!isFret(r)) fail(r, token, question[0]!.toUpperCase() + question.slice(1), ['5', '7'])
  const fret = wordHere(r) === 'open' ? 0 : numberOf(peek(r))!
  r.i++
  return fret
}
