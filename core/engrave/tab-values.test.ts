import { describe, expect, it } from 'vitest'
import { BAR, figureOf, noteAt } from '../../tests/support/small-song'
import { EMPTY_CONTENT, type Note } from '../document/schema'
import { engraveTab } from './tab'
import { SHEET_METRICS } from './tab-measures'

/** Ties and rests in the row of values of a figure of two bars. */
function row(notes: Note[]): { ties: number; rests: number } {
  const figure = figureOf('f', { lengthTicks: 2 * BAR })
  const { primitives, systems } = engraveTab({
    figure,
    content: { ...EMPTY_CONTENT, notes },
    width: 180,
    metrics: SHEET_METRICS,
    stringNames: ['e', 'B', 'G', 'D', 'A', 'E'],
    gripNames: {},
  })
  const below = systems[0]!.stringYs.at(-1)!
  const heightOf = (shape: (typeof primitives)[number]): number => {
    if ('y' in shape) return shape.y
    return 'y1' in shape ? shape.y1 : 0
  }
  const under = primitives.filter((shape) => heightOf(shape) > below)
  return {
    ties: under.filter(({ kind }) => kind === 'curve').length,
    rests: under.filter(({ kind }) => kind === 'rect').length,
  }
}
const lasting = (start: number, length: number): Note => ({
  ...noteAt(start * BAR),
  lengthTicks: length * BAR,
})

describe('the values under the strings', () => {
  it('tie what no single value says', () =>
    expect(row([lasting(0, 5 / 8), lasting(5 / 8, 11 / 8)])).toMatchObject({ ties: 2 }))
  it('draw what is held over the bar line as held, and as no rest', () => {
    expect(row([lasting(0, 7 / 8), lasting(7 / 8, 1 / 4), lasting(9 / 8, 7 / 8)])).toEqual({
      ties: 1,
      rests: 0,
    })
    expect(row([lasting(0, 2)])).toEqual({ ties: 1, rests: 0 })
  })
  it('rest where it has ended', () => expect(row([lasting(0, 1)])).toEqual({ ties: 0, rests: 1 }))
})
