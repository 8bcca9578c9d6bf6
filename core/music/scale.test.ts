import { describe, expect, it } from 'vitest'
import { degreeAbove, fitScales, outsideNotes, scaleKind, SCALE_KINDS, type LineNote } from './scale'
import { pitchClassOf, type Key } from './pitch'

const line = (...midis: number[]): LineNote[] =>
  midis.map((midi, index) => ({ midi, startTicks: index * 5040, lengthTicks: 5040 }))
const E: Key = { tonic: 'E', mode: 'minor' }
const best = (key: Key, ...midis: number[]): string => {
  const [fit] = fitScales(line(...midis), key)
  return `${fit!.tonic} ${fit!.name}`
}

describe('the scale of a line', () => {
  it.each([
    [E, [40, 43, 45, 47, 50, 52], 'E minor pentatonic'],
    [E, [40, 42, 43, 45, 47, 48, 51, 52], 'E harmonic minor'],
    [{ tonic: 'A', mode: 'minor' } as Key, [45, 48, 50, 51, 52, 55, 57], 'A blues'],
    [{ tonic: 'C', mode: 'major' } as Key, [60, 62, 64, 65, 67, 69, 70, 72], 'C mixolydian'],
    [{ tonic: 'D', mode: 'minor' } as Key, [50, 52, 53, 55, 57, 59, 60, 62], 'D dorian'],
    [E, [40, 41, 43, 45, 47, 48, 50, 52], 'E phrygian'],
    [{ tonic: 'G', mode: 'major' } as Key, [55, 57, 59, 62, 64, 67], 'G major pentatonic'],
  ])('in %j: %j is %s', (key, midis, name) => expect(best(key, ...midis)).toBe(name))
  it('is heard in its own tonic even where the song’s key is another', () =>
    expect(best({ tonic: 'C', mode: 'major' }, 45, 48, 50, 51, 52, 55, 57, 45)).toBe('A blues'))
  it.each([
    [
      'begun and ended on its own tonic',
      { tonic: 'G', mode: 'major' } as Key,
      [76, 79, 81, 83, 86, 83, 76],
      'E',
    ],
    ['in a major blues', { tonic: 'A', mode: 'major' } as Key, [69, 72, 74, 76, 79, 81, 79, 72, 69], 'A'],
    ['with one of its tones left out', { tonic: 'D', mode: 'mixolydian' } as Key, [74, 72, 69, 67, 74], 'D'],
    ['in a minor key of another tonic', { tonic: 'E', mode: 'minor' } as Key, [71, 74, 76, 78, 81, 71], 'B'],
  ])('is pentatonic where the notes are such, %s', (_, key, midis, tonic) =>
    expect(best(key, ...midis)).toBe(`${tonic} minor pentatonic`),
  )
  it('is none for no notes', () => expect(fitScales([], E)).toEqual([]))
})

describe('degrees and outside notes', () => {
  it('numbers notes against the tonic, as the scale spells them', () => {
    expect(
      [52, 54, 55, 57, 59, 60, 63].map((midi) =>
        degreeAbove(midi, pitchClassOf('E'), scaleKind('harmonic minor')),
      ),
    ).toEqual(['1', '2', 'b3', '4', '5', 'b6', '7'])
    expect(degreeAbove(66, 0, scaleKind('lydian'))).toBe('#4')
    expect(degreeAbove(66, 0)).toBe('b5')
  })
  it('says how the one outside note resolves', () => {
    const notes = line(52, 54, 55, 56, 57, 59)
    expect(outsideNotes(notes, { tonic: 'E', name: 'minor' }, E)).toEqual([
      { index: 3, midi: 56, name: 'G#', resolves: 'resolves a half step up to A' },
    ])
  })
  it('knows its scales by steps that fit an octave', () => {
    for (const kind of SCALE_KINDS) {
      expect(kind.semitones[0]).toBe(0)
      expect(new Set(kind.semitones).size).toBe(kind.semitones.length)
    }
  })
})
