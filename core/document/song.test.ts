import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { must } from '../result'
import { MOST_FIGURE_TICKS, TICKS_PER_QUARTER as Q } from '../time/meter'
import { allBars, sectionPlaces, sectionTicks, songTimeMap } from './form'
import { redo, record, startHistory, undo } from './history'
import { readSong } from './migrations'
import { newPart, newSong } from './new-song'
import { applyPatch, invertPatch } from './patch'
import { EMPTY_CONTENT, SCHEMA_VERSION, type Figure, type Note, type Song } from './schema'
import { transact, type Applied } from '../editing/transact'
import type { ArgsOf, TransactionName } from './transactions'
import { figureContent } from './figure-content'
import { coverage } from '../timeline/coverage'
import { unroll } from '../timeline/unroll'
import { contentDifferences } from './differences'
import keptV0 from './migrations/kept/v0.json'
import keptV1 from './migrations/kept/v1.json'
import keptV2 from './migrations/kept/v2.json'
import keptV3 from './migrations/kept/v3.json'
import keptV4 from './migrations/kept/v4.json'
import keptV5 from './migrations/kept/v5.json'
import keptV6 from './migrations/kept/v6.json'
import keptV7 from './migrations/kept/v7.json'
import { everyMarkSong } from '../../tests/support/every-mark'

const run = <Name extends TransactionName>(song: Song, name: Name, args: ArgsOf<Name>): Song =>
  must(transact(song, name, args)).song
const BAR = 4 * Q
const note = (id: string, string: number, fret: number, startTicks: number): Note => ({
  id,
  string,
  fret,
  startTicks,
  lengthTicks: Q,
  marks: [],
})
const figure = (id: string, over: Partial<Figure> = {}): Figure => ({
  id,
  partId: 'gtr',
  name: id,
  lengthTicks: 2 * BAR,
  meter: { beats: 4, unit: 4 },
  feel: { subdivision: 'eighths', swing: { ratio: 0.5, level: 'eighths' } },
  content: EMPTY_CONTENT,
  ...over,
})

/** 16 bars of 4/4 at 120, one section, a guitar and a two-bar figure. */
function sampleSong(): Song {
  let song = newSong({ id: 'song', title: 'Sample', artist: 'The Sample Four' })
  song = run(song, 'addSource', {
    source: {
      id: 'rec',
      kind: 'recording',
      name: 'take.wav',
      rank: 1,
      offsetSemitones: 0,
      offsetCents: 0,
      offsetSeconds: 0,
      audioHash: 'a'.repeat(64),
      durationSeconds: 33,
    },
  })
  song = run(song, 'setBeats', {
    beats: Array.from({ length: 64 }, (_, index) => ({ seconds: 0.5 + index * 0.5, one: index % 4 === 0 })),
    endSeconds: 32.5,
    what: 'lay out beats',
    newSectionId: 'all',
  })
  song = run(song, 'addPart', { part: newPart({ id: 'gtr', name: 'Guitar 1', kind: 'guitar-6' }) })
  return run(song, 'addFigure', {
    figure: figure('riff', {
      content: { ...EMPTY_CONTENT, notes: [note('n1', 6, 0, 0), note('n2', 5, 2, BAR)] },
    }),
  })
}
const placeAt = (song: Song, id: string, startTicks: number, passes: number, sectionId = 'all') =>
  transact(song, 'setPlacement', {
    placement: {
      kind: 'figure',
      id,
      partId: 'gtr',
      sectionId,
      startTicks,
      figureId: 'riff',
      passes,
      shiftFrets: 0,
      form: 'exact',
    },
  })

describe('form', () => {
  it('starts as one section over the whole recording and splits with its charting', () => {
    let song = must(placeAt(sampleSong(), 'p', 8 * BAR, 2)).song
    song = run(song, 'splitSection', {
      sectionId: 'all',
      atBar: 8,
      newId: 'verse',
      name: 'Verse 1',
      kind: 'verse',
    })
    expect(song.placements.p).toMatchObject({ sectionId: 'verse', startTicks: 0 })
    expect(sectionPlaces(song).map((place) => [place.section.name, place.firstBar])).toEqual([
      ['Whole song', 0],
      ['Verse 1', 8],
    ])
    song = run(song, 'mergeSection', { sectionId: 'verse' })
    expect(song.placements.p).toMatchObject({ sectionId: 'all', startTicks: 8 * BAR })
  })
  it('keeps every bar when a section start moves', () => {
    let song = run(sampleSong(), 'splitSection', {
      sectionId: 'all',
      atBar: 8,
      newId: 'verse',
      name: 'Verse 1',
      kind: 'verse',
    })
    song = run(song, 'moveSectionStart', { sectionId: 'verse', byBars: -2 })
    expect(song.sections.verse!.bars).toHaveLength(10)
    expect(allBars(song)).toHaveLength(16)
    expect(transact(song, 'moveSectionStart', { sectionId: 'verse', byBars: -6 })).toMatchObject({
      ok: false,
      refusal: { code: 'move-over' },
    })
  })
  it('keeps sections where they sound when the grid changes', () => {
    let song = run(sampleSong(), 'splitSection', {
      sectionId: 'all',
      atBar: 8,
      newId: 'verse',
      name: 'Verse 1',
      kind: 'verse',
    })
    const shifted = Array.from({ length: 63 }, (_, index) => ({
      seconds: 1 + index * 0.5,
      one: index % 4 === 0,
    }))
    song = run(song, 'setBeats', {
      beats: shifted,
      endSeconds: 32.5,
      what: 'shift the one',
      newSectionId: 'x',
    })
    const place = sectionPlaces(song)[1]!
    expect(songTimeMap(song)!.seconds[place.firstBar * 4]).toBe(17)
  })
  it('only returns what was heard before', () => {
    const song = run(sampleSong(), 'splitSection', {
      sectionId: 'all',
      atBar: 8,
      newId: 'v',
      name: 'Verse',
      kind: 'verse',
    })
    const returns = { shiftSemitones: 0, withDifferences: false }
    expect(
      transact(song, 'setReturn', { sectionId: 'all', returns: { sectionId: 'v', ...returns } }).ok,
    ).toBe(false)
    expect(
      run(song, 'setReturn', { sectionId: 'v', returns: { sectionId: 'all', ...returns } }).sections.v!
        .returns?.sectionId,
    ).toBe('all')
  })
})

describe('refusals', () => {
  const song = must(placeAt(sampleSong(), 'p', 0, 2)).song
  it.each<[string, () => { ok: boolean }]>([
    [
      'a fret beyond the neck',
      () =>
        transact(song, 'changeFigure', {
          figureId: 'riff',
          what: 'note',
          set: { content: { ...EMPTY_CONTENT, notes: [note('n', 1, 23, 0)] } },
        }),
    ],
    [
      'two notes on one string at once',
      () =>
        transact(song, 'changeFigure', {
          figureId: 'riff',
          what: 'note',
          set: { content: { ...EMPTY_CONTENT, notes: [note('n', 1, 3, 0), note('m', 1, 5, 0)] } },
        }),
    ],
    [
      'a bend on an open string',
      () =>
        transact(song, 'changeFigure', {
          figureId: 'riff',
          what: 'bend',
          set: {
            content: {
              ...EMPTY_CONTENT,
              notes: [{ ...note('n', 1, 0, 0), marks: [{ kind: 'bend', semitones: 2, shape: 'plain' }] }],
            },
          },
        }),
    ],
    [
      'a negative length',
      () => transact(song, 'changeFigure', { figureId: 'riff', what: 'length', set: { lengthTicks: -1 } }),
    ],
    ['an overlapping placement', () => placeAt(song, 'q', BAR, 1)],
    ['a placement past the end of its section', () => placeAt(song, 'q', 14 * BAR, 2)],
    [
      'an impossible tuning',
      () =>
        transact(song, 'retunePart', {
          partId: 'gtr',
          tuning: { name: 'x', openMidi: [127, 59, 55, 50, 45, 40], shapeOffset: 0 },
        }),
    ],
    [
      'beats outside the recording',
      () =>
        transact(song, 'setBeats', {
          beats: [{ seconds: 40, one: true }],
          endSeconds: 32,
          what: 'x',
          newSectionId: 'x',
        }),
    ],
    [
      'a shift off the neck',
      () =>
        transact(song, 'setPlacement', {
          placement: {
            kind: 'figure',
            id: 'q',
            partId: 'gtr',
            sectionId: 'all',
            startTicks: 8 * BAR,
            figureId: 'riff',
            passes: 1,
            shiftFrets: -1,
            form: 'exact',
          },
        }),
    ],
  ])('refuses %s and says why', (_, attempt) => {
    const result = attempt() as ReturnType<typeof transact>
    expect(result.ok).toBe(false)
    if (!result.ok) expect(result.refusal.message.length).toBeGreaterThan(15)
  })
  it('accepts a pickup that starts before its section', () => {
    const split = run(song, 'splitSection', {
      sectionId: 'all',
      atBar: 8,
      newId: 'v',
      name: 'Verse',
      kind: 'verse',
    })
    expect(placeAt(split, 'q', -BAR, 1, 'v').ok).toBe(true)
  })
})

type Step = (song: Song, random: number, id: string) => ReturnType<typeof transact>
const pick = <T>(items: readonly T[], random: number): T =>
  items[Math.floor(random * items.length) % items.length]!
const STEPS: Step[] = [
  (song, random, id) =>
    transact(song, 'splitSection', {
      sectionId: pick(song.sectionOrder, random),
      atBar: 1 + Math.floor(random * 7),
      newId: id,
      name: id,
      kind: 'verse',
    }),
  (song, random) => transact(song, 'mergeSection', { sectionId: pick(song.sectionOrder, random) }),
  (song, random) =>
    transact(song, 'moveSectionStart', {
      sectionId: pick(song.sectionOrder, random),
      byBars: Math.round(random * 4) - 2,
    }),
  (song, random, id) => placeAt(song, id, Math.floor(random * 8) * BAR, 1, pick(song.sectionOrder, random)),
  (song, random) =>
    transact(song, 'removePlacement', {
      placementId: pick([...Object.keys(song.placements), 'none'], random),
    }),
  (song, random, id) =>
    transact(song, 'addPart', {
      part: newPart({ id, name: id, kind: random > 0.5 ? 'bass-4' : 'guitar-7' }),
    }),
  (song, random) =>
    transact(song, 'removePart', { partId: pick([...song.partOrder.slice(1), 'none'], random) }),
  (song, random) =>
    transact(song, 'movePart', { partId: pick(song.partOrder, random), to: Math.floor(random * 3) }),
  (song, random) => transact(song, 'setFacts', { title: `Title ${random}` }),
  (song, random, id) =>
    transact(song, 'acceptHeard', {
      sections: [{ startSeconds: random * 30, id, name: `Heard ${id}`, kind: 'chorus' }],
      chords: [{ startSeconds: random * 20, endSeconds: random * 20 + 4, symbol: 'Em', confidence: 0.7 }],
      words: 'what was heard',
    }),
  (song, random) =>
    transact(song, 'changeSection', {
      sectionId: pick(song.sectionOrder, random),
      set: { name: `Name ${random}` },
    }),
  (song, random) =>
    transact(song, 'setReturn', {
      sectionId: pick(song.sectionOrder, random),
      returns: { sectionId: song.sectionOrder[0]!, shiftSemitones: 2, withDifferences: true },
    }),
]
const walk = fc.array(
  fc.tuple(fc.nat({ max: STEPS.length - 1 }), fc.double({ min: 0, max: 0.999, noNaN: true })),
  { minLength: 1, maxLength: 25 },
)

describe('any sequence of transactions', () => {
  it(
    'is taken back exactly by its inverses, and stays a valid song whose unrolled ' + 'length is the form’s',
    () => {
      fc.assert(
        fc.property(walk, (steps) => {
          const start = sampleSong()
          let song = start
          const done: Applied[] = []
          steps.forEach(([step, random], index) => {
            const result = STEPS[step]!(song, random, `id${index}`)
            if (!result.ok) return
            expect(applyPatch(song, result.value.patch)).toEqual(result.value.song)
            song = result.value.song
            done.push(result.value)
          })
          expect(must(readSong(JSON.parse(JSON.stringify(song))))).toEqual(song)
          const timeline = unroll(song)
          expect(timeline.reduce((sum, bar) => sum + bar.lengthTicks, 0)).toBe(
            sectionPlaces(song).reduce((sum, place) => sum + sectionTicks(place.section), 0),
          )
          expect(timeline).toHaveLength(16)
          for (const applied of done.reverse())
            song = applyPatch(song, invertPatch(JSON.parse(JSON.stringify(applied.patch))))
          expect(song).toEqual(start)
        }),
        { numRuns: 60 },
      )
    },
  )
  it('undoes and redoes by name', () => {
    const start = sampleSong()
    const applied = must(transact(start, 'setFacts', { title: 'Other' }))
    const history = record(startHistory(start), applied.song, applied)
    const back = undo(history)!
    expect(back.label).toBe('change title')
    expect(back.history.song).toEqual(start)
    expect(redo(back.history)!.history.song.title).toBe('Other')
    expect(undo(startHistory(start))).toBeUndefined()
  })
})

describe('figures', () => {
  it('adds up what is charted, rests included', () => {
    let song = must(placeAt(sampleSong(), 'p', 0, 2)).song
    song = run(song, 'setPlacement', {
      placement: {
        kind: 'rests',
        id: 'r',
        partId: 'gtr',
        sectionId: 'all',
        startTicks: 4 * BAR,
        lengthTicks: 4 * BAR,
      },
    })
    expect(coverage(song)).toEqual([
      { partId: 'gtr', chartedTicks: 8 * BAR, totalTicks: 16 * BAR, figures: 1 },
    ])
    expect(unroll(song)[3]!.parts[0]!.plays[0]).toMatchObject({ figureId: 'riff', pass: 2 })
  })
  it('lets a variation follow its base except where it differs', () => {
    let song = sampleSong()
    song = run(song, 'addFigure', {
      figure: figure('riff b', {
        id: 'riffb',
        variationOf: { figureId: 'riff', replacedBars: [1] },
        content: { ...EMPTY_CONTENT, notes: [note('v', 5, 5, BAR)] },
      }),
    })
    song = run(song, 'changeFigure', {
      figureId: 'riff',
      what: 'note',
      set: { content: { ...EMPTY_CONTENT, notes: [note('n1', 6, 3, 0), note('n2', 5, 2, BAR)] } },
    })
    const content = figureContent(song, song.figures.riffb!)
    expect(content.notes.map((entry) => entry.fret)).toEqual([3, 5])
    expect(
      contentDifferences(song.figures.riff!.content, content, { beats: 4, unit: 4 }).map(
        (difference) => difference.text,
      ),
    ).toEqual(['bar 2, 1: string 5 fret 5 instead of 2'])
  })
})

describe('old and foreign files', () => {
  it('brings the kept file of version 0 up to date', () =>
    expect(must(readSong(keptV0))).toMatchObject({
      schemaVersion: SCHEMA_VERSION,
      feel: { swing: { ratio: 0.6 } },
      spots: {},
      patterns: {},
    }))
  it(
    'brings the kept file of version 1 up to date: amounts where there were none, no ' + 'bare pattern names',
    () => {
      const { content, ...figure } = must(readSong(keptV1)).figures.f!
      expect(content.notes.map((entry) => entry.marks[0])).toEqual([
        { kind: 'trill', frets: 2 },
        { kind: 'pinched harmonic', semitones: 12 },
      ])
      expect(figure).not.toHaveProperty('patternName')
    },
  )
  it('says of the kept file of version 2 that its key is unknown, and not of one with chords', () => {
    expect(must(readSong(keptV2)).keyUnknown).toBe(true)
    const harmony = [{ startTicks: 0, lengthTicks: BAR, symbol: 'C' }]
    const sections = { s1: { ...keptV2.sections.s1, harmony } }
    expect(must(readSong({ ...keptV2, sections })).keyUnknown).toBeUndefined()
  })
  it('brings the kept file of version 3 up to date: nothing is excused, its spots are as they were', () => {
    const song = must(readSong(keptV3))
    expect(song.excuses).toEqual({})
    expect(song.spots).toEqual(keptV3.spots)
  })
  it('brings the kept file of version 4 up to date: its tone note is the beginning of a rig', () => {
    const { rig } = must(readSong(keptV4)).parts.g1!
    expect(rig).toMatchObject({ pickup: 'bridge', gain: 'crunch' })
    expect(rig!.effects).toMatchObject([
      { kind: 'filter', words: 'half open' },
      { kind: 'octave', semitones: -12 },
      { kind: 'delay', delayTicks: 7560 },
    ])
  })
  it('brings the kept file of version 5 up to date without changing a thing', () =>
    expect(must(readSong(keptV5))).toEqual({ ...keptV5, schemaVersion: SCHEMA_VERSION }))
  it('cuts in the kept file of version 6 what lasts longer than any figure, and nothing else', () => {
    const song = must(readSong(keptV6))
    const [note] = song.figures.f!.content.notes
    expect(note!.lengthTicks).toBe(MOST_FIGURE_TICKS)
    expect({ ...song, figures: {} }).toEqual({ ...keptV6, figures: {}, schemaVersion: SCHEMA_VERSION })
  })
  it('gives every mark in the kept file of version 7 the one shape, wherever marks stand', () => {
    const song = must(readSong(keptV7))
    expect(song.figures).toEqual(everyMarkSong().figures)
    expect(song.patterns.hand!.strokes[0]!.marks).toEqual([{ kind: 'accent' }, { kind: 'dead' }])
    expect(song.doubts.d!.readings[0]!.content!.mutes[0]!.mark).toEqual({
      kind: 'palm mute',
      pressure: 'medium',
    })
    expect(must(readSong({ ...song, schemaVersion: 7 }))).toEqual(song)
  })
  it('refuses newer, foreign and inconsistent data with a reason', () => {
    expect(readSong({ schemaVersion: 99 })).toMatchObject({ ok: false, refusal: { code: 'newer' } })
    expect(readSong('hello')).toMatchObject({ ok: false, refusal: { code: 'not-a-song' } })
    expect(readSong({ ...sampleSong(), partOrder: [] })).toMatchObject({
      ok: false,
      refusal: { code: 'damaged' },
    })
    expect(readSong({ ...sampleSong(), extra: 1 })).toMatchObject({ ok: false, refusal: { code: 'damaged' } })
  })
})
