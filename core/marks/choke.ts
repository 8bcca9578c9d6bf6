// Cut off by the hand after it has sounded.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const choke = defineMark({
  schema: z.strictObject({ kind: z.literal('choke') }),
  sign: () => 'choke',
  words: () => 'choke',
  offered: [{ name: 'choke', mark: { kind: 'choke' } }],
})
