import { describe, expect, it } from 'vitest'
import { readGrip } from '../neck/grips/grip'
import { EMPTY_CONTENT, type Mark, type Content, type Note, type Stroke } from '../document/schema'
import { barTicks, TICKS_PER_QUARTER as Q } from '../time/meter'
import type { Primitive } from './primitives'
import { engraveTab } from './tab'
import { BENCH_METRICS, BESIDE_METRICS, type TabInput } from './tab-measures'

const FOUR = { beats: 4, unit: 4 } as const
const feel = { subdivision: 'eighths' as const, swing: { ratio: 0.5, level: 'eighths' as const } }
const draw = (
  content: Partial<Content>,
  more: Partial<TabInput> & { bars?: number; freeTime?: boolean } = {},
) =>
  engraveTab({
    figure: {
      lengthTicks: (more.bars ?? 2) * barTicks(FOUR),
      meter: FOUR,
      feel,
      ...(more.freeTime ? { freeTime: true } : {}),
    },
    content: { ...EMPTY_CONTENT, ...content },
    stringNames: ['e', 'B', 'G', 'D', 'A', 'E'],
    gripNames: {},
    width: 900,
    metrics: BENCH_METRICS,
    ...more,
  })
const texts = (primitives: readonly Primitive[]) =>
  primitives.flatMap((shape) => (shape.kind === 'text' ? [shape] : []))
const note = (over: Partial<Note>): Note => ({
  id: 'n',
  string: 3,
  fret: 7,
  startTicks: 0,
  lengthTicks: Q,
  marks: [],
  ...over,
})
const stroke = (startTicks: number, over: Partial<Stroke> = {}): Stroke => ({
  id: `s${startTicks}`,
  startTicks,
  lengthTicks: Q / 2,
  direction: 'down',
  marks: [],
  ...over,
})

describe('what is not entered yet', () => {
  it(
    'shows in the colour of the user’s doing: notes on their string, strokes in the ' +
      'hand row, grips above',
    () => {
      const { primitives, systems } = draw(
        {},
        {
          draft: {
            notes: [note({ fret: 12 }), note({ id: 'm', string: 1, fret: 3, marks: [{ kind: 'dead' }] })],
            strokes: [stroke(Q), stroke(2 * Q, { marks: [{ kind: 'dead' }] })],
            grips: [{ id: 'g', startTicks: 0, lengthTicks: Q, grip: readGrip('x-12-14-14-14-12', 6)! }],
          },
        },
      )
      const drafted = texts(primitives).filter((shape) => shape.role === 'action')
      expect(drafted.map((shape) => shape.text)).toEqual(['12', '×', '↓', '×', 'x-12-14-14-14-12'])
      expect(Math.abs(drafted[0]!.y - systems[0]!.stringYs[2]!)).toBeLessThan(BENCH_METRICS.stringGap / 2)
      expect(drafted[2]!.y).toBeLessThan(systems[0]!.countY)
    },
  )
  it('has dots along its string where it was assumed, clear of the string’s name', () => {
    const draft = { notes: [note({ startTicks: Q, fret: 7 }), note({ id: 'first', fret: 9 })] }
    const dashes = (assumed: ReadonlySet<string>) =>
      draw({}, { draft, assumed }).primitives.filter((shape) => shape.kind === 'line' && shape.dashed)
    const plain = dashes(new Set()).length
    const dotted = dashes(new Set([draft.notes[0]!.id]))
    expect(dotted.length).toBe(plain + 2)
    expect(dashes(new Set(['first'])).length).toBe(plain + 1)
    expect(dotted.every((shape) => shape.kind === 'line' && shape.y1 === shape.y2)).toBe(true)
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
    const attention = (primitives: readonly Primitive[]) =>
      primitives.filter((shape) => 'role' in shape && shape.role === 'attention')
    expect(attention(plain.primitives)).toEqual([])
    expect(
      attention(marked.primitives)
        .map((shape) => shape.kind)
        .sort(),
    ).toEqual(['line', 'line', 'text'])
  })
})

describe('long notes, free time, ends of lines', () => {
  it('draws on a note that lasts a bar or more to where it ends, over the bar line', () => {
    const dashed = (lengthTicks: number) =>
      draw({ notes: [note({ lengthTicks })] }).primitives.flatMap((shape) =>
        shape.kind === 'line' && shape.dashed ? [shape.x2 - shape.x1] : [],
      )
    expect(dashed(Q)).toEqual([])
    expect(dashed(7 * Q)[0]).toBeGreaterThan(dashed(4 * Q)[0]! * 1.5)
  })
  it('counts nothing in free time and says so', () => {
    const words = texts(draw({}, { freeTime: true }).primitives).map((shape) => shape.text)
    expect(words.join(' ')).toContain('free time')
    expect(words).not.toContain('&')
  })
  it('keeps the words for dead strokes inside the line', () => {
    const { primitives, systems } = draw(
      {
        strokes: [
          stroke(7 * Q, { marks: [{ kind: 'dead' }] }),
          stroke(7.5 * Q, { marks: [{ kind: 'dead' }] }),
        ],
      },
      { width: 400 },
    )
    const words = texts(primitives).find((shape) => shape.text === 'two dead')!
    expect(words.anchor).toBe('end')
    expect(words.x).toBeLessThanOrEqual(systems[0]!.right)
  })
  it.each([
    ['plain', 1, '+1', 1],
    ['pre-bend', 1.5, '+1½', 1],
    ['bend and hold', 2, '+2', 2],
    ['bend and release', 0.5, '+½', 2],
    ['re-bend', 1.25, '+1¼', 3],
    ['release', 2, undefined, 1],
  ] as const)('draws a bend at its own string, right of its fret: %s', (shape, semitones, amount, pieces) => {
    const bent = note({ string: 4, marks: [{ kind: 'bend', semitones, shape }] })
    const [plain, drawn] = [draw({ notes: [{ ...bent, marks: [] }] }), draw({ notes: [bent] })]
    const { stringYs } = drawn.systems[0]!
    const fret = texts(drawn.primitives).find((one) => one.text === '7')!
    const lines = drawn.primitives.flatMap((one) =>
      one.kind === 'line' &&
      one.x1 > fret.x &&
      Math.abs(one.y1 - stringYs[3]!) < BENCH_METRICS.stringGap &&
      one.x2 - one.x1 < 40 &&
      one.y1 !== one.y2
        ? [one]
        : [],
    )
    const count = (tab: typeof drawn): number => tab.primitives.filter(({ kind }) => kind === 'line').length
    expect(count(drawn) - count(plain)).toBe(pieces)
    // Nothing of it lies over the fret, nor above the string above.
    for (const one of lines) {
      expect(one.x1).toBeGreaterThan(fret.x + BENCH_METRICS.fretSize * 0.3)
      expect(Math.min(one.y1, one.y2)).toBeGreaterThan(stringYs[2]!)
    }
    const words = texts(drawn.primitives).map((one) => one.text)
    if (amount) expect(words).toContain(amount)
    else expect(words.some((one) => one.startsWith('+'))).toBe(false)
  })
  it('stands words that would touch over each other, and makes room for them', () => {
    const close = [0, 1, 2].map((index) =>
      note({
        id: `v${index}`,
        startTicks: (index * Q) / 4,
        string: 1,
        marks: [{ kind: 'vibrato', width: 'wide' }],
      }),
    )
    const [one, three] = [draw({ notes: close.slice(0, 1) }), draw({ notes: close })]
    const ys = texts(three.primitives).flatMap((shape) => (shape.text === 'wide vib' ? [shape.y] : []))
    expect(new Set(ys).size).toBeGreaterThan(1)
    expect(ys).toHaveLength(3)
    expect(Math.max(...ys)).toBeLessThan(three.systems[0]!.stringYs[0]!)
    expect(three.systems[0]!.stringYs[0]!).toBeGreaterThan(one.systems[0]!.stringYs[0]!)
  })
  it.each<[Mark, string]>([
    [{ kind: 'vibrato', width: 'narrow' }, 'vib'],
    [{ kind: 'vibrato', width: 'wide' }, 'wide vib'],
    [{ kind: 'tap' }, 'tap'],
    [{ kind: 'let ring' }, 'ring'],
    [{ kind: 'tremolo picking' }, 'trem'],
    [{ kind: 'rake' }, 'rake'],
    [{ kind: 'choke' }, 'choke'],
    [{ kind: 'staccato' }, '·'],
    [{ kind: 'natural harmonic' }, 'harm'],
    [{ kind: 'arm', semitones: -2, how: 'dip' }, 'dip 2'],
  ])('writes %j over the note as “%s”', (mark, words) =>
    expect(texts(draw({ notes: [note({ marks: [mark] })] }).primitives).map((shape) => shape.text)).toContain(
      words,
    ),
  )
  it(
    'writes several marks over one note, the pressure of the palm under it, pick and ' +
      'accent in the hand row',
    () => {
      const { primitives, systems } = draw({
        notes: [
          note({
            pick: 'up',
            marks: [
              { kind: 'accent' },
              { kind: 'vibrato', width: 'wide' },
              { kind: 'tap' },
              { kind: 'palm mute', pressure: 'firm' },
            ],
          }),
        ],
      })
      expect(texts(primitives).map((shape) => shape.text)).toEqual(
        expect.arrayContaining(['wide vib tap', '↑', '>']),
      )
      const [bar] = primitives.filter((shape) => shape.kind === 'rect' && shape.fill === 'quiet')
      expect(bar?.kind === 'rect' && bar.y + bar.height).toBeCloseTo(systems[0]!.mutingY)
    },
  )
  it('draws slides up, down, in and out as lines on their side', () => {
    const lineOf = (over: Partial<Note>, before?: Partial<Note>) => {
      const notes = [...(before ? [note({ id: 'a', ...before })] : []), note({ startTicks: Q, ...over })]
      const plain = draw({ notes: notes.map((one) => ({ ...one, marks: [] })) }).primitives.filter(
        (shape) => shape.kind === 'line',
      ).length
      const lines = draw({ notes }).primitives.flatMap((shape) => (shape.kind === 'line' ? [shape] : []))
      expect(lines).toHaveLength(plain + 1)
      return lines.find((shape) => shape.y1 !== shape.y2 && shape.x1 !== shape.x2)!
    }
    const up = lineOf({ fret: 9, marks: [{ kind: 'slide', how: 'shift' }] }, { fret: 5 })
    const down = lineOf({ fret: 5, marks: [{ kind: 'slide', how: 'legato' }] }, { fret: 9 })
    expect([up.y1 > up.y2, down.y2 > down.y1]).toEqual([true, true])
    const below = lineOf({ marks: [{ kind: 'slide', how: 'in from below' }] })
    const above = lineOf({ marks: [{ kind: 'slide', how: 'in from above' }] })
    const out = lineOf({ marks: [{ kind: 'slide', how: 'out' }] })
    expect([below.y1 > below.y2, out.y2 > out.y1, above.y2 > above.y1]).toEqual([true, true, true])
  })
  it('carries muting and ringing over the end of a line to the next', () => {
    const muted = draw(
      {
        mutes: [
          { id: 'm', mark: { kind: 'palm mute', pressure: 'light' }, startTicks: 3 * Q, lengthTicks: 10 * Q },
        ],
      },
      { width: 300, bars: 4 },
    )
    const bars = muted.primitives.flatMap((shape) =>
      shape.kind === 'rect' && shape.fill === 'quiet' ? [shape] : [],
    )
    expect(muted.systems.length).toBe(4)
    expect(bars).toHaveLength(4)
    expect(bars.every((bar) => bar.x >= muted.systems[0]!.left && bar.x + bar.width <= 300)).toBe(true)
    const ringing = draw(
      { mutes: [{ id: 'm', mark: { kind: 'let ring' }, startTicks: 0, lengthTicks: 5 * Q }] },
      { width: 300, bars: 4 },
    )
    expect(texts(ringing.primitives).filter((shape) => shape.text === 'let ring')).toHaveLength(2)
  })
  it('shows the strings of a stroke that takes some of them, and dead strokes where no grip is held', () => {
    const grips = [{ id: 'g', startTicks: 0, lengthTicks: 8 * Q, grip: readGrip('320033', 6)! }]
    const frets = (strokes: Stroke[]) =>
      texts(draw({ grips, strokes }, { gripNames: { g: 'G' } }).primitives)
        .filter((shape) => /^\d$|×/.test(shape.text) && shape.face !== 'text' && shape.y < 220)
        .map((shape) => shape.text)
    expect(
      frets([stroke(0)])
        .filter((sign) => /\d/.test(sign))
        .slice(-6)
        .sort(),
    ).toEqual(['0', '0', '2', '3', '3', '3'])
    expect(
      texts(draw({ grips, strokes: [stroke(0, { strings: [6] })] }).primitives)
        .filter((shape) => shape.face === 'mono' && shape.halo)
        .map((shape) => shape.text),
    ).toEqual(['3'])
    expect(
      texts(draw({ strokes: [stroke(0, { marks: [{ kind: 'dead' }] })] }).primitives).filter(
        (shape) => shape.text === '×',
      ),
    ).toHaveLength(3)
    expect(
      texts(
        draw({
          grips,
          strokes: [stroke(0, { marks: [{ kind: 'choke' }, { kind: 'accent' }], direction: 'thumb' })],
        }).primitives,
      ).map((shape) => shape.text),
    ).toEqual(expect.arrayContaining(['choke', '>', 'T']))
  })
  it('counts more dead strokes than there are words for', () =>
    expect(
      texts(
        draw({
          strokes: Array.from({ length: 11 }, (_, index) =>
            stroke((index * Q) / 2, { marks: [{ kind: 'dead' }] }),
          ),
        }).primitives,
      ).map((shape) => shape.text),
    ).toContain('11 dead'))
  it.each([
    [{ kind: 'trill', frets: 3 }, 'tr +3'],
    [{ kind: 'grace', frets: -2 }, 'grace −2'],
    [{ kind: 'arm', semitones: -5, how: 'dive' }, 'dive 5'],
    [{ kind: 'pinched harmonic', semitones: 19 }, 'pinch'],
  ] as const)('writes %j as “%s”', (mark, words) => {
    expect(texts(draw({ notes: [note({ marks: [mark] })] }).primitives).map((shape) => shape.text)).toContain(
      words,
    )
  })
  it('marks a staccato stroke', () =>
    expect(
      texts(draw({ strokes: [stroke(0, { marks: [{ kind: 'staccato' }] })] }).primitives).map(
        (shape) => shape.text,
      ),
    ).toContain('·'))
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
