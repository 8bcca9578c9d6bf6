import { describe, expect, it } from 'vitest'
import { clickScores, clickTimes } from './click-metrics'

const truth = { seconds: 60, bpm: 120, firstBeat: 0.2, firstOne: 0.2 }
const found = (times: number[], tempo = 120) => ({
  beats: times,
  downbeats: times.filter((_, index) => index % 4 === 0),
  tempo,
})

describe('against a click', () => {
  it('is whole for the click itself, and forgives the first five seconds', () => {
    const beats = clickTimes(0.5, 0.2, 60)
    const late = { ...found(beats), beats: beats.filter((time) => time > 4.9) }
    expect(clickScores(truth, late)).toEqual({ beats: 1, anyLevel: 1, ones: 1, tempo: 1, refused: 0 })
  })
  it.each([
    { name: 'half', times: clickTimes(1, 0.7, 60), tempo: 60 },
    { name: 'double', times: clickTimes(0.25, 0.2, 60), tempo: 240 },
    { name: 'off the beat', times: clickTimes(0.5, 0.45, 60), tempo: 120 },
  ])('takes $name as another level, not as the beat', ({ times, tempo }) => {
    const scores = clickScores(truth, found(times, tempo))
    expect(scores.beats).toBeLessThan(0.7)
    expect(scores.anyLevel).toBeGreaterThan(0.99)
    expect(scores.tempo).toBe(1)
  })
  it('does not score what nobody knows, and says what was refused', () => {
    expect(clickScores({ ...truth, firstOne: undefined }, { beats: [], downbeats: [] })).toEqual({
      beats: undefined,
      anyLevel: 0,
      ones: undefined,
      tempo: 0,
      refused: 1,
    })
  })
})
