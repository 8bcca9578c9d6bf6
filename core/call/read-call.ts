// The call line read: the exact grammar where a call is written in it, else as people say things.
import { parseCall } from './parse'
import type { CallContext, CallError, ParsedCall } from './reading'
import type { Choice, Slip } from './said/build'
import type { Span } from './said/items'
import { readSaid } from './said/read-said'

export type CallReading =
  | {
      ok: true
      value: ParsedCall
      choices: Choice[]
      slips: Slip[]
      empty: Span[]
      unknown: Span[]
      chords: { symbol: string; startTicks: number }[]
    }
  | { ok: false; error: CallError; asks?: boolean }

/** Reads a call. Never throws for what is typed. */
export function readCall(call: string, context: CallContext, decided: Record<string, number> = {}): CallReading {
  if (isExact(call)) {
    const exact = parseCall(call, context)
    if (exact.ok) return { ok: true, value: exact.value, choices: [], slips: [], empty: [], unknown: [], chords: [] }
  }
  const said = readSaid(call, context, decided)
  return said.ok ? { ok: true, ...said.value } : said
}
const isExact = (call: string): boolean => /^(string \d|hold )/.test(call)
