import { describe, expect, it } from 'vitest'
import { BAR } from '../../tests/support/small-song'
import { said } from '../../tests/support/said-line'
import { copyStrum } from './copy-strum'
import { figureOfPass, placedInstead, withPassFigure } from './pass-figures'
import type { Placement } from './schema'

let made = 0
const newId = (): string => `made${made++}`

describe('a strum given to other bars', () => {
  const content = said('4 down up down up')
  const facts = { from: 0, barTicks: BAR, lengthTicks: 3 * BAR }
  it('is struck there the same, in place of what was', () => {
    expect(content.strokes.length).toBeGreaterThan(0)
    const all = copyStrum(content, { ...facts, to: [0, 1, 2] }, newId)
    expect(all.strokes).toHaveLength(content.strokes.length * 3)
    expect(new Set(all.strokes.map(({ id }) => id)).size).toBe(all.strokes.length)
    const again = copyStrum(all, { ...facts, to: [2] }, newId)
    expect(again.strokes.map(({ startTicks }) => startTicks)).toEqual(
      all.strokes.map(({ startTicks }) => startTicks),
    )
  })
  it('does not reach past the end of the figure', () => {
    const cut = copyStrum(content, { ...facts, lengthTicks: BAR + 1, to: [1] }, newId)
    expect(cut.strokes).toHaveLength(content.strokes.length + 1)
  })
})

describe('passes of a placement', () => {
  const place: Extract<Placement, { kind: 'figure' }> = {
    kind: 'figure',
    id: 'p',
    partId: 'one',
    sectionId: 'verse',
    startTicks: 0,
    figureId: 'riff',
    passes: 4,
    shiftFrets: 0,
    form: 'exact',
  }
  it('one plays another figure, and its own again', () => {
    const fourth = withPassFigure(place, 4, 'fill')
    expect([1, 4].map((pass) => figureOfPass(fourth, pass))).toEqual(['riff', 'fill'])
    expect(withPassFigure(fourth, 4, 'riff')).toEqual(place)
    expect(withPassFigure(fourth, 2, 'other').passFigures!.map(({ pass }) => pass)).toEqual([2, 4])
  })
  it('a variation placed instead takes all of them along', () => {
    const fourth = withPassFigure(place, 4, 'changed')
    expect(placedInstead(place, 'changed')).toEqual({ ...place, figureId: 'changed' })
    expect(placedInstead(fourth, 'changed')).toEqual({ ...place, figureId: 'changed' })
    const fill = withPassFigure(place, 4, 'fill')
    expect(placedInstead(fill, 'changed')).toEqual({ ...fill, figureId: 'changed' })
  })
})
