// The string is pushed aside: how far in semitones, and when it goes up and comes down.
import { z } from 'zod'
import { defineMark } from './define-mark'

const SHAPES = ['plain', 'pre-bend', 'release', 'bend and hold', 're-bend', 'bend and release'] as const
type Shape = (typeof SHAPES)[number]

const SIGNS: Record<Shape, (semitones: number) => string> = {
  plain: (semitones) => `bend ${semitones}`,
  'pre-bend': (semitones) => `pre-bend ${semitones}`,
  release: () => 'release',
  'bend and hold': (semitones) => `bend ${semitones}, hold`,
  're-bend': (semitones) => `bend ${semitones} twice`,
  'bend and release': (semitones) => `bend ${semitones}, back`,
}
const WORDS: Record<Shape, (semitones: number) => string> = {
  plain: (semitones) => `bend ${semitones}`,
  'pre-bend': (semitones) => `pre-bend ${semitones}`,
  release: (semitones) => `releasing ${semitones}`,
  'bend and hold': (semitones) => `bend ${semitones} and hold`,
  're-bend': (semitones) => `re-bend ${semitones}`,
  'bend and release': (semitones) => `bend ${semitones} and release`,
}

/** Places (ticks, share of the full bend) by shape; `rise` is the time a plain bend takes to arrive. */
const COURSES: Record<Shape, (rise: number, length: number) => [number, number][]> = {
  plain: (rise) => [
    [0, 0],
    [rise, 1],
  ],
  'bend and hold': (rise) => [
    [0, 0],
    [rise, 1],
  ],
  'pre-bend': () => [[0, 1]],
  release: (rise) => [
    [0, 1],
    [rise * 0.4, 1],
    [rise * 1.4, 0],
  ],
  'bend and release': (_rise, length) => [
    [0, 0],
    [length * 0.3, 1],
    [length * 0.6, 1],
    [length * 0.85, 0],
  ],
  're-bend': (_rise, length) => [
    [0, 0],
    [length * 0.25, 1],
    [length * 0.5, 0],
    [length * 0.75, 1],
  ],
}

export const bend = defineMark({
  schema: z.strictObject({
    kind: z.literal('bend'),
    semitones: z.number().min(0.25).max(5),
    shape: z.enum(SHAPES),
  }),
  sign: (mark) => SIGNS[mark.shape](mark.semitones),
  words: (mark) => WORDS[mark.shape](mark.semitones),
  // A plain bend takes at most half a beat to arrive.
  curve: (mark, lengthTicks, beatTicks) =>
    COURSES[mark.shape](Math.min(lengthTicks * 0.5, beatTicks / 2), lengthTicks).map(([ticks, share]) => ({
      ticks,
      semitones: share * mark.semitones,
    })),
  offered: [
    { name: 'pre-bend', mark: { kind: 'bend', semitones: 2, shape: 'pre-bend' } },
    { name: 'bend and release', mark: { kind: 'bend', semitones: 2, shape: 'bend and release' } },
    { name: 'bend and hold', mark: { kind: 'bend', semitones: 2, shape: 'bend and hold' } },
    { name: 're-bend', mark: { kind: 'bend', semitones: 2, shape: 're-bend' } },
  ],
})
