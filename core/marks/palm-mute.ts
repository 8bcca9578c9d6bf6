// The edge of the picking hand rests on the strings at the bridge: drawn as a bar under the notes.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const PRESSURES = ['light', 'medium', 'firm'] as const
export type Pressure = (typeof PRESSURES)[number]

export const palmMute = defineMark({
  schema: z.strictObject({ kind: z.literal('palm mute'), pressure: z.enum(PRESSURES) }),
  words: (mark) => `palm ${mark.pressure}`,
})
