// A recording as the analysis hears it: piece by piece brought to a rate low enough to be quick, repaired
// where it is broken. Of the full rate only the attacks are kept, so a long recording needs little memory.
import { attackMeter } from './attacks'
import { lowering } from './spectrum'

export interface Recording {
  channels: readonly Float32Array[]
  sampleRate: number
}
/** The same, read while it is heard: of each channel the samples that follow those before. */
export interface RecordingInPieces {
  pieces: Iterable<readonly Float32Array[]> | AsyncIterable<readonly Float32Array[]>
  sampleRate: number
  /** How many samples a channel has, or room for as many, where that is known beforehand. */ frames?: number
}

/**
 * `mono` is what all pitch and rhythm work listens to, `side` half the difference of the channels (the left
 * one is their sum), absent for mono material. `rises` are the attacks.
 */
export interface Heard {
  mono: Float32Array
  side: Float32Array | undefined
  sampleRate: number
  durationSeconds: number
  rises: Float32Array
}

/**
 * Below this share of the channels' energy a sum of both sides has cancelled itself out: one side was wired
 * the wrong way round.
 */
const CANCELLED = 0.02
const PIECE_FRAMES = 1 << 17

function* inPieces(channels: readonly Float32Array[]): Iterable<Float32Array[]> {
  for (let from = 0; from < (channels[0]?.length ?? 0); from += PIECE_FRAMES)
    yield channels.map((channel) => channel.subarray(from, from + PIECE_FRAMES))
}

/** A missing sample becomes silence. */
const repaired = (value: number): number => (Number.isFinite(value) ? value : 0)

/**
 * Half the sum and half the difference of two channels; of one alone that channel, and nothing. What is given
 * back holds until it is asked again: a long recording comes in thousands of pieces.
 */
function middleAndSide(): (
  left: Float32Array,
  right: Float32Array | undefined,
) => [Float32Array, Float32Array] {
  let [middle, side] = [new Float32Array(0), new Float32Array(0)]
  return (left, right = left) => {
    const count = left.length
    if (middle.length < count) [middle, side] = [new Float32Array(count), new Float32Array(count)]
    for (let i = 0; i < count; i++) {
      const one = repaired(left[i]!)
      const other = repaired(right[i]!)
      middle[i] = 0.5 * (one + other)
      side[i] = 0.5 * (one - other)
    }
    return [middle.subarray(0, count), side.subarray(0, count)]
  }
}

/** A constant offset is taken away, in place; the energy that is left. */
function level(samples: Float32Array): number {
  const count = samples.length
  let [sum, squares] = [0, 0]
  for (let i = 0; i < count; i++) {
    const value = samples[i]!
    sum += value
    squares += value * value
  }
  const offset = sum / Math.max(1, count)
  if (Math.abs(offset) <= 1e-5) return squares
  for (let i = 0; i < count; i++) samples[i]! -= offset
  return Math.max(0, squares - count * offset * offset)
}

/** Samples of one kind as they come in: lowered, and their attacks. */
function listener(sampleRate: number, frames: number | undefined) {
  const low = lowering(sampleRate, frames)
  const attacks = attackMeter(sampleRate)
  return {
    take(samples: Float32Array): void {
      low.take(samples)
      attacks.take(samples)
    },
    end() {
      const samples = low.samples()
      return { samples, energy: level(samples), rises: attacks.rises(), sampleRate: low.sampleRate }
    },
  }
}

/** Hears a recording once, from end to end. */
export async function hear(recording: Recording | RecordingInPieces): Promise<Heard> {
  const { sampleRate } = recording
  const expected = 'pieces' in recording ? recording.frames : recording.channels[0]?.length
  const [middle, side] = [listener(sampleRate, expected), listener(sampleRate, expected)]
  const apartFrom = middleAndSide()
  let frames = 0
  let stereo = false
  for await (const piece of 'pieces' in recording ? recording.pieces : inPieces(recording.channels)) {
    const [left, right] = piece
    if (!left) continue
    frames += left.length
    stereo ||= right !== undefined
    const [both, apart] = apartFrom(left, right)
    middle.take(both)
    side.take(apart)
  }
  const durationSeconds = frames / sampleRate
  const sum = middle.end()
  const only = { mono: sum.samples, rises: sum.rises, sampleRate: sum.sampleRate, durationSeconds }
  if (!stereo) return { ...only, side: undefined }
  const difference = side.end()
  // Turning one channel round makes the difference the sum.
  return sum.energy >= CANCELLED * (sum.energy + difference.energy)
    ? { ...only, side: difference.samples }
    : { ...only, mono: difference.samples, rises: difference.rises, side: sum.samples }
}
