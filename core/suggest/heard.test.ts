import { describe, expect, it } from 'vitest'
import type { Analysis } from '../hear/analysis'
import { ANALYSIS_VERSION } from '../hear/analysis'
import type { Alignment } from '../hear/alignment'
import { must } from '../result'
import { mainSource, orderedSections } from '../document/form'
import { newPart, newSong } from '../document/new-song'
import type { Song } from '../document/schema'
import { transact } from '../editing/transact'
import type { ArgsOf, TransactionName } from '../document/transactions'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { acceptArgs, heardReturn, openSuggestions, proposed, tuningWords } from './heard'
import { gridThroughAlignment, recordingDifferences } from './second-source'
import { nameSections } from './section-names'

const run = <Name extends TransactionName>(song: Song, name: Name, args: ArgsOf<Name>): Song =>
  must(transact(song, name, args)).song
const BAR = 4 * Q

/**
 * 28 bars at 120: a pickup of one beat, then sections A(4) B(8) C(8) B'(8); a chord a bar, every fourth one
 * anticipated.
 */
function heard(): Analysis {
  const beats = Array.from({ length: 113 }, (_, beat) => 0.5 + beat * 0.5)
  const downbeats = beats.filter((_, beat) => beat % 4 === 1)
  const at = (bar: number): number => downbeats[bar] ?? 57
  const likeness = downbeats.map((_, a) =>
    downbeats.map((_other, b) =>
      (a - 4) % 16 === (b - 4) % 16 && a !== b && a !== 24 && b !== 24 ? 95 : a === b ? 99 : 50,
    ),
  )
  return {
    version: ANALYSIS_VERSION,
    durationSeconds: 60,
    beats,
    downbeats,
    tempo: 120,
    tempoRivals: [{ bpm: 120, share: 0.9 }],
    meter: { beats: 4, unit: 4 },
    swing: 0.62,
    key: { tonic: 'Eb', mode: 'minor' },
    keyConfidence: 0.8,
    tuningCents: -14,
    tuningConfidence: 0.9,
    tuningMeans: [{ name: 'a half step down', semitones: -1, drop: 0, share: 0.8, why: '' }],
    likeness,
    chroma: downbeats.map(() => Array.from({ length: 12 }, (_, k) => k)),
    chords: Array.from({ length: 28 }, (_, bar) => ({
      start: at(bar) - (bar % 4 === 3 ? 0.25 : 0),
      end: at(bar + 1) - ((bar + 1) % 4 === 3 ? 0.25 : 0),
      label: ['Eb:min', 'B:maj', 'F#:maj', 'C#:maj'][bar % 4]!,
      confidence: 0.8,
      rivals: [],
    })),
    sections: [
      { start: at(0), end: at(4), label: 'A', bars: 4, confidence: 0.9 },
      { start: at(4), end: at(12), label: 'B', bars: 8, confidence: 0.9 },
      { start: at(12), end: at(20), label: 'C', bars: 8, confidence: 0.9 },
      {
        start: at(20),
        end: 57,
        label: 'B',
        bars: 8,
        confidence: 0.9,
        returns: { section: 1, shift: 0, likeness: 0.9, perBar: [], differs: [4] },
      },
    ],
  }
}
function empty(): Song {
  const song = run(newSong({ id: 's', title: 'S', artist: '' }), 'addSource', {
    source: {
      id: 'record',
      kind: 'recording',
      name: 'x',
      rank: 1,
      offsetSemitones: 0,
      offsetCents: 0,
      offsetSeconds: 0,
      audioHash: 'a'.repeat(64),
      durationSeconds: 60,
    },
  })
  return run(song, 'addPart', { part: newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' }) })
}
const all = (song: Song, analysis = heard()): Song =>
  run(
    song,
    'acceptHeard',
    acceptArgs(
      song,
      analysis,
      openSuggestions(song, analysis).map((suggestion) => suggestion.kind),
    ),
  )

describe('suggestions', () => {
  it('are everything for an unknown recording, in the order in which they stand on each other', () => {
    expect(openSuggestions(empty(), heard()).map((suggestion) => suggestion.kind)).toEqual([
      'bars',
      'sections',
      'chords',
      'key',
      'feel',
      'tuning',
    ])
    expect(tuningWords(heard())).toBe('a half step down, 14 cents flat')
  })
  it('are taken over as one change, and then nothing is open', () => {
    const song = all(empty())
    // The pickup is a bar of the section it leads into.
    expect(orderedSections(song).map((section) => section.bars.length)).toEqual([5, 8, 8, 8])
    expect(orderedSections(song)[0]!.name).toBe('Intro')
    expect(song.key).toEqual({ tonic: 'Eb', mode: 'minor' })
    expect(song.feel.swing.ratio).toBe(0.62)
    expect(mainSource(song)!.offsetCents).toBe(-14)
    expect(song.parts.g!.tuning.shapeOffset).toBe(-1)
    expect(openSuggestions(song, heard())).toEqual([])
  })
  it(
    'put chords where they sound: anticipations stay early, the first of a section ' + 'may start before it',
    () => {
      const [, second] = orderedSections(all(empty()))
      expect(second!.harmony.map((chord) => chord.startTicks)).toEqual([
        0,
        BAR,
        2 * BAR,
        3 * BAR - Q / 2,
        4 * BAR,
        5 * BAR,
        6 * BAR,
        7 * BAR - Q / 2,
      ])
      expect(second!.harmony[0]!.symbol).toBe('Ebm')
      for (const chord of second!.harmony) expect(chord.lengthTicks).toBeGreaterThan(0)
    },
  )
  it('put a chord over a section’s start down once when it is early, and in both when it stays', () => {
    const over = (early: number): Song => {
      const analysis = heard()
      const start = analysis.sections![1]!.start
      const chords = [
        { start: start - 4, end: start - early, label: 'Eb:min', confidence: 0.8, rivals: [] },
        { start: start - early, end: start + 4, label: 'B:maj', confidence: 0.8, rivals: [] },
        { start: start + 4, end: start + 8, label: 'F#:maj', confidence: 0.8, rivals: [] },
      ]
      return all(empty(), { ...analysis, chords })
    }
    const places = (song: Song, section: number): [string, number][] =>
      orderedSections(song)[section]!.harmony.map(({ symbol, startTicks }) => [symbol, startTicks / BAR])
    // The intro has one beat and four bars. Half a beat before the section: an anticipation of it.
    expect(places(over(0.25), 0)).toEqual([['Ebm', 2.25]])
    expect(places(over(0.25), 1)[0]).toEqual(['Cb', -1 / 8])
    // A bar before it: it sounds in both.
    expect(places(over(2), 0).at(-1)).toEqual(['Cb', 3.25])
    expect(places(over(2), 1)[0]).toEqual(['Cb', 0])
  })
  it('put what sounds before the first bar on its one', () => {
    const analysis = heard()
    const chords = analysis.chords!.map((chord, index) => (index === 0 ? { ...chord, start: 0.3 } : chord))
    const first = orderedSections(all(empty(), { ...analysis, chords }))[0]!
    expect(first.harmony[0]).toMatchObject({ symbol: 'Ebm', startTicks: 0 })
  })
  it('mark what returns', () => {
    const sections = orderedSections(all(empty()))
    expect(sections[3]!.returns).toMatchObject({ sectionId: sections[1]!.id, shiftSemitones: 0 })
  })
  it('never change what a person set', () => {
    let song = run(empty(), 'acceptHeard', acceptArgs(empty(), heard(), ['bars']))
    song = run(song, 'changeSection', {
      sectionId: song.sectionOrder[0]!,
      set: { name: 'Mine', kind: 'verse', harmony: [{ startTicks: 0, lengthTicks: BAR, symbol: 'Am' }] },
    })
    song = run(song, 'setFacts', { key: { tonic: 'A', mode: 'minor' } })
    const next = all(song)
    const section = next.sections[song.sectionOrder[0]!]!
    expect(section.name).toBe('Mine')
    expect(section.harmony[0]).toEqual({ startTicks: 0, lengthTicks: BAR, symbol: 'Am' })
    expect(section.harmony.slice(1).every((chord) => chord.startTicks >= BAR)).toBe(true)
    expect(next.key.tonic).toBe('A')
  })
  it('are taken a section at a time, and the rest stays open', () => {
    const analysis = heard()
    const { start, end } = analysis.sections![1]!
    const song = run(
      empty(),
      'acceptHeard',
      acceptArgs(empty(), analysis, ['sections', 'chords'], { startSeconds: start, endSeconds: end }),
    )
    expect(orderedSections(song).map((section) => section.bars.length)).toEqual([5, 8, 16])
    expect(orderedSections(song).map((section) => section.harmony.length > 0)).toEqual([false, true, false])
    expect(openSuggestions(song, analysis).map((suggestion) => suggestion.kind)).toContain('chords')
  })
  it('are shown as the document would be, without touching it', () => {
    const song = empty()
    const view = proposed(song, heard())
    expect(orderedSections(view)).toHaveLength(4)
    expect(song.sectionOrder).toEqual([])
    expect(proposed(all(song), heard())).toEqual(all(song))
  })
  it('offer nothing where nothing was heard', () => {
    const nothing: Analysis = { version: ANALYSIS_VERSION, durationSeconds: 60, beats: [], downbeats: [] }
    expect(openSuggestions(empty(), nothing)).toEqual([])
  })
  it('refuse sections before there are bars', () => {
    const song = empty()
    expect(
      transact(song, 'acceptHeard', {
        sections: [{ startSeconds: 4, id: 'x', name: 'X', kind: 'verse' }],
        words: 'x',
      }),
    ).toMatchObject({ ok: false, refusal: { code: 'no-grid' } })
  })
  it('say how like a return is, and which bar differs', () => {
    const song = all(empty())
    const back = heardReturn(song, orderedSections(song)[3]!, heard())
    expect(back!.likeness).toBeGreaterThan(0.85)
    expect(back!.differs).toEqual([4])
    expect(heardReturn(song, orderedSections(song)[0]!, heard())).toBeUndefined()
  })
})

describe('names for sections', () => {
  const name = (form: string, bars: Record<string, number> = {}, loud: Record<string, number> = {}) =>
    nameSections(
      [...form].map((label, index) => ({
        label,
        bars: bars[label] ?? 8,
        start: index,
        end: index + 1,
        loudness: loud[label] ?? 1,
      })),
    ).map((section) => section.name)
  it('the loud one that returns is the chorus, what leads to it the verse', () =>
    expect(name('ABCBCDCE', { A: 4, E: 4 }, { C: 2 })).toEqual([
      'Intro',
      'Verse 1',
      'Chorus 1',
      'Verse 2',
      'Chorus 2',
      'Bridge',
      'Chorus 3',
      'Outro',
    ]))
  it('four bars before every chorus are a pre-chorus', () =>
    expect(name('ABPCBPCDC', { A: 4, P: 4 }, { C: 2 })).toEqual([
      'Intro',
      'Verse 1',
      'Pre-chorus 1',
      'Chorus 1',
      'Verse 2',
      'Pre-chorus 2',
      'Chorus 2',
      'Bridge',
      'Chorus 3',
    ]))
  it('a verse that opens and ends the song is its intro and its outro, and no chorus', () => {
    expect(name('AABCABDDBA', { D: 4 }, { B: 2 })).toEqual(
      'Intro,Verse 1,Chorus 1,Interlude,Verse 2,Chorus 2,Bridge 1,Bridge 2,Chorus 3,Outro'.split(','),
    )
    expect(name('AABABCBD', {}, {})[0]).toBe('Intro')
  })
  it('a song in which nothing returns still has a beginning and an end', () => {
    const names = name('ABC')
    expect([names[0], names[2]]).toEqual(['Intro', 'Outro'])
  })
  it('gives a reason for each', () => {
    for (const section of nameSections([
      { label: 'A', bars: 8, start: 0, end: 1 },
      { label: 'B', bars: 8, start: 1, end: 2 },
      { label: 'A', bars: 8, start: 2, end: 3 },
    ]))
      expect(section.why.length).toBeGreaterThan(5)
  })
})

describe('a second recording', () => {
  const grid = { bars: [{ beatSeconds: [1, 2, 3, 4] }, { beatSeconds: [5, 6, 7, 8] }], endSeconds: 9 }
  const alignment: Alignment = {
    semitones: -2,
    likeness: 0.9,
    points: [
      { first: 0, second: 4 },
      { first: 10, second: 14 },
    ],
    only: [{ which: 'second', start: 0, end: 4 }],
  }
  it('has the beats of the first where the alignment puts them, drawn to its own attacks', () => {
    const there = gridThroughAlignment(grid, alignment, 20, [5.1, 6.05, 7.5])
    expect(there.bars[0]!.beatSeconds).toEqual([5.1, 6.05, 7, 8])
    expect(there.endSeconds).toBeGreaterThan(there.bars[1]!.beatSeconds[3]!)
  })
  it('has rising beats inside it even where it lacks them', () => {
    const stuck: Alignment = {
      ...alignment,
      points: [
        { first: 0, second: 1 },
        { first: 4, second: 1.01 },
        { first: 9, second: 1.4 },
      ],
    }
    const { bars, endSeconds } = gridThroughAlignment(grid, stuck, 1.6)
    const beats = bars.flatMap((bar) => bar.beatSeconds)
    beats.slice(1).forEach((beat, index) => expect(beat).toBeGreaterThan(beats[index]!))
    expect(endSeconds).toBeLessThanOrEqual(1.61)
  })
  it('is told apart in words', () => {
    let song = all(empty())
    const own = mainSource(song)!
    song = run(song, 'addSource', {
      source: {
        id: 'live',
        kind: 'live take',
        name: 'live',
        rank: 2,
        offsetSemitones: -2,
        offsetCents: own.offsetCents + 10,
        offsetSeconds: 0,
        audioHash: 'b'.repeat(64),
        durationSeconds: 60,
        grid: {
          bars: own.grid!.bars.map((bar) => ({
            beatSeconds: bar.beatSeconds.map((seconds) => seconds * 0.9),
          })),
          endSeconds: 54,
        },
      },
    })
    const words = recordingDifferences(song, song.sources.live!, alignment).join('; ')
    expect(words).toContain('sounds a whole step lower')
    expect(words).toContain('10 cents sharper')
    expect(words).toContain('faster: 133 against 120')
    expect(words).toContain('has 0:00–0:04 of its own')
    const twin = { ...song.sources.live!, offsetSemitones: 0, offsetCents: own.offsetCents, grid: own.grid! }
    expect(
      recordingDifferences(song, twin, {
        ...alignment,
        likeness: 0.3,
        only: [{ which: 'first', start: 61, end: 65 }],
      }),
    ).toEqual([
      'in the same key',
      'as fast (120)',
      `lacks 1:01–1:05 of “${own.name}”`,
      'barely alike: is it the same song?',
    ])
    expect(
      recordingDifferences(
        song,
        { ...twin, offsetSemitones: 7, offsetCents: own.offsetCents - 20 },
        undefined,
      ).slice(0, 2),
    ).toEqual(['sounds 7 semitones higher', '20 cents flatter'])
    const { grid: _none, ...bare } = twin
    expect(recordingDifferences(song, bare, alignment)).toEqual([])
  })
})
