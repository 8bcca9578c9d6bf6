// Struck harder: a wedge in a row of its own over notes and strokes.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const accent = defineMark({
  schema: z.strictObject({ kind: z.literal('accent') }),
  words: () => 'accent',
})
