// The edge of the thumb touches the string as it is picked: an overtone is squeezed out of it.
import { z } from 'zod'
import { defineMark } from './define-mark'

/** In semitones above the stopped pitch: an octave, a twelfth, two octaves. */
const OVERTONES = z.union([z.literal(12), z.literal(19), z.literal(24)])

export const pinchedHarmonic = defineMark({
  schema: z.strictObject({ kind: z.literal('pinched harmonic'), semitones: OVERTONES }),
  sign: () => 'pinch',
  words: (mark) => `pinch ${mark.semitones}`,
  offered: [{ name: 'pinched harmonic', mark: { kind: 'pinched harmonic', semitones: 12 } }],
})
