// Stretches of a recording that are gone over again: bars, sections, from here; longer, shorter, the next
// one. All are worked out on the bars of the grid; seconds of the recording in and out.
import { barAtTick, secondsToTicks, ticksToSeconds, type TimeMap } from './beat-grid'

export interface Span {
  startSeconds: number
  endSeconds: number
}
/** Shorter than this nobody can practise, and the sound would only buzz, seconds. */
export const SHORTEST_LOOP = 0.25
/** Two bar lines closer than this are one, seconds. */
const SAME = 0.02

const barCount = ({ barStartTicks }: TimeMap): number => barStartTicks.length
const lineAt = (map: TimeMap, bar: number): number =>
  ticksToSeconds(map, bar >= barCount(map) ? map.endTicks : (map.barStartTicks[Math.max(0, bar)] ?? 0))

/** The bar that sounds at a moment. */
export const barAt = (map: TimeMap, seconds: number): number =>
  Math.max(0, Math.min(barCount(map) - 1, barAtTick(map, secondsToTicks(map, seconds + SAME))))

/** Bars from one on, so many of them, as far as there are any. */
export const barsSpan = (map: TimeMap, firstBar: number, bars: number): Span => ({
  startSeconds: lineAt(map, firstBar),
  endSeconds: lineAt(map, Math.min(barCount(map), firstBar + bars)),
})

/** Between two ticks of the song. */
export const ticksSpan = (map: TimeMap, startTicks: number, endTicks: number): Span => ({
  startSeconds: ticksToSeconds(map, startTicks),
  endSeconds: ticksToSeconds(map, endTicks),
})

/** The beat at or before a moment. */
function beatBefore(map: TimeMap, seconds: number): number {
  const at = map.seconds.findLastIndex((beat) => beat <= seconds + SAME)
  return map.seconds[Math.max(0, at)] ?? 0
}
/** The moment so many beats from the one at a moment. */
export function beatsFrom(map: TimeMap, seconds: number, by: number): number {
  const at = map.seconds.findLastIndex((beat) => beat <= seconds + SAME)
  const to = Math.max(0, Math.min(map.seconds.length - 1, at + by))
  return map.seconds[to] ?? seconds
}
/** The bar line so many bars from the bar at a moment; before it, its own line is the first. */
export function barsFrom(map: TimeMap, seconds: number, by: number): number {
  const bar = barAt(map, seconds)
  const inside = seconds - lineAt(map, bar) > 0.25
  return lineAt(map, Math.max(0, bar + by + (by < 0 && inside ? 1 : 0)))
}

/** Two bars from the beat that sounds now. */
export function fromHere(map: TimeMap, seconds: number, bars = 2): Span {
  const start = beatBefore(map, seconds)
  const tick = secondsToTicks(map, start)
  const bar = barAt(map, start)
  const into = tick - (map.barStartTicks[bar] ?? 0)
  const lastBar = Math.min(barCount(map), bar + bars)
  const line = map.barStartTicks[lastBar] ?? map.endTicks
  return { startSeconds: start, endSeconds: ticksToSeconds(map, Math.min(map.endTicks, line + into)) }
}

/** The bar in which a span ends. */
const lastBarOf = (map: TimeMap, span: Span): number => barAt(map, span.endSeconds - 2 * SAME)

/** Longer or shorter at its end by so many bars; never less than what is left of one bar. */
export function grown(map: TimeMap, span: Span, byBars: number): Span {
  const last = lastBarOf(map, span)
  const first = barAt(map, span.startSeconds)
  const whole = Math.abs(lineAt(map, last + 1) - span.endSeconds) < SAME
  const end = byBars > 0 && !whole ? last - 1 : last
  const to = Math.max(first, Math.min(barCount(map) - 1, end + byBars))
  return { startSeconds: span.startSeconds, endSeconds: lineAt(map, to + 1) }
}

/** Bars and parts of bars from the first on: 2.5 is the middle of the third. */
function barPosition(map: TimeMap, seconds: number, bar = barAt(map, seconds)): number {
  const [from, to] = [lineAt(map, bar), lineAt(map, bar + 1)]
  return bar + (seconds - from) / (to - from)
}
function atPosition(map: TimeMap, position: number): number {
  const bar = Math.floor(position + 1e-6)
  const [from, to] = [lineAt(map, bar), lineAt(map, bar + 1)]
  return from + Math.max(0, position - bar) * (to - from)
}

/** As many bars as it has, so many times its length later (or earlier); itself where there is no room. */
export function shifted(map: TimeMap, span: Span, times: number): Span {
  const from = barPosition(map, span.startSeconds)
  const to = barPosition(map, span.endSeconds, lastBarOf(map, span))
  const by = times * Math.max(1, Math.round(to - from))
  if (from + by < 0 || from + by >= barCount(map)) return span
  const end = Math.min(barCount(map), Math.round((to + by) * 96) / 96)
  return { startSeconds: atPosition(map, from + by), endSeconds: atPosition(map, end) }
}

/** The speeds of a ladder: from a start to a goal in even steps, the goal reached exactly; shares of 1. */
export function ladderSpeeds(start: number, goal: number, step: number): number[] {
  const speeds: number[] = []
  const up = goal >= start
  const stride = Math.max(0.01, Math.abs(step)) * (up ? 1 : -1)
  for (let speed = start; up ? speed < goal - 1e-9 : speed > goal + 1e-9; speed += stride)
    speeds.push(Math.round(speed * 100) / 100)
  return [...speeds, goal]
}
