// The document: one song. These schemas are the only description of its shape; all types are inferred from
// them. Tables are records by id with an order beside them, so a change is a few whole entities and its
// inverse is the entities before.
import { z } from 'zod'
import { feelSchema, id, keySchema, longText, meterSchema, shortText } from './schema/scalars'
import type { barSchema } from './schema/form'
import { sectionSchema, sourceSchema } from './schema/form'
import { bandTuningSchema, partSchema } from './schema/band'
import type {
  accentLineSchema,
  markSchema,
  contentSchema,
  gripSchema,
  gripSpanSchema,
  lineDerivationSchema,
  lickSchema,
  muteSpanSchema,
  neckWishSchema,
  noteSchema,
  patternStrokeSchema,
  PICK_SCHOOLS,
  PRESSURES,
  strokeSchema,
} from './schema/chart'
import { figureSchema, patternSchema } from './schema/chart'
import type { effectSchema, rigSchema } from './schema/rig'
import { type claimSchema, doubtSchema, excuseSchema, placementSchema, spotSchema } from './schema/places'

export * from './schema/scalars'
export * from './schema/form'
export * from './schema/band'
export * from './schema/chart'
export * from './schema/places'
export * from './schema/rig'

export const SCHEMA_VERSION = 8

export const songSchema = z.strictObject({
  schemaVersion: z.literal(SCHEMA_VERSION),
  id,
  title: z.string().min(1).max(200),
  artist: shortText,
  /** The sounding key; names by shape are derived from it and a part's tuning. */
  key: keySchema,
  /** Nobody has said the key yet: what stands there is a place to start from. */
  keyUnknown: z.boolean().optional(),
  referenceHz: z.number().min(390).max(470),
  meter: meterSchema,
  feel: feelSchema,
  /** How the whole band is tuned, as it was heard or said: a part that joins is tuned alike. */
  bandTuning: bandTuningSchema.optional(),
  rights: longText.optional(),
  sources: z.record(id, sourceSchema),
  sourceOrder: z.array(id).max(50),
  sections: z.record(id, sectionSchema),
  sectionOrder: z.array(id).max(1000),
  parts: z.record(id, partSchema),
  partOrder: z.array(id).max(40),
  figures: z.record(id, figureSchema),
  patterns: z.record(id, patternSchema),
  placements: z.record(id, placementSchema),
  doubts: z.record(id, doubtSchema),
  spots: z.record(id, spotSchema),
  excuses: z.record(id, excuseSchema),
})

export type Song = z.infer<typeof songSchema>
export type Source = z.infer<typeof sourceSchema>
export type Section = z.infer<typeof sectionSchema>
export type SectionKind = Section['kind']
export type Bar = z.infer<typeof barSchema>
export type Part = z.infer<typeof partSchema>
export type Figure = z.infer<typeof figureSchema>
export type Pattern = z.infer<typeof patternSchema>
export type PatternStroke = z.infer<typeof patternStrokeSchema>
export type LineDerivation = z.infer<typeof lineDerivationSchema>
export type NeckWish = z.infer<typeof neckWishSchema>
export type Lick = z.infer<typeof lickSchema>
export type AccentLine = z.infer<typeof accentLineSchema>
export type Rig = z.infer<typeof rigSchema>
export type Effect = z.infer<typeof effectSchema>
export type PickSchool = (typeof PICK_SCHOOLS)[number]
export type Content = z.infer<typeof contentSchema>
export type Grip = z.infer<typeof gripSchema>
export type GripSpan = z.infer<typeof gripSpanSchema>
export type Stroke = z.infer<typeof strokeSchema>
export type Note = z.infer<typeof noteSchema>
export type MuteSpan = z.infer<typeof muteSpanSchema>
export type Mark = z.infer<typeof markSchema>
export type Placement = z.infer<typeof placementSchema>
export type Pressure = (typeof PRESSURES)[number]
export type Feel = z.infer<typeof feelSchema>
export type Doubt = z.infer<typeof doubtSchema>
export type DoubtReading = Doubt['readings'][number]
export type Claim = z.infer<typeof claimSchema>
export type Place = Doubt['place']
export type Spot = z.infer<typeof spotSchema>
export type Excuse = z.infer<typeof excuseSchema>

export const EMPTY_CONTENT: Content = { grips: [], strokes: [], notes: [], mutes: [] }
