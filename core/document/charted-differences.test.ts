import { describe, expect, it } from 'vitest'
import { must } from '../result'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { checkSong } from '../check/check'
import { readGrip } from '../neck/grips/grip'
import { contentDifferences } from './differences'
import { applyPatch, invertPatch } from './patch'
import { newPart, newSong } from './new-song'
import { EMPTY_CONTENT, type Content, type GripSpan, type Note, type Song, type Stroke } from './schema'
import { transact } from '../editing/transact'
import type { ArgsOf, TransactionName } from './transactions'

const FOUR = { beats: 4, unit: 4 } as const
const note = (tick: number, fret: number, over: Partial<Note> = {}): Note => ({
  id: `n${tick}`,
  string: 3,
  fret,
  startTicks: tick,
  lengthTicks: Q,
  marks: [],
  ...over,
})
const stroke = (tick: number, over: Partial<Stroke> = {}): Stroke => ({
  id: `s${tick}`,
  startTicks: tick,
  lengthTicks: Q,
  direction: 'down',
  marks: [],
  ...over,
})
const held = (text: string, tick = 0): GripSpan => ({
  id: `g${tick}`,
  startTicks: tick,
  lengthTicks: Q,
  grip: readGrip(text, 6)!,
})
const said = (a: Partial<Content>, b: Partial<Content>): string[] =>
  contentDifferences({ ...EMPTY_CONTENT, ...a }, { ...EMPTY_CONTENT, ...b }, FOUR).map(
    (difference) => difference.text,
  )

describe('differences in words', () => {
  it.each<[string, Partial<Content>, Partial<Content>, string]>([
    [
      'a fret',
      { notes: [note(7 * Q, 5)] },
      { notes: [note(7 * Q, 3)] },
      'bar 2, 4: string 3 fret 3 instead of 5',
    ],
    ['a note more', {}, { notes: [note(Q / 2, 5)] }, 'bar 1, the and of 1: string 3 fret 5 added'],
    ['a note less', { notes: [note(0, 5)] }, {}, 'bar 1, 1: string 3 fret 5 left out'],
    [
      'a mark',
      { notes: [note(0, 5)] },
      { notes: [note(0, 5, { marks: [{ kind: 'vibrato', width: 'wide' }] })] },
      'bar 1, 1: vibrato instead of plain',
    ],
    [
      'a length',
      { notes: [note(0, 5)] },
      { notes: [note(0, 5, { lengthTicks: 2 * Q })] },
      'bar 1, 1: other length',
    ],
    [
      'a grip',
      { grips: [held('022100')] },
      { grips: [held('x-12-14-14-14-12')] },
      'bar 1, 1: grip x-12-14-14-14-12 instead of 022100',
    ],
    ['a grip more', {}, { grips: [held('x32010', 4 * Q)] }, 'bar 2, 1: grip x32010 added'],
    [
      'a stroke more',
      {},
      { strokes: [stroke(Q, { marks: [{ kind: 'dead' }], direction: 'up' })] },
      'bar 1, 2: dead stroke up added',
    ],
    [
      'a dead stroke',
      { strokes: [stroke(0)] },
      { strokes: [stroke(0, { marks: [{ kind: 'dead' }] })] },
      'bar 1, 1: dead stroke instead of a sounding one',
    ],
    [
      'a direction',
      { strokes: [stroke(0)] },
      { strokes: [stroke(0, { direction: 'up' })] },
      'bar 1, 1: up instead of down',
    ],
    [
      'a palm mute',
      { strokes: [stroke(0, { marks: [{ kind: 'palm mute', pressure: 'firm' }] })] },
      { strokes: [stroke(0)] },
      'bar 1, 1: no palm mute instead of firm',
    ],
  ])('say %s', (_, a, b, text) => expect(said(a, b)).toEqual([text]))
  it('come in time order and are none for the same', () => {
    expect(said({ notes: [note(4 * Q, 1)], strokes: [stroke(0)] }, {})).toEqual([
      'bar 1, 1: stroke down left out',
      'bar 2, 1: string 3 fret 1 left out',
    ])
    expect(said({ notes: [note(0, 5)] }, { notes: [note(0, 5, { id: 'other' })] })).toEqual([])
  })
})

describe('doubts, spots and links of figures', () => {
  const run = <Name extends TransactionName>(song: Song, name: Name, args: ArgsOf<Name>): Song => {
    const applied = must(transact(song, name, args))
    expect(applyPatch(applied.song, invertPatch(applied.patch))).toEqual(song)
    return applied.song
  }
  function song(): Song {
    let made = newSong({ id: 's', title: 'S', artist: '' })
    made = run(made, 'addSource', {
      source: {
        id: 'r',
        kind: 'recording',
        name: 'r',
        rank: 1,
        offsetSemitones: 0,
        offsetCents: 0,
        offsetSeconds: 0,
        durationSeconds: 30,
        audioHash: 'c'.repeat(64),
      },
    })
    made = run(made, 'setBeats', {
      beats: Array.from({ length: 16 }, (_, index) => ({ seconds: index / 2, one: index % 4 === 0 })),
      endSeconds: 8,
      what: 'beats',
      newSectionId: 'verse',
    })
    made = run(made, 'addPart', { part: newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' }) })
    return run(made, 'addFigure', {
      figure: {
        id: 'f',
        partId: 'g',
        name: 'Riff',
        lengthTicks: 4 * Q,
        meter: FOUR,
        feel: made.feel,
        content: { ...EMPTY_CONTENT, notes: [note(0, 5)] },
      },
    })
  }
  const doubt = {
    id: 'd',
    place: { sectionId: 'verse', startTicks: 0 },
    question: 'B or D?',
    readings: [
      { id: 'b', text: 'B', evidence: [] },
      { id: 'c', text: 'D', evidence: [] },
    ],
    status: 'open' as const,
  }
  it('are noted, settled for a reading there is, and taken back', () => {
    const made = run(song(), 'setDoubt', { doubt })
    expect(
      transact(made, 'setDoubt', { doubt: { ...doubt, status: 'settled', decision: 'x' } }),
    ).toMatchObject({ ok: false, refusal: { code: 'doubt' } })
    expect(
      run(made, 'setDoubt', { doubt: { ...doubt, status: 'settled', decision: 'b', why: 'the overtone' } })
        .doubts.d!.decision,
    ).toBe('b')
    expect(run(made, 'removeDoubt', { doubtId: 'd' }).doubts).toEqual({})
    expect(
      run(made, 'setSpot', { spot: { id: 'p', place: doubt.place, text: 'again', done: false } }).spots.p!
        .text,
    ).toBe('again')
    expect(
      transact(made, 'setSpot', {
        spot: { id: 'p', place: { sectionId: 'nowhere', startTicks: 0 }, text: 'again', done: false },
      }),
    ).toMatchObject({ ok: false })
  })
  it('change several figures as one step, or none', () => {
    let made = run(song(), 'addFigure', { figure: { ...song().figures.f!, id: 'e', name: 'Echo' } })
    const set = (fret: number) => ({ content: { ...EMPTY_CONTENT, notes: [note(0, fret)] } })
    made = run(made, 'changeFigures', {
      what: 'frets',
      changes: [
        { figureId: 'f', set: set(7) },
        { figureId: 'e', set: set(9) },
      ],
    })
    expect([made.figures.f, made.figures.e].map((figure) => figure!.content.notes[0]!.fret)).toEqual([7, 9])
    const broken = transact(made, 'changeFigures', {
      what: 'frets',
      changes: [
        { figureId: 'f', set: set(1) },
        { figureId: 'e', set: set(30) },
      ],
    })
    expect(broken).toMatchObject({
      ok: false,
      refusal: { message: expect.stringContaining('beyond the neck') },
    })
    expect(made.figures.f!.content.notes[0]!.fret).toBe(7)
  })
  it('forget a first line that is removed, and keep what was made of it', () => {
    let made = song()
    made = run(made, 'addFigure', {
      figure: {
        ...made.figures.f!,
        id: 'third',
        name: 'Third',
        derivedFrom: { figureId: 'f', interval: 3, kind: 'diatonic', key: made.key, exceptions: [] },
      },
    })
    made = run(made, 'removeFigure', { figureId: 'f' })
    expect(made.figures.third!.derivedFrom).toBeUndefined()
    expect(made.figures.third!.content.notes).toHaveLength(1)
  })
  it('are found when a figure cannot be played as written', () => {
    const made = run(song(), 'changeFigure', {
      figureId: 'f',
      what: 'slur',
      set: {
        content: {
          ...EMPTY_CONTENT,
          notes: [note(0, 5), note(Q, 5, { string: 2, marks: [{ kind: 'hammer-on' }] })],
        },
      },
    })
    expect(
      checkSong(made)
        .open.filter((finding) => finding.kind === 'playing')
        .map((finding) => finding.words),
    ).toEqual([
      '“Riff”, bar 1, 2: slurred across strings: from string 3 to 2. ' +
        'Pick it, or play the note before on string 2.',
    ])
  })
  it('refuse a pattern whose strokes lie beyond it', () => {
    const strokes = [
      {
        startTicks: 8 * Q,
        lengthTicks: Q,
        direction: 'down' as const,
        marks: [],
        on: 'all' as const,
      },
    ]
    expect(
      transact(song(), 'setPattern', {
        pattern: { id: 'p', name: 'P', lengthTicks: 4 * Q, meter: FOUR, strokes },
      }),
    ).toMatchObject({ ok: false, refusal: { code: 'pattern' } })
  })
  it('keep a figure whole when it stands alone', () => {
    let made = song()
    made = run(made, 'setPattern', {
      pattern: {
        id: 'p',
        name: 'P',
        lengthTicks: 4 * Q,
        meter: FOUR,
        strokes: [
          {
            startTicks: 0,
            lengthTicks: Q,
            direction: 'down',
            marks: [],
            on: 'all',
          },
        ],
      },
    })
    made = run(made, 'changeFigure', {
      figureId: 'f',
      what: 'follow',
      set: {
        pattern: { patternId: 'p', ownBars: [] },
        content: { ...EMPTY_CONTENT, grips: [held('022100')] },
      },
    })
    made = run(made, 'releaseFigure', { figureId: 'f', from: 'pattern' })
    expect(made.figures.f!.pattern).toBeUndefined()
    expect(made.figures.f!.content.strokes).toHaveLength(1)
  })
})
