import { describe, expect, it } from 'vitest'
import { newPart } from '../document/new-song'
import type { Content } from '../document/schema'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { parseCall } from './parse'
import { speak } from './speak'
import { placeWords, type SpeakOptions } from './speech'

const part = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
const letters = ['E', 'B', 'G', 'D', 'A', 'E']
const FOUR = { beats: 4, unit: 4 } as const
const SIX = { beats: 6, unit: 8 } as const
const options: SpeakOptions = {
  letters,
  strings: 'letters',
  meter: FOUR,
  subdivision: 'eighths',
  stepTicks: Q / 2,
  openMidi: part.tuning.openMidi,
}
function content(call: string, over: Partial<SpeakOptions> = {}): Content {
  const read = parseCall(call, { part, ...options, ...over, letters: [...letters] })
  if (!read.ok) throw new Error(`${call}: ${read.error.message}`)
  return read.value.content
}
const lines = (call: string, over: Partial<SpeakOptions> = {}): string[] =>
  speak(content(call, over), { ...options, ...over }).map((line) => line.text)

describe('a figure said back', () => {
  it('names strings in the school that is asked for', () => {
    expect(lines('low E 3, A 2, high E open')).toEqual(['low E 3, A 2, high E open'])
    expect(lines('low E 3, A 2 4', { strings: 'numbers' })).toEqual(['string 6 fret 3, string 5 fret 2 4'])
  })
  it('says grips, muting, hand and notes in layers, each in its order', () => {
    const said = speak(content('hold x32010 for 8, palming firm for 4, down down'), options)
    expect(said.map((line) => line.layer)).toEqual(['grips', 'muting', 'hand'])
    expect(said.map((line) => line.text).join(' / ')).toBe(
      'hold x32010 for 8 / palming firm for 4 / two down',
    )
  })
  it(
    'goes to the line’s place by bar and count, in compound meters by ticks where ' + 'counts would mislead',
    () => {
      expect(lines('at bar 2 on 3, G 7 9')).toEqual(['at bar 2 on 3, G 7 9'])
      expect(placeWords(5 * Q, FOUR)).toBe('at bar 2 on 2')
      expect(placeWords(Q / 7, FOUR)).toMatch(/^at \d+ ticks$/)
      expect(
        content(lines('at bar 2, G 7 9 7', { meter: SIX }).join('\n'), { meter: SIX }).notes.map(
          (note) => note.startTicks,
        ),
      ).toEqual([3 * Q, 3.5 * Q, 4 * Q])
    },
  )
  it('says a release after its bend, and everything that is left ringing', () => {
    expect(lines('B 8 bend 2, release, pull 5')).toEqual(['B 8 bend 2, release pull 5'])
    expect(lines('D 2 ringing for 8, G 2 ringing for 7, B 3')).toEqual([
      'D 2 ringing for 8, G 2 ringing for 7, B 3',
    ])
  })
  it('counts strokes, and repeats what is dressed', () => {
    expect(lines('hold x32010, down accent, twice, four up')).toEqual([
      'hold x32010 for 6',
      'down accent, twice, four up',
    ])
    expect(lines('hold x32010, palm light down down accent, up')).toEqual([
      'hold x32010 for 3',
      'palm light down down accent, up',
    ])
  })
})
