// How strongly the pitches around a note stand in the recording while it should sound: for one note or for
// thousands, each looked at as long as it lasts.
import { checkpoint, type JobContext } from '../job'
import { hann, takeFrame, type MakeFft } from '../features/spectrum'
import { hzOf } from './evidence'
import { nearSound } from './part-sound'

/** A note that is looked for: seconds of the recording, its pitch, and where its player sits (−1 to 1). */
export interface AskedNote {
  start: number
  end: number
  midi: number
  pan: number
}
/** Pitches so many semitones to either side are looked at too. */
const SCORED_STEPS = 7
/** Of the pitch so many semitones away, how much stronger its harmonics stand than what lies between. */
export type PitchScores = Float32Array
export const scoreAt = (scores: PitchScores, steps: number): number => scores[steps + SCORED_STEPS] ?? 0

/** Looked at after the pick, and no longer than this. */
const AFTER_SECONDS = 0.02
const LOOK_SECONDS = 0.35
/** Too short to tell a pitch. */
const SHORTEST_SECONDS = 0.07
/** Room for the longest look at 48 kHz; what is shorter is filled up with silence, for finer bins. */
const FRAME_SECONDS = 0.37
const HARMONICS = 10
const HIGHEST_HZ = 4000
const TOP_HZ = 3000
const LOWEST_BIN = 4
/** What a harmonic counts less than the one before it. */
const FALL = 0.2
const BETWEEN = 0.5
/** Compression of levels: 60 times under the strongest is nothing. */
const DEPTH = 60
const NOTES_A_PIECE = 100

const powerOfTwo = (least: number): number => 2 ** Math.ceil(Math.log2(least))

/**
 * The scores of each note, in the channel its player sits in; undefined where it is too short. Harmonics are
 * summed (after Hermes 1988), those halfway between taken away. Throws `Cancelled` when the job is.
 */
export async function pitchScores(
  recording: { channels: readonly Float32Array[]; sampleRate: number },
  notes: readonly AskedNote[],
  tuning: { cents: number; makeFft: MakeFft },
  job: JobContext,
): Promise<(PitchScores | undefined)[]> {
  const { sampleRate } = recording
  const sides = new Map<number, Float32Array>()
  const near = (pan: number): Float32Array => {
    const known = sides.get(pan) ?? nearSound(recording.channels, pan)
    sides.set(pan, known)
    return known
  }
  const look = scorer(sampleRate, tuning)
  const scores: (PitchScores | undefined)[] = []
  for (const [index, note] of notes.entries()) {
    if (index % NOTES_A_PIECE === 0) await checkpoint(job, 'notes', index / notes.length)
    scores.push(look(near(note.pan), note))
  }
  return scores
}

function scorer(
  sampleRate: number,
  { cents, makeFft }: { cents: number; makeFft: MakeFft },
): (samples: Float32Array, note: AskedNote) => PitchScores | undefined {
  const size = powerOfTwo(FRAME_SECONDS * sampleRate)
  const fft = makeFft(size)
  const frame = new Float32Array(size)
  const magnitudes = new Float32Array(size / 2 + 1)
  const binOf = (hz: number): number => (hz * size) / sampleRate
  return (samples, { start, end, midi }) => {
    const first = Math.round((start + AFTER_SECONDS) * sampleRate)
    const last = Math.min(samples.length, Math.round(Math.min(end, start + LOOK_SECONDS) * sampleRate))
    const length = Math.min(size, last - first)
    if (length < SHORTEST_SECONDS * sampleRate) return undefined
    frame.fill(0)
    takeFrame(samples, first, hann(length), frame.subarray(0, length))
    fft.magnitudes(frame, magnitudes)
    const top = strongest(magnitudes, binOf(TOP_HZ))
    const level = (hz: number): number => Math.log1p((DEPTH * between(magnitudes, binOf(hz))) / top)
    return Float32Array.from({ length: 2 * SCORED_STEPS + 1 }, (_, index) =>
      combScore(level, hzOf(midi + index - SCORED_STEPS, cents)),
    )
  }
}

function strongest(magnitudes: Float32Array, end: number): number {
  let top = 1e-9
  for (let bin = LOWEST_BIN; bin < end; bin++) top = Math.max(top, magnitudes[bin]!)
  return top
}

/** A magnitude between two bins. */
function between(magnitudes: Float32Array, place: number): number {
  const bin = Math.floor(place)
  const share = place - bin
  return magnitudes[bin]! * (1 - share) + magnitudes[bin + 1]! * share
}

function combScore(level: (hz: number) => number, hz: number): number {
  let [sum, weights] = [0, 0]
  for (let harmonic = 1; harmonic <= HARMONICS && harmonic * hz < HIGHEST_HZ; harmonic++) {
    const weight = 1 / (1 + FALL * (harmonic - 1))
    weights += weight
    sum += weight * (level(harmonic * hz) - BETWEEN * level((harmonic - 0.5) * hz))
  }
  return sum / (weights * Math.log1p(DEPTH))
}
