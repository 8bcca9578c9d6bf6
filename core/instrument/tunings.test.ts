import { describe, expect, it } from 'vitest'
import { INSTRUMENT_KINDS, INSTRUMENTS } from './instruments'
import { describeTuning, openPitchProblem, tensionCaution, tuningLine, tuningsFor } from './tunings'
import { fretDistanceMm, fretSpanMm } from './neck'

describe('tunings', () => {
  it('offers every instrument its standard first, with one pitch a string', () => {
    for (const kind of INSTRUMENT_KINDS) {
      const list = tuningsFor(kind)
      expect(list[0]!.openMidi).toEqual(INSTRUMENTS[kind].standardMidi)
      expect(new Set(list.map((tuning) => tuning.name)).size).toBe(list.length)
      for (const tuning of list) {
        expect(tuning.openMidi).toHaveLength(INSTRUMENTS[kind].strings)
        expect(tuning.openMidi.every((midi) => openPitchProblem(midi) === undefined)).toBe(true)
      }
    }
  })
  it('says the way to a half step down, with a check against the neighbour', () => {
    const low = describeTuning('guitar-6', tuningsFor('guitar-6')[1]!.openMidi)[5]!
    expect(low).toMatchObject({
      name: 'E♭2',
      fromStandard: -1,
      way: 'turn down a half step; check: fret 5 here sounds like string 5 open',
    })
  })
  it('checks a dropped low string at fret 7', () => {
    const dropped = tuningsFor('guitar-6').find((tuning) => tuning.name === 'Dropped low string to D')!
    expect(describeTuning('guitar-6', dropped.openMidi)[5]!.way).toContain('fret 7 here')
    expect(tuningLine(dropped.openMidi, { tonic: 'C', mode: 'major' })).toBe('D A D G B E')
  })
  it('spells strings as the key does', () => {
    const low = [61, 56, 52, 47, 42, 37]
    expect(tuningLine(low, { tonic: 'B', mode: 'minor' })).toBe('C♯ F♯ B E G♯ C♯')
    expect(tuningLine(low, { tonic: 'F', mode: 'minor' })).toBe('D♭ G♭ B E A♭ D♭')
  })
  it('cautions on tension only when tuned up', () => {
    expect(tensionCaution('guitar-6', INSTRUMENTS['guitar-6'].standardMidi)).toBeUndefined()
    expect(
      tensionCaution(
        'guitar-6',
        INSTRUMENTS['guitar-6'].standardMidi.map((midi) => midi + 2),
      ),
    ).toContain('26 %')
    expect(openPitchProblem(120)).toBeDefined()
  })
})

describe('neck', () => {
  it('puts fret 12 at half the scale length', () => expect(fretDistanceMm(12, 648)).toBeCloseTo(324))
  it('measures a first-position stretch wider than the same one at fret 12', () =>
    expect(fretSpanMm(1, 4, 648)).toBeCloseTo(2 * fretSpanMm(13, 16, 648), 5))
})
