// Rings until its string is struck again.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const letRing = defineMark({
  schema: z.strictObject({ kind: z.literal('let ring') }),
  sign: () => 'ring',
  words: () => 'ring',
})
