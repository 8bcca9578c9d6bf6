// The document: one song. These schemas are the only description of its shape; all types are inferred from them.
// Tables are records by id with an order beside them, so a change is a few whole entities and its inverse is the entities before.
import { z } from 'zod'
import { MODES } from '../music/pitch'
import { INSTRUMENT_KINDS } from '../instrument/instruments'
import { SUBDIVISIONS } from '../time/meter'

export const SCHEMA_VERSION = 2

const id = z.string().min(1).max(40).regex(/^[\w-]+$/)
const shortText = z.string().max(200)
const longText = z.string().max(20_000)
const ticks = z.int().min(0).max(2 ** 40)
const signedTicks = z.int().min(-(2 ** 40)).max(2 ** 40)
const seconds = z.number().min(0).max(36_000)
const midi = z.int().min(0).max(127)
const stringNumber = z.int().min(1).max(12)
const fret = z.int().min(0).max(36)

export const keySchema = z.strictObject({ tonic: z.string().regex(/^[A-G](#{0,2}|b{0,2})$/), mode: z.enum(MODES) })
export const meterSchema = z.strictObject({
  beats: z.int().min(1).max(32), unit: z.union([z.literal(2), z.literal(4), z.literal(8), z.literal(16)]), grouping: z.array(z.int().min(1).max(16)).max(16).optional(),
})
export const swingSchema = z.strictObject({ ratio: z.number().min(0.5).max(0.75), level: z.enum(['eighths', 'sixteenths']) })
export const feelSchema = z.strictObject({ subdivision: z.enum(SUBDIVISIONS), swing: swingSchema })

// Time and sources
export const gridSchema = z.strictObject({ bars: z.array(z.strictObject({ beatSeconds: z.array(seconds).min(1).max(64) })).max(5000), endSeconds: seconds })
export const sourceSchema = z.strictObject({
  id, kind: z.enum(['recording', 'live take', 'written chart', 'own ear']), name: shortText, rank: z.int().min(1).max(99),
  offsetSemitones: z.int().min(-12).max(12), offsetCents: z.number().min(-100).max(100), offsetSeconds: z.number().min(-3600).max(3600),
  audioHash: z.string().regex(/^[0-9a-f]{64}$/).optional(), durationSeconds: seconds.optional(), grid: gridSchema.optional(),
})

// Form
export const barSchema = z.strictObject({ meter: meterSchema, free: z.boolean().optional() })
export const SECTION_KINDS = ['intro', 'verse', 'pre-chorus', 'chorus', 'interlude', 'bridge', 'solo', 'breakdown', 'stop', 'drum break', 'outro', 'tag', 'other'] as const
export const returnsSchema = z.strictObject({
  sectionId: id, firstBar: z.int().min(0).optional(), barCount: z.int().min(1).optional(), shiftSemitones: z.int().min(-12).max(12), withDifferences: z.boolean(), note: shortText.optional(),
})
export const harmonySchema = z.strictObject({ startTicks: signedTicks, lengthTicks: ticks.min(1), symbol: z.string().min(1).max(24), confidence: z.number().min(0).max(1).optional() })
export const sectionSchema = z.strictObject({
  id, kind: z.enum(SECTION_KINDS), name: z.string().min(1).max(80), bars: z.array(barSchema).min(1).max(2000), key: keySchema.optional(), feel: feelSchema.optional(),
  passes: z.int().min(1).max(99), pickupTicks: ticks, returns: returnsSchema.optional(), harmony: z.array(harmonySchema).max(2000),
})

// Band
export const tuningSchema = z.strictObject({ name: shortText, openMidi: z.array(midi).min(4).max(12), shapeOffset: z.int().min(-12).max(12) })
export const SOUNDS = ['steel', 'clean', 'driven', 'distorted', 'finger bass', 'pick bass'] as const
export const derivationSchema = z.strictObject({
  partId: id, interval: z.int().min(-8).max(8), kind: z.enum(['unison', 'octave', 'diatonic']), key: keySchema.optional(),
  exceptions: z.array(z.strictObject({ startTicks: ticks, semitones: z.int().min(-24).max(24), why: shortText })).max(200),
})
export const partSchema = z.strictObject({
  id, name: z.string().min(1).max(60), role: z.enum(['rhythm', 'lead', 'bass', 'acoustic', 'adapted']),
  instrument: z.strictObject({ kind: z.enum(INSTRUMENT_KINDS), fretCount: z.int().min(12).max(36), scaleLengthMm: z.number().min(400).max(1000), capo: z.int().min(0).max(12), gauges: z.array(z.number().min(0.005).max(0.2)).max(12).optional() }),
  tuning: tuningSchema,
  tone: z.strictObject({ pickup: shortText, drive: shortText, delayBeats: z.number().min(0).max(8).optional(), filter: shortText, octaveEffect: z.int().min(-24).max(24).optional() }).optional(),
  pan: z.number().min(-1).max(1), sound: z.enum(SOUNDS), derivedFrom: derivationSchema.optional(),
})

// Chart
export const PRESSURES = ['light', 'medium', 'firm'] as const
export const gripStringSchema = z.strictObject({ fret: fret.nullable(), finger: z.enum(['T', '1', '2', '3', '4']).optional() })
/** One entry a string, string 1 first; fret null = muted, 0 = open. */
export const gripSchema = z.strictObject({ strings: z.array(gripStringSchema).min(4).max(12), barre: z.strictObject({ fret, fromString: stringNumber, toString: stringNumber }).optional() })
export const articulationSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.enum(['hammer-on', 'pull-off', 'tap', 'natural harmonic', 'tremolo picking', 'rake', 'ghost', 'staccato', 'let ring', 'dead', 'choke']) }),
  // The squeezed overtone, in semitones above the stopped pitch: an octave, a twelfth, two octaves.
  z.strictObject({ kind: z.literal('pinched harmonic'), semitones: z.union([z.literal(12), z.literal(19), z.literal(24)]) }),
  // Against the note this many frets above it.
  z.strictObject({ kind: z.literal('trill'), frets: z.int().min(1).max(7) }),
  // A quick note before this one, on the same string, this many frets below (negative) or above.
  z.strictObject({ kind: z.literal('grace'), frets: z.int().min(-7).max(7).refine((frets) => frets !== 0) }),
  z.strictObject({ kind: z.literal('slide'), how: z.enum(['legato', 'shift', 'in from below', 'in from above', 'out']), frets: z.int().min(1).max(12).optional() }),
  z.strictObject({ kind: z.literal('bend'), semitones: z.number().min(0.25).max(5), shape: z.enum(['plain', 'pre-bend', 'release', 'bend and hold', 're-bend', 'bend and release']) }),
  z.strictObject({ kind: z.literal('vibrato'), width: z.enum(['narrow', 'wide']) }),
  z.strictObject({ kind: z.literal('bar'), semitones: z.number().min(-24).max(12), how: z.enum(['dip', 'dive', 'return']) }),
  z.strictObject({ kind: z.literal('palm mute'), pressure: z.enum(PRESSURES) }),
])
export const noteSchema = z.strictObject({
  id, string: stringNumber, fret, startTicks: ticks, lengthTicks: ticks.min(1), articulations: z.array(articulationSchema).max(8),
  accent: z.boolean().optional(), pick: z.enum(['down', 'up']).optional(), finger: z.enum(['T', '1', '2', '3', '4']).optional(),
})
export const gripSpanSchema = z.strictObject({ id, startTicks: ticks, lengthTicks: ticks.min(1), grip: gripSchema })
export const strokeSchema = z.strictObject({
  id, startTicks: ticks, lengthTicks: ticks.min(1), direction: z.enum(['down', 'up', 'thumb', 'fingers']), strings: z.array(stringNumber).max(12).optional(),
  accent: z.boolean(), dead: z.boolean(), choke: z.boolean(), staccato: z.boolean().optional(), palmMute: z.enum(PRESSURES).optional(),
})
export const muteSpanSchema = z.strictObject({ id, startTicks: ticks, lengthTicks: ticks.min(1), kind: z.enum(['palm mute', 'let ring']), pressure: z.enum(PRESSURES).optional() })
export const contentSchema = z.strictObject({ grips: z.array(gripSpanSchema).max(2000), strokes: z.array(strokeSchema).max(5000), notes: z.array(noteSchema).max(10_000), mutes: z.array(muteSpanSchema).max(2000) })
/** Which strings a stroke of a pattern takes, said relative to whatever grip is held: all, the lowest sounding one, the others above it, or given strings. */
export const patternStringsSchema = z.union([z.enum(['all', 'bass', 'upper']), z.array(stringNumber).min(1).max(12)])
export const patternStrokeSchema = strokeSchema.omit({ id: true, strings: true }).extend({ on: patternStringsSchema })
export const PICK_SCHOOLS = ['pendulum', 'all down', 'alternate', 'economy'] as const
/** A named movement of the striking hand, tiled over whatever grips a figure holds. */
export const patternSchema = z.strictObject({ id, name: z.string().min(1).max(80), lengthTicks: ticks.min(1), meter: meterSchema, strokes: z.array(patternStrokeSchema).min(1).max(500) })
/** A line that follows another figure: 3 = a third above, -3 = a third below, 8 = an octave. `parallel` moves every note by the same semitones. */
export const lineDerivationSchema = z.strictObject({
  figureId: id, interval: z.int().min(-15).max(15).refine((interval) => Math.abs(interval) >= 1), kind: z.enum(['diatonic', 'parallel']), key: keySchema,
  exceptions: z.array(z.strictObject({ startTicks: ticks, semitones: z.int().min(-24).max(24), why: shortText })).max(200),
})
export const figureSchema = z.strictObject({
  id, partId: id, name: z.string().min(1).max(80), lengthTicks: ticks.min(1), meter: meterSchema, feel: feelSchema, content: contentSchema, eased: contentSchema.optional(),
  variationOf: z.strictObject({ figureId: id, replacedBars: z.array(z.int().min(0)).max(500) }).optional(), sourceId: id.optional(), note: longText.optional(),
  /** Strokes come from the pattern; bars listed here are this figure's own. */
  pattern: z.strictObject({ patternId: id, ownBars: z.array(z.int().min(0)).max(500) }).optional(),
  derivedFrom: lineDerivationSchema.optional(), school: z.enum(PICK_SCHOOLS).optional(),
  /** No pulse: the order and rough lengths are meant, not counts. */
  freeTime: z.boolean().optional(),
})
export const placementSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('figure'), id, partId: id, sectionId: id, startTicks: signedTicks, figureId: id, passes: z.int().min(1).max(99), shiftFrets: z.int().min(-24).max(24), form: z.enum(['exact', 'eased']),
    /** Passes that play another figure of the same length instead: a different fill the fourth time. */
    passFigures: z.array(z.strictObject({ pass: z.int().min(1).max(99), figureId: id })).max(99).optional() }),
  z.strictObject({ kind: z.literal('rests'), id, partId: id, sectionId: id, startTicks: signedTicks, lengthTicks: ticks.min(1) }),
])
const place = z.strictObject({ partId: id.optional(), sectionId: id, startTicks: signedTicks, lengthTicks: ticks.optional() })
export const doubtSchema = z.strictObject({
  id, place, question: longText, readings: z.array(z.strictObject({ id, text: shortText, sourceId: id.optional(), content: contentSchema.optional(), evidence: z.array(z.strictObject({ measured: shortText, value: z.number(), unit: shortText })).max(50) })).max(12),
  status: z.enum(['open', 'settled']), decision: id.optional(), why: longText.optional(),
})
export const spotSchema = z.strictObject({ id, place, text: longText, done: z.boolean() })

export const songSchema = z.strictObject({
  schemaVersion: z.literal(SCHEMA_VERSION), id, title: z.string().min(1).max(200), artist: shortText,
  /** The sounding key; names by shape are derived from it and a part's tuning. */
  key: keySchema, referenceHz: z.number().min(390).max(470), meter: meterSchema, feel: feelSchema, rights: longText.optional(),
  sources: z.record(id, sourceSchema), sourceOrder: z.array(id).max(50),
  sections: z.record(id, sectionSchema), sectionOrder: z.array(id).max(1000),
  parts: z.record(id, partSchema), partOrder: z.array(id).max(40),
  figures: z.record(id, figureSchema), patterns: z.record(id, patternSchema), placements: z.record(id, placementSchema), doubts: z.record(id, doubtSchema), spots: z.record(id, spotSchema),
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
export type PickSchool = (typeof PICK_SCHOOLS)[number]
export type Content = z.infer<typeof contentSchema>
export type Grip = z.infer<typeof gripSchema>
export type GripSpan = z.infer<typeof gripSpanSchema>
export type Stroke = z.infer<typeof strokeSchema>
export type Note = z.infer<typeof noteSchema>
export type MuteSpan = z.infer<typeof muteSpanSchema>
export type Articulation = z.infer<typeof articulationSchema>
export type Placement = z.infer<typeof placementSchema>
export type Pressure = (typeof PRESSURES)[number]
export type Feel = z.infer<typeof feelSchema>
export type Doubt = z.infer<typeof doubtSchema>
export type Spot = z.infer<typeof spotSchema>

export const EMPTY_CONTENT: Content = { grips: [], strokes: [], notes: [], mutes: [] }
