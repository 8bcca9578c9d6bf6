import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { TICKS_PER_QUARTER as Q } from './meter'
import { writtenValues } from './note-values'

describe('a length as note values', () => {
  it.each([
    [4 * Q, 'whole', 0, undefined],
    [Q, 'quarter', 0, undefined],
    [1.5 * Q, 'quarter', 1, undefined],
    [3.5 * Q, 'half', 2, undefined],
    [Q / 2, 'eighth', 0, undefined],
    [Q / 3, 'eighth', 0, 3],
    [Q / 6, '16th', 0, 3],
    [Q / 5, '16th', 0, 5],
    [Q / 32, '128th', 0, undefined],
  ])('%i ticks are one %s', (ticks, type, dots, actual) => {
    const [value, ...more] = writtenValues(ticks)
    expect(more).toEqual([])
    expect(value).toMatchObject({ lengthTicks: ticks, value: { type, dots } })
    expect(value!.value.tuplet?.actual).toBe(actual)
  })

  it('is several tied where it is none, and never longer or shorter than it is', () => {
    expect(writtenValues(5 * Q).map(({ value }) => value.type)).toEqual(['whole', 'quarter'])
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 8 * Q }), (ticks) => {
        const pieces = writtenValues(ticks)
        expect(pieces.length).toBeLessThanOrEqual(3)
        expect(pieces.reduce((sum, { lengthTicks }) => sum + lengthTicks, 0)).toBe(ticks)
      }),
      { numRuns: 60 },
    )
  })
})
