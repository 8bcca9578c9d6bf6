// Ways along a string that name no movement of their own: "up to 7", "back to the B", "0 to 2", a trill.
import { takeFret } from './say-frets'
import { moveAt, pairOf, slideInto } from './say-moves'
import { isLetter, stringList, whichAt } from './say-strings'
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
