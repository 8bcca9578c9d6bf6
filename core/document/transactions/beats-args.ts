// A whole list of beats as a transaction takes it.
import { z } from 'zod'
import { idSchema, meterSchema } from '../schema'

const flatBeat = z.strictObject({
  seconds: z.number().min(0).max(36_000),
  one: z.boolean(),
  free: z.boolean().optional(),
  meter: meterSchema.optional(),
})

export const beatsArgs = z.strictObject({
  beats: z.array(flatBeat).max(20_000),
  endSeconds: z.number().min(0).max(36_000),
  what: z.string().max(80),
  newSectionId: idSchema,
  /** What is charted is written twice as long, or half as long, so that it sounds as it did. */
  charted: z.enum(['double', 'halve']).optional(),
})
