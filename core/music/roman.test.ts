import { describe, expect, it } from 'vitest'
import type { Key } from './pitch'
import { romanNumeral } from './roman'

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
