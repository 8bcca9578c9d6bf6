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

  it.each([
    [2.5 * Q, ['half', 'eighth']],
    [1.25 * Q, ['quarter', '16th']],
    [2.25 * Q, ['half', '16th']],
    [4.5 * Q, ['whole', 'eighth']],
  ])('%i ticks are plain values tied, and no tuplet that happens to be near', (ticks, types) => {
    const pieces = writtenValues(ticks)
    expect(pieces.map(({ value }) => value.type)).toEqual(types)
    if (ticks % (Q / 8) === 0) expect(pieces.some(({ value }) => value.tuplet)).toBe(false)
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
