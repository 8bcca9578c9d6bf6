import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { BAR, note, RIFF, run, twoVerses } from '../../tests/support/two-verses'
import { EMPTY_CONTENT, type Content } from '../document/schema'
import { HANDS, USUAL_HAND } from '../neck/hand'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { demandsOf, type Demands } from './demands'
import { REASONS, difficultyOf } from './difficulty'

const part = twoVerses().parts.g!
const FIGURE = { lengthTicks: 2 * BAR, meter: { beats: 4, unit: 4 } } as const
/** At 120 a minute. */
const asked = (content: Content, secondsPerTick = 0.5 / Q): Demands =>
  demandsOf(content, FIGURE, part, secondsPerTick)
const withNotes = (notes: Content['notes']): Content => ({ ...EMPTY_CONTENT, notes })

const demands = fc.record<Demands>({
  stretchMm: fc.double({ min: 0, max: 200, noNaN: true }),
  stretchFrets: fc.constant(undefined),
  shiftPerSecond: fc.double({ min: 0, max: 30, noNaN: true }),
  widestShift: fc.integer({ min: 0, max: 20 }),
  pace: fc.double({ min: 0, max: 20, noNaN: true }),
  slursPerBar: fc.double({ min: 0, max: 16, noNaN: true }),
  bendsPerBar: fc.double({ min: 0, max: 16, noNaN: true }),
  leapsPerBar: fc.double({ min: 0, max: 30, noNaN: true }),
  muteChangesPerBar: fc.double({ min: 0, max: 16, noNaN: true }),
  syncopation: fc.double({ min: 0, max: 1, noNaN: true }),
  strokes: fc.integer({ min: 0, max: 100 }),
})
const MEASURES = [
  'stretchMm',
  'shiftPerSecond',
  'pace',
  'slursPerBar',
  'bendsPerBar',
  'leapsPerBar',
  'muteChangesPerBar',
  'syncopation',
] as const

describe('difficulty', () => {
  it.each(MEASURES)('never falls when %s grows and nothing else does', (measure) =>
    fc.assert(
      fc.property(demands, fc.double({ min: 0, max: 40, noNaN: true }), (one, more) => {
        const harder = difficultyOf({ ...one, [measure]: one[measure] + more })
        expect(harder.points).toBeGreaterThanOrEqual(difficultyOf(one).points)
      }),
    ),
  )

  it('lies between 0 and 10, and a smaller hand never finds it easier', () =>
    fc.assert(
      fc.property(demands, (one) => {
        const byHand = [...HANDS]
          .sort((a, b) => a.cautionMm - b.cautionMm)
          .map((hand) => difficultyOf(one, hand).points)
        expect(byHand).toEqual([...byHand].sort((a, b) => b - a))
        expect(Math.min(...byHand)).toBeGreaterThanOrEqual(0)
        expect(Math.max(...byHand)).toBeLessThanOrEqual(10)
      }),
    ))

  it('says why, the heaviest first, and nothing of what asks for nothing', () => {
    const nothing = asked(EMPTY_CONTENT)
    expect(difficultyOf(nothing)).toEqual({ points: 0, word: 'easy', reasons: [] })
    const hard = difficultyOf({ ...nothing, pace: 14, slursPerBar: 12, stretchMm: 130, stretchFrets: [5, 9] })
    expect(hard.word).toBe('hard')
    expect(hard.reasons.map(({ kind }) => kind)).toEqual(['tempo', 'stretch', 'slurs'])
    expect(hard.reasons[1]!.words).toBe('stretch of 130 mm, frets 5 to 9')
    expect(REASONS).toHaveLength(8)
  })
})

describe('what a figure asks of the hands', () => {
  it('is asked of its densest bar, at its tempo', () => {
    expect(asked(RIFF).pace).toBeCloseTo(2)
    expect(asked(RIFF, 0.25 / Q).pace).toBeCloseTo(4)
    const dense = withNotes(Array.from({ length: 8 }, (_, index) => note((index * Q) / 2, 6, 0)))
    expect(asked(dense).pace).toBeCloseTo(4)
  })

  it('is a stretch where fingers are down together, further apart low on the neck', () => {
    const pair = (low: number) => withNotes([note(0, 6, low), note(0, 5, low + 4)])
    expect(asked(RIFF).stretchMm).toBe(0)
    expect(asked(pair(1)).stretchFrets).toEqual([1, 5])
    expect(asked(pair(1)).stretchMm).toBeGreaterThan(asked(pair(9)).stretchMm)
    expect(asked(pair(1)).stretchMm).toBeGreaterThan(USUAL_HAND.cautionMm)
    // An open string needs no finger.
    expect(asked(withNotes([note(0, 6, 0), note(0, 5, 7)])).stretchMm).toBe(0)
  })

  it('is a shift beyond four frets, a slur, a change of muting, a stroke that pushes the beat', () => {
    expect(asked(withNotes([note(0, 6, 5), note(Q, 6, 8)])).widestShift).toBe(0)
    expect(asked(withNotes([note(0, 6, 5), note(Q, 6, 12)])).widestShift).toBe(4)
    const slurred = withNotes([
      note(0, 6, 5),
      note(Q, 6, 7, { marks: [{ kind: 'hammer-on' }] }),
      note(2 * Q, 6, 7, { marks: [{ kind: 'bend', semitones: 2, shape: 'plain' }] }),
    ])
    expect(asked(slurred)).toMatchObject({ slursPerBar: 1, bendsPerBar: 2 })
    const muted = {
      ...RIFF,
      mutes: [
        {
          id: 'm',
          startTicks: Q,
          lengthTicks: Q,
          mark: { kind: 'palm mute' as const, pressure: 'firm' as const },
        },
      ],
    }
    expect(asked(muted).muteChangesPerBar).toBe(2)
    expect(asked(RIFF).syncopation).toBe(0)
    expect(asked(withNotes([note(0, 6, 0), note(1.5 * Q, 6, 0)])).syncopation).toBe(0.5)
  })

  it('is leaps over strings, more in a line than through a grip that rings', () => {
    const places = [6, 4, 6, 3, 6, 2, 6, 1].map((string, index) => note((index * Q) / 2, string, 2))
    const line = withNotes(places.map((one) => ({ ...one, lengthTicks: Q / 2 })))
    const ringing = withNotes(places.map((one) => ({ ...one, marks: [{ kind: 'let ring' as const }] })))
    expect(asked(line).leapsPerBar).toBe(16)
    expect(asked(ringing).leapsPerBar).toBe(4)
    const near = withNotes(places.map((one) => ({ ...one, string: 6, lengthTicks: Q / 2 })))
    expect(difficultyOf(asked(line)).points).toBeGreaterThan(difficultyOf(asked(near)).points + 1)
  })

  it('moves with the capo: frets are where the hand is', () => {
    const song = run(twoVerses(), 'changePart', {
      partId: 'g',
      set: { instrument: { ...part.instrument, capo: 3 } },
    })
    const pair = withNotes([note(0, 6, 1), note(0, 5, 5)])
    expect(demandsOf(pair, FIGURE, song.parts.g!, 0.5 / Q).stretchFrets).toEqual([4, 8])
  })
})
