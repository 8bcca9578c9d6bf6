// The string is shaken.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const vibrato = defineMark({
  schema: z.strictObject({ kind: z.literal('vibrato'), width: z.enum(['narrow', 'wide']) }),
  sign: (mark) => (mark.width === 'wide' ? 'wide vib' : 'vib'),
  words: (mark) => (mark.width === 'wide' ? 'wide vibrato' : 'vibrato'),
  offered: [{ name: 'wide vibrato', mark: { kind: 'vibrato', width: 'wide' } }],
})
