// What a mark on a note or a stroke is to the program. Each has a file of its own that says all of it; the
// list of them is in index.ts.
import type { z } from 'zod'

/** The pitch of a note against its fret, at a time after its start. */
export interface CurvePoint {
  ticks: number
  semitones: number
}

export interface MarkDefinition<Schema extends z.ZodType<{ kind: string }> = z.ZodType<{ kind: string }>> {
  schema: Schema
  /** Drawn over the note; undefined where an arc, a line or the head itself says it. */
  sign?: (mark: z.infer<Schema>) => string | undefined
  /** Said in the call line after the fret; undefined where the way to the fret says it. */
  words?: (mark: z.infer<Schema>, fret: number) => string | undefined
  /** How the pitch moves, for a note and a beat of these lengths in ticks. */
  curve?: (mark: z.infer<Schema>, lengthTicks: number, beatTicks: number) => CurvePoint[]
  /** Offered on the bench where it has no key of its own. */
  offered?: { name: string; mark: z.infer<Schema> }[]
}

/** Keeps the types of one mark together. */
export const defineMark = <Schema extends z.ZodType<{ kind: string }>>(
  mark: MarkDefinition<Schema>,
): MarkDefinition<Schema> => mark
