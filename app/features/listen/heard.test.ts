import { describe, expect, it } from 'vitest'
import { ANALYSIS_VERSION, type Analysis } from '#core/hear/analysis'
import { heardRows } from './heardRows'
import { sectionWords } from './heardSection'

const bare: Analysis = { version: ANALYSIS_VERSION, durationSeconds: 60, beats: [], downbeats: [] }
const section = (over: Partial<NonNullable<Analysis['sections']>[number]> = {}) => ({
  start: 0,
  end: 20,
  label: 'A',
  bars: 8,
  confidence: 0.9,
  ...over,
})

describe('the rows of what is heard', () => {
  it('are none where nothing was heard', () => {
    expect(heardRows(bare, [])).toEqual([])
  })
  it('say each kind in a few words, with how sure it is', () => {
    const rows = heardRows(
      {
        ...bare,
        tempo: 118.34,
        meter: { beats: 4, unit: 4 },
        tempoRivals: [{ bpm: 118, share: 0.8 }],
        sections: [section(), section({ label: 'B' }), section({ start: 40, confidence: 0.5 })],
        key: { tonic: 'E', mode: 'minor' },
        keyConfidence: 0.7,
      },
      [],
    )
    expect(rows.map((row) => [row.kind, row.text, row.sure])).toEqual([
      ['bars', '♩ = 118.3, 4/4', 0.8],
      ['sections', '3, 2 of them different', 0.7],
      ['key', 'E minor, sounding', 0.7],
    ])
    expect(rows[1]?.because).toMatch('Least sure of the beginnings at 0:40.')
    expect(rows.every((row) => !row.open)).toBe(true)
  })
  it('stand as their suggestion says them while it is open', () => {
    const open = { kind: 'key' as const, text: 'A minor', why: 'because', confidence: 0.4 }
    const [row] = heardRows({ ...bare, key: { tonic: 'E', mode: 'minor' } }, [open])
    expect(row).toMatchObject({ text: 'A minor', because: 'because', sure: 0.4, open: true })
  })
  it('tell of a tape that slows, and of none that holds its speed', () => {
    const tuned = (last: number): Analysis => ({
      ...bare,
      tuningCents: 0,
      tuningOverTime: [0, 10, 20, 30].map((seconds, index) => ({ seconds, cents: index === 3 ? last : 0 })),
    })
    const because = (last: number) => heardRows(tuned(last), []).find((row) => row.kind === 'tuning')!.because
    expect(because(-12)).toContain('moves by -12 cents: the tape slows')
    expect(because(12)).toContain('speeds up')
    expect(because(3)).not.toContain('tape')
  })
})

describe('a section as heard', () => {
  const words = (sections: NonNullable<Analysis['sections']>, at: number, over: Partial<Analysis> = {}) =>
    sectionWords({ ...bare, sections, ...over }, sections[at]!, { bar: 0, nameShift: 0 })

  it('says its name with the reason first', () => {
    expect(words([section(), section({ start: 20, end: 40, label: 'B' })], 0)[0]).toBe(
      'Intro: the first, and it does not return',
    )
  })
  it('says its pattern and which time differs', () => {
    const pattern = { bars: 2, times: 4, differs: [1, 3] }
    expect(words([section({ pattern })], 0)).toContain('2 bars × 4, no. 2 and last differs')
  })
  it('says what it returns, by how much moved, and in which bars it differs', () => {
    const returns = { section: 0, likeness: 0.94, shift: 2, differs: [6], perBar: [] }
    const found = words([section(), section({ start: 20, end: 40, returns })], 1)
    expect(found).toContain('like the section at 0:00: 94 %, +2 semitones, differs in bar 7')
  })
  it('says on which root its riff stands, as names are shown', () => {
    const one = section({ riffOn: 'Db' })
    const found = (nameShift: number): string[] =>
      sectionWords({ ...bare, sections: [one] }, one, { bar: undefined, nameShift })
    expect(found(0)).toContain('riff on D♭, not a progression')
    expect(found(2)).toContain('riff on E♭, not a progression')
  })
  it('says who plays in the bar, or that nobody does', () => {
    expect(words([section()], 0, { activity: ['lb'] })).toContain('plays: left, low')
    expect(words([section()], 0, { activity: [''] })).toContain('plays: nobody')
  })
  it('says its key as names are shown, with its flavour', () => {
    const found = sectionWords(
      { ...bare, sections: [section({ key: { tonic: 'Eb', mode: 'minor' }, flavour: 'dorian' })] },
      section({ key: { tonic: 'Eb', mode: 'minor' }, flavour: 'dorian' }),
      { bar: undefined, nameShift: 1 },
    )
    expect(found).toEqual(['E minor, dorian'])
  })
})
