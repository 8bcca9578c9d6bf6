// Ways along a string that name no movement of their own: "up to 7", "back to the B", "0 to 2", a trill.
import type { Move } from './items'
import { takeFret } from './say-frets'
import { moveAt, pairOf, slideInto } from './say-moves'
import { namesString, stringList } from './say-strings'
import {
  clauseItems,
  here,
  is,
  isArticle,
  kind,
  lastNote,
  sayNote,
  skipArticle,
  takeOne,
  type Scan,
} from './scan'

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

/** "… to 3" after a movement: on to the next fret in the same way. */
function onToFret(s: Scan): boolean {
  const before = clauseItems(s).at(-1)
  const start = s.i
  if (before?.k !== 'note' || !before.move || !takeOne(s, 'to')) return false
  const fret = takeFret(s)
  if (fret === undefined) {
    s.i = start
    return false
  }
  sayNote(s, start, { fret, move: before.move })
  return true
}

/** Whether a movement goes that way: hammered up, pulled down. */
function goesThatWay(move: Move | undefined, from: number, to: number): boolean {
  if (!move || move === 'tap') return false
  if (move === 'hammer') return to > from
  return move !== 'pull' || to < from
}

/** "0 to 2 on the G" after a hammer-on: the same movement with other frets. */
export function fretToFret(s: Scan): boolean {
  if (onToFret(s)) return true
  if (kind(s) !== 'number' || !is(s, 1, 'to') || kind(s, 2) !== 'number') return false
  const move = lastNote(s)?.move
  const start = s.i
  const from = here(s).value
  s.i += 2
  sayNote(s, start, { fret: from, move: undefined })
  const fret = takeFret(s) ?? from
  sayNote(s, start, { fret, move: goesThatWay(move, from, fret) ? move : undefined })
  return true
}

/** "up to", "back down to", "down into", "back 5": how many words the way takes; 0 when it is none. */
function wayWords(s: Scan): number {
  let offset = 0
  while (is(s, offset, 'up', 'down', 'back')) offset++
  if (offset === 0) return 0
  if (is(s, offset, 'to', 'into')) return offset + 1
  return is(s, 0, 'back') && kind(s, offset) === 'number' ? offset : 0
}

/** "up to 7", "back to 5", "down to 3": the hand goes there; after a slide it slides on. */
export function wayTo(s: Scan): boolean {
  const words = wayWords(s)
  if (words === 0) return false
  const start = s.i
  const back = is(s, 0, 'back')
  const from = is(s, 0, 'down') ? 'in from above' : 'in from below'
  s.i += words
  const into = is(s, -1, 'into')
  skipArticle(s)
  if (into) {
    slideInto(s, start, from)
    return true
  }
  const slid = lastNote(s)?.move === 'slide'
  const both = pairOf(s)
  const fret = takeFret(s, true)
  if (fret === undefined) return backOnly(s, start, back)
  if (both) s.bothNext = true
  sayNote(s, start, { fret, move: back && slid ? 'slide' : undefined })
  return true
}
/** "back" without a fret: to a string, or a word that carries nothing. */
function backOnly(s: Scan, start: number, back: boolean): boolean {
  if (back && backToString(s, start)) return true
  s.i = start + 1
  return back
}

/** "back to the B": what that string played before. */
function backToString(s: Scan, start: number): boolean {
  const specs = kind(s) !== 'ordinal' && namesString(s) ? stringList(s) : undefined
  if (!specs || kind(s) === 'number' || !lastNote(s) || s.gripHeld) return false
  sayNote(s, start, { fret: 'last', strings: specs })
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
