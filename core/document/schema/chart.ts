// What is charted: grips, strokes, notes, muting, and the figures and patterns they make up.
import { z } from 'zod'
import { markSchema, MOST_MARKS, spanMarkSchema, strokeMarkSchema } from '../../marks'
import { PRESSURES } from '../../marks/palm-mute'
import {
  eventLength,
  feelSchema,
  fret,
  id,
  keySchema,
  longText,
  meterSchema,
  shortText,
  stringNumber,
  ticks,
} from './scalars'

export { markSchema, PRESSURES }

const gripStringSchema = z.strictObject({
  fret: fret.nullable(),
  finger: z.enum(['T', '1', '2', '3', '4']).optional(),
})
/** One entry a string, string 1 first; fret null = muted, 0 = open. */
export const gripSchema = z.strictObject({
  strings: z.array(gripStringSchema).min(4).max(12),
  barre: z.strictObject({ fret, fromString: stringNumber, toString: stringNumber }).optional(),
})
export const noteSchema = z.strictObject({
  id,
  string: stringNumber,
  fret,
  startTicks: ticks,
  lengthTicks: eventLength,
  marks: z.array(markSchema).max(MOST_MARKS),
  pick: z.enum(['down', 'up']).optional(),
  finger: z.enum(['T', '1', '2', '3', '4']).optional(),
})
export const gripSpanSchema = z.strictObject({
  id,
  startTicks: ticks,
  lengthTicks: eventLength,
  grip: gripSchema,
})
export const strokeSchema = z.strictObject({
  id,
  startTicks: ticks,
  lengthTicks: eventLength,
  direction: z.enum(['down', 'up', 'thumb', 'fingers']),
  strings: z.array(stringNumber).max(12).optional(),
  /** A slide is the whole grip's: to this stroke from the one before, in from beside it, or out of it. */
  marks: z.array(strokeMarkSchema).max(MOST_MARKS),
})
export const muteSpanSchema = z.strictObject({
  id,
  startTicks: ticks,
  lengthTicks: eventLength,
  mark: spanMarkSchema,
})
export const contentSchema = z.strictObject({
  grips: z.array(gripSpanSchema).max(2000),
  strokes: z.array(strokeSchema).max(5000),
  notes: z.array(noteSchema).max(10_000),
  mutes: z.array(muteSpanSchema).max(2000),
})
/**
 * Which strings a stroke of a pattern takes, said relative to whatever grip is held: all, the lowest
 * sounding one, the others above it, or given strings.
 */
const patternStringsSchema = z.union([z.enum(['all', 'bass', 'upper']), z.array(stringNumber).min(1).max(12)])
export const patternStrokeSchema = strokeSchema
  .omit({ id: true, strings: true })
  .extend({ on: patternStringsSchema })
export const PICK_SCHOOLS = ['pendulum', 'all down', 'alternate', 'economy'] as const
/** A named movement of the striking hand, tiled over whatever grips a figure holds. */
export const patternSchema = z.strictObject({
  id,
  name: z.string().min(1).max(80),
  lengthTicks: eventLength,
  meter: meterSchema,
  strokes: z.array(patternStrokeSchema).min(1).max(500),
})
/** Where on the neck a line is wanted: on these strings, from and up to these frets, with nothing open. */
export const neckWishSchema = z.strictObject({
  strings: z.array(stringNumber).min(1).max(12).optional(),
  fromFret: fret.optional(),
  toFret: fret.optional(),
  noOpen: z.boolean().optional(),
})
/**
 * A line that follows another figure: 3 = a third above, -3 = a third below, 8 = an octave. `parallel`
 * moves every note by the same semitones.
 */
export const lineDerivationSchema = z.strictObject({
  figureId: id,
  interval: z
    .int()
    .min(-15)
    .max(15)
    .refine((interval) => Math.abs(interval) >= 1),
  kind: z.enum(['diatonic', 'parallel']),
  key: keySchema,
  exceptions: z
    .array(z.strictObject({ startTicks: ticks, semitones: z.int().min(-24).max(24), why: shortText }))
    .max(200),
  where: neckWishSchema.optional(),
})
/** Accents somebody else in the band gives, in ticks of the figure: a line to play with. */
export const FOLLOWED = ['kick', 'voice', 'keys', 'band'] as const
export const accentLineSchema = z.strictObject({
  id,
  of: z.enum(FOLLOWED),
  at: z.array(ticks).max(2000),
})
/** A phrase inside a figure that has a name: "his usual line". */
export const lickSchema = z.strictObject({
  id,
  name: z.string().min(1).max(80),
  startTicks: ticks,
  lengthTicks: eventLength,
})
export const figureSchema = z.strictObject({
  id,
  partId: id,
  name: z.string().min(1).max(80),
  lengthTicks: ticks.min(1),
  meter: meterSchema,
  feel: feelSchema,
  content: contentSchema,
  eased: contentSchema.optional(),
  variationOf: z.strictObject({ figureId: id, replacedBars: z.array(z.int().min(0)).max(500) }).optional(),
  sourceId: id.optional(),
  note: longText.optional(),
  /** Strokes come from the pattern; bars listed here are this figure's own. */
  pattern: z.strictObject({ patternId: id, ownBars: z.array(z.int().min(0)).max(500) }).optional(),
  derivedFrom: lineDerivationSchema.optional(),
  school: z.enum(PICK_SCHOOLS).optional(),
  licks: z.array(lickSchema).max(100).optional(),
  accentLines: z.array(accentLineSchema).max(4).optional(),
  /** No pulse: the order and rough lengths are meant, not counts. */
  freeTime: z.boolean().optional(),
})
