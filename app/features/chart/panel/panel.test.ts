import { describe, expect, it } from 'vitest'
import { EMPTY_CONTENT, type Note } from '#core/document/schema'
import { TICKS_PER_QUARTER as Q } from '#core/time/meter'
import { intervalWords } from './intervals'
import { placeWords } from './placeWords'
import { withLine } from './withLine'

const note = (id: string, startTicks: number, over: Partial<Note> = {}): Note => ({
  id,
  string: 3,
  fret: 5,
  startTicks,
  lengthTicks: Q,
  marks: [],
  ...over,
})

describe('words of the panel', () => {
  it('say an interval with its side, a unison without', () => {
    expect([intervalWords(3), intervalWords(-6), intervalWords(1)]).toEqual([
      'third above',
      'sixth below',
      'unison',
    ])
    expect(intervalWords(-7)).toBe('7th below')
  })
  it('say a place by bar and count', () => {
    const figure = { meter: { beats: 4, unit: 4 as const } }
    expect(placeWords(figure, 4 * Q + 2 * Q)).toBe('bar 2, 3')
    expect(placeWords(figure, Q / 2)).toBe('bar 1, the and of 1')
  })
})

describe('another line in a figure', () => {
  it('takes the place of its own, and leaves dead notes and everything else', () => {
    const dead = note('dead', Q, { marks: [{ kind: 'dead' }] })
    const content = { ...EMPTY_CONTENT, notes: [note('own', 0), dead] }
    const next = withLine(content, [note('b', 2 * Q), note('a', 0, { string: 2 })])
    expect(next.notes.map((one) => one.id)).toEqual(['a', 'dead', 'b'])
    expect(content.notes).toHaveLength(2)
  })
})
