import { describe, expect, it } from 'vitest'
import { nearWords, slipsOf } from './near-words'

const WORDS = ['hammer', 'harmonic', 'pull', 'slide', 'seven', 'eleven', 'string']

describe('words that may have been meant', () => {
  it('are the nearest first, and those that begin like what was typed', () => {
    expect(nearWords('hamer', WORDS)[0]).toBe('hammer')
    expect(nearWords('zeven', WORDS)).toEqual(['seven', 'eleven'])
    expect(nearWords('ham', WORDS)[0]).toBe('hammer')
    expect(nearWords('frobnicate', WORDS)).toEqual([])
    expect(nearWords('x'.repeat(50), WORDS)).toEqual([])
  })
  it('are slips only of longer words, one letter away, two in a long one', () => {
    expect(slipsOf('hamer', WORDS)).toEqual(['hammer'])
    expect(slipsOf('silde', WORDS)).toEqual(['slide'])
    expect(slipsOf('harmonci', WORDS)).toEqual(['harmonic'])
    expect(slipsOf('pul', WORDS)).toEqual([])
    expect(slipsOf('blorp', WORDS)).toEqual([])
  })
})
