import { describe, expect, it } from 'vitest'
import { loudnessOf, matchedGains } from './loudness'

const RATE = 48_000
const sine = (hz: number, level: number, seconds = 4): Float32Array =>
  Float32Array.from({ length: seconds * RATE }, (_, i) => level * Math.sin((2 * Math.PI * hz * i) / RATE))

describe('loudness', () => {
  it('of a full-scale tone of 997 Hz is −3.01, as the standard has it', () => {
    expect(loudnessOf([sine(997, 1)], RATE)).toBeCloseTo(-3.01, 1)
    expect(loudnessOf([sine(997, 0.1)], RATE)).toBeCloseTo(-23.01, 1)
  })
  it('adds up over channels and leaves pauses out', () => {
    const one = loudnessOf([sine(997, 0.5)], RATE)
    expect(loudnessOf([sine(997, 0.5), sine(997, 0.5)], RATE)).toBeCloseTo(one + 3.01, 1)
    const half = new Float32Array(8 * RATE)
    half.set(sine(997, 0.5))
    expect(loudnessOf([half], RATE)).toBeCloseTo(one, 1)
    expect(loudnessOf([new Float32Array(RATE)], RATE)).toBe(Number.NEGATIVE_INFINITY)
  })
  it('hears little of what lies under a guitar', () => {
    expect(loudnessOf([sine(20, 0.5)], RATE)).toBeLessThan(loudnessOf([sine(400, 0.5)], RATE) - 9)
  })
  it('is matched by turning the louder one down', () => {
    const { record, chart } = matchedGains(-10, -16)
    expect([record, chart]).toEqual([10 ** (-6 / 20), 1])
    expect(matchedGains(-40, -10).chart).toBeCloseTo(10 ** (-18 / 20))
    expect(matchedGains(Number.NEGATIVE_INFINITY, -10)).toEqual({ record: 1, chart: 1 })
  })
})
