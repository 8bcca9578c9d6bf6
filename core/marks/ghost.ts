// Hardly played: its head is drawn in brackets.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const ghost = defineMark({
  schema: z.strictObject({ kind: z.literal('ghost') }),

  words: () => 'ghost',
  offered: [{ name: 'ghost note', mark: { kind: 'ghost' } }],
})
