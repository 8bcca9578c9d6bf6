// The accents of the kick drum in a stretch: the low end grows at once and over all of it, as a struck skin
// does, while a bass string needs a few hundredths of a second and grows where its note lies.
import type { JobContext } from '../job'
import type { MakeFft } from '../features/spectrum'
import { energyIn, growth, HOP_SECONDS, peaks, type Accent, type Piece } from './accents'
import { sideSpectra } from './side-spectra'

const LOW_HZ = [35, 110] as const
const CLICK_HZ = [1800, 6000] as const
const LOW_WINDOW_SECONDS = 0.046
const CLICK_WINDOW_SECONDS = 0.012
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

/** Accents of the kick in a piece of a recording, in time order. Throws `Cancelled` when the job is. */
export async function kickAccents(piece: Piece, makeFft: MakeFft, job: JobContext): Promise<Accent[]> {
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
  return peaks(both, { apartSeconds: NEAREST_SECONDS, overMiddle: OVER_MIDDLE, strength: LEAST_STRENGTH })
}
