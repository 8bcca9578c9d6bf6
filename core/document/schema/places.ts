// Where things lie in the song: placements of figures, doubts, spots still to be listened to.
import { z } from 'zod'
import { contentSchema } from './chart'
import { fret, id, longText, midi, shortText, signedTicks, stringNumber, ticks } from './scalars'

export const placementSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('figure'),
    id,
    partId: id,
    sectionId: id,
    startTicks: signedTicks,
    figureId: id,
    passes: z.int().min(1).max(99),
    shiftFrets: z.int().min(-24).max(24),
    form: z.enum(['exact', 'eased']),
    /** Passes that play another figure of the same length instead: a different fill the fourth time. */
    passFigures: z
      .array(z.strictObject({ pass: z.int().min(1).max(99), figureId: id }))
      .max(99)
      .optional(),
  }),
  z.strictObject({
    kind: z.literal('rests'),
    id,
    partId: id,
    sectionId: id,
    startTicks: signedTicks,
    lengthTicks: ticks.min(1),
  }),
])
const placeSchema = z.strictObject({
  partId: id.optional(),
  sectionId: id,
  startTicks: signedTicks,
  lengthTicks: ticks.optional(),
})
/** What a reading says of the record, so that it can be measured there. */
export const claimSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('chord'), symbol: z.string().min(1).max(24) }),
  z.strictObject({ kind: z.literal('note'), midi }),
  z.strictObject({ kind: z.literal('attack'), midi, picked: z.boolean() }),
  z.strictObject({ kind: z.literal('bend'), midi, semitones: z.number().min(0).max(4) }),
  z.strictObject({ kind: z.literal('mute'), midi, short: z.boolean() }),
  z.strictObject({ kind: z.literal('passes'), count: z.int().min(1).max(99) }),
  z.strictObject({ kind: z.literal('string'), string: stringNumber, fret }),
  z.strictObject({ kind: z.literal('silence') }),
])
export const doubtSchema = z.strictObject({
  id,
  place: placeSchema,
  question: longText,
  readings: z
    .array(
      z.strictObject({
        id,
        text: shortText,
        sourceId: id.optional(),
        content: contentSchema.optional(),
        claim: claimSchema.optional(),
        evidence: z
          .array(
            z.strictObject({
              measured: shortText,
              value: z.number(),
              unit: shortText,
              /** What it says to this reading. */
              speaks: z.enum(['for', 'against', 'cannot tell']).optional(),
            }),
          )
          .max(50),
      }),
    )
    .max(12),
  status: z.enum(['open', 'settled']),
  decision: id.optional(),
  why: longText.optional(),
  /** Printed as a footnote at its place. */
  onSheet: z.boolean().optional(),
})
/** Words the teacher hears there, everybody stopping, an entry somebody gives, a start before the section. */
export const LANDMARKS = ['cue words', 'stop time', 'cued entry', 'starts before', 'partial return'] as const
export const spotSchema = z.strictObject({
  id,
  place: placeSchema,
  text: longText,
  done: z.boolean(),
  /**
   * Still to be listened to; a remark that stays: advice, why it works, a slip on the record; or a landmark
   * by which a player finds the place.
   */
  kind: z.enum(['to hear', 'remark', 'landmark']).optional(),
  landmark: z.enum(LANDMARKS).optional(),
  /** For whom a remark is; a student's appears on the student's sheet. */
  reader: z.enum(['teacher', 'student']).optional(),
  onSheet: z.boolean().optional(),
})
/** A finding of the check that somebody wants so, with the reason. */
export const excuseSchema = z.strictObject({ id, finding: z.string().min(1).max(2000), why: longText.min(1) })
