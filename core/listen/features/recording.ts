// A recording as the analysis hears it: at most two channels at a rate low enough to be quick, repaired
// where it is broken.
import { lowerRate } from './spectrum'

export interface Recording {
  channels: readonly Float32Array[]
  sampleRate: number
}
/** `mono` is what all pitch and rhythm work listens to; `left` and `right` are absent for mono material. */
export interface Heard {
  mono: Float32Array
  left: Float32Array | undefined
  right: Float32Array | undefined
  sampleRate: number
  durationSeconds: number
}

/**
 * Below this share of the channels' energy a sum of both sides has cancelled itself out: one side was wired
 * the wrong way round.
 */
const CANCELLED = 0.02

/** Missing samples become silence, a constant offset is taken away, the rate is lowered. */
function clean(channel: Float32Array, sampleRate: number): { mono: Float32Array; sampleRate: number } {
  const lowered = lowerRate(channel, sampleRate)
  const mono = lowered.mono === channel ? channel.slice() : lowered.mono
  let sum = 0
  for (let i = 0; i < mono.length; i++) {
    const value = mono[i]!
    if (!Number.isFinite(value)) mono[i] = 0
    else sum += value
  }
  const offset = sum / Math.max(1, mono.length)
  if (Math.abs(offset) > 1e-5) for (let i = 0; i < mono.length; i++) mono[i]! -= offset
  return { mono, sampleRate: lowered.sampleRate }
}

const energy = (samples: Float32Array): number => {
  let sum = 0
  for (const value of samples) sum += value * value
  return sum
}

/** Half the sum of both sides, or half their difference where the sum has cancelled itself out. */
function mixed(left: Float32Array, right: Float32Array): Float32Array {
  const sum = new Float32Array(left.length)
  for (let i = 0; i < sum.length; i++) sum[i] = 0.5 * (left[i]! + right[i]!)
  if (energy(sum) >= CANCELLED * 0.5 * (energy(left) + energy(right))) return sum
  for (let i = 0; i < sum.length; i++) sum[i] = 0.5 * (left[i]! - right[i]!)
  return sum
}

/** The channels as one, at the recording's own rate: attacks are sharpest in its highest octave. */
export function inOne({ channels: [left, right] }: Recording): Float32Array {
  return left && right ? mixed(left, right) : (left ?? new Float32Array(0))
}

export function hear(recording: Recording): Heard {
  const [first, second] = recording.channels
  const durationSeconds = (first?.length ?? 0) / recording.sampleRate
  const { mono: left, sampleRate } = clean(first ?? new Float32Array(0), recording.sampleRate)
  if (!second) return { mono: left, left: undefined, right: undefined, sampleRate, durationSeconds }
  const right = clean(second, recording.sampleRate).mono
  return { mono: mixed(left, right), left, right, sampleRate, durationSeconds }
}
