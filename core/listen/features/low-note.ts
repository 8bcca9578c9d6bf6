// The lowest note of the guitars, from what stands on the sides of a stereo record: rhythm guitars are
// played twice and put left and right, while bass, kick and voice stand in the middle and fall out of the
// difference of the channels. Harmonic sums against what lies between the harmonics (after the subharmonic
// summation of Hermes 1988).
import { greatestIndex, quantileSorted, sum } from 'd3-array'
import { checkpoint, type JobContext } from '../job'
import { hann, padEnds, type MakeFft } from './spectrum'

/** Notes that are looked at: from E1 to A3, where power chords and riffs have their lowest. */
const LOWEST_MIDI = 28
const NOTES = 30
const SIZE = 4096
const HARMONICS = 6
const FRAMES_PER_SECOND = 43

/** Of each note, frame by frame: the sum over its harmonics, and the level of its fundamental alone. */
export interface LowNotes {
  framesPerSecond: number
  sums: Float32Array[]
  grounds: Float32Array[]
}

/**
 * From this many decibels beside the middle the sides hold a wall of guitars; below, single players, keys and
 * room, whose lowest note says little about the chord.
 */
const WALL_DB = -9

/** Sides this much over the middle are no guitars either: one channel was wired the wrong way round. */
const REVERSED_DB = 6
/** A channel this far under the other leaves all of the music in the difference. */
const ONE_SIDED_DB = -10

/** What stands on the sides, undefined where that is no wall of guitars. */
function wallOf(left: Float32Array, right: Float32Array): Float32Array | undefined {
  const side = new Float32Array(left.length)
  const power = { left: 0, right: 0, sides: 0, middle: 0 }
  for (let i = 0; i < left.length; i++) {
    const [one, other] = [left[i]!, right[i]!]
    side[i] = (one - other) / 2
    power.left += one * one
    power.right += other * other
    power.sides += (one - other) ** 2
    power.middle += (one + other) ** 2
  }
  const decibels = (a: number, b: number): number => 10 * Math.log10((a + 1e-12) / (b + 1e-12))
  const over = decibels(power.sides, power.middle)
  const uneven = -Math.abs(decibels(power.left, power.right))
  return over < WALL_DB || over > REVERSED_DB || uneven < ONE_SIDED_DB ? undefined : side
}

interface Harmonic {
  bin: number
  between: number
  weight: number
}
/** Bins of each note's harmonics, and of the places between them, which a true note leaves empty. */
function harmonicsOf(sampleRate: number, tuningCents: number): Harmonic[][] {
  const binOf = (hz: number): number => Math.round((hz * SIZE) / sampleRate)
  return Array.from({ length: NOTES }, (_, note) => {
    const hz = 440 * 2 ** ((LOWEST_MIDI + note + tuningCents / 100 - 69) / 12)
    return Array.from({ length: HARMONICS }, (_harmonic, h) => ({
      bin: binOf(hz * (h + 1)),
      between: binOf(hz * (h + 0.5)),
      weight: 1 / Math.sqrt(h + 1),
    }))
  })
}

/** Undefined where the sides are no wall of guitars. Throws `Cancelled` when the job is. */
export async function lowNotes(
  record: { left: Float32Array; right: Float32Array; sampleRate: number; tuningCents: number },
  makeFft: MakeFft,
  job: JobContext,
): Promise<LowNotes | undefined> {
  const side = wallOf(record.left, record.right)
  if (!side) return undefined
  const fft = makeFft(SIZE)
  const window = hann(SIZE)
  const hop = Math.round(record.sampleRate / FRAMES_PER_SECOND)
  const padded = padEnds(side, SIZE)
  const magnitudes = new Float32Array(SIZE / 2 + 1)
  const notes = harmonicsOf(record.sampleRate, record.tuningCents)
  const highest = Math.max(...notes.flat().map(({ bin }) => bin)) + 2
  const count = Math.max(1, Math.floor(side.length / hop))
  const sums: Float32Array[] = []
  const grounds: Float32Array[] = []
  for (let t = 0; t < count; t++) {
    if (t % 240 === 0) await checkpoint(job, 'sides', t / count)
    const start = t * hop + SIZE / 2
    fft.magnitudes(
      window.map((value, index) => value * (padded[start + index] ?? 0)),
      magnitudes,
    )
    const levels = magnitudes.subarray(0, highest).map((value) => Math.log1p((200 * value) / SIZE))
    const at = (bin: number): number => levels[bin] ?? 0
    const near = (bin: number): number => Math.max(at(bin - 1), at(bin), at(bin + 1))
    sums.push(
      Float32Array.from(notes, (harmonics) =>
        sum(harmonics, ({ bin, between, weight }) => near(bin) * weight - 0.5 * at(between)),
      ),
    )
    grounds.push(Float32Array.from(notes, ([first]) => (first ? near(first.bin) : 0)))
  }
  return { framesPerSecond: record.sampleRate / hop, sums, grounds }
}

/** Harmonic sums below this are no note. */
const QUIET = 0.3
/** Which of the ordered frames speaks for a stretch: the middle, a little low, leaves out what is struck. */
const QUANTILE = 0.4
/**
 * Two notes a fifth apart through one amplifier sum to a tone an octave below the lower one, whose overtones
 * stand between the harmonics of the lower note and speak against it. It is there nevertheless when its
 * fundamental is at least this strong beside the fifth's.
 */
const GROUND_SHARE = 0.75
const FIFTH = 7

/** The middle of each note's values over a stretch. */
const middleOf = (frames: readonly Float32Array[]): number[] =>
  Array.from({ length: NOTES }, (_, note) => {
    const ordered = frames.map((values) => values[note] ?? 0).sort((a, b) => a - b)
    return quantileSorted(ordered, QUANTILE) ?? 0
  })

/**
 * How strongly each pitch class stands as the lowest note over a stretch, the strongest 1; undefined where
 * nothing sounds on the sides.
 */
export function lowNoteOf(
  { sums, grounds, framesPerSecond }: LowNotes,
  fromSeconds: number,
  toSeconds: number,
): Float32Array | undefined {
  const first = Math.max(0, Math.min(sums.length - 1, Math.ceil(fromSeconds * framesPerSecond)))
  const last = Math.max(first, Math.min(sums.length - 1, Math.ceil(toSeconds * framesPerSecond) - 1))
  const middle = middleOf(sums.slice(first, last + 1))
  const best = greatestIndex(middle) ?? 0
  const top = middle[best] ?? 0
  if (top < QUIET) return undefined
  const ground = middleOf(grounds.slice(first, last + 1))
  const below = best - FIFTH
  if (below >= 0 && (ground[below] ?? 0) >= GROUND_SHARE * (ground[best] ?? 0)) {
    middle[best] = middle[below] ?? 0
    middle[below] = top
  }
  const strengths = new Float32Array(12)
  middle.forEach((value, note) => {
    const pitchClass = (LOWEST_MIDI + note) % 12
    strengths[pitchClass] = Math.max(strengths[pitchClass] ?? 0, value / top)
  })
  return strengths
}
