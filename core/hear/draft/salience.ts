// How strongly each note stands in a spectrum, and which notes together explain it: the strongest is taken,
// its harmonics are taken away, and so on (after Klapuri 2006).
import type { SideSpectra } from './side-spectra'

const HARMONICS = 12
/** Between harmonics a true note leaves the spectrum empty. */
const BETWEEN = 0.45
/** What is left of a harmonic that is explained. */
const LEFT = 0.6

export interface Range {
  low: number
  high: number
  tuningCents: number
}

/** The weight of a harmonic; and of all together: a higher note has fewer in reach. */
const weightOf = (h: number): number => 1 / (1 + 0.35 * (h - 1))
const FULL = Array.from({ length: HARMONICS }, (_, h) => weightOf(h + 1)).reduce(
  (sum, weight) => sum + weight,
  0,
)

export interface Comb {
  midi: number
  bins: number[]
  between: number[]
  weights: number[]
}

/** The places of the harmonics of each note, in bins, not rounded. */
export function combs(
  { low, high, tuningCents }: Range,
  spectra: Pick<SideSpectra, 'size' | 'sampleRate'>,
): Comb[] {
  const { size, sampleRate } = spectra
  return Array.from({ length: high - low + 1 }, (_, index): Comb => {
    const midi = low + index
    const hertz = 440 * 2 ** ((midi - 69 + tuningCents / 100) / 12)
    const count = Math.max(3, Math.min(HARMONICS, Math.floor(5000 / hertz)))
    const numbers = Array.from({ length: count }, (_h, h) => h + 1)
    const bin = (hz: number): number => (hz * size) / sampleRate
    return {
      midi,
      bins: numbers.map((h) => bin(hertz * h)),
      between: numbers.map((h) => bin(hertz * (h - 0.5))),
      weights: numbers.map(weightOf),
    }
  })
}

/** The level between bins, and never less than at the nearer one: a peak is wider than a bin. */
export function levelAt(levels: Float32Array, place: number): number {
  const bin = Math.round(place)
  return Math.max(levels[bin] ?? 0, levels[Math.floor(place)] ?? 0, levels[Math.ceil(place)] ?? 0)
}

export function salienceOf(levels: Float32Array, { bins, between, weights }: Comb): number {
  let sum = 0
  for (let h = 0; h < bins.length; h++)
    sum += weights[h]! * (levelAt(levels, bins[h]!) - BETWEEN * (levels[Math.round(between[h]!)] ?? 0))
  // The ground tone itself must be there at least faintly.
  return (sum / FULL) * (0.6 + 0.4 * Math.min(1, levelAt(levels, bins[0]!) / 0.3))
}

/** Levels of a spectrum: logarithmic, its strongest bin 1. */
export function levelsOf(magnitudes: Float32Array, top: number): Float32Array {
  const levels = new Float32Array(magnitudes.length)
  for (let bin = 0; bin < levels.length; bin++)
    levels[bin] = Math.log(1 + (60 * magnitudes[bin]!) / (top + 1e-9)) / Math.log(61)
  return levels
}

export interface Sounding {
  midi: number
  salience: number
}

function takeAway(levels: Float32Array, { bins }: Comb): void {
  for (const place of bins) {
    const bin = Math.round(place)
    for (let near = Math.max(0, bin - 2); near <= bin + 2; near++) levels[near]! *= LEFT
  }
}

/** The notes that explain a spectrum, strongest first; at most so many. */
export function soundingIn(
  levels: Float32Array,
  all: readonly Comb[],
  most: number,
  least: number,
): Sounding[] {
  const rest = levels.slice()
  const found: Sounding[] = []
  while (found.length < most) {
    let best: Comb | undefined
    let top = 0
    for (const comb of all) {
      const own = salienceOf(rest, comb)
      if (own > top) {
        top = own
        best = comb
      }
    }
    if (!best || top < least * (found[0]?.salience ?? 0) || top < 0.08) break
    if (!found.some(({ midi }) => midi === best.midi)) found.push({ midi: best.midi, salience: top })
    else break
    takeAway(rest, best)
  }
  return found
}
