// Beats tapped along with a recording: they take the place of what they cover, and nothing outside it.
import { leastIndex } from 'd3-array'
import type { Holds } from './correct-beats'
import { inTime, type FlatBeat } from './flat-beats'
import { countedBeats, type Meter } from './meter'

/** Taps closer than this are one finger that bounced, seconds. */
const BOUNCE_SECONDS = 0.12

/** Taps as they were meant: the second of two that come faster than anybody counts is dropped. */
export function meantTaps(taps: readonly number[]): number[] {
  const meant: number[] = []
  for (const tap of taps) if (meant.length === 0 || tap - meant.at(-1)! >= BOUNCE_SECONDS) meant.push(tap)
  return meant
}

/** Taps alone, counted from the first. */
export function countTaps(taps: readonly number[], meter: Meter): FlatBeat[] {
  const perBar = countedBeats(meter)
  return taps.map((seconds, index) =>
    index % perBar === 0 ? { seconds, one: true, meter } : { seconds, one: false },
  )
}

/**
 * Taps replace the beats they cover (half a beat to each side). Inside, the count goes on from the bar
 * before, in the meter that was in force, and begins anew where a section begins; the beats after keep
 * their count.
 */
export function applyTaps(
  beats: readonly FlatBeat[],
  tapped: readonly number[],
  usual: Meter,
  holds: Holds,
): FlatBeat[] {
  const taps = meantTaps(tapped)
  if (taps.length < 2) return beats.slice()
  const half = (taps.at(-1)! - taps[0]!) / (taps.length - 1) / 2
  const [from, to] = [taps[0]! - half, taps.at(-1)! + half]
  const before = beats.filter((beat) => beat.seconds < from)
  const after = beats.filter((beat) => beat.seconds > to)
  const covered = beats.filter((beat) => beat.seconds >= from && beat.seconds <= to)
  const counted = countOn({ before, covered, usual, half, holds }, taps)
  return inTime([...before, ...counted, ...freeAgain({ before, covered, after }, to), ...after])
}

interface Around {
  before: readonly FlatBeat[]
  covered: readonly FlatBeat[]
  usual: Meter
  half: number
  holds: Holds
}

function countOn({ before, covered, usual, half, holds }: Around, taps: readonly number[]): FlatBeat[] {
  const known = [...before, ...covered].filter((beat) => beat.one && beat.meter && !beat.free)
  const meterNear = (seconds: number): Meter =>
    known.findLast((beat) => beat.seconds <= seconds + half)?.meter ?? usual
  const held = new Set(
    holds.flatMap((hold) => {
      const at = leastIndex(taps, (a, b) => Math.abs(a - hold) - Math.abs(b - hold))!
      return Math.abs(taps[at]! - hold) <= half ? [at] : []
    }),
  )
  const lastOne = before.findLastIndex((beat) => beat.one)
  const afterFree = lastOne === -1 || Boolean(before[lastOne]!.free)
  let since = afterFree ? Number.POSITIVE_INFINITY : before.length - lastOne
  return taps.map((seconds, index): FlatBeat => {
    const meter = meterNear(seconds)
    const one = since >= countedBeats(meter) || held.has(index)
    since = one ? 1 : since + 1
    return one ? { seconds, one: true, meter } : { seconds, one: false }
  })
}

/** Free time that was only partly tapped goes on after the taps. */
function freeAgain(
  { before, covered, after }: { before: readonly FlatBeat[]; covered: FlatBeat[]; after: FlatBeat[] },
  to: number,
): FlatBeat[] {
  const ends = [...before, ...covered].at(-1)
  const goesOn = ends?.free && (after[0]?.one ?? false) && after[0]!.seconds > to + 0.5
  return goesOn ? [{ seconds: to, one: true, free: true, ...(ends.meter ? { meter: ends.meter } : {}) }] : []
}
