import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { must } from '../result'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { readGrip } from '../neck/grips/grip'
import { comparable, sameBarElsewhere, sliceContent } from '../timeline/compare'
import { differingBars, storeContent, variationOf } from './figure-layers'
import { fittedToReturn, cellPlacements } from '../timeline/cells'
import { newPart, newSong } from './new-song'
import { patternPeriod, patternStrokes, stringsOn, tilePattern } from './pattern'
import {
  EMPTY_CONTENT,
  type Content,
  type Figure,
  type GripSpan,
  type Note,
  type Song,
  type Stroke,
} from './schema'
import { transact } from '../editing/transact'
import type { ArgsOf, TransactionName } from './transactions'
import { figureContent } from './figure-content'
import { playsOfPart } from '../timeline/timeline'

const BAR = 4 * Q
const FOUR = { beats: 4, unit: 4 } as const
const run = <Name extends TransactionName>(song: Song, name: Name, args: ArgsOf<Name>): Song =>
  must(transact(song, name, args)).song
const note = (tick: number, fret: number, string = 3): Note => ({
  id: `n${tick}-${string}`,
  string,
  fret,
  startTicks: tick,
  lengthTicks: Q,
  marks: [],
})
const stroke = (tick: number, over: Partial<Stroke> = {}): Stroke => ({
  id: `s${tick}`,
  startTicks: tick,
  lengthTicks: Q,
  direction: 'down',
  marks: [],
  ...over,
})
const held = (text: string, tick: number, length: number): GripSpan => ({
  id: `g${tick}`,
  startTicks: tick,
  lengthTicks: length,
  grip: readGrip(text, 6)!,
})
const plain = (content: Content) => ({
  notes: content.notes.map(({ id: _, ...rest }) => rest),
  strokes: content.strokes.map(({ id: _, ...rest }) => rest),
  grips: content.grips.map(({ id: _, ...rest }) => rest),
  mutes: content.mutes.map(({ id: _, ...rest }) => rest),
})

/** Two verses of four bars, a chorus; a guitar with a two-bar riff. */
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
    beats: Array.from({ length: 48 }, (_, index) => ({ seconds: index / 2, one: index % 4 === 0 })),
    endSeconds: 24,
    what: 'beats',
    newSectionId: 'verse1',
  })
  made = run(made, 'splitSection', {
    sectionId: 'verse1',
    atBar: 4,
    newId: 'chorus',
    name: 'Chorus',
    kind: 'chorus',
  })
  made = run(made, 'splitSection', {
    sectionId: 'chorus',
    atBar: 4,
    newId: 'verse2',
    name: 'Verse 2',
    kind: 'verse',
  })
  made = run(made, 'changeSection', { sectionId: 'verse1', set: { name: 'Verse 1', kind: 'verse' } })
  made = run(made, 'setReturn', {
    sectionId: 'verse2',
    returns: { sectionId: 'verse1', shiftSemitones: 2, withDifferences: true },
  })
  made = run(made, 'addPart', { part: newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' }) })
  return run(made, 'addFigure', {
    figure: {
      id: 'riff',
      partId: 'g',
      name: 'Riff',
      lengthTicks: 2 * BAR,
      meter: FOUR,
      feel: made.feel,
      content: { ...EMPTY_CONTENT, notes: [note(0, 5), note(BAR, 7)] },
    },
  })
}
const place = (
  made: Song,
  id: string,
  sectionId: string,
  startTicks: number,
  passes: number,
  more: object = {},
) =>
  run(made, 'setPlacement', {
    placement: {
      kind: 'figure',
      id,
      partId: 'g',
      sectionId,
      startTicks,
      figureId: 'riff',
      passes,
      shiftFrets: 0,
      form: 'exact',
      ...more,
    },
  })

describe('hand patterns', () => {
  const bassChord = {
    lengthTicks: 2 * Q,
    strokes: [
      {
        startTicks: 0,
        lengthTicks: Q,
        direction: 'down' as const,
        marks: [],
        on: 'bass' as const,
      },
      {
        startTicks: Q,
        lengthTicks: Q,
        direction: 'up' as const,
        marks: [],
        on: 'upper' as const,
      },
    ],
  }
  it('follow the root from grip to grip', () => {
    const tiled = tilePattern(bassChord, [held('x32010', 0, 2 * Q), held('320003', 2 * Q, 2 * Q)], BAR)
    expect(tiled.map((one) => one.strings)).toEqual([[5], [1, 2, 3, 4], [6], [1, 2, 3, 4, 5]])
    expect(tiled.map((one) => one.startTicks)).toEqual([0, Q, 2 * Q, 3 * Q])
  })
  it('give a muted string’s stroke to the nearest that sounds, and skip where no grip is held', () => {
    expect(stringsOn([6, 5], readGrip('x32010', 6)!)).toEqual([5])
    expect(stringsOn('all', undefined)).toBeUndefined()
    expect(tilePattern(bassChord, [held('x32010', 0, Q)], BAR)).toHaveLength(1)
  })
  it('are learned from strokes and give them back', () => {
    const content: Content = {
      ...EMPTY_CONTENT,
      grips: [held('x32010', 0, 2 * BAR)],
      strokes: [0, 1].flatMap((bar) => [
        stroke(bar * BAR, { strings: [5] }),
        stroke(bar * BAR + Q, { strings: [1, 2, 3, 4] }),
        stroke(bar * BAR + 2 * Q, { marks: [{ kind: 'dead' }] }),
        stroke(bar * BAR + 3 * Q, { strings: [3] }),
      ]),
    }
    expect(patternPeriod(content, 2 * BAR, BAR)).toBe(1)
    const strokes = patternStrokes(content, { from: 0, to: BAR })
    expect(strokes.map((one) => one.on)).toEqual(['bass', 'upper', 'all', [3]])
    expect(
      plain({ ...EMPTY_CONTENT, strokes: tilePattern({ lengthTicks: BAR, strokes }, content.grips, 2 * BAR) })
        .strokes,
    ).toEqual(plain(content).strokes)
  })
  it('change everywhere they are followed, but not in a figure’s own bars', () => {
    let made = song()
    const strokes = [
      {
        startTicks: 0,
        lengthTicks: Q,
        direction: 'down' as const,
        marks: [],
        on: 'all' as const,
      },
    ]
    made = run(made, 'setPattern', {
      pattern: { id: 'p', name: 'Push', lengthTicks: BAR, meter: FOUR, strokes },
    })
    const followed: Figure = {
      ...made.figures.riff!,
      pattern: { patternId: 'p', ownBars: [] },
      content: { ...EMPTY_CONTENT, grips: [held('022100', 0, 2 * BAR)] },
    }
    made = run(made, 'changeFigure', {
      figureId: 'riff',
      what: 'follow',
      set: { pattern: followed.pattern, content: followed.content },
    })
    expect(figureContent(made, made.figures.riff!).strokes.map((one) => one.startTicks)).toEqual([0, BAR])
    const edited = {
      ...figureContent(made, made.figures.riff!),
      strokes: [stroke(0), stroke(BAR, { marks: [{ kind: 'dead' }] }), stroke(BAR + Q)],
    }
    made = run(made, 'changeFigure', {
      figureId: 'riff',
      what: 'own bar',
      set: storeContent(made, made.figures.riff!, edited),
    })
    expect(made.figures.riff!.pattern).toEqual({ patternId: 'p', ownBars: [1] })
    made = run(made, 'setPattern', {
      pattern: {
        id: 'p',
        name: 'Push',
        lengthTicks: BAR,
        meter: FOUR,
        strokes: [{ ...strokes[0]!, startTicks: 2 * Q }],
      },
    })
    expect(figureContent(made, made.figures.riff!).strokes.map((one) => one.startTicks)).toEqual([
      2 * Q,
      BAR,
      BAR + Q,
    ])
    expect(
      plain(
        figureContent(
          run(made, 'removePattern', { patternId: 'p' }),
          run(made, 'removePattern', { patternId: 'p' }).figures.riff!,
        ),
      ),
    ).toEqual(plain(figureContent(made, made.figures.riff!)))
  })
})

describe('variations', () => {
  it('store only the bars that differ, and play what was edited, whatever it is', () => {
    const frets = fc
      .array(
        fc.tuple(
          fc.integer({ min: 0, max: 7 }),
          fc.integer({ min: 0, max: 12 }),
          fc.integer({ min: 1, max: 6 }),
        ),
        { maxLength: 8 },
      )
      .map((list) =>
        list
          .filter(
            ([beat, , string], index) =>
              list.findIndex(([otherBeat, , otherString]) => otherBeat === beat && otherString === string) ===
              index,
          )
          .map(([beat, fret, string]) => note(beat * Q, fret, string))
          .sort((a, b) => a.startTicks - b.startTicks || a.id.localeCompare(b.id)),
      )
    fc.assert(
      fc.property(frets, frets, (base, edited) => {
        let made = run(song(), 'changeFigure', {
          figureId: 'riff',
          what: 'base',
          set: { content: { ...EMPTY_CONTENT, notes: base } },
        })
        const variation = variationOf(made.figures.riff!, { id: 'riff2', name: 'Riff, changed' })
        made = run(made, 'addFigure', { figure: variation })
        const next = { ...EMPTY_CONTENT, notes: edited }
        const stored = run(made, 'changeFigure', {
          figureId: 'riff2',
          what: 'edit',
          set: storeContent(made, variation, next),
        })
        const sort = (content: Content) =>
          plain(content)
            .notes.map((one) => JSON.stringify(one))
            .sort()
        expect(sort(figureContent(stored, stored.figures.riff2!))).toEqual(sort(next))
        expect(stored.figures.riff2!.variationOf!.replacedBars).toEqual(
          differingBars({ ...EMPTY_CONTENT, notes: base }, next, FOUR),
        )
        // What the variation did not change follows the base.
        const kept = new Set(stored.figures.riff2!.variationOf!.replacedBars)
        const changed = run(stored, 'changeFigure', {
          figureId: 'riff',
          what: 'base again',
          set: { content: { ...EMPTY_CONTENT, notes: [note(0, 11), note(BAR, 11)] } },
        })
        for (const bar of [0, 1])
          if (!kept.has(bar))
            expect(
              figureContent(changed, changed.figures.riff2!)
                .notes.filter((one) => Math.floor(one.startTicks / BAR) === bar)
                .map((one) => one.fret),
            ).toEqual([11])
      }),
      { numRuns: 60 },
    )
  })
  it('become figures of their own with all they play when they are released or their base is removed', () => {
    let made = song()
    made = run(made, 'addFigure', {
      figure: {
        ...variationOf(made.figures.riff!, { id: 'riff2', name: 'Riff, changed' }),
        content: { ...EMPTY_CONTENT, notes: [note(BAR, 9)] },
        variationOf: { figureId: 'riff', replacedBars: [1] },
      },
    })
    for (const next of [
      run(made, 'releaseFigure', { figureId: 'riff2', from: 'variationOf' }),
      run(made, 'removeFigure', { figureId: 'riff' }),
    ]) {
      expect(next.figures.riff2!.variationOf).toBeUndefined()
      expect(next.figures.riff2!.content.notes.map((one) => one.fret)).toEqual([5, 9])
    }
  })
  it('are refused when they would vary themselves', () => {
    let made = song()
    made = run(made, 'addFigure', { figure: variationOf(made.figures.riff!, { id: 'riff2', name: 'Two' }) })
    const circle = transact(made, 'changeFigure', {
      figureId: 'riff',
      what: 'circle',
      set: { variationOf: { figureId: 'riff2', replacedBars: [] } },
    })
    expect(circle).toMatchObject({ ok: false })
  })
})

describe('passes', () => {
  const withOther = (): Song => {
    let made = song()
    made = run(made, 'addFigure', {
      figure: {
        ...made.figures.riff!,
        id: 'fill',
        name: 'Fill',
        content: { ...EMPTY_CONTENT, notes: [note(0, 9), note(BAR, 12)] },
      },
    })
    return place(made, 'p', 'verse1', 0, 2, { passFigures: [{ pass: 2, figureId: 'fill' }] })
  }
  it('play another figure where they are told to', () => {
    expect(playsOfPart(withOther(), 'g').map((play) => play.figure?.id)).toEqual(['riff', 'fill'])
    expect(
      playsOfPart(run(withOther(), 'removeFigure', { figureId: 'fill' }), 'g').map((play) => play.figure?.id),
    ).toEqual(['riff', 'riff'])
  })
  it('refuse a figure that a shift takes off the neck, in whichever pass', () => {
    const made = run(song(), 'addFigure', {
      figure: {
        ...song().figures.riff!,
        id: 'high',
        name: 'High',
        content: { ...EMPTY_CONTENT, notes: [note(0, 21)] },
      },
    })
    const placement = {
      kind: 'figure' as const,
      id: 'p',
      partId: 'g',
      sectionId: 'verse1',
      startTicks: 0,
      figureId: 'riff',
      passes: 2,
      shiftFrets: 2,
      form: 'exact' as const,
    }
    expect(transact(made, 'setPlacement', { placement })).toMatchObject({ ok: true })
    expect(
      transact(made, 'setPlacement', {
        placement: { ...placement, passFigures: [{ pass: 2, figureId: 'high' }] },
      }),
    ).toMatchObject({ ok: false, refusal: { code: 'shift' } })
  })
  it('refuse a figure of another length', () => {
    const made = run(song(), 'addFigure', {
      figure: { ...song().figures.riff!, id: 'long', name: 'Long', lengthTicks: 3 * BAR },
    })
    expect(
      transact(made, 'setPlacement', {
        placement: {
          kind: 'figure',
          id: 'p',
          partId: 'g',
          sectionId: 'verse1',
          startTicks: 0,
          figureId: 'riff',
          passes: 2,
          shiftFrets: 0,
          form: 'exact',
          passFigures: [{ pass: 2, figureId: 'long' }],
        },
      }),
    ).toMatchObject({ ok: false, refusal: { code: 'pass-length' } })
  })
  it('answer what was charted for this bar in the other verses', () => {
    const made = place(withOther(), 'q', 'verse2', 0, 2)
    expect(sameBarElsewhere(made, 'g', 'verse1', 2)).toMatchObject([
      {
        sectionName: 'Verse 2',
        figureName: 'Riff',
        pass: 2,
        differences: [{ text: 'bar 1, 1: string 3 fret 5 instead of 9' }],
      },
    ])
    expect(sameBarElsewhere(made, 'g', 'verse1', 0)[0]!.differences).toEqual([])
    expect(sameBarElsewhere(made, 'g', 'chorus', 0)).toEqual([])
  })
  it('are copied to a return in its key, and only where nothing is charted yet', () => {
    const made = place(withOther(), 'own', 'verse2', 2 * BAR, 1)
    const copy = fittedToReturn(
      made,
      cellPlacements(made, 'verse1', 'g'),
      made.sections.verse2!,
      'g',
      () => `c${Math.random()}`,
    )
    expect(
      copy.map((placement) => [
        placement.startTicks / BAR,
        placement.kind === 'figure' ? placement.shiftFrets : 0,
      ]),
    ).toEqual([
      [0, 2],
      [2, 0],
    ])
  })
})

describe('copying to a return', () => {
  let serial = 0
  const newId = () => `c${serial++}`
  const copyOf = (made: Song) =>
    fittedToReturn(made, cellPlacements(made, 'verse1', 'g'), made.sections.verse2!, 'g', newId)
  it('keeps the passes that differ when the whole of it goes over', () => {
    const made = place(
      run(song(), 'addFigure', { figure: { ...song().figures.riff!, id: 'fill', name: 'Fill' } }),
      'p',
      'verse1',
      0,
      2,
      { passFigures: [{ pass: 2, figureId: 'fill' }] },
    )
    expect(copyOf(made)).toMatchObject([
      { sectionId: 'verse2', passes: 2, passFigures: [{ pass: 2, figureId: 'fill' }] },
    ])
    expect(
      transact(made, 'replaceCell', {
        partId: 'g',
        sectionId: 'verse2',
        placements: copyOf(made),
        what: 'copy',
      }),
    ).toMatchObject({ ok: true })
  })
  it('goes round what is there: before, between and after it', () => {
    const made = place(place(song(), 'p', 'verse1', 0, 2), 'own', 'verse2', 2 * BAR, 1)
    const copied = copyOf(made)
    expect(copied.map((placement) => placement.startTicks / BAR)).toEqual([0, 2])
    expect(copied.find((placement) => placement.id === 'own')).toEqual(made.placements.own)
  })
  it('takes rests along where nothing is charted, and only there', () => {
    const rest = (made: Song, id: string, sectionId: string, startTicks: number) =>
      run(made, 'setPlacement', {
        placement: { kind: 'rests', id, partId: 'g', sectionId, startTicks, lengthTicks: 2 * BAR },
      })
    const made = rest(song(), 'p', 'verse1', 0)
    expect(copyOf(made)).toMatchObject([{ kind: 'rests', sectionId: 'verse2', lengthTicks: 2 * BAR }])
    expect(copyOf(place(made, 'own', 'verse2', 0, 1))).toMatchObject([{ id: 'own' }])
  })
})

describe('comparing', () => {
  it('finds a return by its link, and says what rests there or is not charted', () => {
    const made = place(song(), 'p', 'verse1', 0, 1)
    expect(sameBarElsewhere(made, 'g', 'verse1', 0)).toMatchObject([
      { sectionId: 'verse2', figureName: 'not charted', figureId: undefined },
    ])
    const resting = run(made, 'setPlacement', {
      placement: {
        kind: 'rests',
        id: 'r',
        partId: 'g',
        sectionId: 'verse2',
        startTicks: 0,
        lengthTicks: BAR,
      },
    })
    expect(sameBarElsewhere(resting, 'g', 'verse1', 0)[0]!.figureName).toBe('rests')
    const renamed = run(
      run(made, 'changeSection', { sectionId: 'verse2', set: { name: 'Double time', kind: 'bridge' } }),
      'setReturn',
      { sectionId: 'verse2', returns: { sectionId: 'verse1', shiftSemitones: 0, withDifferences: true } },
    )
    expect(sameBarElsewhere(renamed, 'g', 'verse1', 0)).toMatchObject([{ sectionName: 'Double time' }])
    expect(sameBarElsewhere(made, 'g', 'nowhere', 0)).toEqual([])
    expect(sameBarElsewhere(made, 'g', 'verse1', 99)).toEqual([])
  })
  it('sets a figure against any other, or nothing when it is gone', () => {
    const made = run(song(), 'addFigure', {
      figure: {
        ...song().figures.riff!,
        id: 'other',
        name: 'Other',
        content: { ...EMPTY_CONTENT, notes: [note(0, 11)] },
      },
    })
    expect(comparable(made, made.figures.riff!, { kind: 'figure', figureId: 'other' })!.notes[0]!.fret).toBe(
      11,
    )
    expect(comparable(made, made.figures.riff!, { kind: 'figure', figureId: 'gone' })).toBeUndefined()
  })
  it('sets halves against each other, eased against exact', () => {
    const made = run(song(), 'changeFigure', {
      figureId: 'riff',
      what: 'ease',
      set: { eased: { ...EMPTY_CONTENT, notes: [note(0, 5)] } },
    })
    const side = (kind: 'first half' | 'second half' | 'eased' | 'whole') =>
      comparable(made, made.figures.riff!, { kind })!.notes.map((one) => [one.startTicks, one.fret])
    expect([side('first half'), side('second half'), side('eased')]).toEqual([[[0, 5]], [[0, 7]], [[0, 5]]])
    expect(comparable(song(), song().figures.riff!, { kind: 'eased' })).toBeUndefined()
  })
  it('keeps a grip that is held from before', () =>
    expect(
      sliceContent({ ...EMPTY_CONTENT, grips: [held('022100', 0, 2 * BAR)] }, BAR, 2 * BAR).grips,
    ).toMatchObject([{ startTicks: 0, lengthTicks: BAR }]))
})
