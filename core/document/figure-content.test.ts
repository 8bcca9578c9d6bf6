// What a figure plays is worked out once, and again exactly when something it stands on is another.
import { describe, expect, it } from 'vitest'
import { figureOf, onOnes, run, smallSong } from '../../tests/support/small-song'
import { figureContent } from './figure-content'
import type { Song } from './schema'

const pattern = (direction: 'down' | 'up') => ({
  id: 'hand',
  name: 'Hand',
  lengthTicks: 40_320,
  meter: { beats: 4, unit: 4 } as const,
  strokes: [
    {
      startTicks: 0,
      lengthTicks: 5040,
      direction,
      marks: [{ kind: 'dead' as const }],
      on: 'all' as const,
    },
  ],
})
function song(): Song {
  let next = run(smallSong(), 'setPattern', { pattern: pattern('down') })
  next = run(next, 'addFigure', {
    figure: figureOf('varied', {
      variationOf: { figureId: 'riff', replacedBars: [1] },
      content: onOnes(2, 8),
    }),
  })
  return run(next, 'addFigure', {
    figure: figureOf('struck', { pattern: { patternId: 'hand', ownBars: [] }, content: onOnes(0) }),
  })
}
const of = (from: Song, id: string) => figureContent(from, from.figures[id]!)

describe('what a figure plays', () => {
  it('is the same object while nothing under it changes', () => {
    const before = song()
    const after = run(before, 'setFacts', { title: 'Another' })
    for (const id of ['riff', 'varied', 'struck']) expect(of(after, id)).toBe(of(before, id))
  })
  it('is another when its base changes, in the bars it did not replace', () => {
    const before = song()
    const after = run(before, 'changeFigure', { figureId: 'riff', what: 'x', set: { content: onOnes(2, 3) } })
    expect(of(before, 'varied').notes.map(({ fret }) => fret)).toEqual([5, 8])
    expect(of(after, 'varied').notes.map(({ fret }) => fret)).toEqual([3, 8])
  })
  it('is another when its hand pattern changes', () => {
    const before = song()
    const after = run(before, 'setPattern', { pattern: pattern('up') })
    expect(of(before, 'struck').strokes.map(({ direction }) => direction)).toEqual(['down', 'down'])
    expect(of(after, 'struck').strokes.map(({ direction }) => direction)).toEqual(['up', 'up'])
  })
})
