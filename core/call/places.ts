// Lengths and places: "for a quarter", "in triplets", "at the and of 4", bar lines.
import { barTicks, beatTicks, unitTicks } from '../time/meter'
import { stepOfLast } from './events'
import { endClause, fail, fraction, peek, placeOf, skip, type Reading } from './reading'
import type { Token } from './tokens'
import { noteValue, noteValueName, numberOf } from './vocabulary'

/** A length: "3", "3/2", "1.5", "a quarter", "2 bars", "half a bar", "960 ticks". In ticks. */
export function readLength(r: Reading, token: Token): number {
  const bar = barTicks(r.context.meter)
  let amount = 1
  const text = peek(r)
  const fractional = /^(\d{1,6})\/(\d{1,6})$/.exec(text) ?? /^(\d{1,9}(?:\.\d{1,4})?)$/.exec(text)
  const spoken = numberOf(text)
  let counted = true
  if (fractional) {
    amount = Number(fractional[1]) / Number(fractional[2] ?? 1)
    r.i++
  } else if (spoken !== undefined) {
    amount = spoken
    r.i++
  } else if (text.toLowerCase() === 'half' && /^(a|the)$/i.test(peek(r, 1)) && /^bar$/i.test(peek(r, 2))) {
    r.i += 3
    return bar / 2
  } else if (/^(a|an|one|the)$/i.test(text)) r.i++
  else counted = false
  if (!Number.isFinite(amount) || amount <= 0)
    fail(r, token, 'That is no length.', ['for 2', 'for a quarter'])
  const unit = peek(r).toLowerCase()
  const value = noteValue(unit)
  const units: Record<string, number> = { bar, beat: beatTicks(r.context.meter), tick: 1, step: r.step }
  const single = unit.replace(/s$/, '')
  const known = Object.hasOwn(units, single) ? units[single] : value
  if (known !== undefined && !r.list[r.i]!.line) r.i++
  else if (!counted)
    fail(r, token, 'How long? A number of steps, or a note value.', ['for 2', 'for a quarter', 'for a bar'])
  const ticks = Math.round(amount * (known ?? r.step))
  if (ticks > 2 ** 30) fail(r, token, 'That is longer than any song.')
  return ticks
}

export function stepToken(r: Reading, token: Token): boolean {
  const match = /^1\/(\d{1,3})$/.exec(token.text)
  if (!match) return false
  const ticks = 40_320 / Number(match[1])
  if (!Number.isInteger(ticks))
    fail(r, token, `A ${match[1]}th of a whole note does not come out even here.`, ['1/8', '1/12', '1/16'])
  r.i++
  r.step = ticks
  return true
}

export function barLine(r: Reading, token: Token): void {
  const bar = barTicks(r.context.meter)
  const over = r.at % bar
  const began = r.barStart
  r.barStart = r.at
  if (over === 0) return
  const name = noteValueName(r.step) ?? 'steps'
  const held = r.at - Math.floor(began / bar) * bar
  const missing = bar - over
  fail(
    r,
    token,
    `This bar holds ${fraction(held / r.step)} of ${fraction(bar / r.step)} ${name}.`,
    held > bar
      ? ['take the bar line out and tie over', 'in triplets', 'a longer bar']
      : [`rest for ${fraction(missing / r.step)} |`, `for ${fraction((stepOfLast(r) + missing) / r.step)} |`],
  )
}

export function goTo(r: Reading, token: Token): void {
  const { meter } = r.context
  const bar = barTicks(meter)
  const dotted = /^(\d{1,3})\.(\d{1,2})(&|e|a)?$/.exec(peek(r))
  let tick: number
  if (dotted) {
    r.i++
    tick = (Number(dotted[1]) - 1) * bar + countTick(r, Number(dotted[2]), dotted[3], token)
  } else if (/^\d+$/.test(peek(r)) && /^ticks?$/i.test(peek(r, 1))) {
    tick = Number(peek(r))
    r.i += 2
  } else {
    let barNumber = Math.floor(r.at / bar) + 1
    let said = false
    if (/^bar$/i.test(peek(r))) {
      const number = numberOf(peek(r, 1))
      if (!number) fail(r, token, 'Which bar?', ['at bar 1', 'at bar 2'])
      barNumber = number
      r.i += 2
      said = true
    }
    const count = spokenCount(r, token)
    if (count === undefined && !said)
      fail(r, token, 'At which place? A bar, a count, or both.', [
        'at bar 2',
        'at the and of 4',
        'at bar 2 on 3',
      ])
    tick = (barNumber - 1) * bar + (count ?? 0)
  }
  if (tick < 0 || tick > 2 ** 30) fail(r, token, 'That place does not exist.')
  const end = r.context.lengthTicks
  if (end !== undefined && tick >= end)
    fail(r, token, `${placeOf(r, tick)} lies after the end: the figure has ${fraction(end / bar)} bars.`, [
      'at bar 1',
    ])
  r.at = tick
  r.gripEnd = -1
  r.last = undefined
  endClause(r)
}

/** "the and of 4", "on 3", "3 and", "3 e": ticks into the bar. */
function spokenCount(r: Reading, token: Token): number | undefined {
  const start = r.i
  skip(r, 'on')
  skip(r, 'the')
  const part = peek(r).toLowerCase()
  if (['and', '&', 'e', 'a'].includes(part) && peek(r, 1).toLowerCase() === 'of') {
    const beat = numberOf(peek(r, 2))
    if (beat === undefined) fail(r, token, 'The and of which count?', ['the and of 4'])
    r.i += 3
    return countTick(r, beat, part === 'and' ? '&' : part, token)
  }
  const beat = numberOf(peek(r))
  if (beat === undefined || r.list[r.i]?.line) {
    r.i = start
    return undefined
  }
  r.i++
  const after = peek(r).toLowerCase()
  if (after === 'and' || after === '&') {
    r.i++
    return countTick(r, beat, '&', token)
  }
  return countTick(r, beat, undefined, token)
}

/** How far into a beat "e and a" are said. */
const BEAT_PARTS: Readonly<Record<string, number>> = { e: 1 / 4, '&': 1 / 2, a: 3 / 4 }
function countTick(r: Reading, beat: number, part: string | undefined, token: Token): number {
  const { meter } = r.context
  if (beat < 1 || beat > meter.beats)
    fail(r, token, `There is no count ${beat} in ${meter.beats}/${meter.unit}.`)
  const unit = unitTicks(meter)
  return unit * (beat - 1 + (BEAT_PARTS[part ?? ''] ?? 0))
}
