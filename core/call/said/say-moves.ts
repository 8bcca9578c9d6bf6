// Movements and bends: "hammer on from 2 to 4", "slide into 11 from below", "bend the 8 a whole step".
import type { Move, NoteItem } from './items'
import { takeFret } from './say-frets'
import { isLetter, stringList, whichAt } from './say-strings'
import { is, isStop, kind, lastNote, sayNote, skipArticle, spanFrom, takeOne, text, type Scan } from './scan'

const MOVES: readonly string[] = ['hammer', 'pull', 'slide', 'shift', 'roll']

export const moveAt = (s: Scan, offset = 0): Move | 'roll' | undefined =>
  kind(s, offset) === 'word' && MOVES.includes(text(s, offset))
    ? (text(s, offset) as Move | 'roll')
    : undefined

const ON_THE_WAY = 'up down to onto on right straight all it that them those over quickly again in way'.split(
  ' ',
)
/** "on the D": the string a movement is on, and no part of its way. */
const onString = (s: Scan): boolean =>
  is(s, 0, 'on') &&
  (isLetter(s, 1) || whichAt(s, 1) !== undefined || (kind(s, 1) === 'ordinal' && !is(s, 2, 'fret')))

/** "up to", "back down to", "on to": the way, not a stroke. Says whether it is into a fret. */
function takeWay(s: Scan): { into: boolean } {
  let into = false
  for (;;) {
    if (is(s, 0, 'into') || (is(s, 0, 'in') && is(s, 1, 'to'))) into = true
    else if (!is(s, 0, 'back', ...ON_THE_WAY) || onString(s)) break
    s.i++
  }
  skipArticle(s)
  return { into }
}

/** The note a movement is said to come from: played, unless it is the one before. */
function sayFrom(s: Scan, start: number, fret: number): void {
  const last = lastNote(s)
  const after = last ? s.items.slice(s.items.indexOf(last) + 1) : []
  const same = last?.fret === fret && !after.some((item) => item.k === 'strings' && !item.after)
  if (!same) sayNote(s, start, { fret, move: undefined })
}

/** "from below", "from two frets above". */
function takeSide(s: Scan): 'in from below' | 'in from above' | undefined {
  if (!is(s, 0, 'from')) return undefined
  const start = s.i
  s.i++
  skipArticle(s)
  if (kind(s) === 'number' && is(s, 1, 'fret')) s.i += 2
  takeOne(s, 'couple')
  takeOne(s, 'fret')
  const side = takeOne(s, 'below', 'above', 'nowhere', 'behind')
  if (side) return side === 'above' ? 'in from above' : 'in from below'
  s.i = start
  return undefined
}

export function slideInto(s: Scan, start: number, how: 'in from below' | 'in from above'): boolean {
  const fret = takeFret(s, true)
  if (fret === undefined) return false
  const note = sayNote(s, start, { fret, move: undefined })
  note.marks = [...note.marks, { kind: 'slide', how }]
  return true
}

/** "… from above", said after the string. */
export function sideAfter(s: Scan): boolean {
  const side = takeSide(s)
  if (!side) return false
  const note = lastNote(s)
  if (!note) return true
  note.marks = [...note.marks.filter((mark) => mark.kind !== 'slide'), { kind: 'slide', how: side }]
  if (note.move === 'slide') note.move = undefined
  return true
}

export const pairOf = (s: Scan): boolean => Boolean(takeOne(s, 'both', 'those', 'them'))

/** "and back", "and right back": to where the movement came from. */
function andBack(s: Scan, start: number, move: Move | 'roll', from: NoteItem | undefined): void {
  const before = s.i
  takeOne(s, 'and', 'then')
  takeOne(s, 'right', 'straight')
  const back = takeOne(s, 'back')
  takeOne(s, 'again', 'down')
  if (!back || !isStop(s) || typeof from?.fret !== 'number') {
    s.i = before
    return
  }
  const way = move === 'slide' || move === 'shift' ? move : 'pull'
  sayNote(s, start, { fret: from.fret, move: way, strings: from.strings })
}

/** Several movements announced before their frets: "a quick hammer-on and pull-off on the B, 6 8 6". */
function announced(s: Scan): boolean {
  const moves: Move[] = []
  const start = s.i
  while (moveAt(s) && moveAt(s) !== 'roll') {
    moves.push(text(s) as Move)
    s.i++
    if (is(s, 0, 'and') && moveAt(s, 1)) s.i++
    else if (text(s) === ',' && moveAt(s, 1) && moves.length > 0) s.i++
  }
  const follows = isStop(s) || is(s, 0, 'on') || is(s, 0, 'there')
  if (!follows || (moves.length < 2 && lastNote(s))) {
    s.i = start
    return false
  }
  s.announced = moves
  s.announcedBefore = [...moves]
  s.announcedStarted = false
  return true
}

/** "slide down off the string", "slide back out". */
function goesAway(s: Scan): boolean {
  if (is(s, 0, 'off', 'out', 'away')) return true
  if (is(s, 0, 'back')) return is(s, 1, 'out', 'off')
  return is(s, 0, 'down', 'up') && (isStop(s, 1) || is(s, 1, 'off'))
}

/** "slide the 7 on the D up to 9": the note it comes from, with its string. */
function sayStringSource(s: Scan, start: number): boolean {
  const before = s.i
  const fret = takeFret(s, true)
  const strings = fret !== undefined && takeOne(s, 'on', 'of') ? stringList(s, true) : undefined
  if (fret === undefined || !strings || !is(s, 0, 'up', 'down', 'to', 'back')) {
    s.i = before
    return false
  }
  s.stringKnown = true
  sayNote(s, start, { fret, strings, move: undefined })
  return true
}

/** The fret a movement comes from, where it is said: "from 5", "6 to 8". */
function takeSource(s: Scan): number | undefined {
  if (!takeOne(s, 'from')) return firstOfTwo(s) ? takeFret(s, true) : undefined
  skipArticle(s)
  return takeFret(s, true)
}

/** A movement with its frets. */
export function movement(s: Scan): boolean {
  const move = moveAt(s)
  if (!move) return false
  if (announced(s)) return true
  const start = s.i
  s.i++
  if (move === 'slide' && goesAway(s)) return slideOut(s)
  const pair = pairOf(s)
  if (moveAgain(s, start, move)) return true
  const side = takeSide(s)
  if (side && move === 'slide') {
    s.waiting = [...s.waiting, { kind: 'slide', how: side }]
    return true
  }
  return moveTo(s, start, move, pair)
}

/** The way, the fret it comes from and the one it goes to. */
function moveTo(s: Scan, start: number, move: Move | 'roll', pair: boolean): boolean {
  let { into } = takeWay(s)
  const both = pairOf(s) || pair
  if (both) s.bothNext = true
  const from = takeSource(s)
  if (from !== undefined) sayFrom(s, start, from)
  if (from !== undefined || sayStringSource(s, start)) into = takeWay(s).into
  if (both) s.bothNext = true
  if (into && move === 'slide') return slideInto(s, start, 'in from below')
  return arrive(s, start, move)
}

/** "pull off again": back to where the movement before came from. */
function moveAgain(s: Scan, start: number, move: Move | 'roll'): boolean {
  const notes = s.items.filter((item) => item.k === 'note')
  const source = notes.at(-2)
  if (!source || move === 'roll') return false
  const atEnd = s.i >= s.list.length && move === 'pull' && notes.at(-1)?.move === 'hammer'
  if (!atEnd && (!is(s, 0, 'again', 'back') || !isStop(s, 1))) return false
  if (!atEnd) s.i++
  sayNote(s, start, { fret: source.fret, move })
  return true
}

function arrive(s: Scan, start: number, move: Move | 'roll'): boolean {
  const from = lastNote(s)
  // "roll over to the B at 12": the string first.
  const specs = isLetter(s) || whichAt(s) ? stringList(s) : undefined
  if (specs) {
    s.items.push({ k: 'strings', specs, after: false, ...spanFrom(s, start) })
    s.stringKnown = true
    takeOne(s, 'at', 'on')
  }
  takeOne(s, 'on', 'at')
  const fret = takeFret(s, true)
  if (fret === undefined) {
    // "12, 10 … as a pull-off" is read with "as"; a movement without a fret goes to the next one said.
    if (move !== 'roll') s.moves = [move]
    return true
  }
  const late = takeOne(s, 'from') ? takeFret(s, true) : undefined
  if (late !== undefined) sayFrom(s, start, late)
  sayNote(s, start, { fret, move: move === 'roll' || specs ? undefined : move })
  andBack(s, start, move, from)
  return true
}

/** "6 to 8", "10 up to 12", "0 to 2": a fret with the way to another after it. */
function firstOfTwo(s: Scan): boolean {
  const numbered = kind(s) === 'number' || (is(s, 0, 'open') && !isLetter(s, 1))
  if (!numbered && !(kind(s) === 'ordinal' && is(s, 1, 'fret', 'to'))) return false
  const after = is(s, 1, 'fret') ? 2 : 1
  return is(s, after, 'to', 'up', 'down', 'back', 'into') && !isStop(s, after + 1)
}

function slideOut(s: Scan): boolean {
  while (
    is(s, 0, 'off', 'out', 'back', 'away', 'down', 'up', 'string', 'neck', 'it', 'fretboard') ||
    is(s, 0, 'the')
  )
    s.i++
  const note = lastNote(s)
  if (note) note.marks = [...note.marks, { kind: 'slide', how: 'out' }]
  return true
}

/** "another quick one": the movements announced before, once more. */
export function announcedAgain(s: Scan): boolean {
  if (!is(s, 0, 'another') || s.announcedBefore.length === 0) return false
  s.i++
  while (is(s, 0, 'quick', 'one', 'of', 'there') || (kind(s) === 'number' && text(s) === 'one')) s.i++
  s.announced = [...s.announcedBefore]
  s.announcedStarted = false
  return true
}
