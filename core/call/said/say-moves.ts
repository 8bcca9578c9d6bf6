// Movements and bends: "hammer on from 2 to 4", "slide into 11 from below", "bend the 8 a whole step".
import type { Articulation } from '../../document/schema'
import { UNSAID, type Move, type NoteItem } from './items'
import {
  clauseItems,
  here,
  is,
  isArticle,
  isStop,
  kind,
  lastNote,
  sayNote,
  skipArticle,
  spanFrom,
  takeOne,
  text,
  type Scan,
} from './scan'
import { takeFret } from './say-frets'
import { isLetter, stringList, whichAt } from './say-strings'

const MOVES: readonly string[] = ['hammer', 'pull', 'slide', 'shift', 'roll']
export const moveAt = (s: Scan, offset = 0): Move | 'roll' | undefined =>
  kind(s, offset) === 'word' && MOVES.includes(text(s, offset))
    ? (text(s, offset) as Move | 'roll')
    : undefined

/** "up to", "back down to", "on to": the way, not a stroke. Gives whether it went back. */
function takeWay(s: Scan): { back: boolean; into: boolean } {
  let back = false
  let into = false
  for (;;) {
    if (is(s, 0, 'back')) back = true
    else if (is(s, 0, 'into') || (is(s, 0, 'in') && is(s, 1, 'to'))) into = true
    else if (
      !is(
        s,
        0,
        'up',
        'down',
        'to',
        'onto',
        'on',
        'right',
        'straight',
        'all',
        'it',
        'that',
        'them',
        'those',
        'over',
        'quickly',
        'again',
        'off',
        'in',
        'way',
        'out',
        'one',
      )
    )
      break
    if (
      is(s, 0, 'on') &&
      (isLetter(s, 1) || whichAt(s, 1) || kind(s, 1) === 'ordinal') &&
      !(kind(s, 1) === 'ordinal' && is(s, 2, 'fret'))
    )
      break
    if (is(s, 0, 'off') || is(s, 0, 'one')) break
    if (is(s, 0, 'out')) break
    s.i++
  }
  skipArticle(s)
  return { back, into }
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

function slideInto(s: Scan, start: number, how: 'in from below' | 'in from above'): boolean {
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

const pairOf = (s: Scan): boolean => Boolean(takeOne(s, 'both', 'those', 'them'))

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

/** A movement with its frets. */
export function movement(s: Scan): boolean {
  const move = moveAt(s)
  if (!move) return false
  if (announced(s)) return true
  const start = s.i
  s.i++
  if (
    (move === 'slide' && (is(s, 0, 'off', 'out', 'away') || (is(s, 0, 'back') && is(s, 1, 'out', 'off')))) ||
    (move === 'slide' && is(s, 0, 'down', 'up') && (isStop(s, 1) || is(s, 1, 'off')))
  )
    return slideOut(s)
  const pair = pairOf(s)
  if (moveAgain(s, start, move)) return true
  const side = takeSide(s)
  if (side && move === 'slide') {
    s.waiting = [...s.waiting, { kind: 'slide', how: side }]
    return true
  }
  let way = takeWay(s)
  const late = pairOf(s)
  if (pair || late) s.bothNext = true
  if (takeOne(s, 'from')) {
    skipArticle(s)
    const from = takeFret(s, true)
    if (from !== undefined) sayFrom(s, start, from)
    way = takeWay(s)
  } else if (firstOfTwo(s)) {
    sayFrom(s, start, takeFret(s, true)!)
    way = takeWay(s)
  }
  if (pair || late) s.bothNext = true
  if (way.into && move === 'slide') return slideInto(s, start, 'in from below')
  return arrive(s, start, move)
}

/** "pull off again": back to where the movement before came from. */
function moveAgain(s: Scan, start: number, move: Move | 'roll'): boolean {
  const notes = s.items.filter((item) => item.k === 'note')
  const source = notes.at(-2)
  if (!source || move === 'roll') return false
  const atEnd = s.i >= s.list.length && move === 'pull' && notes.at(-1)!.move === 'hammer'
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
  sayNote(s, start, { fret, move: move === 'roll' || specs ? undefined : move })
  andBack(s, start, move, from)
  return true
}

/** "6 to 8", "10 up to 12", "0 to 2": a fret with the way to another after it. */
function firstOfTwo(s: Scan): boolean {
  const used =
    kind(s) === 'number' || (is(s, 0, 'open') && !isLetter(s, 1))
      ? 1
      : kind(s) === 'ordinal' && is(s, 1, 'fret', 'to')
        ? 1
        : 0
  if (!used) return false
  const after = used + (is(s, used, 'fret') ? 1 : 0)
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

/** "12, 10 on the B as a pull-off": what a note before was reached by. */
export function asMove(s: Scan): boolean {
  if (!is(s, 0, 'as')) return false
  const offset = isArticle(s, 1) ? 2 : 1
  const move = moveAt(s, offset)
  if (!move || move === 'roll') return false
  const note = lastNote(s)
  if (note) note.move = move
  s.i += offset + 1
  return true
}

/** "0 to 2 on the G" after a hammer-on: the same movement with other frets. */
export function fretToFret(s: Scan): boolean {
  const before = clauseItems(s).at(-1)
  if (
    is(s, 0, 'to') &&
    (kind(s, 1) === 'number' || is(s, 1, 'open')) &&
    before?.k === 'note' &&
    before.move
  ) {
    const start = s.i
    s.i++
    sayNote(s, start, { fret: takeFret(s)!, move: before.move })
    return true
  }
  if (kind(s) !== 'number' || !is(s, 1, 'to') || kind(s, 2) !== 'number') return false
  const last = lastNote(s)
  const move = last?.move
  const start = s.i
  const from = here(s).value
  s.i += 2
  sayNote(s, start, { fret: from, move: undefined })
  const fret = takeFret(s)!
  const fits =
    move && move !== 'tap' && (move !== 'hammer' || fret > from) && (move !== 'pull' || fret < from)
  sayNote(s, start, { fret, move: fits ? move : undefined })
  return true
}

/** "up to 7", "back to 5", "down to 3": the hand goes there; after a slide it slides on. */
export function wayTo(s: Scan): boolean {
  if (!is(s, 0, 'up', 'down', 'back')) return false
  let offset = 1
  while (is(s, offset, 'up', 'down', 'back')) offset++
  if (!is(s, offset, 'to', 'into') && !(is(s, 0, 'back') && kind(s, offset) === 'number')) return false
  const into = is(s, offset, 'into')
  const from = is(s, 0, 'down') ? 'in from above' : 'in from below'
  const start = s.i
  const back = is(s, 0, 'back')
  s.i += offset + (is(s, offset, 'to', 'into') ? 1 : 0)
  skipArticle(s)
  if (into) return slideInto(s, start, from) || true
  const last = lastNote(s)
  const slid = last?.move === 'slide'
  const both = pairOf(s)
  const fret = takeFret(s, true)
  if (fret === undefined && back && backToString(s, start)) return true
  if (fret === undefined) {
    s.i = start + 1
    return back
  }
  if (both) s.bothNext = true
  sayNote(s, start, { fret, move: back && slid ? 'slide' : undefined })
  return true
}

/** "back to the B": what that string played before. */
function backToString(s: Scan, start: number): boolean {
  const specs = isLetter(s) || whichAt(s) ? stringList(s) : undefined
  if (!specs || kind(s) === 'number' || !lastNote(s) || s.gripHeld) return false
  sayNote(s, start, { fret: 'last', strings: specs })
  return true
}

const AMOUNTS: Readonly<Record<string, number>> = {
  full: 2,
  halfstep: 1,
  quartertone: 0.5,
  stepandhalf: 3,
  twosteps: 4,
}
/** An amount of bending that comes next, in semitones. */
function takeAmount(s: Scan): number | undefined {
  const start = s.i
  while (is(s, 0, 'up', 'by', 'it', 'that', 'about')) s.i++
  skipArticle(s)
  if (kind(s) === 'word' && Object.hasOwn(AMOUNTS, text(s))) {
    const amount = AMOUNTS[text(s)]!
    s.i++
    takeOne(s, 'step', 'steps', 'tone', 'tones')
    return amount
  }
  if (is(s, 0, 'half', 'quarter', 'whole')) {
    const amount = { half: 1, quarter: 0.5, whole: 2 }[text(s)]!
    s.i++
    takeOne(s, 'step', 'steps', 'tone', 'tones')
    return amount
  }
  const { value } = here(s)
  if (
    kind(s) === 'number' &&
    value <= 5 &&
    is(s, 1, 'semitone', 'semitones', 'halfstep', 'fret', 'step', 'steps', 'twosteps') &&
    !is(s, 2, 'string')
  ) {
    const whole = is(s, 1, 'step', 'steps')
    s.i += 2
    return whole ? value * 2 : value
  }
  s.i = start
  return undefined
}

/** "release to 12": the fret it was bent from. */
function toItsFret(s: Scan): void {
  const note = lastNote(s)
  const offset = is(s, 0, 'back') ? 1 : 0
  if (is(s, offset, 'to') && kind(s, offset + 1) === 'number' && here(s, offset + 1).value === note?.fret)
    s.i += offset + 2
}

type Shape = Extract<Articulation, { kind: 'bend' }>['shape']
/** "and release", ", let it down", "and hold it": how a bend goes on. */
function takeShape(s: Scan): Shape | undefined {
  const start = s.i
  while (
    takeOne(s, 'and', 'then', 'slowly') ||
    (text(s) === ',' && is(s, 1, 'release', 'holdit', 'and', 'then'))
  ) {
    if (text(s) === ',') s.i++
  }
  if (takeOne(s, 'holdit')) return 'bend and hold'
  if (takeOne(s, 'release')) {
    takeOne(s, 'it')
    toItsFret(s)
    return 'bend and release'
  }
  s.i = start
  return undefined
}

/** Where a bend goes: the fret said with it, or the note before. */
function bentNote(s: Scan, start: number, count: number): NoteItem | undefined {
  const before = s.i
  while (is(s, 0, 'on', 'at', 'up', 'of', 'from', 'it', 'fret')) s.i++
  skipArticle(s)
  const fret =
    is(s, -1, 'on', 'of') && kind(s) === 'ordinal' && is(s, 1, 'string') ? undefined : takeFret(s, true)
  const last = lastNote(s)
  if (fret === undefined || fret === 0) {
    s.i = before
    return last
  }
  const again = last && last.fret === fret && !last.marks.some((mark) => mark.kind === 'bend') && !last.dead
  if (again && count === 1) return last
  const specs = last?.fret === fret ? last.strings : undefined
  return sayNote(s, start, { fret, count, move: undefined, ...(specs ? { strings: specs } : {}) })
}

/** "bend to the pitch of 10": as far as that fret is away. */
function bentTo(s: Scan, note: NoteItem | undefined): number | undefined {
  const start = s.i
  takeOne(s, 'up')
  if (!takeOne(s, 'to')) return undefined
  while (is(s, 0, 'pitch', 'of', 'sound', 'fret', 'note', 'where')) s.i++
  skipArticle(s)
  const target = takeFret(s, true)
  if (target !== undefined && typeof note?.fret === 'number' && target > note.fret && target - note.fret <= 5)
    return target - note.fret
  s.i = start
  return undefined
}

/** "up a whole step", after a bend whose amount was not said. */
export function amountAfter(s: Scan): boolean {
  const note = lastNote(s)
  const bent = note?.marks.find((mark) => mark.kind === 'bend')
  if (!note || bent?.kind !== 'bend' || bent.semitones !== UNSAID) return false
  const amount = takeAmount(s)
  if (amount === undefined) return false
  note.marks = note.marks.map((mark) => (mark === bent ? { ...bent, semitones: amount } : mark))
  return true
}

/** "pick it again": the note before, struck once more. */
export function pickAgain(s: Scan): boolean {
  const start = s.i
  if (!takeOne(s, 'pick')) return false
  takeOne(s, 'it', 'that')
  const note = lastNote(s)
  if (!takeOne(s, 'again') || !note) {
    s.i = start
    return false
  }
  sayNote(s, start, { ...note, move: undefined, count: 1 })
  return true
}

export function bend(s: Scan, count = 1): boolean {
  const start = s.i
  const amountFirst = takeAmount(s)
  const word = takeOne(s, 'bend', 'prebend', 'curl')
  if (!word) {
    s.i = start
    return false
  }
  const bentString = isLetter(s) && is(s, 1, 'string') ? stringList(s) : undefined
  if (bentString) s.items.push({ k: 'strings', specs: bentString, after: false, ...spanFrom(s, start) })
  let shape: Shape | undefined = takeShape(s)
  const before = lastNote(s)
  const toward = bentTo(s, before)
  const note = toward === undefined ? bentNote(s, start, count) : before
  if (!note) {
    s.waiting = [...s.waiting, { kind: 'bend', semitones: amountFirst ?? UNSAID, shape: shape ?? 'plain' }]
    return true
  }
  const strings = takeStringsAfter(s)
  const amount = amountFirst ?? toward ?? takeAmount(s)
  shape = shape ?? takeShape(s)
  const pre = word === 'prebend' ? 'pre-bend' : undefined
  const semitones = word === 'curl' ? 0.5 : (amount ?? UNSAID)
  note.marks = [
    ...note.marks.filter((mark) => mark.kind !== 'bend'),
    {
      kind: 'bend',
      semitones,
      shape: pre && shape === 'bend and release' ? 'release' : (pre ?? shape ?? 'plain'),
    },
  ]
  if (strings) s.items.push({ k: 'strings', specs: strings, after: true, ...spanFrom(s, start) })
  return true
}

/** "bend the 8 on the B up a whole step": the string said in between. */
function takeStringsAfter(s: Scan) {
  const start = s.i
  const specs = takeOne(s, 'on', 'of') ? stringList(s, true) : undefined
  if (!specs) s.i = start
  if (specs) s.stringKnown = true
  return specs
}

/** "release", "let it down", said as a thought of its own. */
export function release(s: Scan): boolean {
  if (!is(s, 0, 'release', 'holdit')) return false
  const held = is(s, 0, 'holdit')
  s.i++
  takeOne(s, 'it')
  toItsFret(s)
  const note = lastNote(s)
  const bent = note?.marks.find((mark) => mark.kind === 'bend')
  if (!note || bent?.kind !== 'bend') return true
  const shape = held ? 'bend and hold' : bent.shape === 'pre-bend' ? 'release' : 'bend and release'
  note.marks = note.marks.map((mark) => (mark === bent ? { ...bent, shape } : mark))
  return true
}

/** "trill 7 and 8", "7 trill 9". */
export function trill(s: Scan): boolean {
  if (!is(s, 0, 'trill')) return false
  const start = s.i
  s.i++
  while (is(s, 0, 'between', 'with', 'to', 'from', 'on')) s.i++
  const first = takeFret(s, true)
  const two = first !== undefined && (takeOne(s, 'and', 'to', 'with') ? takeFret(s, true) : undefined)
  const last = lastNote(s)
  if (first !== undefined && (typeof two === 'number' || !last)) {
    const note = sayNote(s, start, { fret: first })
    const frets = typeof two === 'number' ? Math.min(7, Math.max(1, two - first)) : 2
    note.marks = [...note.marks, { kind: 'trill', frets }]
    return true
  }
  if (!last || typeof last.fret !== 'number') return true
  const frets = first === undefined ? 2 : Math.min(7, Math.max(1, first - last.fret))
  last.marks = [...last.marks, { kind: 'trill', frets }]
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
