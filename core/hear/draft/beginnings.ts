// Where notes begin on a side: the spectrum grows (after the spectral flux of Bello et al. 2005, with the
// maximum over neighbouring bins of Böck and Widmer 2013 against vibrato).
import { median, quantile } from 'd3-array'
import type { SideSpectra } from './side-spectra'

const LOWEST_HZ = 90
const HIGHEST_HZ = 6000
/** A beginning stands over the middle of what is around it by this factor and at least so much. */
const OVER_MIDDLE = 1.6
const LEAST = 0.12
const AROUND_SECONDS = 0.4
const NEAREST_SECONDS = 0.06

/** Soft notes count like loud ones: levels are logarithmic, over this share of the loud frames. */
const GAIN = 120

/** The strongest bin of a loud frame. */
export const loudness = (frames: readonly Float32Array[]): number =>
  Math.max(
    1e-6,
    quantile(
      frames.map((frame) => frame.subarray(4).reduce((top, value) => Math.max(top, value), 0)),
      0.9,
    ) ?? 0,
  )

/** Growth of each frame over the frame three before. */
function growthCurve({ frames, size, sampleRate }: SideSpectra): Float32Array {
  const [low, high] = [LOWEST_HZ, HIGHEST_HZ].map((hz) => Math.round((hz * size) / sampleRate)) as [
    number,
    number,
  ]
  const curve = new Float32Array(frames.length)
  const top = loudness(frames)
  const level = (value: number): number => Math.log(1 + (GAIN * value) / top)
  for (let t = 3; t < frames.length; t++) {
    const [now, before] = [frames[t]!, frames[t - 3]!]
    let sum = 0
    for (let bin = low; bin < high; bin++) {
      const past = Math.max(before[bin - 1]!, before[bin]!, before[bin + 1]!)
      sum += Math.max(0, level(now[bin]!) - level(past))
    }
    curve[t] = sum / (high - low)
  }
  return curve
}

/** Seconds of the beginnings, from the beginning of the piece. */
export function beginnings(spectra: SideSpectra): number[] {
  const curve = growthCurve(spectra)
  const { framesPerSecond } = spectra
  const around = Math.round(AROUND_SECONDS * framesPerSecond)
  const nearest = Math.round(NEAREST_SECONDS * framesPerSecond)
  const found: number[] = []
  let last = -nearest
  for (let t = 1; t < curve.length - 1; t++) {
    const value = curve[t]!
    if (value < LEAST || value < curve[t - 1]! || value <= curve[t + 1]!) continue
    const near = curve.subarray(Math.max(0, t - nearest), t + nearest + 1)
    if (value < Math.max(...near)) continue
    const middle = median(curve.subarray(Math.max(0, t - around), t + around)) ?? 0
    if (value < OVER_MIDDLE * middle + LEAST || t - last < nearest) continue
    found.push(t / framesPerSecond)
    last = t
  }
  return found
}
