// Chords in the ways they are said: a shape at a fret, from one to the next, so many bars of one, struck.
import { readGrip } from '../../neck/grips/grip'
import { barTicks, beatTicks } from '../../time/meter'
import { takeChordName } from './say-chords'
import { takeLength } from './say-lengths'
import { here, is, isArticle, kind, skipArticle, spanFrom, takeOne, type Scan } from './scan'

const LOW_SHAPES: Readonly<Record<string, string>> = {
  E: '022100',
  A: 'x02220',
  D: 'xx0232',
  C: 'x32010',
  G: '320003',
  Em: '022000',
  Am: 'x02210',
  Dm: 'xx0231',
}

/** "E shape barre at the fifth fret", "barre chord at 3, A minor shape". */
export function shapeChord(s: Scan): boolean {
  if (kind(s) !== 'letter' && kind(s) !== 'chord') return false
  const start = s.i
  const symbol = takeChordName(s, true)
  const shape = symbol !== undefined && Object.hasOwn(LOW_SHAPES, symbol) ? LOW_SHAPES[symbol] : undefined
  const open =
    shape && takeOne(s, 'shape') ? readGrip(shape, s.context.part.tuning.openMidi.length) : undefined
  const fret = open ? shapeFret(s) : undefined
  if (!open || fret === undefined) {
    s.i = start
    return false
  }
  const grip = { strings: open.strings.map((one) => (one.fret === null ? one : { fret: one.fret + fret })) }
  s.items.push({ k: 'grip', grip, ...spanFrom(s, start) })
  s.gripHeld = true
  return true
}

/** Where a shape is barred: said after it, or just before. */
function shapeFret(s: Scan): number | undefined {
  const start = s.i
  while (takeOne(s, 'barre', 'bar', 'chord', 'at', 'on', 'up')) continue
  skipArticle(s)
  const numbered = kind(s) === 'number' || (kind(s) === 'ordinal' && is(s, 1, 'fret'))
  if (numbered) {
    s.i++
    takeOne(s, 'fret')
    return s.list[s.i - 1]?.text === 'fret' ? here(s, -2).value : here(s, -1).value
  }
  s.i = start
  const before = s.items.findLastIndex((item) => item.k === 'note' && item.barre)
  const note = s.items[before]
  if (note?.k !== 'note' || typeof note.fret !== 'number') return undefined
  s.items.splice(before, 1)
  return note.fret
}

/** "down, down, up on a G": the chord that strokes said before are struck on. */
export function strokesOnChord(s: Scan): boolean {
  if (!is(s, 0, 'on', 'over') || !isArticle(s, 1)) return false
  const start = s.i
  s.i++
  const symbol = takeChordName(s, true)
  if (symbol === undefined) {
    s.i = start
    return false
  }
  s.items.push({ k: 'chord', symbol, hit: false, ...spanFrom(s, start) })
  s.gripHeld = true
  return true
}

/** "from C to A minor", "G7 to C": from one chord to the next. */
export function chordToChord(s: Scan): boolean {
  const start = s.i
  const from = takeOne(s, 'from')
  const last = s.items.findLast((item) => item.k !== 'stop')
  const to = !from && last?.k === 'chord' && takeOne(s, 'to', 'into', 'change')
  const lettered = kind(s) === 'letter' || (isArticle(s) && kind(s, 1) === 'letter')
  if ((!from && !to) || !(lettered || kind(s) === 'chord')) {
    s.i = start
    return false
  }
  const symbol = takeChordName(s, true)
  if (symbol === undefined || is(s, 0, 'string') || (from && !is(s, 0, 'to', 'into'))) {
    s.i = start
    return false
  }
  s.items.push({ k: 'chord', symbol, hit: false, ...spanFrom(s, start) })
  s.gripHeld = true
  return true
}

/** "two bars of G", "a bar and three beats of C", "one of D" after it. */
export function chordFor(s: Scan): boolean {
  const start = s.i
  const ticks = takeLength(s) ?? barsAsBefore(s)
  if (ticks !== undefined && takeOne(s, 'of', 'on')) {
    const symbol = takeChordName(s, true)
    if (symbol !== undefined && kind(s) !== 'number') {
      s.items.push({ k: 'chord', symbol, hit: false, length: { ticks }, ...spanFrom(s, start) })
      s.gripHeld = true
      s.chordRow = true
      return true
    }
  }
  s.i = start
  return false
}

/** "two bars of G, one of D": the unit said before. */
function barsAsBefore(s: Scan): number | undefined {
  if (!s.chordRow || kind(s) !== 'number' || !is(s, 1, 'of')) return undefined
  s.i++
  const unit = s.unit === 'beat' ? beatTicks(s.context.meter) : barTicks(s.context.meter)
  return here(s, -1).value * unit
}

/** "strum an A minor", "hit an E": the chord is struck once. */
export function struckChord(s: Scan): boolean {
  if (!is(s, 0, 'strum', 'hit')) return false
  const start = s.i
  s.i++
  const symbol = takeChordName(s, kind(s, 1) !== 'number')
  if (symbol === undefined) {
    s.i = start
    return false
  }
  s.items.push({ k: 'chord', symbol, hit: !is(s, 0, 'down', 'up'), ...spanFrom(s, start) })
  s.gripHeld = true
  return true
}

export function namedChord(s: Scan, lone: boolean): boolean {
  const start = s.i
  const stays = is(s, 0, 'stay', 'sit', 'hang') && is(s, 1, 'on')
  if (stays) {
    s.i += 2
    lone = true
  }
  if (takeOne(s, 'hold', 'grab', 'make', 'change', 'strum', 'finger')) lone = true
  const symbol = takeChordName(s, lone)
  if (symbol === undefined || is(s, 0, 'string')) {
    s.i = start
    return false
  }
  s.items.push({ k: 'chord', symbol, hit: false, ...spanFrom(s, start) })
  s.gripHeld = true
  return true
}
