// The pick drags over muted strings into the note.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const rake = defineMark({
  schema: z.strictObject({ kind: z.literal('rake') }),
  sign: () => 'rake',
  words: () => 'rake',
  offered: [{ name: 'rake', mark: { kind: 'rake' } }],
})
