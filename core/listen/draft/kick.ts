// The accents of the kick drum in a stretch: the low end grows at once and over all of it, as a struck skin
// does, while a bass string needs a few hundredths of a second and grows where its note lies.
import { median } from 'd3-array'
import type { JobContext } from '../job'
import type { MakeFft } from '../features/spectrum'
import { sideSpectra, type SideSpectra } from './side-spectra'

export interface KickAccent {
  /** Seconds from the beginning of the piece. */
  seconds: number
  /** 0 to 1, against the strongest of the stretch. */
  strength: number
}

const LOW_HZ = [35, 110] as const
const CLICK_HZ = [1800, 6000] as const
const LOW_WINDOW_SECONDS = 0.046
const CLICK_WINDOW_SECONDS = 0.012
const HOP_SECONDS = 0.005
/** A skin is there within this time. */
const RISE_SECONDS = 0.02
/** Low end and click of one stroke lie this near each other. */
const TOGETHER_SECONDS = 0.02
const NEAREST_SECONDS = 0.09
/**
 * An accent stands over the middle of what grows in the stretch by so much, and is so strong beside the
 * others.
 */
const OVER_MIDDLE = 4
const LEAST_STRENGTH = 0.4
const GAIN = 60

function energyIn(
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
function growth(energy: readonly number[], rise: number): number[] {
  const top = Math.max(1e-9, ...energy)
  const level = (value: number): number => Math.log(1 + (GAIN * value) / top)
  return energy.map((value, at) => Math.max(0, level(value) - level(energy[Math.max(0, at - rise)]!)))
}

/** Accents of the kick in a piece of a recording, in time order. Throws `Cancelled` when the job is. */
export async function kickAccents(
  piece: { channels: readonly Float32Array[]; sampleRate: number },
  makeFft: MakeFft,
  job: JobContext,
): Promise<KickAccent[]> {
  const wish = { side: 'centre' as const, hopSeconds: HOP_SECONDS }
  const low = await sideSpectra(piece, { ...wish, windowSeconds: LOW_WINDOW_SECONDS }, makeFft, job)
  const click = await sideSpectra(piece, { ...wish, windowSeconds: CLICK_WINDOW_SECONDS }, makeFft, job)
  const rise = Math.round(RISE_SECONDS / HOP_SECONDS)
  const lowGrowth = growth(energyIn(low, LOW_HZ), rise)
  const clickGrowth = growth(energyIn(click, CLICK_HZ), rise)
  const near = Math.round(TOGETHER_SECONDS / HOP_SECONDS)
  const both = lowGrowth.map((value, at) => {
    const clicks = clickGrowth.slice(Math.max(0, at - near), at + near + 1)
    return value * Math.min(1, Math.max(0, ...clicks))
  })
  return peaks(both)
}

function peaks(curve: readonly number[]): KickAccent[] {
  const middle = median(curve) ?? 0
  const top = Math.max(1e-9, ...curve)
  const apart = Math.round(NEAREST_SECONDS / HOP_SECONDS)
  return curve.flatMap((value, at): KickAccent[] => {
    const strength = value / top
    if (strength < LEAST_STRENGTH || value < middle * OVER_MIDDLE) return []
    const around = curve.slice(Math.max(0, at - apart), at + apart + 1)
    const first = curve.indexOf(value, Math.max(0, at - apart)) === at
    return value >= Math.max(...around) && first ? [{ seconds: at * HOP_SECONDS, strength }] : []
  })
}
