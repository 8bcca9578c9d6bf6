// Sources with their beat grids, and the sections and bars of the form.
import { z } from 'zod'
import { MOST_BAR_BEATS } from '../../time/beat-grid'
import { feelSchema, id, keySchema, meterSchema, seconds, shortText, signedTicks, ticks } from './scalars'

const gridSchema = z.strictObject({
  bars: z.array(z.strictObject({ beatSeconds: z.array(seconds).min(1).max(MOST_BAR_BEATS) })).max(5000),
  endSeconds: seconds,
})
export const sourceSchema = z.strictObject({
  id,
  kind: z.enum(['recording', 'live take', 'written chart', 'own ear']),
  name: shortText,
  rank: z.int().min(1).max(99),
  offsetSemitones: z.int().min(-12).max(12),
  offsetCents: z.number().min(-100).max(100),
  offsetSeconds: z.number().min(-3600).max(3600),
  audioHash: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .optional(),
  durationSeconds: seconds.optional(),
  grid: gridSchema.optional(),
  /** Of a written chart: its chords, as they were typed. */
  text: z.string().max(20_000).optional(),
})

export const barSchema = z.strictObject({ meter: meterSchema, free: z.boolean().optional() })
export const SECTION_KINDS = [
  'intro',
  'verse',
  'pre-chorus',
  'chorus',
  'interlude',
  'bridge',
  'solo',
  'breakdown',
  'stop',
  'drum break',
  'outro',
  'tag',
  'other',
] as const
const returnsSchema = z.strictObject({
  sectionId: id,
  firstBar: z.int().min(0).optional(),
  barCount: z.int().min(1).optional(),
  shiftSemitones: z.int().min(-12).max(12),
  withDifferences: z.boolean(),
  note: shortText.optional(),
})
const harmonySchema = z.strictObject({
  startTicks: signedTicks,
  lengthTicks: ticks.min(1),
  symbol: z.string().min(1).max(24),
  confidence: z.number().min(0).max(1).optional(),
})
export const sectionSchema = z.strictObject({
  id,
  kind: z.enum(SECTION_KINDS),
  /** What a person calls its kind, when none of the usual words says it. */
  ownKind: z.string().min(1).max(40).optional(),
  name: z.string().min(1).max(80),
  bars: z.array(barSchema).min(1).max(2000),
  key: keySchema.optional(),
  feel: feelSchema.optional(),
  passes: z.int().min(1).max(99),
  pickupTicks: ticks,
  returns: returnsSchema.optional(),
  harmony: z.array(harmonySchema).max(2000),
})
