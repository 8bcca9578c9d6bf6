// The band: what each player plays on.
import { z } from 'zod'
import { INSTRUMENT_KINDS } from '../../instrument/instruments'
import { rigSchema } from './rig'
import { id, keySchema, midi, shortText, ticks } from './scalars'

export const tuningSchema = z.strictObject({
  name: shortText,
  openMidi: z.array(midi).min(4).max(12),
  shapeOffset: z.int().min(-12).max(12),
})
/** A tuning without its strings: each instrument has its own of that name. */
export const bandTuningSchema = tuningSchema.pick({ shapeOffset: true }).extend({ dropped: z.boolean() })
export const SOUNDS = ['steel', 'clean', 'driven', 'distorted', 'finger bass', 'pick bass'] as const
const derivationSchema = z.strictObject({
  partId: id,
  interval: z.int().min(-8).max(8),
  kind: z.enum(['unison', 'octave', 'diatonic']),
  key: keySchema.optional(),
  exceptions: z
    .array(z.strictObject({ startTicks: ticks, semitones: z.int().min(-24).max(24), why: shortText }))
    .max(200),
})
export const partSchema = z.strictObject({
  id,
  name: z.string().min(1).max(60),
  role: z.enum(['rhythm', 'lead', 'bass', 'acoustic', 'adapted']),
  instrument: z.strictObject({
    kind: z.enum(INSTRUMENT_KINDS),
    fretCount: z.int().min(12).max(36),
    scaleLengthMm: z.number().min(400).max(1000),
    capo: z.int().min(0).max(12),
    gauges: z.array(z.number().min(0.005).max(0.2)).max(12).optional(),
  }),
  tuning: tuningSchema,
  rig: rigSchema.optional(),
  /** Sections in which it is played through something else. */
  sectionRigs: z
    .array(z.strictObject({ sectionId: id, rig: rigSchema }))
    .max(1000)
    .optional(),
  pan: z.number().min(-1).max(1),
  sound: z.enum(SOUNDS),
  derivedFrom: derivationSchema.optional(),
})
