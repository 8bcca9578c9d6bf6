// What sits where: the energy of each bar left, right, in the centre, and low, so that "a guitar enters on
// the left at 0:21" can be suggested. Each bin of the spectrum is put to the side on which it is clearly
// louder (after the panning index of Avendano 2003, with magnitudes only).
import { checkpoint, type JobContext } from '../job'
import { hann, padEnds, type MakeFft } from './spectrum'

const SIZE = 2048
const PLACES = ['left', 'centre', 'right', 'low'] as const
export type Place = (typeof PLACES)[number]
/** Decibels per place, ten times a second. Mono recordings have everything in the centre. */
export interface Sides {
  framesPerSecond: number
  levels: Record<Place, Float32Array>
}

const LOW_HZ = 140
const HIGH_HZ = 6000
/** How much louder one side must be (as a share of both energies) to own a bin. */
const CLEAR = 0.45

export async function measureSides(
  left: Float32Array,
  right: Float32Array,
  sampleRate: number,
  makeFft: MakeFft,
  job: JobContext,
): Promise<Sides> {
  const fft = makeFft(SIZE)
  const window = hann(SIZE)
  const hop = Math.round(sampleRate / 10)
  const count = Math.max(1, Math.floor(left.length / hop))
  const sides = [padEnds(left, SIZE), padEnds(right, SIZE)] as const
  const frame = new Float32Array(SIZE)
  const magnitudes = [new Float32Array(SIZE / 2 + 1), new Float32Array(SIZE / 2 + 1)] as const
  const levels = Object.fromEntries(PLACES.map((place) => [place, new Float32Array(count)])) as Record<
    Place,
    Float32Array
  >
  const low = Math.round((LOW_HZ * SIZE) / sampleRate)
  const high = Math.min(SIZE / 2, Math.round((HIGH_HZ * SIZE) / sampleRate))
  for (let t = 0; t < count; t++) {
    if (t % 400 === 0) await checkpoint(job, 'sides', t / count)
    for (const side of [0, 1] as const) {
      const start = t * hop + SIZE / 2
      for (let i = 0; i < SIZE; i++) frame[i] = sides[side][start + i]! * window[i]!
      fft.magnitudes(frame, magnitudes[side])
    }
    const sums = { left: 1e-9, centre: 1e-9, right: 1e-9, low: 1e-9 }
    for (let bin = 1; bin <= high; bin++) {
      const l = magnitudes[0][bin]! ** 2
      const r = magnitudes[1][bin]! ** 2
      if (bin < low) {
        sums.low += l + r
        continue
      }
      const pan = (r - l) / (l + r + 1e-12)
      const side = pan > CLEAR ? 'right' : 'centre'
      sums[pan < -CLEAR ? 'left' : side] += l + r
    }
    for (const place of PLACES) levels[place][t] = 10 * Math.log10(sums[place])
  }
  return { framesPerSecond: sampleRate / hop, levels }
}

export interface BarActivity {
  left: boolean
  centre: boolean
  right: boolean
  low: boolean
}
/** Below a place's own loud level (its 90th percentile) by this much, nobody plays there. */
const QUIET_DB = 16

/** Who plays in each bar: a place is active when its mean level comes near what it is when it is loud. */
export function barActivity(sides: Sides, barStarts: readonly number[], endSeconds: number): BarActivity[] {
  const loud = Object.fromEntries(
    PLACES.map((place) => [
      place,
      [...sides.levels[place]].sort((a, b) => a - b)[Math.floor(sides.levels[place].length * 0.9)] ?? -90,
    ]),
  ) as Record<Place, number>
  const loudest = Math.max(...Object.values(loud))
  return barStarts.map((start, index) => {
    const from = Math.floor(start * sides.framesPerSecond)
    const to = Math.max(from + 1, Math.floor((barStarts[index + 1] ?? endSeconds) * sides.framesPerSecond))
    const level = (place: Place): number => {
      let sum = 0
      for (let t = from; t < to; t++) sum += 10 ** ((sides.levels[place][t] ?? -90) / 10)
      return 10 * Math.log10(sum / (to - from))
    }
    const active = (place: Place): boolean =>
      loud[place] > loudest - 40 && level(place) > loud[place] - QUIET_DB
    return { left: active('left'), centre: active('centre'), right: active('right'), low: active('low') }
  })
}

/** First and last bars of each stretch in which a side is active, stretches of at least two bars. */
export function entrances(
  activity: readonly BarActivity[],
  place: Place,
): { firstBar: number; lastBar: number }[] {
  const stretches: { firstBar: number; lastBar: number }[] = []
  activity.forEach((bar, index) => {
    if (!bar[place]) return
    const last = stretches.at(-1)
    // One quiet bar does not end a stretch: a stop, a breath.
    if (last && index - last.lastBar <= 2) last.lastBar = index
    else stretches.push({ firstBar: index, lastBar: index })
  })
  return stretches.filter((stretch) => stretch.lastBar > stretch.firstBar)
}
