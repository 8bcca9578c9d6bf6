// Onset strength: how much the spectrum grows from frame to frame, in three bands, on a logarithmic scale.
// After the spectral flux of Bello et al. (2005) with the maximum filter over frequency of Böck and Widmer
// (2013) against vibrato.
import { checkpoint, type JobContext } from '../job'
import type { MakeFft } from './spectrum'

const FRAMES_PER_SECOND = 100

export interface OnsetStrength {
  framesPerSecond: number
  /** Whole, below 200 Hz (kick, bass), above 1500 Hz (snare, cymbals); each scaled by its own local level. */
  all: Float32Array
  low: Float32Array
  mid: Float32Array
  high: Float32Array
  /** How much the harmony changes at each frame: distance between chroma before and after. */
  change: Float32Array
  loudness: Float32Array
  /** Mean growth a frame before levelling: a steady tone or hum has none to speak of. */
  raw: number
  /** Level in BANDS bands, logarithmic, averaged to `bandsPerSecond`: the colour of the sound. */
  bands: Float32Array[]
  bandsPerSecond: number
}

const SIZE = 1024
const BANDS = 40
/** Frames averaged for the colour. */
const SLOW = 10

/** Edges of bands even on the mel scale from 30 Hz to 10 kHz, in bins. */
function bandEdges(sampleRate: number): number[] {
  const mel = (hz: number): number => 1127 * Math.log(1 + hz / 700)
  const hz = (value: number): number => 700 * (Math.exp(value / 1127) - 1)
  const top = Math.min(10_000, sampleRate / 2.2)
  const edges = Array.from(
    { length: BANDS + 1 },
    (_, band) => (hz(mel(30) + ((mel(top) - mel(30)) * band) / BANDS) * SIZE) / sampleRate,
  )
  return edges.map((edge, index) => Math.max(Math.round(edge), index + 1))
}

/** The pitch class of each bin between 180 Hz and 2 kHz. */
function pitchBins(sampleRate: number): { first: number; classes: Int32Array } {
  const first = Math.ceil((180 * SIZE) / sampleRate)
  const count = Math.floor((2000 * SIZE) / sampleRate) - first + 1
  const classes = Int32Array.from({ length: count }, (_, index) => {
    const semitones = Math.round(12 * Math.log2(((first + index) * sampleRate) / SIZE / 440))
    return ((semitones % 12) + 12) % 12
  })
  return { first, classes }
}

/**
 * `levels` = the logarithmic level of each band in one frame, an empty one before the first and after the
 * last; its energy is given back.
 */
function bandLevels(magnitudes: Float32Array, edges: readonly number[], levels: Float32Array): number {
  let energy = 0
  for (let band = 0; band < BANDS; band++) {
    let sum = 0
    const end = Math.max(edges[band]! + 1, edges[band + 1]!)
    for (let bin = edges[band]!; bin < end; bin++) sum += magnitudes[bin]!
    levels[band + 1] = Math.log1p(10 * sum)
    energy += sum * sum
  }
  return energy
}

/** How much a band rises over itself and its neighbours in the frame before. */
const riseOf = (now: Float32Array, before: Float32Array, band: number): number =>
  Math.max(0, now[band + 1]! - Math.max(before[band]!, before[band + 1]!, before[band + 2]!))

/** Where the bands of a spectrum lie, and which of them are low and high. */
interface Bands {
  edges: number[]
  low: number
  high: number
}
function bandsOf(sampleRate: number): Bands {
  const edges = bandEdges(sampleRate)
  const bandOf = (hertz: number): number => edges.findIndex((edge) => (edge * sampleRate) / SIZE > hertz)
  return { edges, low: bandOf(200), high: bandOf(1500) }
}

type Curves = Pick<OnsetStrength, 'all' | 'low' | 'mid' | 'high' | 'loudness'>

/**
 * Takes the magnitudes of frame after frame: how much each rises over the one before, into the curves, and
 * its colour into `bands`.
 */
function growthOf(curves: Curves, bands: Float32Array[], sampleRate: number) {
  const { edges, low, high } = bandsOf(sampleRate)
  let [levels, before] = [new Float32Array(BANDS + 2), new Float32Array(BANDS + 2)]
  return (t: number, magnitudes: Float32Array): void => {
    curves.loudness[t] = bandLevels(magnitudes, edges, levels)
    const colour = (bands[Math.floor(t / SLOW)] ??= new Float32Array(BANDS))
    const rises = { low: 0, mid: 0, high: 0 }
    for (let band = 0; band < BANDS; band++) {
      const rise = riseOf(levels, before, band)
      if (band < low) rises.low += rise
      else if (band >= high) rises.high += rise
      else rises.mid += rise
      colour[band]! += levels[band + 1]! / SLOW
    }
    curves.all[t] = rises.low + rises.mid + rises.high
    curves.low[t] = rises.low
    curves.mid[t] = rises.mid
    curves.high[t] = rises.high
    ;[levels, before] = [before, levels]
  }
}

/** Adds each frame's pitch classes to those of all before: `sums` has twelve more entries than frames. */
function chromaSummed(sums: Float64Array, sampleRate: number) {
  const { first, classes } = pitchBins(sampleRate)
  return (t: number, magnitudes: Float32Array): void => {
    const [before, now] = [12 * t, 12 * (t + 1)]
    for (let k = 0; k < 12; k++) sums[now + k] = sums[before + k]!
    for (let index = 0; index < classes.length; index++)
      sums[now + classes[index]!]! += magnitudes[first + index]!
  }
}

/**
 * Strength of attacks a frame, whole and by low, middle and high bands, with change of harmony and
 * loudness.
 */
export async function onsetStrength(
  mono: Float32Array,
  sampleRate: number,
  makeFft: MakeFft,
  job: JobContext,
): Promise<OnsetStrength> {
  const fft = makeFft(SIZE)
  const frames = Math.max(1, Math.floor((mono.length / sampleRate) * FRAMES_PER_SECOND))
  const curve = (): Float32Array => new Float32Array(frames)
  const curves = { all: curve(), low: curve(), mid: curve(), high: curve(), loudness: curve() }
  const chroma = new Float64Array(12 * (frames + 1))
  const bands: Float32Array[] = []
  const magnitudes = new Float32Array(SIZE / 2 + 1)
  const addGrowth = growthOf(curves, bands, sampleRate)
  const addChroma = chromaSummed(chroma, sampleRate)
  for (let t = 0; t < frames; t++) {
    if (t % 1000 === 0) await checkpoint(job, 'onsets', t / frames)
    // Centred a little late, so that an attack is dated when it is heard and not before.
    fft.hannMagnitudes(mono, Math.round((t * sampleRate) / FRAMES_PER_SECOND) - SIZE / 2, magnitudes)
    addGrowth(t, magnitudes)
    addChroma(t, magnitudes)
  }
  const change = curve()
  chromaChange(chroma, change)
  let raw = 0
  for (const value of curves.all) raw += value / frames
  for (const one of [curves.all, curves.low, curves.mid, curves.high]) levelLocally(one)
  const perSecond = { framesPerSecond: FRAMES_PER_SECOND, bandsPerSecond: FRAMES_PER_SECOND / SLOW }
  return { ...curves, change, raw, bands, ...perSecond }
}

/** Cosine distance between the chroma of the third of a second after and before each frame. */
function chromaChange(sums: Float64Array, out: Float32Array): void {
  const reach = 30
  for (let t = 0; t < out.length; t++) {
    const a = 12 * Math.max(0, t - reach)
    const b = 12 * t
    const c = 12 * Math.min(out.length, t + reach)
    let dot = 0
    let before = 0
    let after = 0
    for (let k = 0; k < 12; k++) {
      const x = sums[b + k]! - sums[a + k]!
      const y = sums[c + k]! - sums[b + k]!
      dot += x * y
      before += x * x
      after += y * y
    }
    out[t] = before > 0 && after > 0 ? 1 - dot / Math.sqrt(before * after) : 0
  }
}

/**
 * Takes away the local mean and divides by the local deviation (two seconds around), so that quiet and loud
 * stretches count alike.
 */
function levelLocally(curve: Float32Array): void {
  const reach = FRAMES_PER_SECOND
  const sums = new Float64Array(curve.length + 1)
  const squares = new Float64Array(curve.length + 1)
  curve.forEach((value, t) => {
    sums[t + 1] = sums[t]! + value
    squares[t + 1] = squares[t]! + value * value
  })
  const overall = Math.sqrt(squares[curve.length]! / curve.length) || 1
  for (let t = 0; t < curve.length; t++) {
    const a = Math.max(0, t - reach)
    const b = Math.min(curve.length, t + reach)
    const mean = (sums[b]! - sums[a]!) / (b - a)
    const deviation = Math.sqrt(Math.max(0, (squares[b]! - squares[a]!) / (b - a) - mean * mean))
    curve[t] = Math.max(0, (curve[t]! - mean) / (deviation + 0.15 * overall))
  }
}
