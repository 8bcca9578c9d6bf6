// Cut short.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const staccato = defineMark({
  schema: z.strictObject({ kind: z.literal('staccato') }),
  sign: () => '·',
  words: () => 'staccato',
  offered: [{ name: 'staccato', mark: { kind: 'staccato' } }],
})
