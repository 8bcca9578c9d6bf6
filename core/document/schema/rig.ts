// What a part is played through: what the note depends on, in the teacher's words where nothing is computed
// from it.
import { z } from 'zod'
import { id, shortText, ticks } from './scalars'

export const EFFECT_KINDS = [
  'drive',
  'compressor',
  'filter',
  'octave',
  'delay',
  'modulation',
  'reverb',
  'other',
] as const
export const STRIKES = ['pick', 'fingers', 'thumb', 'pick and fingers'] as const

/** A knob by the clock: 7 is all the way down, 12 in the middle, 17 (five o'clock) all the way up. */
const knobSchema = z.strictObject({
  name: z.string().min(1).max(30),
  clock: z.number().min(7).max(17).multipleOf(0.5),
})
/**
 * Effects in the order the sound passes them. Octave, delay and fixed filter are played; the rest is told.
 */
export const effectSchema = z.strictObject({
  id,
  kind: z.enum(EFFECT_KINDS),
  words: shortText,
  knobs: z.array(knobSchema).max(12),
  /** Of an octave effect: how far the added voice lies from the note. */
  semitones: z.int().min(-24).max(24).optional(),
  /** Of a delay in time: how long after the note the first repeat comes, in written time. */
  delayTicks: ticks.min(1).optional(),
  /** Of a delay: how many repeats are heard. */
  repeats: z.int().min(1).max(12).optional(),
  /** Of a filter that stands still: what lies above it is dull. */
  cutoffHz: z.number().min(100).max(12_000).optional(),
})
export const rigSchema = z.strictObject({
  pickup: shortText,
  gain: shortText,
  strike: z.enum(STRIKES).optional(),
  /** Notes are let to feed back. */
  feedback: z.boolean().optional(),
  effects: z.array(effectSchema).max(12),
})
