import { describe, expect, it } from 'vitest'
import { alignRecordings, firstToSecond } from '../alignment'
import { likenessMatrix, type BarSound } from './bar-sound'
import { compareSections, labelSections, repetitionIn } from './section-returns'
import { findBeginnings } from './section-starts'
import { quietJob } from '../job'

/** A bar whose harmony is one chord, with a colour and a drum pattern of its section. */
function bar(root: number, kind: number, index: number): BarSound {
  const harmony = Array.from({ length: 4 }, () => {
    const out = new Float64Array(36)
    for (let register = 0; register < 3; register++)
      for (const tone of [0, 4, 7]) out[register * 12 + ((root + tone) % 12)] = 1 / Math.sqrt(3)
    return out
  })
  const spread = (length: number, seed: number): Float64Array =>
    Float64Array.from(
      { length },
      (_, k) => Math.sin(kind * 2.1 + k * (1 + kind)) + 0.08 * Math.sin(index * 7 + k + seed),
    )
  return {
    start: index * 2,
    end: index * 2 + 2,
    harmony,
    colour: spread(40, 1),
    rhythm: spread(24, 2),
    loudness: 8 + kind * 0.6,
  }
}
const PROGRESSIONS: Record<string, { chords: number[]; kind: number }> = {
  V: { chords: [9, 5, 0, 7], kind: 0 },
  C: { chords: [5, 7, 9, 0], kind: 1 },
  B: { chords: [2, 4, 2, 11], kind: 2 },
}
function song(form: string, shifts: number[] = []): BarSound[] {
  return [...form]
    .flatMap((letter, part) => Array.from({ length: 8 }, (_, k) => ({ letter, part, k })))
    .map(({ letter, part, k }, index) =>
      bar(
        (PROGRESSIONS[letter]!.chords[k % 4]! + (shifts[part] ?? 0)) % 12,
        PROGRESSIONS[letter]!.kind,
        index,
      ),
    )
}
const formOf = (bars: BarSound[], fixed?: Map<number, boolean>) =>
  labelSections(bars, findBeginnings(bars, likenessMatrix(bars), fixed))

describe('form', () => {
  it('finds verse and chorus, and gives what returns one letter', () => {
    const found = formOf(song('VCVCBC'))
    expect(found.map((section) => section.firstBar)).toEqual([0, 8, 16, 24, 32, 40])
    expect(found.map((section) => section.letter).join('')).toBe('ABABCB')
    expect(found[2]!.returns).toMatchObject({ section: 0, shift: 0, differs: [] })
  })
  it('knows a return that is moved up', () => {
    const bars = song('VCVC', [0, 0, 0, 2])
    expect(compareSections(bars.slice(8, 16), bars.slice(24)).shift).toBe(2)
    expect(formOf(bars).at(-1)!.returns).toMatchObject({ section: 1, shift: 2 })
  })
  it('says which bar of a return differs', () => {
    const bars = song('VCVC')
    bars[22] = { ...bar(6, 0, 22), start: 44, end: 46 }
    expect(formOf(bars)[2]!.returns!.differs).toEqual([6])
  })
  it('keeps to beginnings that are given, and to bars that are said to be none', () => {
    const starts = formOf(
      song('VCVC'),
      new Map([
        [4, true],
        [16, false],
      ]),
    ).map((section) => section.firstBar)
    expect(starts).toContain(4)
    expect(starts).not.toContain(16)
  })
  it('says how sure each beginning is: what was said surely, what hardly changes less than what does', () => {
    const sureAt = (bars: BarSound[], at: number, fixed?: Map<number, boolean>): number | undefined =>
      findBeginnings(bars, likenessMatrix(bars), fixed).find(({ bar }) => bar === at)?.sure
    const plain = song('VCVCBC')
    expect(sureAt(plain, 0)).toBeCloseTo(1)
    expect(sureAt(plain, 16)).toBeGreaterThan(0.9)
    // Of sixteen bars of one progression it is anybody's guess that they are twice eight.
    const alike = song('VV')
    expect(sureAt(alike, 8) ?? 0).toBeLessThan(sureAt(plain, 8) ?? 0)
    expect(sureAt(plain, 4, new Map([[4, true]]))).toBeCloseTo(1)
  })
  it('sees a riff inside a section: two bars four times, the last differs', () => {
    const bars = [0, 7, 0, 7, 0, 7, 5, 10].map((root, index) => bar(root, 0, index))
    expect(repetitionIn(bars)).toEqual({ bars: 2, times: 4, differs: [3] })
    expect(repetitionIn([0, 1, 2, 3].map((root, index) => bar(root * 3, 0, index)))).toBeUndefined()
  })
  it('has nothing to say about nothing', () => expect(formOf([])).toEqual([]))
})

describe('two recordings side by side', () => {
  const ROOTS = [0, 5, 9, 7, 2, 7, 4, 9, 5, 11, 0, 7, 3, 8, 10, 5]
  /** Frames of 0.25 s: each chord lasts `frames` of them. */
  const frames = (roots: number[], length: number, shift = 0): Float64Array[] =>
    roots.flatMap((root) =>
      Array.from({ length }, () => {
        const out = new Float64Array(12)
        for (const tone of [0, 4, 7]) out[(root + tone + shift + 12) % 12] = 1 / Math.sqrt(3)
        return out
      }),
    )
  it('finds the shift and follows a slower take', async () => {
    const found = await alignRecordings(frames(ROOTS, 8), frames(ROOTS, 10, -2), quietJob)
    expect(found.semitones).toBe(-2)
    expect(found.likeness).toBeGreaterThan(0.95)
    for (const chord of [2, 7, 12])
      expect(Math.abs(firstToSecond(found.points, chord * 2 + 0.5) - (chord * 2.5 + 0.6))).toBeLessThan(0.8)
    expect(found.only).toEqual([])
  })
  it('says what only one of them has', async () => {
    const found = await alignRecordings(frames(ROOTS, 8), frames([6, 1, 6, 1, ...ROOTS], 8), quietJob)
    expect(found.only).toHaveLength(1)
    expect(found.only[0]).toMatchObject({ which: 'second', start: 0 })
    expect(found.only[0]!.end).toBeCloseTo(8, 0)
  })
  it('places rise in both, and run on beyond the ends', async () => {
    const { points } = await alignRecordings(frames(ROOTS, 8), frames(ROOTS, 9), quietJob)
    points.slice(1).forEach((point, index) => {
      expect(point.first).toBeGreaterThanOrEqual(points[index]!.first)
      expect(point.second).toBeGreaterThanOrEqual(points[index]!.second)
    })
    expect(firstToSecond(points, points.at(-1)!.first + 3)).toBeCloseTo(points.at(-1)!.second + 3)
  })
})
