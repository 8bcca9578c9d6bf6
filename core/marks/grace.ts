// A quick note before this one on the same string, some frets below (negative) or above: said before the
// fret.
import { z } from 'zod'
import { defineMark } from './define-mark'

const frets = z
  .int()
  .min(-7)
  .max(7)
  .refine((value) => value !== 0)

export const grace = defineMark({
  schema: z.strictObject({ kind: z.literal('grace'), frets }),
  sign: (mark) => `grace ${mark.frets > 0 ? '+' : '−'}${Math.abs(mark.frets)}`,
  offered: [{ name: 'grace note', mark: { kind: 'grace', frets: -2 } }],
})
