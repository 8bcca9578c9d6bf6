import { describe, expect, it } from 'vitest'
import { newPart } from '../document/new-song'
import { EMPTY_CONTENT, type Content } from '../document/schema'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { complete } from './complete'
import { enterCall, fitCall } from './enter'
import { parseCall, type ParsedCall } from './parse'

const part = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
const letters = ['E', 'B', 'G', 'D', 'A', 'E']
const FOUR = { beats: 4, unit: 4 } as const
let serial = 0
const newId = () => `i${serial++}`
function read(text: string, startTicks = 0): ParsedCall {
  const result = parseCall(text, {
    part,
    letters,
    meter: FOUR,
    subdivision: 'eighths',
    stepTicks: Q / 2,
    startTicks,
  })
  if (!result.ok) throw new Error(result.error.message)
  return result.value
}
const frets = (content: Content): number[] => content.notes.map((note) => note.fret)

describe('entering a call', () => {
  const old = enterCall(EMPTY_CONTENT, read('hold x02220 for 8, low E 0 1 2 3 4 5 6 7'), newId)
  it('replaces what it speaks over, and nothing else', () => {
    const next = enterCall(old, read('G 7 7', Q), newId)
    expect(frets(next)).toEqual([0, 1, 7, 7, 4, 5, 6, 7])
    expect(next.grips).toEqual(old.grips)
  })
  it('leaves alone what it jumps over, and clears where it rests', () => {
    expect(frets(enterCall(old, read('G 7, at the and of 4, G 9'), newId))).toEqual([7, 1, 2, 3, 4, 5, 6, 9])
    expect(frets(enterCall(old, read('at 2, G 7'), newId))).toEqual([0, 1, 7, 3, 4, 5, 6, 7])
    expect(frets(enterCall(old, read('rest for 2, G 7'), newId))).toEqual([7, 3, 4, 5, 6, 7])
    expect(frets(enterCall(old, read('G 7 for 1/2'), newId))).toEqual([7, 1, 2, 3, 4, 5, 6, 7])
  })
  it('cuts a grip where the new one begins and takes it up again where that ends', () => {
    const next = enterCall(old, read('hold 022100 for 2', Q), newId)
    expect(next.grips.map((span) => [span.startTicks / Q, span.lengthTicks / Q])).toEqual([
      [0, 1],
      [1, 1],
      [2, 2],
    ])
    expect(new Set(next.grips.map((span) => span.id)).size).toBe(3)
    expect(frets(next)).toEqual(frets(old))
  })
  it('gives everything it enters a new id', () =>
    expect(
      new Set([...old.notes, ...enterCall(old, read('A 2 4'), newId).notes].map((note) => note.id)).size,
    ).toBe(10))
})

describe('a call too long for its figure', () => {
  const nine = read('A 0 0 0 0 0 0 0 0 0')
  const figure = { lengthTicks: 4 * Q, meter: FOUR }
  it('goes on into a new bar', () =>
    expect(fitCall(nine, figure, 'longer figure')).toMatchObject({ lengthTicks: 8 * Q }))
  it('is squeezed, nine in the time of eight, ending where the bar ends', () => {
    const { call } = fitCall(nine, figure, 'tuplet')!
    expect(call.content.notes.map((note) => note.startTicks)).toEqual(
      Array.from({ length: 9 }, (_, index) => (index * 4 * Q) / 9),
    )
    expect(call.endTicks).toBe(4 * Q)
  })
  it('makes the bar longer when there is only one', () => {
    expect(fitCall(nine, figure, 'longer bar')).toMatchObject({
      meter: { beats: 9, unit: 8 },
      lengthTicks: 4.5 * Q,
    })
    expect(fitCall(nine, { ...figure, lengthTicks: 8 * Q }, 'longer bar')).toBeUndefined()
  })
})

describe('completions', () => {
  const offered = (text: string) =>
    complete(text, { letters, chords: ['Em', 'C'] }, 60).map((completion) => completion.text)
  it('follow what was said', () => {
    expect(offered('G 7 ha')).toEqual(expect.arrayContaining(['hammer']))
    expect(offered('G 7 ')[0]).toBe('hammer')
    expect(offered('hold ')).toEqual(['Em', 'C'])
    expect(offered('in ')[0]).toBe('eighths')
    expect(offered('G 9 bend ')).toContain('half')
    expect(offered('')).toContain('low E')
  })
  it.each<[string, string]>([
    ['palm ', 'firm'],
    ['palming ', 'light'],
    ['G 9 pre-bend ', 'full'],
    ['G open ', 'hammer'],
    ['down ', 'dead'],
    ['G 7 9\n', 'low E'],
    ['lo', 'low E'],
    ['in tri', 'triplets'],
    ['G 7 sl', 'slide'],
    ['', 'hold'],
  ])('after “%s” offer “%s”', (text, word) => expect(offered(text)).toContain(word))
  it('offer nothing that is typed already, and nothing after a word that nothing usually follows', () => {
    expect(offered('G 7 hammer')).not.toContain('hammer')
    expect(offered('G 7 x7 ,')).toEqual([])
    expect(complete('hold ', { letters })).toEqual([])
  })
  it('replace the word that is being typed', () =>
    expect(complete('G 7 vib', { letters })[0]).toMatchObject({ text: 'vibrato', at: 4, end: 7 }))
})

describe('a muting that lasts longer than its figure', () => {
  it('asks for a figure as long as it is, never for one of no length', () => {
    const muted = {
      startTicks: 0,
      endTicks: 0,
      stepTicks: 5040,
      covered: [],
      content: {
        ...EMPTY_CONTENT,
        mutes: [{ id: 'm', kind: 'palm mute' as const, startTicks: 0, lengthTicks: 80_640 }],
      },
    } as unknown as Parameters<typeof fitCall>[0]
    const meter = { beats: 4, unit: 4 } as const
    expect(fitCall(muted, { lengthTicks: 40_320, meter }, 'longer figure')?.lengthTicks).toBe(80_640)
    expect(fitCall(muted, { lengthTicks: 161_280, meter }, 'longer figure')?.lengthTicks).toBe(161_280)
  })
})
