// What the chord network sees of a stretch of sound: strength per pitch class in three registers, turned so
// that the root in question is first.

/**
 * 36 strengths scaled to the strongest of each register, and how the registers compare; 39 values,
 * compressed.
 */
export function scaledChroma(chroma: Float32Array): Float64Array {
  const out = new Float64Array(39)
  let total = 1e-6
  for (const value of chroma) total = Math.max(total, value)
  for (let register = 0; register < 3; register++) {
    let top = 1e-6
    for (let k = 0; k < 12; k++) top = Math.max(top, chroma[register * 12 + k]!)
    for (let k = 0; k < 12; k++) out[register * 12 + k] = Math.sqrt(chroma[register * 12 + k]! / top)
    out[36 + register] = Math.sqrt(top / total)
  }
  return out
}
const CHORD_INPUTS = 39
/** The same with the root's pitch class first in each register. */
export function turned(scaled: Float64Array, root: number): Float64Array {
  const out = new Float64Array(CHORD_INPUTS)
  for (let register = 0; register < 3; register++)
    for (let k = 0; k < 12; k++) out[register * 12 + k] = scaled[register * 12 + ((root + k) % 12)]!
  for (let k = 36; k < CHORD_INPUTS; k++) out[k] = scaled[k]!
  return out
}
