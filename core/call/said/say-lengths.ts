// How long something is: "for two bars", "a bar and three beats", "two beats each".
import { barTicks, beatTicks } from '../../time/meter'
import { noteValue } from '../vocabulary'
import type { Length } from './items'
import { here, is, isArticle, kind, spanFrom, takeOne, text, type Scan } from './scan'

/** "two bars", "a bar and three beats", "half a bar", "four beats", "a quarter": in ticks. */
export function takeLength(s: Scan): number | undefined {
  const start = s.i
  const first = oneLength(s)
  if (first === undefined) {
    s.i = start
    return undefined
  }
  const after = s.i
  if (takeOne(s, 'and')) {
    const more = oneLength(s)
    if (more !== undefined) return first + more
  }
  s.i = after
  return first
}
/** "two", "a", "half a": how many of the unit that follows; undefined when no length begins here. */
function takeShare(s: Scan): number | undefined {
  if (is(s, 0, 'half') && isArticle(s, 1)) {
    s.i += 2
    return 0.5
  }
  if (kind(s) === 'number') {
    s.i++
    return here(s, -1).value
  }
  if (isArticle(s)) {
    s.i++
    return takeOne(s, 'full', 'whole', 'half') === 'half' ? 0.5 : 1
  }
  if (is(s, 0, 'half', 'full') && is(s, 1, 'bar', 'measure')) {
    s.i++
    return is(s, -1, 'half') ? 0.5 : 1
  }
  return is(s, 0, 'beat', 'bar') ? 1 : undefined
}

/** A bar, a beat or a note value, in ticks. */
function takeUnit(s: Scan): number | undefined {
  if (takeOne(s, 'bar', 'measure')) {
    s.unit = 'bar'
    return barTicks(s.context.meter)
  }
  if (takeOne(s, 'beat')) {
    s.unit = 'beat'
    return beatTicks(s.context.meter)
  }
  const value = kind(s) === 'word' ? noteValue(text(s)) : undefined
  if (value === undefined) return undefined
  s.i++
  takeOne(s, 'note', 'notes')
  return value
}

function oneLength(s: Scan): number | undefined {
  const start = s.i
  const share = takeShare(s)
  const unit = share === undefined ? undefined : takeUnit(s)
  if (share !== undefined && unit !== undefined) return share * unit
  s.i = start
  return undefined
}

/** "two each of …": the chords of the call are in a row. */
function takeEach(s: Scan): boolean {
  if (!takeOne(s, 'each')) return false
  s.chordRow = true
  takeOne(s, 'of')
  return true
}

/** A length with its unit: "for two bars", "two beats each", "a bar rest". */
function unitLength(s: Scan, start: number, ticks: number, forWord: boolean): boolean {
  const each = takeEach(s)
  if (!forWord && takeOne(s, 'rest')) {
    s.items.push({ k: 'rest', length: { ticks }, ...spanFrom(s, start) })
    return true
  }
  if (s.items.at(-1)?.k === 'chord') s.chordRow = true
  if (!forWord && !each) {
    s.i = start
    return false
  }
  s.items.push({ k: 'length', length: { ticks }, each, ...spanFrom(s, start) })
  return true
}

/** "for two bars", "for four" (beats of a chord, steps of a note), "two beats each". */
export function length(s: Scan): boolean {
  const start = s.i
  const forWord = takeOne(s, 'for') !== undefined
  const ticks = takeLength(s)
  if (ticks !== undefined) return unitLength(s, start, ticks, forWord)
  const { value } = here(s)
  if (kind(s) !== 'number' || value === 0 || !(forWord || is(s, 1, 'each')) || !saysLength(s)) {
    s.i = start
    return false
  }
  const chord = s.items.at(-1)?.k === 'chord' || s.chordRow
  s.i++
  const each = takeOne(s, 'each') !== undefined
  const unit = s.unit === 'bar' ? barTicks(s.context.meter) : beatTicks(s.context.meter)
  const said: Length = chord ? { ticks: value * unit } : { steps: value }
  s.items.push({ k: 'length', length: said, each, ...spanFrom(s, start) })
  return true
}

/** "cross to the G for 7 and 5": frets, where a string was just named. */
const saysLength = (s: Scan): boolean => s.items.at(-1)?.k !== 'strings'
