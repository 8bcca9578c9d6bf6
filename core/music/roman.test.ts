import { describe, expect, it } from 'vitest'
import type { Key } from './pitch'
import { romanChord, romanNumeral } from './roman'

const key = (tonic: string, mode: Key['mode']): Key => ({ tonic, mode })

describe('chords as degrees', () => {
  it.each([
    ['Em7', key('G', 'major'), 'vi7'],
    ['C', key('E', 'minor'), '♭VI'],
    ['D', key('E', 'minor'), '♭VII'],
    ['B7', key('E', 'minor'), 'V7'],
    ['A5', key('A', 'minor'), 'I5'],
    ['F#m7b5', key('E', 'minor'), 'ii7♭5'],
    ['Cmaj7', key('G', 'major'), 'IVmaj7'],
    ['Am(maj7)', key('A', 'minor'), 'i(maj7)'],
    ['D/F#', key('D', 'major'), 'I/III'],
    ['C6/9', key('C', 'major'), 'I6/9'],
    ['Bbsus4', key('C', 'major'), '♭VIIsus4'],
    ['Gdim', key('C', 'major'), 'vdim'],
  ])('%s in %j is %s', (symbol, inKey, numeral) => expect(romanNumeral(symbol, inKey)).toBe(numeral))
  it('of what is no chord there is none', () =>
    expect(romanNumeral('N.C.', key('C', 'major'))).toBeUndefined())
})

describe('degrees as chords', () => {
  it.each([
    ['vi7', key('G', 'major'), 'Em7'],
    ['IV', key('A', 'major'), 'D'],
    ['VI', key('E', 'minor'), 'C'],
    ['♭VI', key('E', 'minor'), 'C'],
    ['bVII', key('E', 'major'), 'D'],
    ['vii°', key('C', 'major'), 'Bdim'],
    ['iim7b5', key('E', 'minor'), 'F#m7b5'],
  ])('%s in %j is %s', (text, inKey, chord) => expect(romanChord(text, inKey)).toBe(chord))
  it('are numerals and nothing else', () => {
    for (const text of ['IIII', 'Iv', 'C', '', 'in', 'it'])
      expect(romanChord(text, key('C', 'major'))).toBeUndefined()
  })
  it('come back as the same numeral', () => {
    for (const numeral of ['I', 'ii7', 'iii', 'IV', 'V7', 'vi', '♭VII'])
      expect(romanNumeral(romanChord(numeral, key('D', 'major'))!, key('D', 'major'))).toBe(numeral)
  })
})
