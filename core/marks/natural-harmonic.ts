// The string is touched over the fret, not pressed.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const naturalHarmonic = defineMark({
  schema: z.strictObject({ kind: z.literal('natural harmonic') }),
  sign: () => 'harm',
  words: () => 'harmonic',
  offered: [{ name: 'natural harmonic', mark: { kind: 'natural harmonic' } }],
})
