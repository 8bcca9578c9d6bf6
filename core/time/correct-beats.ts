// Corrections of the count over a stretch: each changes the beats of its own stretch and joins what is around
// it. The moments at which sections begin are held: a bar begins there before and after.
import { countedBeats, type Meter } from './meter'
import { inTime, type FlatBeat } from './flat-beats'

/** Moments at which a bar begins whatever else is corrected, seconds. */
export type Holds = readonly number[]

/** A bar on the list: the index of its first beat and of the first after it. */
interface Bar {
  from: number
  to: number
  meter: Meter | undefined
  free: boolean
}

function barsOn(beats: readonly FlatBeat[]): Bar[] {
  const bars: Bar[] = []
  let meter: Meter | undefined
  beats.forEach((beat, index) => {
    if (beat.one || bars.length === 0) {
      meter = beat.meter ?? meter
      bars.push({ from: index, to: index + 1, meter, free: Boolean(beat.free) })
    } else bars.at(-1)!.to = index + 1
  })
  return bars
}
const sizeOf = (bar: Bar): number => bar.to - bar.from
const counts = (bar: Bar, beats: number): boolean => !bar.free && sizeOf(bar) === beats

/** The index of the beat nearest to a moment; -1 when there is none. */
export function nearestBeat(beats: readonly FlatBeat[], seconds: number): number {
  let best = beats.length ? 0 : -1
  beats.forEach((beat, index) => {
    if (Math.abs(beat.seconds - seconds) < Math.abs(beats[best]!.seconds - seconds)) best = index
  })
  return best
}

const asOne = (beat: FlatBeat, meter: Meter | undefined): FlatBeat => ({
  seconds: beat.seconds,
  one: true,
  ...(meter ? { meter } : {}),
})
const between = (beat: FlatBeat): FlatBeat => ({ seconds: beat.seconds, one: false })

/** The beats of [from, to) in bars of a meter, a one on `one` and wherever the stretch begins. */
function countStretch(
  beats: readonly FlatBeat[],
  stretch: { from: number; to: number; one: number },
  meter: Meter,
): FlatBeat[] {
  const perBar = countedBeats(meter)
  return beats.map((beat, index) => {
    if (index < stretch.from || index >= stretch.to || beat.free) return beat
    const counted = (index - stretch.one) % perBar === 0
    return counted || index === stretch.from ? asOne(beat, meter) : between(beat)
  })
}

/**
 * The first and the last bar around one that are counted alike, with cut bars where the pulse begins
 * or ends.
 */
function runAround(bars: readonly Bar[], at: number): { first: number; last: number } {
  const size = sizeOf(bars[at]!)
  let [first, last] = [at, at]
  while (first > 0 && counts(bars[first - 1]!, size)) first--
  while (last + 1 < bars.length && counts(bars[last + 1]!, size)) last++
  const cut = (bar: Bar | undefined): boolean => bar !== undefined && !bar.free && sizeOf(bar) < size
  const open = (bar: Bar | undefined): boolean => bar === undefined || bar.free
  if (cut(bars[first - 1]) && open(bars[first - 2])) first--
  if (cut(bars[last + 1]) && open(bars[last + 2])) last++
  return { first, last }
}

/** Whether the pulse begins with a bar that is cut short: its first beat need not be a one. */
function beginsCut(bars: readonly Bar[], at: number): boolean {
  const [own, next, before] = [bars[at], bars[at + 1], bars[at - 1]]
  return Boolean(
    own && next && !own.free && !next.free && (!before || before.free) && sizeOf(own) < sizeOf(next),
  )
}

/** Whether a beat is the one of a bar, and not only the first of a pulse that begins in the middle of one. */
export function isOne(beats: readonly FlatBeat[], index: number): boolean {
  const bars = barsOn(beats)
  const at = bars.findIndex((bar) => bar.from === index)
  return Boolean(beats[index]?.one) && !beginsCut(bars, at)
}

/**
 * The beat at `index` is the one. The count shifts through all bars around it that are counted alike, or only
 * from it on; bars of another meter and free time stay as they are.
 */
export function shiftOnes(beats: readonly FlatBeat[], index: number, onlyFromHere: boolean): FlatBeat[] {
  const bars = barsOn(beats)
  const here = bars.findIndex((bar) => index >= bar.from && index < bar.to)
  // A pulse that begins in the middle of a bar is counted as what follows.
  const at = beginsCut(bars, here) ? here + 1 : here
  const own = bars[at]
  if (!own || own.free) return beats.slice()
  const { first, last } = runAround(bars, at)
  const size = sizeOf(own)
  // The meter of the bars around: a bar cut short says less about how it is counted.
  const meter = own.meter && countedBeats(own.meter) === size ? own.meter : { beats: size, unit: 4 as const }
  const from = onlyFromHere ? index : bars[first]!.from
  return countStretch(beats, { from, to: bars[last]!.to, one: index }, meter)
}

/** Counts the beats of [from, to) in a meter, starting with a one; the beats after it keep theirs. */
export function countIn(beats: readonly FlatBeat[], from: number, to: number, meter: Meter): FlatBeat[] {
  const start = beats.findIndex((beat) => beat.seconds >= from - 1e-6)
  if (start === -1) return beats.slice()
  const after = beats.findIndex((beat) => beat.seconds >= to - 1e-6)
  const counted = countStretch(
    beats,
    { from: start, to: after === -1 ? beats.length : after, one: start },
    meter,
  )
  // What comes after begins with a bar of its own, as it was counted.
  return counted.map((beat, index) =>
    index === after && !beat.one ? asOne(beat, meterAt(beats, index)) : beat,
  )
}

/** The meter in force at a beat. */
function meterAt(beats: readonly FlatBeat[], index: number): Meter | undefined {
  return beats.slice(0, index + 1).findLast((beat) => beat.one && beat.meter)?.meter
}

/** Bars that are halved or doubled together: counted alike, between two held moments. */
function stretches(beats: readonly FlatBeat[], holds: Holds): Bar[][] {
  const held = new Set(holds.map((seconds) => nearestBeat(beats, seconds)))
  const runs: Bar[][] = []
  for (const bar of barsOn(beats)) {
    const run = runs.at(-1)
    const before = run?.at(-1)
    const goesOn = run && before && !bar.free && !before.free && !held.has(bar.from)
    // One bar of another length is a bar cut short or long: it goes along.
    if (goesOn && (sizeOf(bar) === sizeOf(run[0]!) || sizeOf(before) === sizeOf(run[0]!))) run.push(bar)
    else runs.push([bar])
  }
  return runs
}

/** Keeps every second beat, from the beginning of each section and each change of meter. */
export function halvePulse(beats: readonly FlatBeat[], holds: Holds): FlatBeat[] {
  return stretches(beats, holds).flatMap((run): FlatBeat[] => {
    const own = beats.slice(run[0]!.from, run.at(-1)!.to)
    if (run[0]!.free) return own
    const kept = own.filter((_, index) => index % 2 === 0)
    const size = sizeOf(run[0]!)
    return kept.map((beat, index) => (index % size === 0 ? asOne(beat, run[0]!.meter) : between(beat)))
  })
}

/** Puts a beat between every two, and after the last; each bar becomes two. */
export function doublePulse(beats: readonly FlatBeat[], endSeconds: number): FlatBeat[] {
  return barsOn(beats).flatMap((bar): FlatBeat[] => {
    if (bar.free) return beats.slice(bar.from, bar.to)
    const size = sizeOf(bar)
    const doubled = beats.slice(bar.from, bar.to).flatMap((beat, index): FlatBeat[] => {
      const next = beats[bar.from + index + 1]?.seconds ?? endSeconds
      return [between(beat), { seconds: (beat.seconds + next) / 2, one: false }]
    })
    const perBar = Math.max(2, size)
    return doubled.map((beat, index) => (index % perBar === 0 ? asOne(beat, bar.meter) : beat))
  })
}

/** Everything in [from, to) becomes free time; counting starts again at the first beat after it. */
export function markFree(
  beats: readonly FlatBeat[],
  span: { from: number; to: number },
  meter: Meter,
  holds: Holds,
): FlatBeat[] {
  const { from, to } = span
  const kept = beats.filter((beat) => beat.seconds < from || beat.seconds >= to)
  const after = kept.findIndex((beat) => beat.seconds >= to)
  const next = kept.map((beat, index) =>
    index === after && !beat.free ? { ...beat, one: true, meter: beat.meter ?? meter } : beat,
  )
  // A section that begins inside begins with free time of its own.
  const starts = [from, ...holds.filter((hold) => hold > from + 0.04 && hold < to - 0.04)]
  return inTime([...next, ...starts.map((seconds) => ({ seconds, one: true, free: true, meter }))])
}

/** The beats nearest to the held moments begin bars: for beats that were found anew. */
export function holdOnes(beats: readonly FlatBeat[], holds: Holds, meter: Meter): FlatBeat[] {
  const held = new Set(holds.map((seconds) => nearestBeat(beats, seconds)))
  return beats.map((beat, index) =>
    held.has(index) && !beat.one && !beat.free ? asOne(beat, meterAt(beats, index) ?? meter) : beat,
  )
}
