// A click without pitch: its head is a cross, and it is said instead of a fret.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const dead = defineMark({
  schema: z.strictObject({ kind: z.literal('dead') }),
})
