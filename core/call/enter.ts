// A read call put into a figure's content: what it says replaces what stood there, layer by layer; and what
// to do with a call that is too long for its figure.
import { barTicks, type Meter } from '../time/meter'
import { lengthProblem } from '../document/invariants/figures'
import type { Content } from '../document/schema'
import type { ParsedCall } from './parse'

interface Event {
  id: string
  startTicks: number
  lengthTicks: number
}

/**
 * The content with a call entered. Only layers the call speaks of change, where it speaks of them;
 * everything entered gets a new id.
 */
export function enterCall(content: Content, call: ParsedCall, newId: () => string): Content {
  const named = <T extends Event>(said: readonly T[]): T[] => said.map((event) => ({ ...event, id: newId() }))
  const byTime = <T extends Event>(list: T[]): T[] => list.sort((a, b) => a.startTicks - b.startTicks)
  /** Notes and strokes: what began in the stretches the call went through gives way, rests included. */
  const played = <T extends Event>(old: readonly T[], said: readonly T[]): T[] =>
    said.length === 0
      ? [...old]
      : byTime([
          ...old.filter(
            (event) =>
              !call.covered.some((span) => event.startTicks >= span.from && event.startTicks < span.to),
          ),
          ...named(said),
        ])
  /** Grips and mutings: one under way is cut where the new one begins and goes on where that ends. */
  const spanned = <T extends Event>(
    old: readonly T[],
    said: readonly T[],
    same: (a: T, b: T) => boolean,
  ): T[] =>
    byTime([
      ...said.reduce<T[]>(
        (kept, span) => {
          const end = span.startTicks + span.lengthTicks
          return kept.flatMap((event): T[] => {
            const eventEnd = event.startTicks + event.lengthTicks
            if (!same(event, span) || eventEnd <= span.startTicks || event.startTicks >= end) return [event]
            return [
              ...(event.startTicks < span.startTicks
                ? [{ ...event, lengthTicks: span.startTicks - event.startTicks }]
                : []),
              ...(eventEnd > end
                ? [{ ...event, id: newId(), startTicks: end, lengthTicks: eventEnd - end }]
                : []),
            ]
          })
        },
        [...old],
      ),
      ...named(said),
    ])
  return {
    grips: spanned(content.grips, call.content.grips, () => true),
    strokes: played(content.strokes, call.content.strokes),
    notes: played(content.notes, call.content.notes),
    mutes: spanned(content.mutes, call.content.mutes, (a, b) => a.mark.kind === b.mark.kind),
  }
}

/** Where a call ends: a grip named at its very end needs a step of its own, a muting lasts as it is said. */
export function callReach({ endTicks, stepTicks, content }: ParsedCall): number {
  const gripped = content.grips.some(({ startTicks }) => startTicks >= endTicks)
  const muted = content.mutes.map(({ startTicks, lengthTicks }) => startTicks + lengthTicks)
  return Math.max(endTicks + (gripped ? stepTicks : 0), ...muted)
}

export type Fit = 'longer figure' | 'tuplet' | 'longer bar'
/** A bar may be squeezed to a third: triplets of triplets; beyond that notes fall on each other. */
const LEAST_SQUEEZE = 1 / 3

export interface Fitted {
  call: ParsedCall
  lengthTicks: number
  meter: Meter
}

/**
 * A call read without an end, made to fit a figure: by more bars, by squeezing its last bar, or by a longer
 * bar (figures of one bar).
 */
export function fitCall(
  call: ParsedCall,
  figure: { lengthTicks: number; meter: Meter },
  fit: Fit,
): Fitted | undefined {
  const bar = barTicks(figure.meter)
  const endTicks = callReach(call)
  if (fit === 'longer figure') {
    const lengthTicks = Math.max(figure.lengthTicks, Math.ceil(endTicks / bar) * bar)
    return lengthProblem({ lengthTicks, meter: figure.meter })
      ? undefined
      : { call, lengthTicks, meter: figure.meter }
  }
  if (fit === 'longer bar') {
    const unit = 40_320 / 8
    const eighths = endTicks / unit
    return figure.lengthTicks === bar && Number.isInteger(eighths) && eighths <= 32
      ? { call, lengthTicks: endTicks, meter: { beats: eighths, unit: 8 } }
      : undefined
  }
  const from = Math.max(call.startTicks, Math.floor((figure.lengthTicks - 1) / bar) * bar)
  const factor = (figure.lengthTicks - from) / (endTicks - from)
  // Nothing is left of the figure to squeeze it into, or so little that nobody could play it.
  if (!(factor >= LEAST_SQUEEZE)) return undefined
  const place = (tick: number): number => (tick <= from ? tick : Math.round(from + (tick - from) * factor))
  const squeezed = <T extends Event>(list: readonly T[]): T[] =>
    list.map((event) => ({
      ...event,
      startTicks: place(event.startTicks),
      lengthTicks: Math.max(1, place(event.startTicks + event.lengthTicks) - place(event.startTicks)),
    }))
  const { content } = call
  return {
    call: {
      ...call,
      endTicks: figure.lengthTicks,
      covered: call.covered.map((span) => ({ from: place(span.from), to: place(span.to) })),
      content: {
        grips: squeezed(content.grips),
        strokes: squeezed(content.strokes),
        notes: squeezed(content.notes),
        mutes: squeezed(content.mutes),
      },
    },
    lengthTicks: figure.lengthTicks,
    meter: figure.meter,
  }
}
