// Other ways to count the same music: at half or double the pulse, off the beat, three against two. Each is a
// list of beats to be heard as clicks before one is chosen.
import { countedBeats, type Meter } from './meter'

export const READINGS = [
  'half',
  'half, the other beat',
  'double',
  'off-beat',
  'three for two',
  'two for three',
  'in six eighths',
  'three eighths a beat',
] as const
export type Reading = (typeof READINGS)[number]

/** The moment a share of the way from one beat to the next. */
function between(beats: readonly number[], at: number): number {
  const index = Math.max(0, Math.min(beats.length - 2, Math.floor(at)))
  const [from, to] = [beats[index] ?? 0, beats[index + 1] ?? 0]
  return from + (to - from) * (at - index)
}
/** Beats at every so many of the present ones, from an offset on. */
function every(beats: readonly number[], stride: number, offset: number): number[] {
  const found: number[] = []
  for (let at = offset; at <= beats.length - 1 + 1e-6; at += stride) found.push(between(beats, at))
  return found
}

const STRIDES: Record<Reading, { stride: number; offset: number }> = {
  half: { stride: 2, offset: 0 },
  'half, the other beat': { stride: 2, offset: 1 },
  double: { stride: 0.5, offset: 0 },
  'off-beat': { stride: 1, offset: 0.5 },
  'three for two': { stride: 2 / 3, offset: 0 },
  'two for three': { stride: 3 / 2, offset: 0 },
  // The same beats as dotted quarters; three of them to each, where it was the eighths that were counted.
  'in six eighths': { stride: 1, offset: 0 },
  'three eighths a beat': { stride: 3, offset: 0 },
}

const SIX_EIGHTHS: Meter = { beats: 6, unit: 8 }
/** The meter in which another reading is counted, where it brings its own. */
export const readingMeter = (reading: Reading, usual: Meter): Meter =>
  reading === 'in six eighths' || reading === 'three eighths a beat' ? SIX_EIGHTHS : usual

/**
 * The beats of another reading, and which of them are ones when counted in a meter. `beats` are the present
 * ones in seconds, `one` the index of one that is the first of a bar.
 */
export function readCount(
  beats: readonly number[],
  one: number,
  reading: Reading,
  meter: Meter,
): { beats: number[]; ones: number[] } {
  const { stride, offset } = STRIDES[reading]
  const lead = one % Math.max(1, stride)
  const found = every(beats, stride, stride > 1 ? (lead + offset) % stride : offset)
  const perBar = countedBeats(readingMeter(reading, meter))
  const anchor = beats[one] ?? 0
  const first = found.findIndex((seconds) => seconds >= anchor - 0.01)
  const ones = found.filter((_, index) => (((index - first) % perBar) + perBar) % perBar === 0)
  return { beats: found, ones }
}

/** Beats a minute of a list of beats: from the middle one of the gaps. */
export function tempoOf(beats: readonly number[]): number | undefined {
  const gaps = beats
    .slice(1)
    .map((beat, index) => beat - (beats[index] ?? 0))
    .sort((a, b) => a - b)
  const middle = gaps[gaps.length >> 1]
  return middle ? 60 / middle : undefined
}
