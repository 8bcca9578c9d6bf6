// The fretting finger plucks as it leaves: said and drawn on the way to the fret.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const pullOff = defineMark({
  schema: z.strictObject({ kind: z.literal('pull-off') }),
  sign: () => 'p',
})
