import { beforeAll, describe, expect, it } from 'vitest'
import { nodeFft } from '../../node/fft'
import { drumKit, noise, pluck, RATE, silence, strum } from '../../tests/support/tones'
import { analyse } from './analyse'
import type { Analysis } from './analysis'
import { labelSymbol, QUALITIES, readLabel, symbolLabel, TONES, writeLabel } from './decode/chord-labels'
import { divisionOf, groupingOf } from './decode/feel'
import { quietJob } from './job'
import { findKey, flavourOf, spellKey } from './decode/key'
import { onsetStrength } from './features/onset-strength'
import { LOWEST_MIDI, notesIn, pitchSpectrum, spectrumOf } from './features/pitch-spectrum'
import { barActivity, barNotes, entrances } from './features/activity'
import { measureSides } from './features/stereo-field'
import type { MakeFft } from './features/spectrum'
import { measureTuning } from './features/tuning'
import { centsWords, rankTunings } from './evidence/tuning-words'

let makeFft: MakeFft
beforeAll(async () => {
  makeFft = await nodeFft()
})
const hear = (mono: Float32Array): Promise<Analysis> =>
  analyse({ channels: [mono], sampleRate: RATE }, makeFft, quietJob)
const SHAPES: Record<string, number[]> = {
  'E:min': [40, 47, 52, 55, 59, 64],
  'C:maj': [48, 52, 55, 60, 64],
  'G:maj': [43, 47, 50, 55, 59, 67],
  'D:maj': [50, 57, 62, 66],
  'A:min7': [45, 52, 55, 60, 64],
  'E:5': [40, 47, 52],
}

/** A small band: drums, strummed chords of a bar each, their roots in the bass. */
function band(
  chords: string[],
  options: { bpm?: number; cents?: number; times?: number } = {},
): Float32Array {
  const { bpm = 112, cents = 0, times = 4 } = options
  const gap = 60 / bpm
  const out = silence(0.5 + chords.length * times * 4 * gap + 1)
  drumKit(out, { bpm, start: 0.5, beats: chords.length * times * 4 })
  for (let bar = 0; bar < chords.length * times; bar++) {
    const shape = SHAPES[chords[bar % chords.length]!]!
    for (let beat = 0; beat < 4; beat++) {
      strum(
        out,
        shape.map((midi) => midi + cents / 100),
        0.5 + (bar * 4 + beat) * gap,
        gap * 0.98,
      )
      pluck(out, {
        midi: 28 + ((shape[0]! - 28) % 12) + cents / 100,
        start: 0.5 + (bar * 4 + beat) * gap,
        length: gap * 0.95,
        loudness: 0.25,
      })
    }
  }
  return out
}
const atTime = (analysis: Analysis, seconds: number): string =>
  analysis.chords?.find((chord) => chord.start <= seconds && seconds < chord.end)?.label ?? 'none'

describe('chords', () => {
  it('names the chords of a strummed progression, and their key', async () => {
    const chords = ['E:min', 'C:maj', 'G:maj', 'D:maj']
    const found = await hear(band(chords))
    const bar = (4 * 60) / 112
    const heard = Array.from({ length: 16 }, (_, index) => atTime(found, 0.5 + (index + 0.5) * bar))
    const right = heard.filter(
      (label, index) => readLabel(label)?.root === readLabel(chords[index % 4]!)!.root,
    )
    expect(right.length).toBeGreaterThanOrEqual(14)
    expect(
      heard.filter((label, index) => label.split('/')[0] === chords[index % 4]).length,
    ).toBeGreaterThanOrEqual(11)
    expect(found.key && [found.key.tonic, found.key.mode].join(' ')).toMatch(/^(E minor|G major)$/)
    for (const chord of found.chords!) expect(chord.rivals.every((rival) => rival.share <= 1)).toBe(true)
  })
  it('hears the same names on a tape that runs 35 cents flat', async () => {
    const found = await hear(band(['E:min', 'C:maj', 'G:maj', 'D:maj'], { cents: -35 }))
    expect(found.tuningCents).toBeGreaterThan(-38)
    expect(found.tuningCents).toBeLessThan(-32)
    const bar = (4 * 60) / 112
    expect(
      ['E', 'C', 'G', 'D'].filter((root, index) =>
        atTime(found, 0.5 + (4 + index + 0.5) * bar).startsWith(`${root}:`),
      ).length,
    ).toBeGreaterThanOrEqual(3)
  })
  it('every label is read as it is written, and as a symbol both ways', () => {
    for (const quality of QUALITIES)
      for (const root of [0, 6, 10]) {
        const chord = { root, quality, bass: (root + TONES[quality][1]!) % 12 }
        expect(readLabel(writeLabel(chord))).toEqual(chord)
        expect(readLabel(symbolLabel(labelSymbol(writeLabel(chord))))).toEqual(chord)
      }
    expect(readLabel('N')).toBeUndefined()
    expect(symbolLabel('what?')).toBe('N')
    expect(writeLabel(readLabel('F#:min7/A'), { tonic: 'F#', mode: 'minor' })).toBe('F#:min7/A')
  })
})

describe('pitch', () => {
  it('explains a note by itself, not by its overtones', async () => {
    const out = silence(2)
    pluck(out, { midi: 45, start: 0, length: 2 })
    const notes = notesIn(
      spectrumOf(await pitchSpectrum(out, { sampleRate: RATE, tuningCents: 0 }, makeFft, quietJob), 0.3, 1.5),
    )
    const strongest = [...notes.keys()].sort((a, b) => notes[b]! - notes[a]!)[0]! + LOWEST_MIDI
    expect(strongest).toBe(45)
    expect(notes[57 - LOWEST_MIDI]! / notes[45 - LOWEST_MIDI]!).toBeLessThan(0.35)
  })
  it.each([-42, -14, 0, 23, 49])('measures a tuning %i cents off within two', async (cents) => {
    const out = silence(12)
    ;[40, 45, 52, 55, 59, 64, 57, 50].forEach((midi, index) =>
      pluck(out, { midi: midi + cents / 100, start: index * 1.4, length: 1.3 }),
    )
    const tuning = await measureTuning(out, RATE, makeFft, quietJob)
    expect(Math.abs(((tuning.cents! - cents + 150) % 100) - 50)).toBeLessThan(2)
    expect(tuning.pitched).toBe(true)
  })
  it('sees a tape that slows', async () => {
    const out = silence(60)
    for (let index = 0; index < 55; index++)
      pluck(out, { midi: [52, 55, 59, 64][index % 4]! - (0.3 * index) / 55, start: index, length: 0.95 })
    const { overTime } = await measureTuning(out, RATE, makeFft, quietJob)
    expect(overTime[0]!.cents - overTime.at(-1)!.cents).toBeGreaterThan(15)
  })
  it('has no tuning for noise or a hum of one note', async () => {
    const random = noise(5)
    expect(
      (
        await measureTuning(
          silence(8).map(() => 0.3 * random()),
          RATE,
          makeFft,
          quietJob,
        )
      ).pitched,
    ).toBe(false)
    const hum = silence(8).map((_, index) => 0.3 * Math.sin((2 * Math.PI * 220 * index) / RATE))
    expect((await measureTuning(hum, RATE, makeFft, quietJob)).pitched).toBe(false)
  })
})

describe('what a tuning means', () => {
  const low = (notes: number[]): Float64Array => {
    const weights = new Float64Array(84).fill(1)
    for (const midi of notes) weights[midi - LOWEST_MIDI] = 12
    return weights
  }
  it('a half step down from E flat minor and a low E flat', () =>
    expect(rankTunings(low([27, 39, 42, 46]), 3)[0]).toMatchObject({ semitones: -1, drop: 0 }))
  it('standard when nothing goes below E', () =>
    expect(rankTunings(low([28, 31, 33, 35]), 4)[0]).toMatchObject({ semitones: 0, drop: 0 }))
  it('a dropped low string when D is played low and the key is D', () =>
    expect(rankTunings(low([26, 38, 33, 31]), 2)[0]).toMatchObject({ semitones: 0, drop: -2 }))
  it('in words', () =>
    expect([centsWords(-14.4), centsWords(6), centsWords(1)]).toEqual([
      '14 cents flat',
      '6 cents sharp',
      'at concert pitch',
    ]))
})

describe('key', () => {
  const timed = (labels: string[]) =>
    labels.map((label, index) => ({ start: index * 2, end: index * 2 + 2, chord: readLabel(label) }))
  it.each([
    [['G:maj', 'C:maj', 'G:maj', 'D:maj', 'G:maj'], 7, 'major'],
    [['A:min', 'F:maj', 'C:maj', 'G:maj', 'A:min', 'F:maj', 'G:maj', 'A:min'], 9, 'minor'],
    [['Eb:min', 'B:maj', 'F#:maj', 'C#:maj', 'Eb:min'], 3, 'minor'],
  ] as const)('%j', (labels, tonic, mode) => {
    expect(findKey(timed([...labels]), [0])).toMatchObject({ tonic, mode })
  })
  it('knows none from nothing, or from one chord', () => {
    expect(findKey([], [0])).toBeUndefined()
    expect(findKey(timed(['D:maj', 'D:maj']), [0])).toBeUndefined()
  })
  it('is spelled with few accidentals', () =>
    expect([spellKey(3, 'minor').tonic, spellKey(6, 'major').tonic, spellKey(10, 'major').tonic]).toEqual([
      'Eb',
      'F#',
      'Bb',
    ]))
  it('hears a flat seventh in major, a natural sixth in minor', () => {
    const chroma = (degrees: number[]): Float32Array => {
      const out = new Float32Array(36)
      for (const degree of degrees) out[12 + degree] = 1
      return out
    }
    expect(flavourOf({ tonic: 0, mode: 'major' }, chroma([0, 2, 4, 5, 7, 9, 10]))).toBe('mixolydian')
    expect(flavourOf({ tonic: 0, mode: 'minor' }, chroma([0, 2, 3, 5, 7, 9, 10]))).toBe('dorian')
    expect(flavourOf({ tonic: 0, mode: 'major' }, chroma([0, 2, 4, 5, 7, 9, 11]))).toBeUndefined()
  })
})

describe('feel', () => {
  it.each([0.5, 0.6, 2 / 3])('a second half at %f', async (swing) => {
    const out = silence(20)
    const beats = drumKit(out, { bpm: 108, start: 0.5, beats: 32, swing })
    const { swing: found, compound } = divisionOf(beats, await onsetStrength(out, RATE, makeFft, quietJob))
    expect(compound).toBe(false)
    expect(Math.abs(found! - swing)).toBeLessThan(0.025)
  })
  it('accents in threes against four', async () => {
    const out = silence(20)
    const gap = 60 / 120
    for (let bar = 0; bar < 8; bar++)
      for (const eighth of [0, 3, 6])
        pluck(out, {
          midi: 40,
          start: 0.5 + bar * 4 * gap + (eighth * gap) / 2,
          length: 0.3,
          loudness: 0.6,
          decay: 0.4,
        })
    const beats = Array.from({ length: 32 }, (_, beat) => 0.5 + beat * gap)
    const onsets = await onsetStrength(out, RATE, makeFft, quietJob)
    expect(groupingOf(beats, onsets)).toBe('3+3+2')
  })
})

describe('sides', () => {
  it('says from which bar somebody plays on the left', async () => {
    const [left, right] = [silence(16), silence(16)]
    for (let beat = 0; beat < 32; beat++) {
      pluck(right, { midi: 52, start: beat / 2, length: 0.5 })
      if (beat >= 16) pluck(left, { midi: 64, start: beat / 2, length: 0.5 })
    }
    const middle = left.map((value, i) => (value + right[i]!) / 2)
    const side = left.map((value, i) => (value - right[i]!) / 2)
    const sides = await measureSides({ middle, side, sampleRate: RATE, tuningCents: 0 }, makeFft, quietJob)
    const downbeats = Array.from({ length: 8 }, (_, bar) => bar * 2)
    const activity = barActivity(sides, downbeats, 16)
    expect(activity.map((bar) => bar.left)).toEqual([false, false, false, false, true, true, true, true])
    expect(activity.every((bar) => bar.right)).toBe(true)
    expect(entrances(activity, 'left')).toEqual([{ firstBar: 4, lastBar: 7 }])
    expect(barNotes(sides, 'left', { downbeats, end: 16 }).slice(4)).toEqual([64, 64, 64, 64])
    expect(barNotes(sides, 'right', { downbeats, end: 16 })).toEqual(Array.from({ length: 8 }, () => 52))
  })
})
