import { describe, expect, it } from 'vitest'
import type { HeardSection } from '../hear/analysis'
import { doubtfulBeginnings, sectionsSure } from './sections-sure'

/** Sections of ten seconds that are so sure, the first of a kind. */
const heard = (sure: number[], first = 'A'): HeardSection[] =>
  sure.map((confidence, index) => ({
    start: 10 * index,
    end: 10 * index + 10,
    label: index ? 'B' : first,
    bars: 8,
    confidence,
  }))

describe('how sure sections are', () => {
  it('says which beginnings may lie elsewhere, in the order of the song', () => {
    expect(doubtfulBeginnings(heard([1, 0.5, 0.9, 0.3, 0.7]))).toBe(
      'Least sure of the beginnings at 0:10, 0:30.',
    )
    expect(doubtfulBeginnings(heard([1, 0.8, 0.9]))).toBe('')
  })
  it('names the four that are least sure', () => {
    expect(doubtfulBeginnings(heard([1, 0.1, 0.2, 0.55, 0.3, 0.4]))).toBe(
      'Least sure of the beginnings at 0:10, 0:20, 0:40, 0:50.',
    )
  })
  it('says nothing of the beginning of the song, nor of where a free opening ends', () => {
    expect(doubtfulBeginnings(heard([0.1, 0.9]))).toBe('')
    expect(doubtfulBeginnings(heard([0.8, 0.1, 0.9], 'free'))).toBe('')
    expect(sectionsSure(heard([0.1, 0.8, 0.6]))).toBeCloseTo(0.7)
    expect(sectionsSure(heard([1]))).toBeUndefined()
  })
})
