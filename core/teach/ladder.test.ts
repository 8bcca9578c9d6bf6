import { describe, expect, it } from 'vitest'
import { ladderOf } from './ladder'

describe('a ladder', () => {
  it('never climbs by more than it may, from any tempo to any other', () => {
    for (const growth of [0.05, 0.08])
      for (let from = 10; from < 120; from += 3)
        for (const to of [from, from + 1, from * 1.5, from * 2, 240]) {
          const { rungs } = ladderOf({ from, to, clean: 3, growth })
          expect(rungs[0]).toBeCloseTo(from, 5)
          expect(Math.abs(rungs.at(-1)! - to)).toBeLessThanOrEqual(0.5)
          rungs.forEach((rung, index) => {
            if (index) expect(rung / rungs[index - 1]!).toBeLessThanOrEqual(1 + growth + 1e-9)
            if (index) expect(rung).toBeGreaterThan(rungs[index - 1]!)
          })
        }
  })
  it('has no more rungs than it needs', () => {
    expect(ladderOf({ from: 60, to: 100, clean: 3 }).rungs).toHaveLength(9)
    expect(ladderOf({ from: 100, to: 100, clean: 3 }).rungs).toEqual([100])
  })
})
