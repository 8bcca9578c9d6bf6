import { describe, expect, it } from 'vitest'
import { timeMap } from './beat-grid'
import {
  barAt,
  barsFrom,
  barsSpan,
  beatsFrom,
  fromHere,
  grown,
  ladderSpeeds,
  shifted,
  ticksSpan,
  type Span,
} from './loops'
import { barTicks, type Meter } from './meter'

const four: Meter = { beats: 4, unit: 4 }
const three: Meter = { beats: 3, unit: 4 }
/** Four bars of four, two of three, half a second a beat, from the first second on. */
const shapes = [four, four, four, four, three, three].map((meter) => ({ meter }))
let at = 1
const map = timeMap(shapes, {
  bars: shapes.map(({ meter }) => ({
    beatSeconds: Array.from({ length: meter.beats }, () => (at += 0.5) - 0.5),
  })),
  endSeconds: 12,
})
const words = ({ startSeconds, endSeconds }: Span): string => `${startSeconds}-${endSeconds}`

describe('loops', () => {
  it('take bars, and the bars of a section', () => {
    expect(barAt(map, 5.4)).toBe(2)
    expect(words(barsSpan(map, 1, 1))).toBe('3-5')
    expect(words(barsSpan(map, 4, 9))).toBe('9-12')
    expect(words(ticksSpan(map, 0, 2 * barTicks(four)))).toBe('1-5')
  })
  it('begin from the beat that sounds now', () => {
    expect(words(fromHere(map, 3.7))).toBe('3.5-7.5')
    expect(words(fromHere(map, 11.2))).toBe('11-12')
  })
  it('grow and shrink by bars, and keep at least one', () => {
    const span = barsSpan(map, 1, 1)
    expect(words(grown(map, span, 1))).toBe('3-7')
    expect(words(grown(map, grown(map, span, 3), -2))).toBe('3-7')
    expect(words(grown(map, span, -1))).toBe('3-5')
    expect(words(grown(map, { startSeconds: 3.5, endSeconds: 7.5 }, -1))).toBe('3.5-7')
  })
  it('go on by their own length, over another meter too', () => {
    expect(words(shifted(map, barsSpan(map, 0, 2), 1))).toBe('5-9')
    expect(words(shifted(map, barsSpan(map, 2, 2), 1))).toBe('9-12')
    expect(words(shifted(map, barsSpan(map, 0, 2), -1))).toBe('1-5')
    expect(words(shifted(map, { startSeconds: 3.5, endSeconds: 5.5 }, 1))).toBe('5.5-7.5')
  })
  it('step by beats and bars', () => {
    expect(beatsFrom(map, 3.7, 1)).toBe(4)
    expect(beatsFrom(map, 3.5, -1)).toBe(3)
    expect(beatsFrom(map, 1, -1)).toBe(1)
    expect([barsFrom(map, 3.1, -1), barsFrom(map, 4.4, -1), barsFrom(map, 4.4, 1)]).toEqual([1, 3, 5])
  })
  it('climb in even steps to the goal', () => {
    expect(ladderSpeeds(0.6, 0.85, 0.1)).toEqual([0.6, 0.7, 0.8, 0.85])
    expect(ladderSpeeds(1, 0.9, 0.05)).toEqual([1, 0.95, 0.9])
    expect(ladderSpeeds(0.7, 0.7, 0.05)).toEqual([0.7])
  })
})
