// How strongly each note stands in a spectrum: the sum over its harmonics against what lies between them,
// which a true note leaves empty (after the subharmonic summation of Hermes 1988).

const HARMONICS = 6
/** A place between two harmonics that is not empty speaks so much against the note. */
const BETWEEN = 0.5

interface Harmonic {
  bin: number
  between: number
  weight: number
}
/** Bins of the harmonics of a note, and of the places between them. */
export type Harmonics = readonly Harmonic[]

/** The harmonics of `count` notes from a MIDI number up, in a spectrum of frames of `size` samples. */
export function harmonicsOf(
  notes: { lowestMidi: number; count: number; tuningCents: number },
  frame: { size: number; sampleRate: number },
): Harmonics[] {
  const binOf = (hz: number): number => Math.round((hz * frame.size) / frame.sampleRate)
  return Array.from({ length: notes.count }, (_, note) => {
    const hz = 440 * 2 ** ((notes.lowestMidi + note + notes.tuningCents / 100 - 69) / 12)
    return Array.from({ length: HARMONICS }, (_harmonic, h) => ({
      bin: binOf(hz * (h + 1)),
      between: binOf(hz * (h + 0.5)),
      weight: 1 / Math.sqrt(h + 1),
    }))
  })
}

/** The highest bin that is looked at, and those beside it. */
export const binsNeeded = (notes: readonly Harmonics[]): number =>
  Math.max(...notes.flat().map(({ bin }) => bin)) + 2

/** Compressed, so that loud overtones do not drown the rest: `size` is that of the frame. */
export function compressed(magnitudes: Float32Array, size: number): Float32Array {
  const levels = new Float32Array(magnitudes.length)
  const gain = 200 / size
  for (let bin = 0; bin < levels.length; bin++) levels[bin] = Math.log(1 + gain * magnitudes[bin]!)
  return levels
}

/** The level of a bin or the stronger of its neighbours. */
export const near = (levels: Float32Array, bin: number): number =>
  Math.max(levels[bin - 1] ?? 0, levels[bin] ?? 0, levels[bin + 1] ?? 0)

/** Of compressed levels. */
export function harmonicSum(levels: Float32Array, harmonics: Harmonics): number {
  let sum = 0
  for (const { bin, between, weight } of harmonics)
    sum += near(levels, bin) * weight - BETWEEN * (levels[between] ?? 0)
  return sum
}
