import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { must } from '../result'
import { spellMidi } from '../music/pitch'
import { INSTRUMENT_KINDS, INSTRUMENTS } from './instruments'
import { readTuning, tuningOf, usualInstrument } from './tuning-text'
import { tuningsFor } from './tunings'

const C = { tonic: 'C', mode: 'major' as const }

describe('a tuning written out', () => {
  it('is read low to high and kept high to low, for every tuning there is', () => {
    for (const kind of INSTRUMENT_KINDS)
      for (const tuning of tuningsFor(kind)) {
        const text = [...tuning.openMidi]
          .reverse()
          .map((midi) => spellMidi(midi, C))
          .join(' ')
        expect(must(readTuning(text))).toEqual(tuning.openMidi)
      }
  })
  it('takes flats, sharps and commas', () =>
    expect(must(readTuning('Eb2, Ab2, Db3, F#3, A#3, Eb4'))).toEqual([63, 58, 54, 49, 44, 39]))
  it.each([
    ['E2 A2', /four to eight/],
    ['E2 A2 D3 G3 B3 H4', /“H4” is no pitch/],
    ['E A D G B E', /no pitch with an octave/],
    ['E2 A2 D3 G3 B3 E9', /./],
  ])('refuses %s', (text, sentence) => {
    const result = readTuning(text)
    expect(result.ok).toBe(false)
    if (!result.ok) expect(result.refusal.message).toMatch(sentence)
  })
  it('never throws, whatever is written', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        expect(typeof readTuning(text).ok).toBe('boolean')
      }),
    )
  })
})

describe('the instrument a set of strings is on', () => {
  it.each([
    ['E2 A2 D3 G3 B3 E4', 'guitar-6'],
    ['B1 E2 A2 D3 F#3 B3', 'baritone-6'],
    ['E1 A1 D2 G2', 'bass-4'],
    ['B0 E1 A1 D2 G2', 'bass-5'],
    ['B1 E2 A2 D3 G3 B3 E4', 'guitar-7'],
    ['B0 E1 A1 D2 G2 C3', 'bass-6'],
  ])('%s: %s', (text, kind) => expect(usualInstrument(must(readTuning(text)))).toBe(kind))
  it('says how far shapes are moved, a dropped low string aside', () => {
    const offset = (text: string) => {
      const open = must(readTuning(text))
      return tuningOf(open, usualInstrument(open)).shapeOffset
    }
    expect([
      offset('E2 A2 D3 G3 B3 E4'),
      offset('Eb2 Ab2 Db3 Gb3 Bb3 Eb4'),
      offset('D2 A2 D3 G3 B3 E4'),
      offset('C#2 G#2 C#3 F#3 A#3 D#4'),
      offset('D2 A2 D3 F#3 A3 D4'),
    ]).toEqual([0, -1, 0, -1, 0])
    expect(INSTRUMENTS['guitar-6'].standardMidi).toHaveLength(6)
  })
})
