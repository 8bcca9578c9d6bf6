import { describe, expect, it } from 'vitest'
import { EMPTY_CONTENT } from '../document/schema'
import { BAR, figureOf } from '../../tests/support/small-song'
import { said } from '../../tests/support/said-line'
import { engraveTab } from './tab'
import { accentsWithin } from './tab-accents'
import { BENCH_METRICS } from './tab-measures'

const lines = [
  { id: 'v', of: 'voice' as const, at: [0, BAR / 4, BAR] },
  { id: 'k', of: 'kick' as const, at: [BAR / 2] },
]
const drawn = (content = EMPTY_CONTENT, accentLines: typeof lines = []) =>
  engraveTab({
    figure: figureOf('f', { lengthTicks: 2 * BAR, accentLines }),
    content,
    stringNames: [...'eBGDAE'],
    gripNames: {},
    width: 900,
    metrics: BENCH_METRICS,
  })
const wedges = (tab: ReturnType<typeof drawn>) => tab.primitives.filter(({ kind }) => kind === 'polygon')

describe('accents under the counts', () => {
  it('stand at their counts, a row for each with its name, and make the drawing as much higher', () => {
    const [bare, two] = [drawn(), drawn(EMPTY_CONTENT, lines)]
    expect(wedges(two)).toHaveLength(4)
    expect(two.primitives.filter((one) => one.kind === 'text' && one.text === 'voice')).toHaveLength(1)
    expect(two.height).toBeGreaterThan(bare.height)
    for (const one of wedges(two))
      for (const y of one.kind === 'polygon' ? one.points.filter((_, at) => at % 2) : [])
        expect(y).toBeLessThan(two.height)
  })
  it('go with the bars that are drawn', () =>
    expect(accentsWithin(lines, BAR, 2 * BAR)?.map(({ at }) => at)).toEqual([[0], []]))
})

describe('what is slid, kept and scraped on paper', () => {
  const lineCount = (call: string): number =>
    drawn(said(call)).primitives.filter(({ kind }) => kind === 'line').length
  it('a slid grip has a line on each of its strings and no arrow', () => {
    const struck = 'hold 577655 down, hold 799877 down'
    expect(lineCount(`${struck} glide`)).toBe(lineCount(struck) + 6)
    const texts = drawn(said(`${struck} glide`)).primitives.flatMap((one) =>
      one.kind === 'text' ? [one.text] : [],
    )
    expect(texts.filter((value) => value === '↓')).toHaveLength(1)
    expect(texts).toContain('sl')
  })
  it('a bend is drawn held until it is let down', () => {
    const held = 'B 7 bend 2 and hold, E 8, 10, B 7'
    expect(lineCount(`${held} releasing 2`)).toBeGreaterThan(lineCount(held))
    const dashed = drawn(said(`${held} releasing 2`)).primitives.some(
      (one) => one.kind === 'line' && one.dashed,
    )
    expect(dashed).toBe(true)
  })
  it('a scrape is jagged for as long as it lasts', () =>
    expect(lineCount('low E 12 scrape down for 8')).toBeGreaterThan(lineCount('low E 12 scrape down for 2')))
})
