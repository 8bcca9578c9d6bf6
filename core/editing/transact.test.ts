// What follows from a change, what goes along with it, and what is not possible: for pages, command line and
// tests alike.
import { describe, expect, it } from 'vitest'
import { undo, record, startHistory } from '../document/history'
import { readSong } from '../document/migrations'
import type { Song } from '../document/schema'
import {
  apply,
  BAR,
  figureOf,
  onOnes,
  placeOf,
  refusal,
  run,
  smallSong,
} from '../../tests/support/small-song'
import { transact } from './transact'

const placed = (song: Song, over: Parameters<typeof placeOf>[1] = {}, id = 'p'): Song =>
  run(song, 'setPlacement', { placement: placeOf(id, over) })
const key = { tonic: 'E', mode: 'minor' } as const
const follower = (over: object = {}) =>
  figureOf('third', {
    partId: 'two',
    derivedFrom: { figureId: 'riff', interval: 3, kind: 'diatonic', key, exceptions: [] },
    ...over,
  })

describe('a part that others stand on', () => {
  const song = (): Song => {
    let next = placed(smallSong(), { passes: 2 })
    next = run(next, 'addFigure', { figure: follower() })
    next = run(next, 'changePart', {
      partId: 'two',
      set: { derivedFrom: { partId: 'one', interval: 3, kind: 'diatonic', exceptions: [] } },
    })
    return run(next, 'setSpot', {
      spot: { id: 's', place: { sectionId: 'verse', startTicks: 0, partId: 'one' }, text: 'hm', done: false },
    })
  }
  it('takes what is its own along, lets the others stand by themselves, and says all of it', () => {
    const { song: after, label, asked, consequences } = apply(song(), 'removePart', { partId: 'one' })
    expect(consequences).toEqual([
      'the figure “riff”',
      '1 place where it was played (Verse)',
      'the line “third” that follows it, from now on by itself',
      '1 note',
    ])
    expect(asked).toBe('remove Guitar 1')
    expect(label).toBe('remove Guitar 1, with the figure “riff” and 3 more')
    expect(after.figures.third).not.toHaveProperty('derivedFrom')
    expect(after.figures.third!.content.notes).toHaveLength(2)
    expect(after.parts.two).not.toHaveProperty('derivedFrom')
    expect(readSong(JSON.parse(JSON.stringify(after))).ok).toBe(true)
  })
  it('comes back whole by undo', () => {
    const before = song()
    const applied = apply(before, 'removePart', { partId: 'one' })
    const history = record(startHistory(before), applied.song, applied)
    expect(undo(history)!.history.song).toEqual(before)
  })
})

describe('what follows a line', () => {
  const pitches = (song: Song): number[] => song.figures.third!.content.notes.map((note) => note.fret)
  const start = (): Song => run(smallSong(), 'addFigure', { figure: follower({ content: onOnes(2, 9) }) })
  it('is made anew when its first line changes, and the label counts it', () => {
    const { song, label } = apply(start(), 'changeFigure', {
      figureId: 'riff',
      what: 'notes',
      set: { content: onOnes(2, 7) },
    })
    expect(pitches(song)).not.toEqual([9, 9])
    expect(label).toBe('notes in riff and 1 that follow it')
  })
  it('is made anew when its own part is retuned, so that it sounds the same third', () => {
    let song = run(start(), 'changeFigure', {
      figureId: 'riff',
      what: 'notes',
      set: { content: onOnes(2, 7) },
    })
    const before = pitches(song)
    const { tuning } = song.parts.two!
    song = run(song, 'retunePart', {
      partId: 'two',
      tuning: { ...tuning, openMidi: tuning.openMidi.map((midi) => midi - 2) },
    })
    expect(pitches(song)).not.toEqual(before)
  })
  it('takes on the length of its first line', () =>
    expect(
      run(start(), 'changeFigure', { figureId: 'riff', what: 'longer', set: { lengthTicks: 4 * BAR } })
        .figures.third!.lengthTicks,
    ).toBe(4 * BAR))
  it('may not go round in a circle', () =>
    expect(
      refusal(start(), 'changeFigure', {
        figureId: 'riff',
        what: 'follow',
        set: { derivedFrom: { figureId: 'third', interval: -3, kind: 'diatonic', key, exceptions: [] } },
      }),
    ).toMatch(/cannot follow that line/))
  it.each([
    ['hand pattern', { pattern: { patternId: 'gone', ownBars: [] } }],
    [
      'first line',
      { derivedFrom: { figureId: 'gone', interval: 3, kind: 'diatonic' as const, key, exceptions: [] } },
    ],
  ])('cannot be a %s that is not there', (what, set) =>
    expect(refusal(start(), 'changeFigure', { figureId: 'riff', what: 'x', set })).toContain(what),
  )
})

describe('placements', () => {
  it('keep the passes for which there is room when their figure grows', () => {
    const before = placed(smallSong(), { passes: 4 })
    const { song, consequences } = apply(before, 'changeFigure', {
      figureId: 'riff',
      what: 'twice as long',
      set: { lengthTicks: 4 * BAR },
    })
    expect(song.placements.p).toMatchObject({ passes: 2 })
    expect(consequences).toEqual(['2 passes that no longer fit (Verse)'])
  })
  it('go where there is room for none, and give way to the next', () => {
    let song = placed(smallSong(), { passes: 1 })
    song = placed(song, { startTicks: 2 * BAR, passes: 3 }, 'q')
    const { song: after, consequences } = apply(song, 'changeFigure', {
      figureId: 'riff',
      what: 'longer',
      set: { lengthTicks: 6 * BAR },
    })
    expect(Object.keys(after.placements)).toEqual(['q'])
    expect(consequences).toEqual([
      '1 place where it was played (Verse)',
      '2 passes that no longer fit (Verse)',
    ])
  })
  it('forget a pass that plays a figure of another length now', () => {
    let song = run(smallSong(), 'addFigure', { figure: figureOf('fill') })
    song = placed(song, { passes: 4, passFigures: [{ pass: 2, figureId: 'fill' }] })
    song = run(song, 'changeFigure', {
      figureId: 'fill',
      what: 'shorter',
      set: { lengthTicks: BAR, content: onOnes(1) },
    })
    expect(song.placements.p).not.toHaveProperty('passFigures')
  })
  it('stay within a section whose start moves', () => {
    const before = placed(placed(smallSong(), { passes: 4 }), { sectionId: 'intro', passes: 4 }, 'i')
    const { song, consequences } = apply(before, 'moveSectionStart', { sectionId: 'verse', byBars: -2 })
    expect(song.placements.i).toMatchObject({ passes: 3 })
    // The last pass of the intro sounds where it did: it is the verse's now.
    const verse = Object.values(song.placements).filter(({ sectionId }) => sectionId === 'verse')
    expect(verse.map(({ startTicks }) => startTicks / BAR).sort()).toEqual([0, 2])
    expect(song.placements.p).toMatchObject({ passes: 4, startTicks: 2 * BAR })
    expect(consequences).toEqual([])
  })
  it('are divided where a section is split, and sound where they sounded', () => {
    const { song, consequences } = apply(
      placed(smallSong(), { passes: 4, passFigures: [] }),
      'splitSection',
      {
        sectionId: 'verse',
        atBar: 5,
        newId: 'second',
        name: 'Verse, second half',
        kind: 'verse',
      },
    )
    expect(consequences).toEqual([])
    const spans = Object.values(song.placements).map((placement) => [
      placement.sectionId,
      placement.startTicks / BAR,
      placement.kind === 'figure' ? placement.passes : 0,
    ])
    expect(spans).toEqual([
      ['verse', 0, 2],
      ['second', -1, 2],
    ])
  })
  it('next to each other are no clash, over each other they are', () => {
    const song = placed(smallSong(), { passes: 1 })
    expect(
      refusal(song, 'setPlacement', { placement: placeOf('q', { startTicks: 2 * BAR }) }),
    ).toBeUndefined()
    expect(refusal(song, 'setPlacement', { placement: placeOf('q', { startTicks: 2 * BAR - 1 }) })).toMatch(
      /already/,
    )
    expect(refusal(song, 'setPlacement', { placement: placeOf('q', { startTicks: 1 }) })).toMatch(/already/)
  })
  it('with an id of another cell are refused, so that no cell loses one unseen', () => {
    const song = placed(smallSong(), { sectionId: 'chorus' })
    const cell = { partId: 'one', sectionId: 'verse', what: 'paste', placements: [placeOf('p')] }
    expect(refusal(song, 'replaceCell', cell)).toMatch(/another cell/)
  })
})

describe('places in the song', () => {
  const spot = (song: Song, startTicks: number): Song =>
    run(song, 'setSpot', {
      spot: { id: 's', place: { sectionId: 'verse', startTicks }, text: 'listen', done: false },
    })
  it('stay at their moment when a border moves over them', () => {
    const song = run(spot(smallSong(), BAR), 'moveSectionStart', { sectionId: 'verse', byBars: 2 })
    expect(song.spots.s!.place).toMatchObject({ sectionId: 'intro', startTicks: 9 * BAR })
  })
  it('chords too: none is left after the last bar of its section', () => {
    let song = run(smallSong(), 'changeSection', {
      sectionId: 'verse',
      set: { harmony: [{ startTicks: 0, lengthTicks: BAR, symbol: 'Em' }] },
    })
    song = run(song, 'moveSectionStart', { sectionId: 'verse', byBars: 1 })
    expect(song.sections.verse!.harmony).toEqual([])
    expect(song.sections.intro!.harmony).toEqual([{ startTicks: 8 * BAR, lengthTicks: BAR, symbol: 'Em' }])
  })
  it('a return of bars that are gone returns those that are left', () => {
    let song = run(smallSong(), 'setReturn', {
      sectionId: 'chorus',
      returns: { sectionId: 'intro', firstBar: 4, barCount: 4, shiftSemitones: 0, withDifferences: false },
    })
    song = run(song, 'moveSectionStart', { sectionId: 'verse', byBars: -2 })
    expect(song.sections.chorus!.returns).toMatchObject({ sectionId: 'intro', firstBar: 4, barCount: 2 })
  })
  it.each([
    [
      'doubt',
      'setDoubt',
      {
        doubt: {
          id: 'd',
          place: { sectionId: 'verse', startTicks: 99 * BAR },
          question: '?',
          readings: [],
          status: 'open',
        },
      },
    ],
    [
      'spot',
      'setSpot',
      { spot: { id: 'd', place: { sectionId: 'verse', startTicks: 99 * BAR }, text: 'x', done: false } },
    ],
  ] as const)('a %s after the end of its section is refused', (_, name, args) =>
    expect(refusal(smallSong(), name, args as never)).toMatch(/after the end of "Verse"/),
  )
})

describe('a source', () => {
  it('that readings and figures name goes without taking them along', () => {
    const take = { ...smallSong().sources.rec!, id: 'take', audioHash: 'b'.repeat(64), rank: 2 }
    let song = run(smallSong(), 'addSource', { source: take })
    song = run(song, 'changeFigure', { figureId: 'riff', what: 'source', set: { sourceId: 'take' } })
    song = run(song, 'setDoubt', {
      doubt: {
        id: 'd',
        place: { sectionId: 'verse', startTicks: 0 },
        question: 'picked?',
        readings: [{ id: 'r', text: 'picked', sourceId: 'take', evidence: [] }],
        status: 'open',
      },
    })
    song = run(song, 'removeSource', { sourceId: 'take' })
    expect(song.figures.riff).not.toHaveProperty('sourceId')
    expect(song.doubts.d!.readings).toEqual([{ id: 'r', text: 'picked', evidence: [] }])
  })
  it('that is not there cannot be named', () =>
    expect(
      refusal(smallSong(), 'changeFigure', { figureId: 'riff', what: 'x', set: { sourceId: 'none' } }),
    ).toMatch(/names a source that is missing/))
})

describe('bounds', () => {
  it.each([
    [
      'a figure of a hundred thousand bars',
      'changeFigure',
      { figureId: 'riff', what: 'x', set: { lengthTicks: 1e5 * BAR } },
      /longer than 512 bars/,
    ],
    ['no passes', 'setPlacement', { placement: placeOf('p', { passes: 0 }) }, /passes: at least 1/],
    ['too many passes', 'setPlacement', { placement: placeOf('p', { passes: 100 }) }, /passes: at most 99/],
    ['an id that every object has', 'removePart', { partId: 'constructor' }, /is not possible/],
    [
      'a pattern one tick long',
      'setPattern',
      {
        pattern: {
          id: 'h',
          name: 'h',
          lengthTicks: 1,
          meter: { beats: 4, unit: 4 },
          strokes: [
            {
              startTicks: 0,
              lengthTicks: 1,
              direction: 'down',
              marks: [],
              on: 'all',
            },
          ],
        },
      },
      /thirty-second/,
    ],
    [
      'a name without letters',
      'changePart',
      { partId: 'one', set: { name: '' } },
      /name: at least 1 characters/,
    ],
    [
      'a direction nobody knows',
      'changeFigure',
      { figureId: 'riff', what: 'x', set: { school: 'sideways' } },
      /school: one of/,
    ],
  ] as const)('refuse %s in words', (_, name, args, words) =>
    expect(refusal(smallSong(), name, args as never)).toMatch(words),
  )
  it('a transaction nobody knows is refused, not thrown', () =>
    expect(transact(smallSong(), 'toString' as never, {} as never)).toMatchObject({ ok: false }))
})
