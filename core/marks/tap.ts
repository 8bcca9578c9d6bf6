// A finger of the picking hand strikes the fret.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const tap = defineMark({
  schema: z.strictObject({ kind: z.literal('tap') }),
  sign: () => 'tap',

  offered: [{ name: 'tap', mark: { kind: 'tap' } }],
})
