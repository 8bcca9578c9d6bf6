import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import {
  fifthsOf,
  midiOf,
  nameAtFifths,
  pitchClassOf,
  pretty,
  signatureOf,
  spellMidi,
  spellPitchClass,
  transposeKey,
  MODES,
} from './pitch'

describe('spelling', () => {
  it('lets the key decide between F♯ and G♭', () => {
    expect(spellPitchClass(6, { tonic: 'D', mode: 'major' })).toBe('F#')
    expect(spellPitchClass(6, { tonic: 'Db', mode: 'major' })).toBe('Gb')
  })
  it('names the raised seventh of a minor key as a leading tone', () => {
    expect(spellPitchClass(3, { tonic: 'E', mode: 'minor' })).toBe('D#')
    expect(spellPitchClass(1, { tonic: 'D', mode: 'minor' })).toBe('C#')
  })
  it('keeps the octave of the written name', () => {
    expect(spellMidi(59, { tonic: 'Gb', mode: 'major' })).toBe('Cb4')
    expect(spellMidi(60, { tonic: 'C#', mode: 'major' })).toBe('B#3')
  })
  it('sounds what it spells, in every key', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 12, max: 110 }),
        fc.integer({ min: -6, max: 6 }),
        fc.constantFrom(...MODES),
        (midi, fifths, mode) => {
          expect(midiOf(spellMidi(midi, { tonic: nameAtFifths(fifths), mode }))).toBe(midi)
        },
      ),
    )
  })
  it('walks the line of fifths both ways', () => {
    for (let fifths = -15; fifths < 20; fifths++) expect(fifthsOf(nameAtFifths(fifths))).toBe(fifths)
    expect(Number.isNaN(pitchClassOf('H'))).toBe(true)
  })
  it('moves a key to the spelling with fewer accidentals', () => {
    expect(transposeKey({ tonic: 'E', mode: 'minor' }, -1)).toEqual({ tonic: 'Eb', mode: 'minor' })
    expect(transposeKey({ tonic: 'D', mode: 'major' }, 2).tonic).toBe('E')
    expect(signatureOf({ tonic: 'E', mode: 'minor' })).toBe(1)
  })
  it('prints signs, also after a slash and before a number', () => {
    expect(pretty('F#m7b5/Eb')).toBe('F♯m7♭5/E♭')
    expect(pretty('Bb')).toBe('B♭')
    expect(pretty('Bass')).toBe('Bass')
  })
})
