// The tremolo arm moves all strings: down and back, down for good, or from below back to pitch.
import { z } from 'zod'
import { defineMark } from './define-mark'

export const arm = defineMark({
  schema: z.strictObject({
    kind: z.literal('arm'),
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
    { name: 'arm dip', mark: { kind: 'arm', semitones: -2, how: 'dip' } },
    { name: 'arm dive', mark: { kind: 'arm', semitones: -5, how: 'dive' } },
  ],
})
