// Rules that could be turned round without any other test noticing: each is held here by what it is for.
import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import { must } from '../../core/result'
import { newPart } from '../../core/document/new-song'
import { EMPTY_CONTENT, type Note, type Song } from '../../core/document/schema'
import { engraveSheet } from '../../core/engrave/sheet'
import { PAPERS, type SheetPage } from '../../core/engrave/sheet-blocks'
import { harmonyLine } from '../../core/neck/lines/harmony-line'
import { findPaths, type PathNote } from '../../core/neck/lines/path'
import { joinChords } from '../../core/hear/decode/chords'
import { rankTunings } from '../../core/hear/evidence/tuning-words'
import { nameAtFifths, pitchClassOf, pretty, spellPitchClass, withOctave } from '../../core/music/pitch'
import { openBank, type Bank } from '../../core/sound/bank'
import { renderEvents } from '../../core/sound/player'
import type { SoundingEvent } from '../../core/score/sounding-event'
import { BAR, figureOf, placeOf, run, smallSong } from '../support/small-song'

const QUARTER = 10080
const guitar = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
const E_MINOR = { tonic: 'E', mode: 'minor' } as const

describe('double flats', () => {
  it('are never shown: what would be one is said plainly', () => {
    for (const tonic of ['Eb', 'Ab', 'Db', 'Gb', 'Cb'])
      for (const mode of ['minor', 'phrygian', 'locrian', 'dorian'] as const)
        for (let pitchClass = 0; pitchClass < 12; pitchClass++) {
          const name = spellPitchClass(pitchClass, { tonic, mode })
          expect(name, `${pitchClass} in ${tonic} ${mode}`).not.toMatch(/bb/)
          expect(pitchClassOf(name)).toBe(pitchClass)
        }
    expect(spellPitchClass(9, { tonic: 'Eb', mode: 'minor' })).toBe('A')
  })
  it('that a file brings are read and printed', () => {
    expect(pitchClassOf('Bbb')).toBe(9)
    expect(nameAtFifths(-9)).toBe('Bbb')
    expect(withOctave('Cbb', 58)).toBe('Cbb4')
    expect(pretty('Bbb/D')).toBe('B♭♭/D')
  })
})

describe('a bend in a second line', () => {
  const bent = (fret: number, semitones: number): Note => ({
    id: 'n',
    string: 3,
    fret,
    startTicks: 0,
    lengthTicks: QUARTER,
    marks: [{ kind: 'bend', semitones, shape: 'plain' }],
  })
  const second = (note: Note, interval: number, kind: 'diatonic' | 'parallel' = 'diatonic') =>
    must(
      harmonyLine({ ...EMPTY_CONTENT, notes: [note] }, guitar, guitar, {
        interval,
        kind,
        key: E_MINOR,
        exceptions: [],
      }),
    )
  it('of up to three semitones is bent too, by what the key wants', () => {
    const { notes, remarks } = second(bent(9, 2), 3)
    expect(notes[0]!.marks[0]).toMatchObject({ kind: 'bend' })
    expect(remarks).toEqual([])
  })
  it('of more than three semitones is slid or picked instead, and that is said', () => {
    const { notes, remarks } = second(bent(9, 4), 1, 'parallel')
    expect(notes[0]!.marks).not.toContainEqual(expect.objectContaining({ kind: 'bend' }))
    expect(remarks[0]!.text).toContain('4 semitones')
  })
  it('of exactly three is still a bend', () =>
    expect(second(bent(9, 3), 1, 'parallel').notes[0]!.marks[0]).toMatchObject({
      kind: 'bend',
      semitones: 3,
    }))
})

describe('a slur', () => {
  const line = (slurred: boolean): PathNote[] =>
    [57, 59, 57, 59].map((midi, index) => ({
      midi,
      startTicks: (index * QUARTER) / 2,
      lengthTicks: QUARTER / 2,
      slurred: slurred && index % 2 === 1,
      slid: false,
      pressed: false,
    }))
  it('keeps its two notes on one string, and breaking it costs', () => {
    const [best] = must(findPaths(line(true), guitar, E_MINOR))
    expect(best!.brokenSlurs).toEqual([])
    expect(best!.places[0]!.string).toBe(best!.places[1]!.string)
    const all = must(findPaths(line(true), guitar, E_MINOR, {}, 6))
    for (const path of all.filter(({ brokenSlurs }) => brokenSlurs.length > 0))
      expect(path.cost).toBeGreaterThan(best!.cost)
  })
})

describe('the sheet', () => {
  const WORDS = { naming: 'shape', strings: 'letters', form: 'exact', paper: 'A4' } as const
  /** Lowest text of every page that is a heading, and whether anything stands below it. */
  function headingsAlone(pages: readonly SheetPage[]): string[] {
    return pages.flatMap(({ primitives }) => {
      const texts = primitives.flatMap((shape) => (shape.kind === 'text' ? [shape] : []))
      const body = texts.filter((shape) => shape.y < PAPERS.A4.height - 16)
      const lowest = Math.max(...body.map((shape) => shape.y))
      return body
        .filter((shape) => shape.y === lowest && /^Guitar \d$/.test(shape.text))
        .map((shape) => shape.text)
    })
  }
  it('never leaves the name of a part alone at the foot of a page', () => {
    for (let figures = 1; figures <= 14; figures++) {
      let song: Song = smallSong()
      for (let index = 0; index < figures; index++) {
        song = run(song, 'addFigure', {
          figure: figureOf(`f${index}`, { partId: index % 2 ? 'two' : 'one' }),
        })
        song = run(song, 'setPlacement', {
          placement: placeOf(`p${index}`, {
            partId: index % 2 ? 'two' : 'one',
            figureId: `f${index}`,
            sectionId: ['intro', 'verse', 'chorus'][index % 3]!,
            startTicks: (Math.floor(index / 6) % 4) * 2 * BAR,
          }),
        })
      }
      const pages = engraveSheet(song, { ...WORDS, partIds: song.partOrder })
      expect(headingsAlone(pages), `${figures} figures`).toEqual([])
    }
  })
})

describe('the ranking of tunings', () => {
  const heard = (lowest: number): number[] =>
    Array.from({ length: 66 }, (_, index) => (index >= lowest ? 1 : 0))
  it('is sure only of what the low notes say: a bass below E speaks for a lower tuning', () => {
    const plain = rankTunings(heard(4), 4)[0]!
    const lower = rankTunings(heard(2), 2)[0]!
    expect(plain.semitones).toBe(0)
    expect([lower.semitones, lower.drop]).not.toEqual([0, 0])
    const confidences = rankTunings(heard(4), 4).map(({ share }) => share)
    expect(confidences).toEqual([...confidences].sort((a, b) => b - a))
    expect(confidences.reduce((sum, one) => sum + one, 0)).toBeLessThanOrEqual(1 + 1e-9)
  })
})

describe('a slurred note', () => {
  let bank: Bank
  beforeAll(async () => {
    const file = readFileSync('public/sound/bank.sf3')
    bank = await openBank(file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer)
  })
  const event = (slurred: boolean): SoundingEvent => ({
    string: 3,
    startSeconds: 0,
    endSeconds: 0.5,
    midi: 64,
    curve: [],
    loudness: 0.8,
    sound: 'clean',
    slurred,
    dead: false,
    harmonic: false,
    vibrato: 'none',
    releaseSeconds: 0.1,
  })
  const energy = (samples: Float32Array): number => samples.reduce((sum, value) => sum + value * value, 0)
  it('fades in over a few milliseconds instead of starting with the pick', () => {
    const rate = 44_100
    const slurred = renderEvents(bank, [event(true)], { sampleRate: rate, seconds: 0.2 })
    const first = Math.round(0.002 * rate)
    const full = slurred.subarray(Math.round(0.01 * rate), Math.round(0.012 * rate))
    expect(energy(slurred.subarray(0, first))).toBeLessThan(0.25 * energy(full))
    expect(Math.abs(slurred[0]!)).toBeLessThan(1e-3)
  })
})

describe('how sure a chord is', () => {
  const span = (start: number) => ({ start, end: start + 0.5 })
  const chroma = (): Float64Array => new Float64Array(12).fill(0.1)
  it('is less than the model believes: what it calls nearly certain is not said to be', () => {
    const posterior = new Float64Array(2000).fill(0.02 / 400)
    posterior[0] = 0.98
    const evidence = { chroma: chroma() } as never
    const [chord] = joinChords([span(0), span(0.5)] as never, [evidence, evidence], {
      path: [0, 0],
      posterior: [posterior, posterior],
    })
    expect(chord!.confidence).toBeLessThan(0.9)
    expect(chord!.confidence).toBeGreaterThan(0.05)
  })
})
