// How strongly each pitch is present over time: a log-frequency spectrum, whitened, and from it the notes
// that explain it. After the approximate transcription of Mauch and Dixon (2010): three bins a semitone,
// overtone dictionary, non-negative least squares.
import { checkpoint, type JobContext } from '../job'
import { rowProduct } from '../product'
import type { MakeFft } from './spectrum'

/** MIDI number of the lowest pitch looked for (a low B string is 23) and how many semitones up. */
export const LOWEST_MIDI = 23
export const PITCHES = 84
const PER_SEMITONE = 3
const BINS = PITCHES * PER_SEMITONE
const SIZE = 8192
/** Overtone n of a note has this power of the one before: strings of rock instruments are rich. */
const OVERTONE_DECAY = 0.72
const OVERTONES = 16

export interface PitchSpectrum {
  framesPerSecond: number
  /** Whitened, BINS values a frame, frame t centred at t / framesPerSecond seconds. */
  frames: Float32Array[]
}

/** Weights of each linear bin in the log-frequency bins, for a reference pitch moved by cents. */
function logMap(sampleRate: number, tuningCents: number): { low: number; weights: Float32Array }[] {
  return Array.from({ length: BINS }, (_, bin) => {
    const midi = LOWEST_MIDI + (bin - 1) / PER_SEMITONE + tuningCents / 100
    const hz = (offset: number): number => 440 * 2 ** ((midi + offset - 69) / 12)
    const spread = Math.max(hz(1 / PER_SEMITONE) - hz(0), (0.8 * sampleRate) / SIZE)
    const low = Math.max(1, Math.ceil(((hz(0) - spread) * SIZE) / sampleRate))
    const high = Math.min(SIZE / 2, Math.floor(((hz(0) + spread) * SIZE) / sampleRate))
    const weights = Float32Array.from({ length: Math.max(0, high - low + 1) }, (_value, index) => {
      const distance = Math.abs(((low + index) * sampleRate) / SIZE - hz(0)) / spread
      return 0.5 + 0.5 * Math.cos(Math.PI * Math.min(1, distance))
    })
    return { low, weights }
  })
}

/** Bins around one that tell its level. */
const REACH = 9 * PER_SEMITONE

/**
 * Takes away the level around each bin and divides by the deviation: a bright and a dull mix come out
 * alike. `sums` are room to work in.
 */
function whitened(values: Float32Array, sums: { first: Float64Array; squares: Float64Array }): Float32Array {
  const { first, squares } = sums
  for (let i = 0; i < BINS; i++) {
    const value = values[i]!
    first[i + 1] = first[i]! + value
    squares[i + 1] = squares[i]! + value * value
  }
  const out = new Float32Array(BINS)
  for (let i = 0; i < BINS; i++) {
    const a = Math.max(0, i - REACH)
    const b = Math.min(BINS, i + REACH + 1)
    const mean = (first[b]! - first[a]!) / (b - a)
    if (values[i]! <= mean) continue
    const variance = Math.max(1e-12, (squares[b]! - squares[a]!) / (b - a) - mean * mean)
    out[i] = (values[i]! - mean) / (variance ** 0.4 + 1e-6)
  }
  return out
}

/** `bins` = the level of each log-frequency bin. */
function mapBins(magnitudes: Float32Array, map: ReturnType<typeof logMap>, bins: Float32Array): void {
  for (let index = 0; index < BINS; index++) {
    const { low, weights } = map[index]!
    let sum = 0
    for (let k = 0; k < weights.length; k++) sum += magnitudes[low + k]! * weights[k]!
    bins[index] = sum
  }
}

export async function pitchSpectrum(
  mono: Float32Array,
  options: { sampleRate: number; tuningCents: number },
  makeFft: MakeFft,
  job: JobContext,
): Promise<PitchSpectrum> {
  const { sampleRate, tuningCents } = options
  const fft = makeFft(SIZE)
  const hop = Math.round(sampleRate / 21.5)
  const map = logMap(sampleRate, tuningCents)
  const count = Math.max(1, Math.floor(mono.length / hop))
  const magnitudes = new Float32Array(
    Math.min(SIZE / 2, Math.max(...map.map(({ low, weights }) => low + weights.length))) + 1,
  )
  const bins = new Float32Array(BINS)
  const sums = { first: new Float64Array(BINS + 1), squares: new Float64Array(BINS + 1) }
  const frames: Float32Array[] = []
  for (let t = 0; t < count; t++) {
    if (t % 120 === 0) await checkpoint(job, 'pitches', t / count)
    fft.hannMagnitudes(mono, t * hop - SIZE / 2, magnitudes)
    mapBins(magnitudes, map, bins)
    frames.push(whitened(bins, sums))
  }
  return { framesPerSecond: sampleRate / hop, frames }
}

/** Mean spectrum of [fromSeconds, toSeconds); the nearest frame when none is centred inside. */
export function spectrumOf(
  { frames, framesPerSecond }: PitchSpectrum,
  fromSeconds: number,
  toSeconds: number,
): Float32Array {
  const first = Math.max(0, Math.min(frames.length - 1, Math.ceil(fromSeconds * framesPerSecond)))
  const last = Math.max(first, Math.min(frames.length - 1, Math.ceil(toSeconds * framesPerSecond) - 1))
  const mean = new Float32Array(BINS)
  for (let t = first; t <= last; t++) {
    const frame = frames[t]!
    for (let i = 0; i < BINS; i++) mean[i]! += frame[i]! / (last - first + 1)
  }
  return mean
}

/** Where one note is expected in the spectrum: bins and how strongly in each. */
interface Column {
  bins: Uint16Array
  weights: Float64Array
}
function columnOf(pitch: number): Column {
  const dense = new Float32Array(BINS)
  for (let overtone = 1; overtone <= OVERTONES; overtone++) {
    const centre = 1 + (pitch + 12 * Math.log2(overtone)) * PER_SEMITONE
    const highest = Math.min(BINS - 1, Math.ceil(centre) + 2)
    for (let bin = Math.max(0, Math.floor(centre) - 2); bin <= highest; bin++)
      dense[bin]! += OVERTONE_DECAY ** (overtone - 1) * Math.exp(-0.5 * ((bin - centre) / 0.75) ** 2)
  }
  const bins = Uint16Array.from(dense.keys()).filter((bin) => dense[bin]! > 0)
  return { bins, weights: Float64Array.from(bins, (bin) => dense[bin]!) }
}

/** One note's expected spectrum per pitch, and how alike those of two pitches are; made when first needed. */
let tables: { columns: Column[]; gram: Float64Array } | undefined
function noteTables(): { columns: Column[]; gram: Float64Array } {
  if (tables) return tables
  const columns = Array.from({ length: PITCHES }, (_, pitch) => columnOf(pitch))
  const gram = new Float64Array(PITCHES * PITCHES)
  columns.forEach(({ bins, weights }, a) => {
    const dense = new Float64Array(BINS)
    bins.forEach((bin, k) => {
      dense[bin] = weights[k]!
    })
    columns.forEach((other, b) => {
      gram[a * PITCHES + b] = other.bins.reduce((sum, bin, k) => sum + dense[bin]! * other.weights[k]!, 0)
    })
  })
  tables = { columns, gram }
  return tables
}
/** Rounds of the updates: a few with every pitch that may sound, the rest with those that still do. */
const FIRST_ROUNDS = 5
const LAST_ROUNDS = 13
/** Pitches that explain less than this share of the best are left out from the start. */
const HOPELESS = 0.05
/** Pitches that have fallen below this share of the strongest are on their way to nothing. */
const FADED = 0.02

/** One round of multiplicative updates on the pitches that take part, strengths changed in place. */
function updateRounds(
  rounds: number,
  pitches: readonly number[],
  target: Float64Array,
  strengths: Float64Array,
): void {
  const { gram } = noteTables()
  const count = pitches.length
  const rows = new Float64Array(count * count)
  const wanted = new Float64Array(count)
  const own = new Float64Array(count)
  for (let i = 0; i < count; i++) {
    const pitch = pitches[i]!
    wanted[i] = target[pitch]! + 1e-9
    own[i] = strengths[pitch]!
    for (let j = 0; j < count; j++) rows[i * count + j] = gram[pitch * PITCHES + pitches[j]!]!
  }
  for (let round = 0; round < rounds; round++)
    for (let i = 0; i < count; i++)
      own[i] = (own[i]! * wanted[i]!) / (0.02 + rowProduct(rows, i * count, own))
  strengths.fill(0)
  for (let i = 0; i < count; i++) strengths[pitches[i]!] = own[i]!
}

const ALL_PITCHES = Array.from({ length: PITCHES }, (_, pitch) => pitch)

/** How much of a spectrum each pitch by itself would explain. */
function explainedBy(spectrum: Float32Array): Float64Array {
  const { columns } = noteTables()
  const target = new Float64Array(PITCHES)
  for (let pitch = 0; pitch < PITCHES; pitch++) {
    const { bins, weights } = columns[pitch]!
    let sum = 0
    for (let k = 0; k < bins.length; k++) sum += weights[k]! * spectrum[bins[k]!]!
    target[pitch] = sum
  }
  return target
}

/**
 * Strength of each pitch in a spectrum: non-negative least squares by multiplicative updates (Lee and Seung
 * 1999).
 */
export function notesIn(spectrum: Float32Array): Float32Array {
  const target = explainedBy(spectrum)
  let top = 0
  for (const value of target) top = Math.max(top, value)
  const hopeful = ALL_PITCHES.filter((pitch) => target[pitch]! > HOPELESS * top)
  const strengths = target.map((value) => Math.max(1e-6, value * 0.1))
  updateRounds(FIRST_ROUNDS, hopeful, target, strengths)
  let strongest = 0
  for (const value of strengths) strongest = Math.max(strongest, value)
  const sounding = hopeful.filter((pitch) => strengths[pitch]! > FADED * strongest)
  updateRounds(LAST_ROUNDS, sounding, target, strengths)
  return Float32Array.from(strengths)
}

/** Registers that chord work looks at: what a bass plays, what a chord is built on, what lies on top. */
const REGISTERS: [low: number, high: number][] = [
  [23, 50],
  [47, 71],
  [62, 96],
]
/**
 * Strength per pitch class in three registers (bass, middle, top), 36 values; register edges fade over
 * three semitones.
 */
export function chromaOf(notes: Float32Array): Float32Array {
  const chroma = new Float32Array(36)
  notes.forEach((strength, pitch) => {
    const midi = LOWEST_MIDI + pitch
    REGISTERS.forEach(([low, high], register) => {
      const inside = Math.min(1, (midi - low + 1) / 3, (high - midi + 1) / 3)
      if (inside > 0) chroma[register * 12 + (midi % 12)]! += strength * inside
    })
  })
  return chroma
}
