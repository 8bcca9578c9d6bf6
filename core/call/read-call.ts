// The call line read: the exact grammar where a call is written in it, else as people say things.
import { parseCall } from './parse'
import type { CallContext, CallError, ParsedCall } from './reading'
import { isExact } from './exact-words'
import type { Choice, Slip } from './said/build'
import type { Span } from './said/items'
import { readSaid } from './said/read-said'
import { usualGrip } from './said/usual-grips'

export interface CallUnderstood {
  ok: true
  value: ParsedCall
  /** What was assumed, each with what else it could be. */
  choices: Choice[]
  /** What does not go together, in sentences. */
  slips: Slip[]
  /** Words that carry nothing, and words that were not understood. */
  empty: Span[]
  unknown: Span[]
  /** Ids of notes that stand on an assumption. */
  assumed: string[]
  /** Chords as they were named. */
  chords: { symbol: string; startTicks: number }[]
}
export type CallReading = CallUnderstood | { ok: false; error: CallError; asks?: boolean }

/** Words that carry nothing among exact words as well. */
const EMPTY = /\b(so|okay|ok|now|just|please|um|uh|well|then)\b/gi

/** A call with those words blanked, every other one in its place. */
const blanked = (call: string): string => call.replaceAll(EMPTY, (word) => ' '.repeat(word.length))
const emptyIn = (call: string): Span[] =>
  [...call.matchAll(EMPTY)].map((match) => ({ at: match.index, end: match.index + match[0].length }))

const understood = (value: ParsedCall, named: readonly string[], empty: Span[] = []): CallUnderstood => ({
  ok: true,
  value,
  choices: [],
  assumed: [],
  slips: [],
  empty,
  unknown: [],
  chords: named.flatMap((symbol, index) => {
    const startTicks = value.content.grips[index]?.startTicks
    return startTicks === undefined ? [] : [{ symbol, startTicks }]
  }),
})
const sounds = ({ content }: ParsedCall): boolean =>
  content.notes.length + content.strokes.length + content.grips.length + content.mutes.length > 0

/**
 * Reads a call as exact words or as it is said. Never throws for what is typed. `decided` holds what was
 * chosen of its assumptions, by their ids.
 */
export function readCall(
  call: string,
  given: CallContext,
  decided: Readonly<Record<string, number>> = {},
): CallReading {
  const named: string[] = []
  const context: CallContext = {
    ...given,
    gripFor: (symbol, after, position) => {
      named.push(symbol)
      const usual = position === undefined ? usualGrip(symbol, given) : undefined
      return usual ?? given.gripFor?.(symbol, after, position)
    },
  }
  const bare = blanked(call)
  const exact = parseCall(bare, context)
  const exactly = isExact(bare)
  if (exact.ok && !/[\p{L}\d]/u.test(call)) return understood(exact.value, [])
  if (exactly && exact.ok && sounds(exact.value)) return understood(exact.value, named, emptyIn(call))
  if (exactly && bare === call && !exact.ok && !exact.error.wording) return exact
  const said = readSaid(call, context, decided)
  if (said.ok) return { ok: true, ...said.value }
  return said
}
