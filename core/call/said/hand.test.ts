// Small decisions of the spoken reading: which string of one name, how far a bend goes, which grip a name
// means, where degrees of a key lie.
import { newPart } from '../../document/new-song'
import { writeGrip } from '../../neck/grips/grip'
import { TICKS_PER_QUARTER as Q } from '../../time/meter'
import type { CallContext } from '../reading'
import { describe, expect, it } from 'vitest'
import { bendAmounts, bendWords } from './bend-amount'
import { bindStrings } from './bind'
import { corrected } from './corrections'
import { degreeItems } from './degrees'
import { nearest, stringsNamed, way } from './hand'
import type { Item, NoteItem, StringSpec } from './items'
import { lexemes } from './lexemes'
import { namedMidi } from './named-pitch'
import { usualGrip } from './usual-grips'

const part = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
const LETTERS = ['E', 'B', 'G', 'D', 'A', 'E']
const context: CallContext = {
  part,
  letters: LETTERS,
  meter: { beats: 4, unit: 4 },
  subdivision: 'eighths',
  stepTicks: Q / 2,
}
const tuned = (by: readonly number[]): CallContext => ({
  ...context,
  part: {
    ...part,
    tuning: { ...part.tuning, openMidi: part.tuning.openMidi.map((midi, index) => midi + (by[index] ?? 0)) },
  },
})

describe('the string that is meant', () => {
  it('is every one of a name, or the one of a side', () => {
    expect(stringsNamed({ letter: 'E' }, LETTERS, LETTERS)).toEqual([1, 6])
    expect(stringsNamed({ letter: 'E', which: 'low' }, LETTERS, LETTERS)).toEqual([6])
    expect(stringsNamed({ letter: 'E', which: 'high' }, LETTERS, LETTERS)).toEqual([1])
    expect(stringsNamed({ number: 4 }, LETTERS, LETTERS)).toEqual([4])
    expect(stringsNamed({ number: 9 }, LETTERS, LETTERS)).toEqual([])
    expect(stringsNamed({ number: 0 }, LETTERS, LETTERS)).toEqual([])
  })
  it('is known by its name in standard tuning where none is tuned so', () => {
    const dropped = ['D', 'A', 'F', 'C', 'G', 'C']
    expect(stringsNamed({ letter: 'B' }, dropped, LETTERS)).toEqual([2])
    expect(stringsNamed({ letter: 'A' }, dropped, LETTERS)).toEqual([2])
  })
  it('is the one between where the hand was and where it goes', () => {
    const at = { from: { string: 2, fret: 10 }, next: undefined, low: true }
    expect(nearest([1, 6], 12, at)).toBe(1)
    expect(nearest([1, 6], 12, { ...at, from: { string: 5, fret: 10 } })).toBe(6)
    expect(nearest([1, 6], 0, { from: undefined, next: undefined, low: true })).toBe(6)
  })
  it('asks nothing of the fretting hand when it is open', () => {
    expect(way({ string: 3, fret: 12 }, { string: 3, fret: 0 })).toBe(0)
    expect(way({ string: 3, fret: 12 }, { string: 3, fret: 7 })).toBeGreaterThan(0)
    expect(way(undefined, { string: 3, fret: 7 })).toBe(0)
  })
})

describe('a bend whose amount is not said', () => {
  it('goes to the next note of the key, a whole step where there is no key', () => {
    expect(bendAmounts({ ...context, key: { tonic: 'C', mode: 'major' } }, { string: 2, fret: 5 })[0]).toBe(1)
    expect(bendAmounts({ ...context, key: { tonic: 'C', mode: 'major' } }, { string: 2, fret: 8 })[0]).toBe(2)
    expect(bendAmounts(context, { string: 2, fret: 5 })[0]).toBe(2)
  })
  it('is said in words', () =>
    expect([0.5, 1, 2, 3, 4].map(bendWords).join(', ')).toMatch(/quarter.*half.*whole/))
})

describe('the grip a name means', () => {
  it.each([
    ['C', 'x32010'],
    ['Am', 'x02210'],
    ['F#m', '244222'],
    ['Bb', 'x13331'],
    ['Gm', '355333'],
    ['C#m7', 'x46454'],
    ['B5', 'x244xx'],
    ['D/F#', '200232'],
  ])('%s is %s', (symbol, grip) => expect(writeGrip(usualGrip(symbol, context)!)).toBe(grip))
  it('is the same by shape a half step down, and left to the search in other tunings', () => {
    const down = tuned([-1, -1, -1, -1, -1, -1])
    expect(writeGrip(usualGrip('Am', down)!)).toBe('x02210')
    expect(usualGrip('Am', tuned([0, 0, 0, 0, 0, -2]))).toBeUndefined()
    expect(usualGrip('Ebmaj9#11', context)).toBeUndefined()
    expect(usualGrip('H', context)).toBeUndefined()
  })
  it('stands on strings at the pitch they are called by', () => {
    expect(namedMidi(tuned([-1, -1, -1, -1, -1, -1]))).toEqual(part.tuning.openMidi)
    expect(namedMidi({ part, letters: [] })).toEqual(part.tuning.openMidi)
  })
})

describe('degrees of the key', () => {
  const key = { tonic: 'D', mode: 'major' } as const
  const degrees = (call: string, more: Partial<CallContext> = {}) =>
    degreeItems(lexemes(call, 6), { ...context, key, ...more })
  it('are numbers without any string, in a key', () => {
    const pitches = degrees('one, three, five')!.map((item) => {
      if (item.k !== 'note') throw new Error('no note')
      return (part.tuning.openMidi[(item.strings?.[0]?.number ?? 1) - 1]! + (item.fret as number)) % 12
    })
    expect(pitches).toEqual([2, 6, 9])
  })
  it('are frets as soon as a string is known, or anything else is said', () => {
    expect(degrees('one, three, five', { string: 3 })).toBeUndefined()
    expect(degrees('one, three, five', { key: undefined })).toBeUndefined()
    expect(degrees('one, three, five on the G')).toBeUndefined()
    expect(degrees('12, 10, 12')).toBeUndefined()
    expect(degrees('one, three')).toBeUndefined()
  })
})

const note = (fret: number, more: Partial<NoteItem> = {}): Item => ({
  k: 'note',
  fret,
  dead: false,
  count: 1,
  marks: [],
  at: 0,
  end: 1,
  ...more,
})
const strings = (letter: string, after: boolean, more: StringSpec[] = []): Item => ({
  k: 'strings',
  specs: [{ letter }, ...more],
  after,
  at: 0,
  end: 1,
})
const stop = (text: string): Item => ({ k: 'stop', text, at: 0, end: 1 })
const bound = (items: readonly Item[], reach: 'frets' | 'thought' = 'frets'): string =>
  bindStrings(items, reach)
    .items.flatMap((item) => {
      if (item.k !== 'note') return item.k === 'strings' ? [`[${item.specs[0]?.letter}]`] : []
      return [
        `${item.fret}${item.strings?.map((spec) => spec.letter).join('') ?? '?'}${item.join ? '+' : ''}`,
      ]
    })
    .join(' ')

describe('which string goes with which fret', () => {
  it('takes a string that is named after them back over commas to “then”', () => {
    expect(bound([note(3), stop(','), note(2), stop(','), note(0), strings('D', true)])).toBe('3D 2D 0D')
    expect(bound([note(2), strings('A', true), stop('then'), note(3), note(2), strings('D', true)])).toBe(
      '2A 3D 2D',
    )
    const held = [
      note(12),
      strings('D', true),
      stop(','),
      note(10),
      stop('then'),
      note(12),
      strings('A', true),
    ]
    expect(bound(held)).toBe('12D 10? 12A')
  })
  it('leaves frets to the string before where that is decided', () => {
    const items = [note(5), strings('A', true), stop(','), note(7), stop(','), note(9), strings('D', true)]
    expect(bound(items)).toBe('5A 7D 9D')
    expect(bound(items, 'thought')).toBe('5A 7? 9D')
    expect(bindStrings(items, 'frets').reached).toHaveLength(1)
  })
  it('keeps the frets after a string that is named first', () => {
    const items = [
      strings('G', false),
      stop(','),
      note(7),
      stop(','),
      note(9),
      stop(','),
      note(7),
      strings('D', true),
    ]
    expect(bound(items)).toBe('[G] 7? 9? 7D')
  })
  it('puts as many frets as strings one to one, at once', () =>
    expect(
      bound([note(7), { k: 'and', at: 0, end: 1 }, note(9), strings('D', true, [{ letter: 'G' }])]),
    ).toBe('7D 9G+'))
  it('keeps what is slid to on the string it comes from', () => {
    const items = [
      note(9),
      strings('G', true),
      stop(','),
      note(7, { move: 'pull' }),
      stop(','),
      note(9),
      strings('D', true),
    ]
    expect(bound(items)).toBe('9G 7? 9D')
  })
})

describe('corrections', () => {
  const fix = (wipe = false): Item => ({ k: 'fix', wipe, at: 0, end: 1 })
  it('put what is said instead in the place of what was said', () => {
    expect(bound(corrected([note(8), stop(','), fix(), note(9), strings('D', true)]))).toBe('9D')
    expect(
      bound(corrected([note(7), strings('G', true), stop(','), fix(), stop(','), strings('B', true)])),
    ).toBe('7B')
  })
  it('take a thought back, and do nothing where there is nothing to take back', () => {
    expect(bound(corrected([note(1), stop(','), note(2), stop(','), fix(true), note(3)]))).toBe('1? 3?')
    expect(corrected([fix(), note(3)])).toHaveLength(1)
    expect(corrected([note(3), fix()])).toHaveLength(1)
  })
})
