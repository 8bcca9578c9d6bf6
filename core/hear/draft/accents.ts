// Accents of somebody in a stretch: moments at which a band of frequencies on one side grows at once. The
// kick has its own reading (kick.ts) on the same measures.
import { max, median } from 'd3-array'
import type { JobContext } from '../job'
import type { MakeFft } from '../features/spectrum'
import { sideSpectra, type DraftSide, type SideSpectra } from './side-spectra'

export interface Accent {
  /** Seconds from the beginning of the piece. */
  seconds: number
  /** 0 to 1, against the strongest of the stretch. */
  strength: number
}
export interface Piece {
  channels: readonly Float32Array[]
  sampleRate: number
}

export const HOP_SECONDS = 0.005
const GAIN = 60
const WINDOW_SECONDS = 0.046
/** A voice or a key is there within this time. */
const RISE_SECONDS = 0.035
const NEAREST_SECONDS = 0.12
/** Where voices and keys have most of what is theirs: over the bass, under the cymbals. */
const SUNG_HZ = [220, 3200] as const

/** The size of a band, frame by frame. */
export function energyIn(
  { frames, size, sampleRate }: SideSpectra,
  [low, high]: readonly [number, number],
): number[] {
  const from = Math.max(1, Math.round((low * size) / sampleRate))
  const to = Math.max(from + 1, Math.round((high * size) / sampleRate))
  return frames.map((frame) => {
    let sum = 0
    for (let bin = from; bin <= to; bin++) sum += frame[bin]! ** 2
    return Math.sqrt(sum)
  })
}
/** How much each frame is louder than a rise before, on a scale on which soft strokes count too. */
export function growth(energy: readonly number[], rise: number): number[] {
  const top = max(energy) || 1e-9
  const level = (value: number): number => Math.log(1 + (GAIN * value) / top)
  return energy.map((value, at) => Math.max(0, level(value) - level(energy[Math.max(0, at - rise)]!)))
}

/** The strongest moments of a curve, so far apart, standing so far over its middle. */
export function peaks(
  curve: readonly number[],
  least: { apartSeconds: number; overMiddle: number; strength: number },
): Accent[] {
  const middle = median(curve) ?? 0
  const top = max(curve) || 1e-9
  const apart = Math.round(least.apartSeconds / HOP_SECONDS)
  return curve.flatMap((value, at): Accent[] => {
    const strength = value / top
    if (strength < least.strength || value < middle * least.overMiddle) return []
    const around = curve.slice(Math.max(0, at - apart), at + apart + 1)
    const first = curve.indexOf(value, Math.max(0, at - apart)) === at
    return value >= Math.max(...around) && first ? [{ seconds: at * HOP_SECONDS, strength }] : []
  })
}

/** Each partial grows by itself: what begins on a note that is held is heard too. */
function partialGrowth({ frames, size, sampleRate }: SideSpectra): number[] {
  const rise = Math.round(RISE_SECONDS / HOP_SECONDS)
  const from = Math.max(1, Math.round((SUNG_HZ[0] * size) / sampleRate))
  const to = Math.round((SUNG_HZ[1] * size) / sampleRate)
  const top = max(frames, (frame) => max(frame.subarray(from, to + 1))) || 1e-9
  const levels = frames.map((frame) =>
    frame.subarray(from, to + 1).map((value) => Math.log1p((GAIN * value) / top)),
  )
  return levels.map((level, at) => {
    const before = levels[Math.max(0, at - rise)]!
    return level.reduce((sum, value, bin) => sum + Math.max(0, value - before[bin]!), 0)
  })
}

/**
 * Accents of who stands on a side, voice or keys, in time order (spectral flux as in Bello et al. 2005, on
 * that side alone). Throws `Cancelled` when the job is.
 */
export async function sideAccents(
  piece: Piece,
  side: DraftSide,
  makeFft: MakeFft,
  job: JobContext,
): Promise<Accent[]> {
  const wish = { side, windowSeconds: WINDOW_SECONDS, hopSeconds: HOP_SECONDS }
  const spectra = await sideSpectra(piece, wish, makeFft, job)
  return peaks(partialGrowth(spectra), { apartSeconds: NEAREST_SECONDS, overMiddle: 2.5, strength: 0.3 })
}
