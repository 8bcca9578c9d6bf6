import { describe, expect, it } from 'vitest'
import { gaugesOf, stringTensions, tensionNewtons } from './string-tension'
import { INSTRUMENTS, type InstrumentKind } from './instruments'
import { tuningChecks } from './tuning-checks'
import { tuningsFor } from './tunings'

const strung = (kind: InstrumentKind, tuning = tuningsFor(kind)[0]!, gauges?: number[]) => ({
  instrument: { kind, scaleLengthMm: INSTRUMENTS[kind].scaleLengthMm, gauges },
  tuning,
})

describe('string tension', () => {
  it('of a plain steel string follows from its mass, length and pitch', () => {
    // 0.010 inch of steel: 0.3977 g a metre; E4 on 648 mm: 0.0003977 × (2 × 0.648 × 329.63)² = 72.6 N.
    expect(tensionNewtons(0.01, 648, 64, { wound: false })).toBeCloseTo(72.6, 0)
  })
  it('doubles with √2 of pitch, is less for a wound string and follows the reference', () => {
    const e = tensionNewtons(0.01, 648, 64, { wound: false })
    expect(tensionNewtons(0.01, 648, 70, { wound: false }) / e).toBeCloseTo(2, 5)
    expect(tensionNewtons(0.01, 648, 64, { wound: true }) / e).toBeCloseTo(0.82, 2)
    expect(tensionNewtons(0.01, 648, 64, { wound: false, referenceHz: 432 })).toBeLessThan(e)
  })
  it.each<InstrumentKind>(['guitar-6', 'guitar-7', 'guitar-12', 'baritone-6', 'bass-4', 'bass-5', 'bass-6'])(
    'of a common set in standard tuning is nothing to caution about: %s',
    (kind) => {
      const tensions = stringTensions(strung(kind))
      expect(tensions).toHaveLength(INSTRUMENTS[kind].strings)
      expect(tensions.flatMap(({ caution }) => caution ?? [])).toEqual([])
    },
  )
  it('cautions a slack and a tight string, and says whom to ask', () => {
    const down = tuningsFor('guitar-6').find(({ name }) => name.startsWith('B standard'))!
    expect(stringTensions(strung('guitar-6', down))[5]!.caution).toContain('slack')
    const tight = stringTensions(strung('guitar-6', undefined, [0.014, 0.018, 0.026, 0.036, 0.046, 0.06]))
    expect(tight[0]!.caution).toContain('luthier')
  })
  it('takes the gauges a part has, the common ones for the rest', () => {
    expect(gaugesOf(strung('guitar-6', undefined, [0.009])).slice(0, 2)).toEqual([0.009, 0.013])
  })
})

describe('checking a tuning by ear', () => {
  const texts = (openMidi: number[]): string[] => tuningChecks(openMidi).map(({ text }) => text)
  it('by fret, by harmonics and by octave in standard tuning', () => {
    const checks = tuningChecks(tuningsFor('guitar-6')[0]!.openMidi)
    const low = checks.filter(({ stringNumber }) => stringNumber === 6).map(({ text }) => text)
    expect(low).toEqual([
      'fret 5 here sounds like string 5 open',
      'the harmonic over fret 5 here rings like the one over fret 7 of string 5',
      'open here is an octave below fret 2 of string 4',
    ])
    // A major third has no harmonics to compare: by fret and octave alone.
    expect(checks.filter(({ stringNumber, how }) => stringNumber === 3 && how === 'harmonics')).toEqual([])
  })
  it('of a dropped string is the octave of the open string two higher', () => {
    const dropped = tuningsFor('guitar-6').find(({ name }) => name === 'Dropped low string to D')!
    expect(texts(dropped.openMidi)).toContain('open here is an octave below string 4 open')
  })
  it('holds for every tuning there is: both sides of a check sound the same', () => {
    for (const { openMidi } of tuningsFor('guitar-6'))
      for (const check of tuningChecks(openMidi)) {
        const own = openMidi[check.stringNumber - 1]!
        const frets = [...check.text.matchAll(/fret (\d+)/g)].map((match) => Number(match[1]))
        const other = openMidi[check.against - 1]!
        if (check.how === 'fret') expect(own + frets[0]!).toBe(other)
        if (check.how === 'octave') expect(own + 12).toBe(other + (frets[0] ?? 0))
      }
  })
})
