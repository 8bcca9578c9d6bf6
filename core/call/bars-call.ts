// A call that only says which bars are meant: "bar 2", "bars 3 to 4", "the last bar".
import type { Figure } from '../document/schema'
import { barTicks } from '../time/meter'
import { numberOf, ordinalOf } from './vocabulary'

export type BarsCall = { ok: true; first: number; last: number } | { ok: false; message: string }

const SAID = /^(?:the )?bars? (\w+)(?: ?(?:to|and|-|–|through) ?(\w+))?$/
const ORDINAL = /^(?:the )?(\w+) bar$/

/** The bars a call names, counted from 0; undefined for other calls. */
export function readBarsCall(call: string, figure: Figure): BarsCall | undefined {
  const words = call.toLowerCase().replaceAll(/\s+/g, ' ').trim()
  const count = Math.ceil(figure.lengthTicks / barTicks(figure.meter))
  const ordinal = ORDINAL.exec(words)?.[1]
  const match = SAID.exec(words)
  if (!match && !ordinal) return undefined
  const first = ordinal === 'last' ? count : numberOrOrdinal(ordinal ?? match?.[1])
  const last = match?.[2] === undefined ? first : numberOrOrdinal(match[2])
  if (first === undefined || last === undefined) return undefined
  if (first < 1 || last < first || last > count)
    return { ok: false, message: `“${figure.name}” has bars 1 to ${count}.` }
  return { ok: true, first: first - 1, last: last - 1 }
}

const numberOrOrdinal = (word: string | undefined): number | undefined =>
  word === undefined ? undefined : (numberOf(word) ?? ordinalOf(word))
