// The tremolo bar moves all strings: down and back, down for good, or from below back to pitch.
import { z } from 'zod'
import { defineMark } from './mark'

export const bar = defineMark({
  schema: z.strictObject({
    kind: z.literal('bar'),
    semitones: z.number().min(-24).max(12),
    how: z.enum(['dip', 'dive', 'return']),
  }),
  sign: (mark) => `${mark.how} ${Math.abs(mark.semitones)}`,
  words: (mark) => `${mark.how} ${Math.abs(mark.semitones)}`,
  curve: ({ how, semitones }, lengthTicks) => [
    { ticks: 0, semitones: how === 'return' ? semitones : 0 },
    ...(how === 'return' ? [] : [{ ticks: lengthTicks / 2, semitones }]),
    { ticks: lengthTicks, semitones: how === 'dive' ? semitones : 0 },
  ],
  offered: [
    { name: 'bar dip', mark: { kind: 'bar', semitones: -2, how: 'dip' } },
    { name: 'bar dive', mark: { kind: 'bar', semitones: -5, how: 'dive' } },
  ],
})
