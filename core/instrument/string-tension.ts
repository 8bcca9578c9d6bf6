// How tight a string is: T = μ (2 L f)² (Mersenne, 1636), μ the mass of a length of it. A plain string is
// solid steel. Of a wound one the core, about two fifths of the whole width, is solid, and the round wire
// wound around it fills π/4 of its ring: 0.82 of solid steel in all.
import { isBass, type InstrumentKind } from './instruments'

const STEEL_KG_PER_M3 = 7850
const MM_PER_INCH = 25.4
const CORE_SHARE = 0.4
const WOUND_SHARE = CORE_SHARE ** 2 + (Math.PI / 4) * (1 - CORE_SHARE ** 2)
/** Thicker than this a string is wound, in inches; every bass string is. */
const THICKEST_PLAIN = 0.0205

/** What of a part decides how tight its strings are. */
interface Strung {
  instrument: { kind: InstrumentKind; scaleLengthMm: number; gauges?: readonly number[] | undefined }
  tuning: { openMidi: readonly number[] }
}

/** Common sets in inches, string 1 first. */
const SETS: Record<InstrumentKind, number[]> = {
  'guitar-6': [0.01, 0.013, 0.017, 0.026, 0.036, 0.046],
  'guitar-7': [0.01, 0.013, 0.017, 0.026, 0.036, 0.046, 0.059],
  'guitar-12': [0.01, 0.014, 0.023, 0.03, 0.039, 0.047],
  'baritone-6': [0.013, 0.018, 0.026, 0.036, 0.046, 0.062],
  'bass-4': [0.045, 0.065, 0.085, 0.105],
  'bass-5': [0.045, 0.065, 0.085, 0.105, 0.13],
  'bass-6': [0.032, 0.045, 0.065, 0.085, 0.105, 0.13],
}
/** The gauges of a part, in inches: its own where they are known, else those of a common set. */
export const gaugesOf = ({ instrument }: Pick<Strung, 'instrument'>): number[] =>
  SETS[instrument.kind].map((usual, index) => instrument.gauges?.[index] ?? usual)

/**
 * Newtons between which a string neither flaps nor pulls more than necks and tuners are usually built for.
 */
const USUAL_NEWTONS = { guitar: { least: 45, most: 120 }, bass: { least: 110, most: 250 } }

export interface StringTension {
  stringNumber: number
  gauge: number
  newtons: number
  /** The range outside of which a caution is given. */
  least: number
  most: number
  caution: string | undefined
}

/** The tension of one string in newtons, from its gauge in inches, its length in mm and its pitch. */
export function tensionNewtons(
  gauge: number,
  scaleLengthMm: number,
  midi: number,
  options: { wound: boolean; referenceHz?: number },
): number {
  const diameter = (gauge * MM_PER_INCH) / 1000
  const share = options.wound ? WOUND_SHARE : 1
  const massPerMeter = STEEL_KG_PER_M3 * share * (Math.PI / 4) * diameter ** 2
  const hz = (options.referenceHz ?? 440) * 2 ** ((midi - 69) / 12)
  return massPerMeter * ((2 * scaleLengthMm * hz) / 1000) ** 2
}

/**
 * Each string of a part: how tight it is as it is tuned and with these gauges, and what speaks against it.
 */
export function stringTensions({ instrument, tuning }: Strung, referenceHz = 440): StringTension[] {
  const bass = isBass(instrument.kind)
  const { least, most } = bass ? USUAL_NEWTONS.bass : USUAL_NEWTONS.guitar
  const gauges = gaugesOf({ instrument })
  return tuning.openMidi.map((midi, index) => {
    const gauge = gauges[index] ?? gauges.at(-1) ?? THICKEST_PLAIN
    const wound = bass || gauge > THICKEST_PLAIN
    const newtons = Math.round(tensionNewtons(gauge, instrument.scaleLengthMm, midi, { wound, referenceHz }))
    return { stringNumber: index + 1, gauge, newtons, least, most, caution: cautionFor(newtons, least, most) }
  })
}

function cautionFor(newtons: number, least: number, most: number): string | undefined {
  if (newtons < least) return 'slack: it flaps and sounds sharp when struck hard; a heavier string holds it'
  if (newtons > most)
    return (
      'tighter than usual: check the maker’s limits, wear eye protection while tuning up, and let a ' +
      'luthier judge the neck; a lighter string eases it'
    )
  return undefined
}
