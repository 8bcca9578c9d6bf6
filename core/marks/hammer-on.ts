// The fretting finger strikes the string: said and drawn on the way to the fret.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const hammerOn = defineMark({
  schema: z.strictObject({ kind: z.literal('hammer-on') }),
  sign: () => 'h',
})
