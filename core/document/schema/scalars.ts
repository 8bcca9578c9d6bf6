// The small values everything is made of, with their bounds.
import '../../zod-plain'
import { z } from 'zod'
import { MODES } from '../../music/pitch'
import { FARTHEST_TICKS, MOST_COUNTS, MOST_FIGURE_TICKS, SUBDIVISIONS } from '../../time/meter'

/** Names every object has from birth; as ids they would find what nobody put there. */
const INBORN = new Set(Object.getOwnPropertyNames(Object.prototype))
/** An id: up to 40 letters, digits, _ and -, and no name that every object has. */
export const idSchema = z
  .string()
  .min(1)
  .max(40)
  .regex(/^[\w-]+$/)
  .refine((text) => !INBORN.has(text), 'is no id')
export const id = idSchema
export const shortText = z.string().max(200)
export const longText = z.string().max(20_000)
export const ticks = z.int().min(0).max(FARTHEST_TICKS)
export const signedTicks = z.int().min(-FARTHEST_TICKS).max(FARTHEST_TICKS)
/** How long a note, a stroke, a grip lasts: nothing outlasts the longest figure. */
export const eventLength = z.int().min(1).max(MOST_FIGURE_TICKS)
export const seconds = z.number().min(0).max(36_000)
export const midi = z.int().min(0).max(127)
export const stringNumber = z.int().min(1).max(12)
export const fret = z.int().min(0).max(36)

export const keySchema = z.strictObject({
  tonic: z.string().regex(/^[A-G](#{0,2}|b{0,2})$/),
  mode: z.enum(MODES),
})
export const meterSchema = z.strictObject({
  beats: z.int().min(1).max(MOST_COUNTS),
  unit: z.union([z.literal(2), z.literal(4), z.literal(8), z.literal(16)]),
  grouping: z.array(z.int().min(1).max(16)).max(16).optional(),
})
const swingSchema = z.strictObject({
  ratio: z.number().min(0.5).max(0.75),
  level: z.enum(['eighths', 'sixteenths']),
})
export const feelSchema = z.strictObject({ subdivision: z.enum(SUBDIVISIONS), swing: swingSchema })
