// Onset strength: how much the spectrum grows from frame to frame, in three bands, on a logarithmic scale.
// After the spectral flux of Bello et al. (2005) with the maximum filter over frequency of Böck and Widmer
// (2013) against vibrato.
import { checkpoint, type JobContext } from '../job'
import { hann, padEnds, type MakeFft } from './spectrum'

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

export async function onsetStrength(
  mono: Float32Array,
  sampleRate: number,
  makeFft: MakeFft,
  job: JobContext,
): Promise<OnsetStrength> {
  const fft = makeFft(SIZE)
  const window = hann(SIZE)
  const edges = bandEdges(sampleRate)
  const frames = Math.max(1, Math.floor((mono.length / sampleRate) * FRAMES_PER_SECOND))
  const [all, low, mid, high, change, loudness] = Array.from(
    { length: 6 },
    () => new Float32Array(frames),
  ) as [Float32Array, Float32Array, Float32Array, Float32Array, Float32Array, Float32Array]
  const frame = new Float32Array(SIZE)
  const magnitudes = new Float32Array(SIZE / 2 + 1)
  let before = new Float32Array(BANDS)
  const lowBand = edges.findIndex((edge) => (edge * sampleRate) / SIZE > 200)
  const highBand = edges.findIndex((edge) => (edge * sampleRate) / SIZE > 1500)
  const chroma: Float32Array[] = []
  const bands: Float32Array[] = []
  const firstPitched = Math.ceil((180 * SIZE) / sampleRate)
  const classOfBin = Int32Array.from(
    { length: Math.floor((2000 * SIZE) / sampleRate) - firstPitched + 1 },
    (_, index) =>
      ((Math.round(12 * Math.log2(((firstPitched + index) * sampleRate) / SIZE / 440)) % 12) + 12) % 12,
  )
  const padded = padEnds(mono, SIZE)
  for (let t = 0; t < frames; t++) {
    if (t % 1000 === 0) await checkpoint(job, 'onsets', t / frames)
    // Centred a little late, so that an attack is dated when it is heard and not before.
    const start = Math.round((t * sampleRate) / FRAMES_PER_SECOND) - SIZE / 2 + SIZE
    for (let i = 0; i < SIZE; i++) frame[i] = padded[start + i]! * window[i]!
    fft.magnitudes(frame, magnitudes)
    const now = new Float32Array(BANDS)
    for (let band = 0; band < BANDS; band++) {
      let sum = 0
      for (let bin = edges[band]!; bin < Math.max(edges[band]! + 1, edges[band + 1]!); bin++)
        sum += magnitudes[bin]!
      now[band] = Math.log1p(10 * sum)
      loudness[t]! += sum * sum
    }
    for (let band = 0; band < BANDS; band++) {
      const rise = now[band]! - Math.max(before[band]!, before[band - 1] ?? 0, before[band + 1] ?? 0)
      if (rise <= 0) continue
      all[t]! += rise
      if (band < lowBand) low[t]! += rise
      else if (band >= highBand) high[t]! += rise
      else mid[t]! += rise
    }
    before = now
    const slow = Math.floor(t / SLOW)
    const colour = (bands[slow] ??= new Float32Array(BANDS))
    for (let band = 0; band < BANDS; band++) colour[band]! += now[band]! / SLOW
    const pitch = new Float32Array(12)
    for (let index = 0; index < classOfBin.length; index++)
      pitch[classOfBin[index]!]! += magnitudes[firstPitched + index]!
    chroma.push(pitch)
  }
  chromaChange(chroma, change)
  let raw = 0
  for (const value of all) raw += value / all.length
  for (const curve of [all, low, mid, high]) levelLocally(curve)
  return {
    framesPerSecond: FRAMES_PER_SECOND,
    all,
    low,
    mid,
    high,
    change,
    loudness,
    raw,
    bands,
    bandsPerSecond: FRAMES_PER_SECOND / SLOW,
  }
}

/** Cosine distance between the mean chroma of the third of a second after and before each frame. */
function chromaChange(chroma: readonly Float32Array[], out: Float32Array): void {
  const reach = 30
  const sums = new Float64Array(12 * (chroma.length + 1))
  chroma.forEach((frame, t) => {
    for (let k = 0; k < 12; k++) sums[12 * (t + 1) + k] = sums[12 * t + k]! + frame[k]!
  })
  for (let t = 0; t < chroma.length; t++) {
    const a = 12 * Math.max(0, t - reach)
    const b = 12 * t
    const c = 12 * Math.min(chroma.length, t + reach)
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
