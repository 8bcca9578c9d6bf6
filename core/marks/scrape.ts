// The hand is dragged along wound strings and they rasp: a noise that climbs and falls with the hand, without
// a pitch of its own.
import { z } from 'zod'
import { defineMark, type CurvePoint } from './define-mark'

/** How far the noise climbs between the ends of the neck, semitones. */
const CLIMB = 24
const SIGNS = { up: 'scrape ↗', down: 'scrape ↘', 'there and back': 'scrape ↗↘' } as const

export const scrape = defineMark({
  schema: z.strictObject({ kind: z.literal('scrape'), way: z.enum(['up', 'down', 'there and back']) }),
  sign: ({ way }) => SIGNS[way],
  words: ({ way }) => `scrape ${way === 'there and back' ? 'round' : way}`,
  curve: ({ way }, length): CurvePoint[] => {
    const low = { ticks: 0, semitones: 0 }
    if (way === 'up') return [low, { ticks: length, semitones: CLIMB }]
    if (way === 'down')
      return [
        { ticks: 0, semitones: CLIMB },
        { ticks: length, semitones: 0 },
      ]
    return [low, { ticks: length / 2, semitones: CLIMB }, { ticks: length, semitones: 0 }]
  },
  offered: [
    { name: 'scrape up the strings', mark: { kind: 'scrape', way: 'up' } },
    { name: 'scrape down the strings', mark: { kind: 'scrape', way: 'down' } },
    { name: 'scrape there and back', mark: { kind: 'scrape', way: 'there and back' } },
  ],
})
