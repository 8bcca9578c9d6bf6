// Beats as one list while they are being corrected: each with its time and whether it is "the one". The
// corrections a teacher makes by ear (insert, remove, halve, double, tap, shift the one) are small edits on
// this list; `barsFromBeats` then lays bars over it again.
import { countedBeats, isCompound, type Meter } from './meter'
import type { BarShape, BeatGrid } from './beat-grid'

export interface FlatBeat {
  seconds: number
  one: boolean
  free?: boolean
  meter?: Meter
}

/** The grid as a list; a bar's meter is kept on its first beat. */
export function beatsFromGrid(bars: readonly BarShape[], grid: BeatGrid): FlatBeat[] {
  return grid.bars.flatMap((bar, barIndex) =>
    bar.beatSeconds.map((seconds, index): FlatBeat => {
      const shape = bars[barIndex]!
      return index === 0
        ? { seconds, one: true, ...(shape.free ? { free: true } : {}), meter: shape.meter }
        : { seconds, one: false }
    }),
  )
}

/**
 * Lays bars over beats: a bar lasts from one "one" to the next; its meter keeps the kind it had and takes
 * the number of beats found.
 */
export function barsFromBeats(
  beats: readonly FlatBeat[],
  endSeconds: number,
  usual: Meter,
): { bars: BarShape[]; grid: BeatGrid } {
  const bars: BarShape[] = []
  const grid: BeatGrid = { bars: [], endSeconds }
  let kind = usual
  const close = (): void => {
    const last = grid.bars.at(-1)
    if (!last || bars.at(-1)!.free) return
    const meter = bars.at(-1)!.meter
    const found = last.beatSeconds.length
    if (countedBeats(meter) !== found)
      bars[bars.length - 1] = { meter: { beats: isCompound(meter) ? found * 3 : found, unit: meter.unit } }
  }
  for (const beat of beats) {
    if (beat.one || bars.length === 0) {
      close()
      if (!beat.free) kind = beat.meter && countedBeats(beat.meter) >= 2 ? beat.meter : kind
      bars.push(beat.free ? { meter: beat.meter ?? usual, free: true } : { meter: kind })
      grid.bars.push({ beatSeconds: [beat.seconds] })
    } else grid.bars.at(-1)!.beatSeconds.push(beat.seconds)
  }
  close()
  return { bars, grid }
}

const sorted = (beats: FlatBeat[]): FlatBeat[] => beats.sort((a, b) => a.seconds - b.seconds)
const without = (beat: FlatBeat): FlatBeat => ({ ...beat, one: false })

export function insertBeat(beats: readonly FlatBeat[], seconds: number): FlatBeat[] {
  return sorted([...beats, { seconds, one: false }])
}

/** Removes a beat; if it was the one, the next beat takes over. */
export function removeBeat(beats: readonly FlatBeat[], index: number): FlatBeat[] {
  const removed = beats[index]!
  return beats
    .filter((_, at) => at !== index)
    .map((beat, at) =>
      removed.one && at === index && !beat.one ? { ...removed, seconds: beat.seconds } : beat,
    )
}

/**
 * Recounts ones with `perBar` beats from a beat on (and, when `backward`, before it too), stopping at free
 * bars.
 */
export function recount(
  beats: readonly FlatBeat[],
  index: number,
  meter: Meter,
  backward: boolean,
): FlatBeat[] {
  const perBar = countedBeats(meter)
  const next = beats.slice()
  const limit = (from: number, step: 1 | -1): number => {
    let at = from
    while (next[at] && !next[at]!.free) at += step
    return at
  }
  const end = limit(index, 1)
  const start = backward ? limit(index, -1) + 1 : index
  for (let at = start; at < end; at++)
    next[at] =
      (at - index) % perBar === 0 || at === start
        ? { seconds: next[at]!.seconds, one: true, meter }
        : { seconds: next[at]!.seconds, one: false }
  return next
}

/** Counts the beats of [from, to) in a meter, starting with a one; the beats after it keep theirs. */
export function countIn(beats: readonly FlatBeat[], from: number, to: number, meter: Meter): FlatBeat[] {
  const start = beats.findIndex((beat) => beat.seconds >= from - 1e-6)
  const perBar = countedBeats(meter)
  return beats.map((beat, index) => {
    if (beat.free || index < start || beat.seconds >= to - 1e-6) return beat
    return (index - start) % perBar === 0
      ? { seconds: beat.seconds, one: true, meter }
      : { seconds: beat.seconds, one: false }
  })
}

/** Keeps every second beat, starting from the ones. */
export function halvePulse(beats: readonly FlatBeat[], meter: Meter): FlatBeat[] {
  const first = Math.max(
    0,
    beats.findIndex((beat) => beat.one && !beat.free),
  )
  const kept = beats.filter((beat, index) => beat.free || (index - first) % 2 === 0)
  return recount(
    kept,
    Math.max(
      0,
      kept.findIndex((beat) => !beat.free),
    ),
    meter,
    false,
  )
}

/** Puts a beat between every two, and after the last. */
export function doublePulse(beats: readonly FlatBeat[], endSeconds: number, meter: Meter): FlatBeat[] {
  const all = beats.flatMap((beat, index): FlatBeat[] => {
    if (beat.free) return [beat]
    const next = beats[index + 1]?.seconds ?? endSeconds
    return [without(beat), { seconds: (beat.seconds + next) / 2, one: false }]
  })
  return recount(
    all,
    Math.max(
      0,
      all.findIndex((beat) => !beat.free),
    ),
    meter,
    false,
  )
}

/** Taps replace the beats they cover (half a beat to each side) and the count goes on through them. */
export function applyTaps(beats: readonly FlatBeat[], taps: readonly number[], meter: Meter): FlatBeat[] {
  if (taps.length < 2) return beats.slice()
  const half = (taps.at(-1)! - taps[0]!) / (taps.length - 1) / 2
  const from = taps[0]! - half
  const to = taps.at(-1)! + half
  const kept = beats.filter((beat) => beat.seconds < from || beat.seconds > to)
  const merged = sorted([
    ...kept.map((beat) => ({ ...beat })),
    ...taps.map((seconds) => ({ seconds, one: false })),
  ])
  const start = merged.findIndex((beat) => beat.seconds >= from)
  const before = merged
    .slice(0, start)
    .reverse()
    .findIndex((beat) => beat.one && !beat.free)
  return recount(merged, before === -1 ? start : start - 1 - before, meter, false)
}

/** Everything in [from, to) becomes one free bar; counting starts again at the first beat after it. */
export function markFree(beats: readonly FlatBeat[], from: number, to: number, meter: Meter): FlatBeat[] {
  const kept = beats.filter((beat) => beat.seconds < from || beat.seconds >= to)
  const after = kept.findIndex((beat) => beat.seconds >= to)
  const next = kept.map((beat, index) =>
    index === after && !beat.free ? { ...beat, one: true, meter: beat.meter ?? meter } : beat,
  )
  return sorted([...next, { seconds: from, one: true, free: true, meter }])
}

/**
 * What forbids these beats as a grid, undefined when they are sound: increasing, 40 ms apart at least,
 * inside the recording.
 */
export function beatsProblem(beats: readonly FlatBeat[], endSeconds: number): string | undefined {
  if (beats.length === 0) return 'At least one beat must remain.'
  const close = beats.findIndex((beat, index) => index > 0 && beat.seconds - beats[index - 1]!.seconds < 0.04)
  if (close > 0) return 'Two beats would lie closer than 40 ms: move or remove one of them.'
  return beats[0]!.seconds < 0 || beats.at(-1)!.seconds >= endSeconds
    ? 'A beat would lie outside the recording.'
    : undefined
}
