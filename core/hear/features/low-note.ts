// The lowest note of the guitars, from what stands on the sides of a stereo record: rhythm guitars are
// played twice and put left and right, while bass, kick and voice stand in the middle and fall out of the
// difference of the channels.
import { greatestIndex, quantileSorted } from 'd3-array'
import { checkpoint, type JobContext } from '../job'
import { binsNeeded, compressed, harmonicsOf, harmonicSum, near } from './harmonic-sum'
import type { MakeFft } from './spectrum'

/** Notes that are looked at: from E1 to A3, where power chords and riffs have their lowest. */
const LOWEST_MIDI = 28
const NOTES = 30
const SIZE = 4096
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

/** Of a whole record every eighth sample tells the power. */
const POWER_STRIDE = 8

/** Whether what stands on the sides is a wall of guitars. */
function isWall(middle: Float32Array, side: Float32Array): boolean {
  const power = { left: 0, right: 0, sides: 0, middle: 0 }
  for (let i = 0; i < middle.length; i += POWER_STRIDE) {
    const both = middle[i]!
    const apart = side[i]!
    power.left += (both + apart) ** 2
    power.right += (both - apart) ** 2
    power.sides += apart * apart
    power.middle += both * both
  }
  const decibels = (a: number, b: number): number => 10 * Math.log10((a + 1e-12) / (b + 1e-12))
  const over = decibels(power.sides, power.middle)
  const uneven = -Math.abs(decibels(power.left, power.right))
  return over >= WALL_DB && over <= REVERSED_DB && uneven >= ONE_SIDED_DB
}

/** Undefined where the sides are no wall of guitars. Throws `Cancelled` when the job is. */
export async function lowNotes(
  record: { middle: Float32Array; side: Float32Array; sampleRate: number; tuningCents: number },
  makeFft: MakeFft,
  job: JobContext,
): Promise<LowNotes | undefined> {
  const { side } = record
  if (!isWall(record.middle, side)) return undefined
  const fft = makeFft(SIZE)
  const hop = Math.round(record.sampleRate / FRAMES_PER_SECOND)
  const notes = harmonicsOf(
    { lowestMidi: LOWEST_MIDI, count: NOTES, tuningCents: record.tuningCents },
    { size: SIZE, sampleRate: record.sampleRate },
  )
  const magnitudes = new Float32Array(binsNeeded(notes))
  const count = Math.max(1, Math.floor(side.length / hop))
  const sums: Float32Array[] = []
  const grounds: Float32Array[] = []
  for (let t = 0; t < count; t++) {
    if (t % 240 === 0) await checkpoint(job, 'sides', t / count)
    fft.hannMagnitudes(side, t * hop - SIZE / 2, magnitudes)
    const levels = compressed(magnitudes, SIZE)
    sums.push(Float32Array.from(notes, (harmonics) => harmonicSum(levels, harmonics)))
    grounds.push(Float32Array.from(notes, ([first]) => (first ? near(levels, first.bin) : 0)))
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
