// Beats as one list while they are being corrected: each with its time and whether it is "the one". The
// corrections a teacher makes by ear are small edits on this list (correct-beats.ts, tapped-beats.ts);
// `barsFromBeats` then lays bars over it again.
import { countedBeats, isCompound, MOST_COUNTS, type Meter } from './meter'
import { MOST_BAR_BEATS, type BarShape, type BeatGrid } from './beat-grid'

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

export const inTime = (beats: FlatBeat[]): FlatBeat[] => beats.sort((a, b) => a.seconds - b.seconds)

export function insertBeat(beats: readonly FlatBeat[], seconds: number): FlatBeat[] {
  return inTime([...beats, { seconds, one: false }])
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

/** What forbids bars as they were laid over beats: one that would hold more than a bar can. */
export function barsProblem(bars: readonly BarShape[], grid: BeatGrid): string | undefined {
  for (const [index, { meter, free }] of bars.entries()) {
    const beats = grid.bars[index]?.beatSeconds.length ?? 0
    const said = (held: string, most: number): string =>
      `Bar ${index + 1} would ${held}, and a bar has at most ${most}: put a one inside it first.`
    if (!free && meter.beats > MOST_COUNTS) return said(`be counted in ${meter.beats}`, MOST_COUNTS)
    if (beats > MOST_BAR_BEATS) return said(`hold ${beats} beats`, MOST_BAR_BEATS)
  }
  return undefined
}
