// A read call put into a figure's content: what it says replaces what stood there, layer by layer; and what to do with a call that is too long for its figure.
import { barTicks, type Meter } from '../time/meter'
import type { Content } from '../song/schema'
import type { ParsedCall } from './parse'

interface Event { id: string; startTicks: number; lengthTicks: number }

/** The content with a call entered. Only layers the call speaks of change, from its start to its end; everything entered gets a new id. */
export function enterCall(content: Content, call: ParsedCall, newId: () => string): Content {
  const { startTicks, endTicks } = call
  const layer = <T extends Event>(old: readonly T[], said: readonly T[], cut: boolean): T[] => {
    if (said.length === 0) return [...old]
    const from = Math.min(startTicks, ...said.map((event) => event.startTicks))
    const to = Math.max(...said.map((event) => event.startTicks + event.lengthTicks), said.length && !cut ? endTicks : 0)
    const kept = old.flatMap((event): T[] => {
      const end = event.startTicks + event.lengthTicks
      if (end <= from || event.startTicks >= to) return [event]
      if (!cut) return event.startTicks < from ? [event] : []
      // A grip or a muting under way is cut where the call begins and goes on where it ends.
      return [...(event.startTicks < from ? [{ ...event, lengthTicks: from - event.startTicks }] : []), ...(end > to ? [{ ...event, id: newId(), startTicks: to, lengthTicks: end - to }] : [])]
    })
    return [...kept, ...said.map((event) => ({ ...event, id: newId() }))].sort((a, b) => a.startTicks - b.startTicks)
  }
  return { grips: layer(content.grips, call.content.grips, true), strokes: layer(content.strokes, call.content.strokes, false), notes: layer(content.notes, call.content.notes, false), mutes: layer(content.mutes, call.content.mutes, true) }
}

export type Fit = 'longer figure' | 'tuplet' | 'longer bar'
export interface Fitted { call: ParsedCall; lengthTicks: number; meter: Meter }

/** A call read without an end, made to fit a figure: by more bars, by squeezing its last bar, or by a longer bar (figures of one bar). */
export function fitCall(call: ParsedCall, figure: { lengthTicks: number; meter: Meter }, fit: Fit): Fitted | undefined {
  const bar = barTicks(figure.meter)
  if (fit === 'longer figure') return { call, lengthTicks: Math.ceil(call.endTicks / bar) * bar, meter: figure.meter }
  if (fit === 'longer bar') {
    const unit = 40_320 / 8
    const eighths = call.endTicks / unit
    return figure.lengthTicks === bar && Number.isInteger(eighths) && eighths <= 32 ? { call, lengthTicks: call.endTicks, meter: { beats: eighths, unit: 8 } } : undefined
  }
  const from = Math.max(call.startTicks, Math.floor((figure.lengthTicks - 1) / bar) * bar)
  const factor = (figure.lengthTicks - from) / (call.endTicks - from)
  const place = (tick: number): number => (tick <= from ? tick : Math.round(from + (tick - from) * factor))
  const squeezed = <T extends Event>(list: readonly T[]): T[] => list.map((event) => ({ ...event, startTicks: place(event.startTicks), lengthTicks: Math.max(1, place(event.startTicks + event.lengthTicks) - place(event.startTicks)) }))
  const { content } = call
  return { call: { ...call, endTicks: figure.lengthTicks, content: { grips: squeezed(content.grips), strokes: squeezed(content.strokes), notes: squeezed(content.notes), mutes: squeezed(content.mutes) } }, lengthTicks: figure.lengthTicks, meter: figure.meter }
}
