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

function oneLength(s: Scan): number | undefined {
  const bar = barTicks(s.context.meter)
  const start = s.i
  let amount = 1
  if (is(s, 0, 'half') && isArticle(s, 1)) {
    amount = 0.5
    s.i += 2
  } else if (kind(s) === 'number') {
    amount = here(s).value
    s.i++
  } else if (isArticle(s)) {
    s.i++
    if (takeOne(s, 'full', 'whole', 'half')) amount = here(s, -1).text === 'half' ? 0.5 : 1
  } else if (is(s, 0, 'half', 'full') && is(s, 1, 'bar', 'measure')) {
    amount = is(s, 0, 'half') ? 0.5 : 1
    s.i++
  } else if (!is(s, 0, 'beat', 'bar')) return undefined
  if (takeOne(s, 'bar', 'measure')) {
    s.unit = 'bar'
    return amount * bar
  }
  if (takeOne(s, 'beat')) {
    s.unit = 'beat'
    return amount * beatTicks(s.context.meter)
  }
  const value = kind(s) === 'word' ? noteValue(text(s)) : undefined
  if (value !== undefined && start !== s.i) {
    s.i++
    takeOne(s, 'note', 'notes')
    return amount * value
  }
  s.i = start
  return undefined
}

/** "for two bars", "for four" (beats of a chord, steps of a note), "two beats each". */
export function length(s: Scan): boolean {
  const start = s.i
  const forWord = takeOne(s, 'for')
  const ticks = takeLength(s)
  if (ticks !== undefined) {
    const each = Boolean(takeOne(s, 'each'))
    if (each) {
      s.chordRow = true
      takeOne(s, 'of')
    }
    if (is(s, 0, 'rest') && !forWord) {
      s.i++
      s.items.push({ k: 'rest', length: { ticks }, ...spanFrom(s, start) })
      return true
    }
    if (s.items.at(-1)?.k === 'chord') s.chordRow = true
    if (forWord || each) {
      s.items.push({ k: 'length', length: { ticks }, each, ...spanFrom(s, start) })
      return true
    }
  } else if (kind(s) === 'number' && (forWord || is(s, 1, 'each')) && here(s).value > 0 && saysLength(s)) {
    const chord = s.items.at(-1)?.k === 'chord' || s.chordRow
    const { value } = here(s)
    s.i++
    const each = Boolean(takeOne(s, 'each'))
    const unit = s.unit === 'bar' ? barTicks(s.context.meter) : beatTicks(s.context.meter)
    const said: Length = chord ? { ticks: value * unit } : { steps: value }
    s.items.push({ k: 'length', length: said, each, ...spanFrom(s, start) })
    return true
  }
  s.i = start
  return false
}

/** "cross to the G for 7 and 5": frets, where a string was just named. */
const saysLength = (s: Scan): boolean => s.items.at(-1)?.k !== 'strings'
