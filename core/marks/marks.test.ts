import { describe, expect, it } from 'vitest'
import { markSchema, curveOf, OFFERED_MARKS, signOf, wordsOf, type Mark } from '.'

const QUARTER = 10080

describe('marks on a note', () => {
  it.each(OFFERED_MARKS.map(({ name, mark }) => [name, mark] as const))(
    '%s is a mark that can be stored',
    (_, mark) => expect(markSchema.parse(mark)).toEqual(mark),
  )
  it('say themselves in words, or are said by the way to their fret', () => {
    const silent = OFFERED_MARKS.filter(({ mark }) => wordsOf(mark, 5) === undefined).map(({ name }) => name)
    expect(silent).toEqual(['shift slide', 'grace note', 'tap'])
    expect(wordsOf({ kind: 'trill', frets: 2 }, 5)).toBe('trill 7')
    expect(wordsOf({ kind: 'bend', semitones: 2, shape: 'release' }, 9)).toBe('releasing 2')
  })
  it('draw a sign where no arc, bar or note head does', () => {
    expect(signOf({ kind: 'grace', frets: -2 })).toBe('grace −2')
    for (const kind of ['dead', 'ghost'] as const) expect(signOf({ kind })).toBeUndefined()
    expect(signOf({ kind: 'palm mute', pressure: 'firm' })).toBeUndefined()
  })
  it.each<[string, Mark, number, number]>([
    ['a plain bend arrives', { kind: 'bend', semitones: 2, shape: 'plain' }, 0, 2],
    ['a pre-bend is there', { kind: 'bend', semitones: 1, shape: 'pre-bend' }, 1, 1],
    ['a release comes down', { kind: 'bend', semitones: 2, shape: 'release' }, 2, 0],
    ['a slide in from below arrives', { kind: 'slide', how: 'in from below', frets: 3 }, -3, 0],
    ['a slide out leaves', { kind: 'slide', how: 'out', frets: 4 }, 0, -4],
    ['a dive stays down', { kind: 'arm', semitones: -5, how: 'dive' }, 0, -5],
    ['a dip comes back', { kind: 'arm', semitones: -2, how: 'dip' }, 0, 0],
  ])('move the pitch: %s', (_, mark, first, last) => {
    const points = curveOf(mark, QUARTER, QUARTER)
    expect(points[0]!.semitones).toBeCloseTo(first)
    expect(points.at(-1)!.semitones).toBeCloseTo(last)
    for (let index = 1; index < points.length; index++)
      expect(points[index]!.ticks).toBeGreaterThanOrEqual(points[index - 1]!.ticks)
  })
})
