import { describe, expect, it } from 'vitest'
import { soundCandidate } from './candidate-chord'

describe('a chord held against the record', () => {
  it('sounds its bass and its tones twice, inside the stretch, at the pitch of the record', () => {
    const events = soundCandidate('D/F#', 10, 12, -14)
    const first = events.filter((event) => event.startSeconds < 11)
    expect(events).toHaveLength(2 * first.length)
    expect(Math.round(first[0]!.midi) % 12).toBe(6)
    expect(new Set(first.map((event) => Math.round(event.midi) % 12))).toEqual(new Set([2, 6, 9]))
    for (const event of events) {
      expect(event.midi - Math.round(event.midi)).toBeCloseTo(-0.14)
      expect(event.startSeconds).toBeGreaterThanOrEqual(10)
      expect(event.endSeconds).toBeLessThanOrEqual(12)
    }
  })
  it('is silent for what is no chord, or no time', () => {
    expect(soundCandidate('what', 1, 3)).toEqual([])
    expect(soundCandidate('Em', 1, 1.05)).toEqual([])
  })
})
