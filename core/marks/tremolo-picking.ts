// The note is picked as fast as it goes for its whole length.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const tremoloPicking = defineMark({
  schema: z.strictObject({ kind: z.literal('tremolo picking') }),
  sign: () => 'trem',
  words: () => 'tremolo',
  offered: [{ name: 'tremolo picking', mark: { kind: 'tremolo picking' } }],
})
