// Tuning against A4 = 440 Hz: where the peaks of the spectrum lie between the semitones, over the whole
// recording and over time.
import { checkpoint, type JobContext } from '../job'
import type { MakeFft } from './spectrum'

export interface Tuning {
  /**
   * Deviation from equal temperament modulo a semitone, −50..50; undefined when nothing with a pitch was
   * heard.
   */
  cents: number | undefined
  /** 0–1: how sharply the peaks agree. */
  confidence: number
  /** Strength per cent from −50 to 49. */
  histogram: number[]
  /**
   * True when steady pitches of more than one name are heard: without them there are no chords to speak of.
   */
  pitched: boolean
  /** The same measured in stretches: a tape that slows shows as a slope. */
  overTime: { seconds: number; cents: number }[]
}

const SIZE = 8192
const PER_STRETCH_SECONDS = 15
const LOWEST_HZ = 80
const HIGHEST_HZ = 2000

/** What the peaks of the spectrum say, summed: a weight per cent off, per name, and per cent in stretches. */
interface Peaks {
  whole: Float64Array
  names: Float64Array
  local: Float64Array
}

/** Adds the steady peaks of one spectrum. */
function addPeaks(magnitudes: Float32Array, sampleRate: number, { whole, names, local }: Peaks): void {
  const low = Math.ceil((LOWEST_HZ * SIZE) / sampleRate)
  const high = Math.floor((HIGHEST_HZ * SIZE) / sampleRate)
  let top = 0
  for (let bin = low; bin <= high; bin++) top = Math.max(top, magnitudes[bin]!)
  if (top < 1e-3) return
  for (let bin = low + 1; bin < high; bin++) {
    const b = magnitudes[bin]!
    if (b < 0.02 * top) continue
    const [a, c] = [magnitudes[bin - 1]!, magnitudes[bin + 1]!]
    if (b < a || b <= c) continue
    // A steady partial is a peak well above what lies six bins away; noise is not.
    if (b < 2.5 * Math.max(magnitudes[bin - 5]!, magnitudes[bin + 5]!)) continue
    const [la, lb, lc] = [Math.log(a + 1e-12), Math.log(b), Math.log(c + 1e-12)]
    const offset = (0.5 * (la - lc)) / (la - 2 * lb + lc)
    const cents = 100 * (12 * Math.log2(((bin + offset) * sampleRate) / SIZE / 440))
    const place = ((Math.round(cents) % 100) + 150) % 100
    const weight = Math.sqrt(b / top)
    whole[place]! += weight
    names[((Math.round(cents / 100) % 12) + 12) % 12]! += weight
    local[place]! += weight
  }
}

export async function measureTuning(
  mono: Float32Array,
  sampleRate: number,
  makeFft: MakeFft,
  job: JobContext,
): Promise<Tuning> {
  const fft = makeFft(SIZE)
  const magnitudes = new Float32Array(Math.ceil((HIGHEST_HZ * SIZE) / sampleRate) + 8)
  const hop = Math.max(SIZE / 2, Math.floor(mono.length / 1500))
  const count = Math.max(0, Math.floor((mono.length - SIZE) / hop) + 1)
  const whole = new Float64Array(100)
  const names = new Float64Array(12)
  const stretches = new Map<number, Float64Array>()
  for (let t = 0; t < count; t++) {
    if (t % 150 === 0) await checkpoint(job, 'tuning', t / count)
    fft.hannMagnitudes(mono, t * hop, magnitudes)
    const stretch = Math.floor((t * hop) / sampleRate / PER_STRETCH_SECONDS)
    const local = stretches.get(stretch) ?? new Float64Array(100)
    stretches.set(stretch, local)
    addPeaks(magnitudes, sampleRate, { whole, names, local })
  }
  const peak = centreOf(whole)
  const total = names.reduce((sum, value) => sum + value, 0)
  return {
    cents: peak?.cents,
    confidence: peak?.confidence ?? 0,
    histogram: [...whole],
    pitched:
      (peak?.confidence ?? 0) > LEAST_CONFIDENCE &&
      total / (mono.length / sampleRate) > LEAST_PEAKS &&
      Math.max(...names) < ONE_NAME * total,
    overTime: [...stretches].flatMap(([stretch, values]) => {
      const found = centreOf(values)
      return found && found.confidence > 0.15
        ? [{ seconds: (stretch + 0.5) * PER_STRETCH_SECONDS, cents: nearer(found.cents, peak!.cents) }]
        : []
    }),
  }
}
/**
 * Below this agreement the peaks are noise or speech; fewer peaks a second than this are no music; this
 * share of one name is a hum.
 */
const LEAST_CONFIDENCE = 0.12
const LEAST_PEAKS = 1
const ONE_NAME = 0.85

/** The same pitch deviation expressed nearest to another: 49 and −50 are neighbours. */
const nearer = (cents: number, to: number): number => cents + 100 * Math.round((to - cents) / 100)

/**
 * Centre of the histogram's hill: the smoothed maximum, then the mean within ±12 cents of it, on a circle.
 * Index 50 is 0 cents.
 */
function centreOf(histogram: Float64Array): { cents: number; confidence: number } | undefined {
  const total = histogram.reduce((sum, value) => sum + value, 0)
  if (total < 20) return undefined
  const at = (index: number): number => histogram[((index % 100) + 100) % 100]!
  let best = 0
  let strongest = -1
  for (let place = 0; place < 100; place++) {
    let sum = 0
    for (let k = -14; k <= 14; k++) sum += at(place + k) * Math.exp(-0.5 * (k / 6) ** 2)
    if (sum > strongest) {
      strongest = sum
      best = place
    }
  }
  // Mean shift: the centre of the hill is where its weighted mean stays put.
  let centre = best
  for (let round = 0; round < 8; round++) {
    let moment = 0
    let mass = 1e-9
    for (let k = -18; k <= 18; k++) {
      const place = Math.round(centre) + k
      const weight = at(place) * Math.exp(-0.5 * ((place - centre) / 7) ** 2)
      moment += weight * (place - centre)
      mass += weight
    }
    centre += moment / mass
  }
  let inside = 0
  for (let k = -15; k <= 15; k++) inside += at(Math.round(centre) + k)
  const cents = ((((centre - 50 + 50) % 100) + 100) % 100) - 50
  // An even spread would have 31 % inside.
  return {
    cents: Math.round(cents * 10) / 10,
    confidence: Math.max(0, Math.min(1, (inside / total - 0.31) / 0.45)),
  }
}
