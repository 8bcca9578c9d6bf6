import { describe, expect, it } from 'vitest'
import { must } from '../result'
import { readChordSymbol } from '../music/chord-name'
import { soundingMidi } from '../document/part-pitch'
import { SCALE_KINDS, scaleKind } from '../music/scale'
import { bass, dropD, guitar } from '../../tests/support/said-line'
import { movableShapes } from './movable-shapes'
import { writeGrip } from './grips/grip'
import { degreesOnString, scalePlaces, scaleZones, zoneWords } from './zones'

const AM = { tonic: 'A', name: 'minor pentatonic' }
const fretsOf = (places: readonly { string: number; fret: number }[], string: number): number[] =>
  places.filter((place) => place.string === string).map(({ fret }) => fret)

describe('a scale on the neck', () => {
  it('lies everywhere its tones do, and nowhere else', () => {
    const places = scalePlaces(guitar, AM)
    expect(fretsOf(places, 6).slice(0, 6)).toEqual([0, 3, 5, 8, 10, 12])
    for (const { string, fret, midi } of places) {
      expect(soundingMidi(guitar, string, fret)).toBe(midi)
      expect([9, 0, 2, 4, 7]).toContain(midi % 12)
    }
  })
  it('of a pentatonic are five zones, two tones a string, the one from the root at fret 5', () => {
    const zones = scaleZones(guitar, AM)
    expect(zones.map(({ position }) => position)).toEqual([3, 5, 8, 10, 12])
    const box = zones[1]!
    for (const string of [1, 2, 3, 4, 5, 6]) expect(fretsOf(box.places, string)).toHaveLength(2)
    expect(fretsOf(box.places, 6)).toEqual([5, 8])
    expect(zoneWords(box)).toBe('position 5, lowest the root, root on string 6')
    expect(zoneWords(zones[0]!)).toBe('position 3, lowest ♭7, root on string 6')
  })
  it.each(SCALE_KINDS.map(({ name }) => name))('has zones without a gap: %s', (name) => {
    for (const part of [guitar, dropD, bass])
      for (const { places } of scaleZones(part, { tonic: 'A', name })) {
        const degrees = new Set(places.map(({ degree }) => degree))
        expect(degrees.size).toBe(scaleKind(name).semitones.length)
        const frets = places.map(({ fret }) => fret)
        expect(Math.max(...frets) - Math.min(...frets)).toBeLessThanOrEqual(5)
      }
  })
  it('is counted from its root along one string', () => {
    expect(degreesOnString(guitar, AM, 5).map(({ degree, fret }) => `${degree} ${fret}`)).toEqual([
      '1 0',
      'b3 3',
      '4 5',
      '5 7',
      'b7 10',
      '1 12',
    ])
  })
})

describe('movable shapes of a chord', () => {
  it('stand with their root on one string each, nothing open', () => {
    for (const symbol of ['A', 'F#m7', 'Bb7', 'C5']) {
      const shapes = must(movableShapes(symbol, guitar))
      expect(shapes.length).toBeGreaterThanOrEqual(2)
      expect(new Set(shapes.map(({ rootString }) => rootString)).size).toBe(shapes.length)
      for (const { grip, rootString, rootFret } of shapes) {
        expect(grip.strings.every(({ fret }) => fret !== 0)).toBe(true)
        expect(soundingMidi(guitar, rootString, rootFret) % 12).toBe(readChordSymbol(symbol)!.root)
      }
    }
  })
  it('hold the barre everybody knows, and refuse what is no chord', () => {
    expect(must(movableShapes('A', guitar)).map(({ grip }) => writeGrip(grip))).toContain('577655')
    expect(movableShapes('H', guitar)).toMatchObject({ ok: false })
  })
})
