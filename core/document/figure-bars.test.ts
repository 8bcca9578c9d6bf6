import { describe, expect, it } from 'vitest'
import { BAR, noteAt, onOnes } from '../../tests/support/small-song'
import { insertBars, putBars, removeBars, takeBars } from './figure-bars'
import { EMPTY_CONTENT, type Content } from './schema'

let made = 0
const newId = (): string => `new${made++}`
const grip = { strings: Array.from({ length: 6 }, () => ({ fret: 3 })) }
/** A note on every one, frets 1 to 4, under one grip that is held throughout. */
const four = (): Content => ({
  ...EMPTY_CONTENT,
  notes: [1, 2, 3, 4].map((fret, bar) => ({ ...noteAt(bar * BAR, 4, fret), lengthTicks: 2 * BAR })),
  grips: [{ id: 'g', startTicks: 0, lengthTicks: 4 * BAR, grip }],
})
const bars = ({ notes }: Content): string[] =>
  notes.map(({ fret, startTicks, lengthTicks }) => `${fret} at ${startTicks / BAR} for ${lengthTicks / BAR}`)
const held = ({ grips }: Content): string[] =>
  grips.map(({ startTicks, lengthTicks }) => `${startTicks / BAR}+${lengthTicks / BAR}`)

describe('bars of a figure', () => {
  it('are taken out with the grip that is held over them, and cut at their end', () => {
    const taken = takeBars(four(), { from: BAR, to: 3 * BAR })
    expect(bars(taken)).toEqual(['2 at 0 for 2', '3 at 1 for 1'])
    expect(held(taken)).toEqual(['0+2'])
  })
  it('are put in place of others, as far as the figure goes, with ids of their own', () => {
    const taken = takeBars(four(), { from: 0, to: 2 * BAR })
    const figure = { lengthTicks: 2 * BAR, figureTicks: 4 * BAR, newId }
    const over = putBars(four(), taken, { at: 2 * BAR, ...figure })
    expect(bars(over)).toEqual(['1 at 0 for 2', '2 at 1 for 1', '1 at 2 for 2', '2 at 3 for 1'])
    expect(new Set(over.notes.map(({ id }) => id)).size).toBe(4)
    expect(bars(putBars(four(), taken, { at: 3 * BAR, ...figure })).at(-1)).toBe('1 at 3 for 1')
    expect(bars(putBars(onOnes(4), EMPTY_CONTENT, { at: BAR, ...figure }))).toHaveLength(2)
  })
  it('are inserted and removed again without a trace but a grip cut in two', () => {
    const more = insertBars(four(), BAR, BAR, newId)
    expect(bars(more)).toEqual(['1 at 0 for 1', '2 at 2 for 2', '3 at 3 for 2', '4 at 4 for 2'])
    expect(held(more)).toEqual(['0+1', '2+3'])
    const back = removeBars(more, { from: BAR, to: 2 * BAR }, newId)
    expect(bars(back).slice(1)).toEqual(bars(four()).slice(1))
    expect(held(back)).toEqual(['0+1', '1+3'])
  })
})
