import { describe, expect, it } from 'vitest'
import { readGrip } from '../playing/grip'
import { EMPTY_CONTENT, type Content, type Note, type Stroke } from '../song/schema'
import { barTicks, TICKS_PER_QUARTER as Q } from '../time/meter'
import type { Primitive } from './primitives'
import { BENCH_METRICS, BESIDE_METRICS, engraveTab, type TabInput } from './tab'

const FOUR = { beats: 4, unit: 4 } as const
const feel = { subdivision: 'eighths' as const, swing: { ratio: 0.5, level: 'eighths' as const } }
const draw = (content: Partial<Content>, more: Partial<TabInput> & { bars?: number; freeTime?: boolean } = {}) => engraveTab({
  figure: { lengthTicks: (more.bars ?? 2) * barTicks(FOUR), meter: FOUR, feel, ...(more.freeTime ? { freeTime: true } : {}) }, content: { ...EMPTY_CONTENT, ...content }, stringNames: ['e', 'B', 'G', 'D', 'A', 'E'], gripNames: {}, width: 900, metrics: BENCH_METRICS, ...more,
})
const texts = (primitives: readonly Primitive[]) => primitives.flatMap((shape) => (shape.kind === 'text' ? [shape] : []))
const note = (over: Partial<Note>): Note => ({ id: 'n', string: 3, fret: 7, startTicks: 0, lengthTicks: Q, articulations: [], ...over })
const stroke = (startTicks: number, over: Partial<Stroke> = {}): Stroke => ({ id: `s${startTicks}`, startTicks, lengthTicks: Q / 2, direction: 'down', accent: false, dead: false, choke: false, ...over })

describe('what is not entered yet', () => {
  it('shows in the colour of the user’s doing: notes on their string, strokes in the hand row, grips above', () => {
    const { primitives, systems } = draw({}, { draft: { notes: [note({ fret: 12 }), note({ id: 'm', string: 1, fret: 3, articulations: [{ kind: 'dead' }] })], strokes: [stroke(Q), stroke(2 * Q, { dead: true })], grips: [{ id: 'g', startTicks: 0, lengthTicks: Q, grip: readGrip('x-12-14-14-14-12', 6)! }] } })
    const drafted = texts(primitives).filter((shape) => shape.role === 'action')
    expect(drafted.map((shape) => shape.text)).toEqual(['12', '×', '↓', '×', 'x-12-14-14-14-12'])
    expect(Math.abs(drafted[0]!.y - systems[0]!.stringYs[2]!)).toBeLessThan(BENCH_METRICS.stringGap / 2)
    expect(drafted[2]!.y).toBeLessThan(systems[0]!.countY)
  })
  it('is left out where there is no such string or no such place', () => {
    const { primitives } = draw({}, { draft: { notes: [note({ string: 9 }), note({ startTicks: 40 * Q })] } })
    expect(texts(primitives).filter((shape) => shape.role === 'action')).toEqual([])
  })
})

describe('what is pointed at', () => {
  it('is underlined on the strings and in the hand row', () => {
    const plain = draw({ notes: [note({})], strokes: [stroke(Q)] })
    const marked = draw({ notes: [note({})], strokes: [stroke(Q)] }, { marked: new Set(['n', `s${Q}`]) })
    const attention = (primitives: readonly Primitive[]) => primitives.filter((shape) => 'role' in shape && shape.role === 'attention')
    expect(attention(plain.primitives)).toEqual([])
    expect(attention(marked.primitives).map((shape) => shape.kind).sort()).toEqual(['line', 'line', 'text'])
  })
})

describe('long notes, free time, ends of lines', () => {
  it('draws on a note that lasts a bar or more to where it ends, over the bar line', () => {
    const dashed = (lengthTicks: number) => draw({ notes: [note({ lengthTicks })] }).primitives.flatMap((shape) => (shape.kind === 'line' && shape.dashed ? [shape.x2 - shape.x1] : []))
    expect(dashed(Q)).toEqual([])
    expect(dashed(7 * Q)[0]).toBeGreaterThan(dashed(4 * Q)[0]! * 1.5)
  })
  it('counts nothing in free time and says so', () => {
    const words = texts(draw({}, { freeTime: true }).primitives).map((shape) => shape.text)
    expect(words.join(' ')).toContain('free time')
    expect(words).not.toContain('&')
  })
  it('keeps the words for dead strokes inside the line', () => {
    const { primitives, systems } = draw({ strokes: [stroke(7 * Q, { dead: true }), stroke(7.5 * Q, { dead: true })] }, { width: 400 })
    const words = texts(primitives).find((shape) => shape.text === 'two dead')!
    expect(words.anchor).toBe('end')
    expect(words.x).toBeLessThanOrEqual(systems[0]!.right)
  })
  it.each([[{ kind: 'trill', frets: 3 }, 'tr +3'], [{ kind: 'grace', frets: -2 }, 'grace −2'], [{ kind: 'bar', semitones: -5, how: 'dive' }, 'dive 5'], [{ kind: 'pinched harmonic', semitones: 19 }, 'pinch']] as const)('writes %j as “%s”', (mark, words) => {
    expect(texts(draw({ notes: [note({ articulations: [mark] })] }).primitives).map((shape) => shape.text)).toContain(words)
  })
  it('marks a staccato stroke', () => expect(texts(draw({ strokes: [stroke(0, { staccato: true })] }).primitives).map((shape) => shape.text)).toContain('·'))
})

describe('a second reading beside the bench', () => {
  it('stands to the same ruler, lower, without empty rows', () => {
    const content = { notes: [note({ startTicks: 5 * Q })] }
    const bench = draw(content)
    const beside = draw(content, { metrics: BESIDE_METRICS })
    const x = (primitives: readonly Primitive[]) => texts(primitives).find((shape) => shape.text === '7')!.x
    expect(x(beside.primitives)).toBeCloseTo(x(bench.primitives), 5)
    expect(beside.height).toBeLessThan(bench.height * 0.7)
  })
})
