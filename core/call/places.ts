// Lengths and places: "for a quarter", "in triplets", "at the and of 4", bar lines.
import { barTicks, beatTicks, unitTicks } from '../time/meter'
import { CallReading, fraction } from './reading'
import type { Token } from './tokens'
import { noteValue, noteValueName, numberOf } from './vocabulary'

export class CallPlaces extends CallReading {
  /** A length: "3", "3/2", "1.5", "a quarter", "2 bars", "half a bar", "960 ticks". In ticks. */
  protected length(token: Token): number {
    const bar = barTicks(this.context.meter)
    let amount = 1
    const text = this.peek()
    const fractional = /^(\d{1,6})\/(\d{1,6})$/.exec(text) ?? /^(\d{1,9}(?:\.\d{1,4})?)$/.exec(text)
    const spoken = numberOf(text)
    let counted = true
    if (fractional) {
      amount = Number(fractional[1]) / Number(fractional[2] ?? 1)
      this.i++
    } else if (spoken !== undefined) {
      amount = spoken
      this.i++
    } else if (
      text.toLowerCase() === 'half' &&
      /^(a|the)$/i.test(this.peek(1)) &&
      /^bar$/i.test(this.peek(2))
    ) {
      this.i += 3
      return bar / 2
    } else if (/^(a|an|one|the)$/i.test(text)) this.i++
    else counted = false
    if (!Number.isFinite(amount) || amount <= 0)
      this.fail(token, 'That is no length.', ['for 2', 'for a quarter'])
    const unit = this.peek().toLowerCase()
    const value = noteValue(unit)
    const known =
      unit === 'bar' || unit === 'bars'
        ? bar
        : unit === 'beat' || unit === 'beats'
          ? beatTicks(this.context.meter)
          : unit === 'tick' || unit === 'ticks'
            ? 1
            : unit === 'step' || unit === 'steps'
              ? this.step
              : value
    if (known !== undefined && !this.list[this.i]!.line) this.i++
    else if (!counted)
      this.fail(token, 'How long? A number of steps, or a note value.', [
        'for 2',
        'for a quarter',
        'for a bar',
      ])
    const ticks = Math.round(amount * (known ?? this.step))
    if (ticks > 2 ** 30) this.fail(token, 'That is longer than any song.')
    return ticks
  }
  protected stepToken(token: Token): boolean {
    const match = /^1\/(\d{1,3})$/.exec(token.text)
    if (!match) return false
    const ticks = 40_320 / Number(match[1])
    if (!Number.isInteger(ticks))
      this.fail(token, `A ${match[1]}th of a whole note does not come out even here.`, [
        '1/8',
        '1/12',
        '1/16',
      ])
    this.i++
    this.step = ticks
    return true
  }
  protected barLine(token: Token): void {
    const bar = barTicks(this.context.meter)
    const over = this.at % bar
    const began = this.barStart
    this.barStart = this.at
    if (over === 0) return
    const name = noteValueName(this.step) ?? 'steps'
    const held = this.at - Math.floor(began / bar) * bar
    const missing = bar - over
    this.fail(
      token,
      `This bar holds ${fraction(held / this.step)} of ${fraction(bar / this.step)} ${name}.`,
      held > bar
        ? ['take the bar line out and tie over', 'in triplets', 'a longer bar']
        : [
            `rest for ${fraction(missing / this.step)} |`,
            `for ${fraction((this.stepOfLast() + missing) / this.step)} |`,
          ],
    )
  }
  protected goTo(token: Token): void {
    const { meter } = this.context
    const bar = barTicks(meter)
    const dotted = /^(\d{1,3})\.(\d{1,2})(&|e|a)?$/.exec(this.peek())
    let tick: number
    if (dotted) {
      this.i++
      tick = (Number(dotted[1]) - 1) * bar + this.countTick(Number(dotted[2]), dotted[3], token)
    } else if (/^\d+$/.test(this.peek()) && /^ticks?$/i.test(this.peek(1))) {
      tick = Number(this.peek())
      this.i += 2
    } else {
      let barNumber = Math.floor(this.at / bar) + 1
      let said = false
      if (/^bar$/i.test(this.peek())) {
        const number = numberOf(this.peek(1))
        if (!number) this.fail(token, 'Which bar?', ['at bar 1', 'at bar 2'])
        barNumber = number
        this.i += 2
        said = true
      }
      const count = this.spokenCount(token)
      if (count === undefined && !said)
        this.fail(token, 'At which place? A bar, a count, or both.', [
          'at bar 2',
          'at the and of 4',
          'at bar 2 on 3',
        ])
      tick = (barNumber - 1) * bar + (count ?? 0)
    }
    if (tick < 0 || tick > 2 ** 30) this.fail(token, 'That place does not exist.')
    const end = this.context.lengthTicks
    if (end !== undefined && tick >= end)
      this.fail(
        token,
        `${this.place(tick)} lies after the end: the figure has ${fraction(end / bar)} bars.`,
        ['at bar 1'],
      )
    this.at = tick
    this.gripEnd = -1
    this.last = undefined
    this.endClause()
  }
  /** "the and of 4", "on 3", "3 and", "3 e": ticks into the bar. */
  protected spokenCount(token: Token): number | undefined {
    const start = this.i
    this.skip('on')
    this.skip('the')
    const part = this.peek().toLowerCase()
    if (['and', '&', 'e', 'a'].includes(part) && this.peek(1).toLowerCase() === 'of') {
      const beat = numberOf(this.peek(2))
      if (beat === undefined) this.fail(token, 'The and of which count?', ['the and of 4'])
      this.i += 3
      return this.countTick(beat, part === 'and' ? '&' : part, token)
    }
    const beat = numberOf(this.peek())
    if (beat === undefined || this.list[this.i]?.line) {
      this.i = start
      return undefined
    }
    this.i++
    const after = this.peek().toLowerCase()
    if (after === 'and' || after === '&') {
      this.i++
      return this.countTick(beat, '&', token)
    }
    return this.countTick(beat, undefined, token)
  }
  protected countTick(beat: number, part: string | undefined, token: Token): number {
    const { meter } = this.context
    if (beat < 1 || beat > meter.beats)
      this.fail(token, `There is no count ${beat} in ${meter.beats}/${meter.unit}.`)
    const unit = unitTicks(meter)
    return (
      (beat - 1) * unit +
      (part === '&' ? unit / 2 : part === 'e' ? unit / 4 : part === 'a' ? (unit * 3) / 4 : 0)
    )
  }
}
