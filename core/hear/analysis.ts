// What an analysis says: evidence, never a decision. The same JSON for the page, the worker, the server and
// the command line. What is not known is absent. Times as performed; in 6/8 the beat is the dotted quarter;
// an anticipated chord starts where it sounds; a section on its bar line. Names are sounding.
import '../zod-plain'
import { z } from 'zod'

/** Raised when what is heard changes: results kept under an older version are computed again. */
export const ANALYSIS_VERSION = 'listen-7'

const share = z.number().min(0).max(1)
const key = z.object({ tonic: z.string(), mode: z.enum(['major', 'minor']) })
export const analysisSchema = z.object({
  version: z.string(),
  durationSeconds: z.number(),
  beats: z.array(z.number()),
  downbeats: z.array(z.number()),
  /** How likely each of the downbeats is one: a bar that may be counted otherwise shows here. */
  barConfidence: z.array(share).optional(),
  /** 60 / median beat interval. */
  tempo: z.number().optional(),
  /** Ways to count, likeliest first: beats a minute and how likely. */
  tempoRivals: z.array(z.object({ bpm: z.number(), share })).optional(),
  meter: z.object({ beats: z.number(), unit: z.union([z.literal(4), z.literal(8)]) }).optional(),
  /** Where the second half of a beat begins: 0.5 straight, 0.667 triplet swing. */
  swing: z.number().optional(),
  /** Stretches that are no plain beat: free of a pulse, or with one that nobody drums. */
  stretches: z
    .array(z.object({ start: z.number(), end: z.number(), kind: z.enum(['free', 'drumless']) }))
    .optional(),
  key: key.optional(),
  keyConfidence: share.optional(),
  keyRivals: z.array(key.extend({ share })).optional(),
  tuningCents: z.number().optional(),
  tuningConfidence: share.optional(),
  tuningOverTime: z.array(z.object({ seconds: z.number(), cents: z.number() })).optional(),
  /** Strength per cent from −50 to 49. */
  tuningHistogram: z.array(z.number()).optional(),
  tuningMeans: z
    .array(z.object({ name: z.string(), semitones: z.number(), drop: z.number(), share, why: z.string() }))
    .optional(),
  chords: z
    .array(
      z.object({
        start: z.number(),
        end: z.number(),
        label: z.string(),
        confidence: share,
        rivals: z.array(z.object({ label: z.string(), share })),
      }),
    )
    .optional(),
  sections: z
    .array(
      z.object({
        start: z.number(),
        end: z.number(),
        label: z.string(),
        bars: z.number(),
        confidence: share,
        loudness: z.number().optional(),
        key: key.optional(),
        flavour: z.string().optional(),
        swing: z.number().optional(),
        grouping: z.string().optional(),
        /** The root of a section that stands on one, under changing notes. */
        riffOn: z.string().optional(),
        /** A riff that repeats inside: so many bars, so many times; which times differ. */
        pattern: z.object({ bars: z.number(), times: z.number(), differs: z.array(z.number()) }).optional(),
        returns: z
          .object({
            section: z.number(),
            shift: z.number(),
            likeness: share,
            perBar: z.array(z.number()),
            differs: z.array(z.number()),
          })
          .optional(),
      }),
    )
    .optional(),
  /** Per bar, who plays where: a letter each of l, c, r and b (low). Absent for mono. */
  activity: z.array(z.string()).optional(),
  /** Per bar, the note that each side stands on, as a MIDI number; rough: within a fifth. Absent for mono. */
  registers: z.object({ left: z.array(z.number()), right: z.array(z.number()) }).optional(),
  /** Harmony likeness of every pair of bars, 0–99, row by row; for the picture. */
  likeness: z.array(z.array(z.number())).optional(),
  /** Strength of the twelve pitch classes in each bar, 0–99, for the picture. */
  chroma: z.array(z.array(z.number())).optional(),
})
export type Analysis = z.infer<typeof analysisSchema>
export type HeardSection = NonNullable<Analysis['sections']>[number]

/**
 * What a person already knows: conditions to the models, not corrections afterwards. All times in seconds
 * of the recording.
 */
export interface Given {
  /** The beat lies in this range of beats a minute. */
  bpmRange?: [number, number]
  /** Beats a person has laid out or kept: nothing is tracked, only the rest is found. */
  beats?: readonly number[]
  /** Beats that are the one, and beats that are not. */
  ones?: readonly number[]
  /** Counted beats in most bars. */
  beatsPerBar?: number
  notOnes?: readonly number[]
  free?: readonly { start: number; end: number }[]
  sectionStarts?: readonly number[]
  notSectionStarts?: readonly number[]
  /** The sounding key. */
  key?: { tonic: string; mode: 'major' | 'minor' }
}
