// The first bar of a recording: never lost, and no meter invented for it.
import { describe, expect, it } from 'vitest'
import { barsFromBeats } from '../time/flat-beats'
import type { Analysis } from './analysis'
import { beatsFromAnalysis } from './beats-from-analysis'

const FOUR = { beats: 4, unit: 4 } as const
/** Beats from the first that is heard, half a second apart; the first one so many beats later. */
function heard(first: number, firstOne: number, sounds = true): Analysis {
  const beats = Array.from({ length: 40 }, (_, index) => first + index / 2)
  return {
    version: 'x',
    durationSeconds: first + 20.2,
    beats,
    downbeats: beats.filter((_, index) => index % 4 === firstOne),
    meter: FOUR,
    chords: [{ start: sounds ? 0 : first, end: 20, label: 'C', confidence: 1, rivals: [] }],
  } as unknown as Analysis
}
const bars = (analysis: Analysis): string[] => {
  const { beats, endSeconds } = beatsFromAnalysis(analysis, FOUR)
  const laid = barsFromBeats(beats, endSeconds, FOUR)
  return laid.bars.slice(0, 2).map(({ meter, free }, index) => {
    const at = laid.grid.bars[index]!.beatSeconds[0]!.toFixed(2)
    return `${free ? 'free' : `${meter.beats}/${meter.unit}`} at ${at}`
  })
}

describe('the first bar', () => {
  it('is whole where its first beat was not heard, also at the very beginning of the file', () => {
    expect(bars(heard(0.49, 3))).toEqual(['4/4 at 0.00', '4/4 at 1.99'])
    expect(bars(heard(0.8, 2))).toEqual(['2/4 at 0.80', '4/4 at 1.80'])
    expect(bars(heard(1.1, 2))).toEqual(['4/4 at 0.10', '4/4 at 2.10'])
  })
  it('is there when all of it was missed, and not where nothing sounds', () => {
    expect(bars(heard(2, 0))).toEqual(['4/4 at 0.00', '4/4 at 2.00'])
    expect(bars(heard(1.9, 0))).toEqual(['4/4 at 0.00', '4/4 at 1.90'])
    expect(bars(heard(2, 0, false))).toEqual(['4/4 at 2.00', '4/4 at 4.00'])
  })
  it('stays a pickup where the file has no room for more of it', () => {
    expect(bars(heard(0.2, 1))).toEqual(['1/4 at 0.20', '4/4 at 0.70'])
    expect(bars(heard(0.2, 3))).toEqual(['3/4 at 0.20', '4/4 at 1.70'])
  })
  it('follows free time when the pulse begins late', () =>
    expect(bars(heard(7.3, 0))).toEqual(['free at 0.00', '4/4 at 7.30']))
})
