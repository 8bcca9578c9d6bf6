// Musical position ↔ seconds of one recording. The grid lists the seconds of every counted beat, bar by
// bar; between two beats time runs evenly, so the map is monotone, piecewise linear and exact at the beats,
// both ways. A free bar has only its start: it is mapped in proportion.
import { barTicks, beatTicks, type Meter } from './meter'

/** Beats a bar of a grid may list. */
export const MOST_BAR_BEATS = 64

export interface GridBar {
  beatSeconds: number[]
}
export interface BeatGrid {
  bars: GridBar[]
  endSeconds: number
}
export interface BarShape {
  meter: Meter
  free?: boolean | undefined
}

export interface TimeMap {
  /** Ticks from the start of the first bar, strictly increasing, one for each beat and one for the end. */
  ticks: number[]
  seconds: number[]
  barStartTicks: number[]
  endTicks: number
}

/**
 * Beats a grid must list for a bar: one for a free bar, else the counted beats. A bar cut short counts what
 * remains of it.
 */
export const gridBeats = (bar: BarShape): number =>
  bar.free ? 1 : Math.max(1, Math.round(barTicks(bar.meter) / beatTicks(bar.meter)))

/** Joins a grid with the bars of the form. Bars beyond the grid are left out. */
export function timeMap(bars: readonly BarShape[], grid: BeatGrid): TimeMap {
  const ticks: number[] = []
  const seconds: number[] = []
  const barStartTicks: number[] = []
  let at = 0
  bars.forEach((bar, barIndex) => {
    const times = grid.bars[barIndex]?.beatSeconds
    barStartTicks.push(at)
    if (times) {
      const step = barTicks(bar.meter) / times.length
      times.forEach((time, index) => {
        ticks.push(at + index * step)
        seconds.push(time)
      })
    }
    at += barTicks(bar.meter)
  })
  ticks.push(at)
  seconds.push(grid.endSeconds)
  return { ticks, seconds, barStartTicks, endTicks: at }
}

/**
 * Piecewise linear, exact at the knots, continued with the end slopes. Needs strictly increasing xs, at
 * least two.
 */
function interpolate(xs: readonly number[], ys: readonly number[], x: number): number {
  let low = 0
  let high = xs.length - 2
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (xs[middle]! <= x) low = middle
    else high = middle - 1
  }
  const x0 = xs[low]!
  const y0 = ys[low]!
  return x === x0 ? y0 : y0 + ((x - x0) / (xs[low + 1]! - x0)) * (ys[low + 1]! - y0)
}

/** Seconds of a tick counted from the first bar. O(log n). */
export const ticksToSeconds = (map: TimeMap, tick: number): number =>
  interpolate(map.ticks, map.seconds, tick)
/** Tick (fractional) at a time in the recording. O(log n). */
export const secondsToTicks = (map: TimeMap, seconds: number): number =>
  interpolate(map.seconds, map.ticks, seconds)

/** Index of the bar a tick lies in, clamped to the form. */
export function barAtTick(map: TimeMap, tick: number): number {
  const starts = map.barStartTicks
  let low = 0
  let high = starts.length - 1
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (starts[middle]! <= tick + 1e-6) low = middle
    else high = middle - 1
  }
  return low
}

/**
 * Median tempo of a grid in counted beats per minute over its pulsed bars; undefined when there is no
 * pulse.
 */
export function medianTempo(bars: readonly BarShape[], grid: BeatGrid): number | undefined {
  const times = grid.bars.flatMap((bar, index) => (bars[index]?.free ? [] : bar.beatSeconds))
  const gaps = times
    .slice(1)
    .map((time, index) => time - times[index]!)
    .filter((gap) => gap < 2.5)
    .sort((a, b) => a - b)
  return gaps.length ? 60 / gaps[gaps.length >> 1]! : undefined
}

/** A beat of a click lies this near to where the click puts it, seconds: what rounding leaves. */
const CLICK_SECONDS = 0.012

/**
 * Whether the pulsed bars of a grid lie on one even pulse from end to end, holes left out: a song that was
 * played to a click.
 */
export function isSteady(bars: readonly BarShape[], grid: BeatGrid): boolean {
  const times = grid.bars.flatMap((bar, index) => (bars[index]?.free ? [] : bar.beatSeconds))
  const [first, last] = [times[0], times.at(-1)]
  const tempo = medianTempo(bars, grid)
  if (first === undefined || last === undefined || tempo === undefined) return false
  // Gaps of one beat, holes left out: their mean is finer than times rounded to a hundredth.
  const single = times.slice(1).flatMap((time, index) => {
    const gap = time - (times[index] ?? time)
    return Math.abs((gap * tempo) / 60 - 1) < 0.3 ? [gap] : []
  })
  const usual = single.reduce((sum, gap) => sum + gap, 0) / Math.max(1, single.length)
  const period = (last - first) / Math.max(1, Math.round((last - first) / usual))
  return times.every((time) => {
    const ticks = (time - first) / period
    return Math.abs(ticks - Math.round(ticks)) * period < CLICK_SECONDS
  })
}

/** "1:07.4" with the given decimals; minutes and seconds. */
export function clock(seconds: number, decimals = 0): string {
  const scale = 10 ** decimals
  const rounded = Math.round(Math.max(0, seconds) * scale)
  const whole = Math.floor(rounded / scale)
  const rest = decimals ? `.${String(rounded % scale).padStart(decimals, '0')}` : ''
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}${rest}`
}
