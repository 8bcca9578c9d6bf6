import { describe, expect, it } from 'vitest'
import { ANALYSIS_VERSION, type Analysis } from '../hear/analysis'
import { barConfidence } from '../hear/decode/bar-confidence'
import { barsSure, doubtfulBars } from './bars-sure'

const places = (bars: number, length = 4) =>
  Array.from({ length: bars * length }, (_, beat) => ({ place: beat % length, length }))
const analysis = (sure: number[]): Analysis => ({
  version: ANALYSIS_VERSION,
  durationSeconds: 100,
  beats: [],
  downbeats: sure.map((_, bar) => 2 * bar),
  tempoRivals: [{ bpm: 120, share: 0.9 }],
  barConfidence: sure,
})

describe('how sure bars are', () => {
  it('is high where the ones stand out, and low where another beat is as likely or the meter another', () => {
    const clear = Array.from({ length: 64 }, (_, beat) => (beat % 4 === 0 ? 4 : -4))
    expect(Math.min(...barConfidence(clear, places(16)))).toBeGreaterThan(0.97)
    const even = clear.map((_, beat) => (beat % 2 === 0 ? 2 : -4))
    expect(Math.max(...barConfidence(even, places(16)))).toBeLessThan(0.88)
    const three = clear.map((_, beat) => (beat % 3 === 0 ? 4 : -4))
    expect(Math.max(...barConfidence(three, places(16)))).toBeLessThan(0.75)
    expect(barConfidence([], [])).toEqual([])
  })
  it('needs the tempo and the ones', () => {
    expect(barsSure(analysis([1, 1, 0.5, 0.5]))).toBeCloseTo(0.9 * 0.75)
    const { barConfidence: _none, ...older } = analysis([])
    expect(barsSure(older)).toBe(0.9)
    expect(barsSure({ ...older, tempoRivals: [] })).toBeUndefined()
  })
  it('is told by the place where it is least', () => {
    const sure = Array.from({ length: 20 }, (_, bar) => (bar >= 8 && bar < 12 ? 0.75 : 0.95))
    expect(doubtfulBars(analysis(sure))).toBe('Least sure at 0:16–0:24.')
    expect(doubtfulBars(analysis(sure.map(() => 0.95)))).toBe('')
  })
})
