import { describe, expect, it } from 'vitest'
import type { Analysis } from './analysis'
import { withInside } from './inside'

const chord = (label: string, start: number, end: number) => ({
  label,
  start,
  end,
  confidence: 0.5,
  rivals: [],
})
const section = (label: string, start: number, end: number) => ({
  label,
  start,
  end,
  bars: 4,
  confidence: 0.6,
})
const heard = (over: Partial<Analysis>): Analysis => ({
  version: 'x',
  durationSeconds: 32,
  beats: [0, 1],
  downbeats: [0],
  ...over,
})
const words = (analysis: Analysis): string =>
  (analysis.chords ?? []).map(({ label, start, end }) => `${label} ${start}-${end}`).join(', ')

describe('listening again inside', () => {
  const before = heard({
    chords: [chord('G:maj', 0, 6), chord('D:maj', 6, 18), chord('E:min', 18, 32)],
    sections: [section('a', 0, 8), section('b', 8, 16), section('a', 16, 32)],
  })
  const again = heard({
    beats: [0, 0.5, 1],
    downbeats: [0, 0.5],
    chords: [chord('C:maj', 0, 10), chord('A:min', 10, 15), chord('F:maj', 15, 32)],
    sections: [
      section('x', 0, 8),
      { ...section('x', 8, 16), returns: { section: 0, shift: 2, likeness: 0.9, perBar: [], differs: [] } },
    ],
  })
  const joined = withInside(before, again, { start: 8, end: 16 })
  it('changes the chords of the stretch and none outside', () => {
    expect(words(joined)).toBe(
      'G:maj 0-6, D:maj 6-8, C:maj 8-10, A:min 10-15, F:maj 15-16, D:maj 16-18, E:min 18-32',
    )
  })
  it('tells what the stretch returns, and leaves the other sections', () => {
    expect(joined.sections?.map(({ label, returns }) => [label, returns?.section, returns?.shift])).toEqual([
      ['a', undefined, undefined],
      ['b', 0, 2],
      ['a', undefined, undefined],
    ])
    expect(joined.beats).toEqual([0, 0.5, 1])
  })
})
