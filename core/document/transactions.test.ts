import { describe, expect, it } from 'vitest'
import { must } from '../result'
import { tuningsFor } from '../instrument/tunings'
import { readGrip } from '../neck/grips/grip'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { sectionPlaces } from './form'
import { readSong } from './migrations'
import { newPart, newSong } from './new-song'
import { applyPatch, invertPatch } from './patch'
import { EMPTY_CONTENT, type Figure, type Song } from './schema'
import { transact } from '../editing/transact'
import type { ArgsOf, TransactionName } from './transactions'

const BAR = 4 * Q
const FOUR = { beats: 4, unit: 4 } as const

/** Runs a change, and holds its inverse to lead back exactly. */
function run<Name extends TransactionName>(song: Song, name: Name, args: ArgsOf<Name>): Song {
  const applied = must(transact(song, name, args))
  expect(applyPatch(applied.song, invertPatch(applied.patch))).toEqual(song)
  return applied.song
}
const labelOf = <Name extends TransactionName>(song: Song, name: Name, args: ArgsOf<Name>): string =>
  must(transact(song, name, args)).label
function refusalOf<Name extends TransactionName>(song: Song, name: Name, args: ArgsOf<Name>): string {
  const result = transact(song, name, args)
  if (result.ok) throw new Error(`${name} was done`)
  return result.refusal.message
}
const figure = (id: string, partId: string, over: Partial<Figure> = {}): Figure => ({
  id,
  partId,
  name: `Figure ${id}`,
  lengthTicks: 2 * BAR,
  meter: FOUR,
  feel: { subdivision: 'eighths', swing: { ratio: 0.5, level: 'eighths' } },
  content: {
    ...EMPTY_CONTENT,
    notes: [{ id: 'n', string: 3, fret: 5, startTicks: 0, lengthTicks: Q, marks: [] }],
  },
  ...over,
})

/**
 * Verse and chorus of eight bars, two guitars, a figure each, a doubt and a spot in the verse's sixth bar.
 */
function band(): Song {
  let song = newSong({ id: 'song', title: 'Paper Lantern', artist: 'The Low Tide' })
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
    newSectionId: 'verse',
  })
  song = run(song, 'splitSection', {
    sectionId: 'verse',
    atBar: 8,
    newId: 'chorus',
    name: 'Chorus',
    kind: 'chorus',
  })
  for (const [id, name] of [
    ['one', 'Guitar 1'],
    ['two', 'Guitar 2'],
  ] as const) {
    song = run(song, 'addPart', { part: newPart({ id, name, kind: 'guitar-6' }) })
    song = run(song, 'addFigure', { figure: figure(id, id) })
  }
  const place = { partId: 'two', sectionId: 'verse', startTicks: 5 * BAR }
  song = run(song, 'setSpot', { spot: { id: 'spot', place, text: 'listen again', done: false } })
  return run(song, 'setDoubt', {
    doubt: {
      id: 'doubt',
      place,
      question: 'B or D?',
      readings: [{ id: 'b', text: 'B', evidence: [] }],
      status: 'open',
    },
  })
}
const place = (
  song: Song,
  over: Partial<Extract<Song['placements'][string], { kind: 'figure' }>> = {},
): Song =>
  run(song, 'setPlacement', {
    placement: {
      kind: 'figure',
      id: 'p',
      partId: 'one',
      sectionId: 'verse',
      startTicks: 0,
      figureId: 'one',
      passes: 1,
      shiftFrets: 0,
      form: 'exact',
      ...over,
    },
  })

describe('splitting and merging', () => {
  it('take doubts and spots along, to the place they are about', () => {
    let song = run(band(), 'splitSection', {
      sectionId: 'verse',
      atBar: 4,
      newId: 'turn',
      name: 'Turn',
      kind: 'other',
    })
    expect([song.spots.spot!.place, song.doubts.doubt!.place]).toMatchObject([
      { sectionId: 'turn', startTicks: BAR },
      { sectionId: 'turn', startTicks: BAR },
    ])
    song = run(song, 'mergeSection', { sectionId: 'turn' })
    expect(song.doubts.doubt!.place).toMatchObject({ sectionId: 'verse', startTicks: 5 * BAR })
    expect(song.sections).toEqual(band().sections)
  })
  it('leave what lies before the cut where it is', () => {
    const song = run(band(), 'splitSection', {
      sectionId: 'verse',
      atBar: 6,
      newId: 'turn',
      name: 'Turn',
      kind: 'other',
    })
    expect(song.spots.spot!.place).toMatchObject({ sectionId: 'verse', startTicks: 5 * BAR })
  })
  it('take chords along, and what returned the merged section returns its bars where they are now', () => {
    let song = run(band(), 'changeSection', {
      sectionId: 'chorus',
      set: { harmony: [{ startTicks: 0, lengthTicks: BAR, symbol: 'C' }] },
    })
    song = run(song, 'splitSection', {
      sectionId: 'chorus',
      atBar: 4,
      newId: 'out',
      name: 'Outro',
      kind: 'outro',
    })
    song = run(song, 'setReturn', {
      sectionId: 'out',
      returns: { sectionId: 'chorus', shiftSemitones: 0, withDifferences: false },
    })
    song = run(song, 'mergeSection', { sectionId: 'chorus' })
    expect(song.sections.verse!.harmony).toMatchObject([{ startTicks: 8 * BAR, symbol: 'C' }])
    expect(song.sections.out!.returns).toMatchObject({ sectionId: 'verse' })
    expect(sectionPlaces(song).map(({ section, firstBar }) => [section.name, firstBar])).toEqual([
      ['Whole song', 0],
      ['Outro', 12],
    ])
  })
})

describe('removing', () => {
  it('a part takes its figures, placements, doubts and spots, and frees what was derived from it', () => {
    let song = run(place(band()), 'changePart', {
      partId: 'one',
      set: { derivedFrom: { partId: 'two', interval: 3, kind: 'diatonic', exceptions: [] } },
    })
    song = run(song, 'removePart', { partId: 'two' })
    expect([Object.keys(song.figures), Object.keys(song.spots), Object.keys(song.doubts)]).toEqual([
      ['one'],
      [],
      [],
    ])
    expect(song.parts.one!.derivedFrom).toBeUndefined()
    song = run(song, 'removePart', { partId: 'one' })
    expect([song.partOrder, song.placements, song.figures]).toEqual([[], {}, {}])
  })
  it('a figure takes its placements, and its turn in the passes of others', () => {
    let song = run(band(), 'addFigure', { figure: figure('fill', 'one') })
    song = place(song, { passes: 3, passFigures: [{ pass: 3, figureId: 'fill' }] })
    song = place(song, { id: 'q', sectionId: 'chorus', figureId: 'fill' })
    song = run(song, 'removeFigure', { figureId: 'fill' })
    expect(Object.keys(song.placements)).toEqual(['p'])
    expect(song.placements.p).not.toHaveProperty('passFigures')
  })
})

describe('refusals in a sentence', () => {
  const song = place(band())
  const placement = (over: object) => ({
    placement: {
      kind: 'figure' as const,
      id: 'q',
      partId: 'one',
      sectionId: 'verse',
      startTicks: 4 * BAR,
      figureId: 'one',
      passes: 1,
      shiftFrets: 0,
      form: 'exact' as const,
      ...over,
    },
  })
  const drop = tuningsFor('bass-4')[0]!
  it.each<[string, RegExp, () => string]>([
    [
      'a split at the edge',
      /already starts there/,
      () =>
        refusalOf(song, 'splitSection', {
          sectionId: 'verse',
          atBar: 8,
          newId: 'x',
          name: 'X',
          kind: 'other',
        }),
    ],
    [
      'a split under a taken id',
      /already there/,
      () =>
        refusalOf(song, 'splitSection', {
          sectionId: 'verse',
          atBar: 2,
          newId: 'chorus',
          name: 'X',
          kind: 'other',
        }),
    ],
    ['merging the first', /nothing before it/, () => refusalOf(song, 'mergeSection', { sectionId: 'verse' })],
    [
      'moving the first',
      /cannot be moved/,
      () => refusalOf(song, 'moveSectionStart', { sectionId: 'verse', byBars: 1 }),
    ],
    [
      'moving over the next',
      /not enough bars: "Chorus"/,
      () => refusalOf(song, 'moveSectionStart', { sectionId: 'chorus', byBars: 8 }),
    ],
    [
      'a part twice',
      /already in the band/,
      () => refusalOf(song, 'addPart', { part: newPart({ id: 'one', name: 'X', kind: 'guitar-6' }) }),
    ],
    [
      'a capo beyond the neck',
      /capo is beyond the neck/,
      () =>
        refusalOf(song, 'changePart', {
          partId: 'two',
          set: { instrument: { ...song.parts.two!.instrument, fretCount: 12, capo: 12 } },
        }),
    ],
    [
      'frets too few for what is charted',
      /"Figure one" would become impossible: fret 5 is beyond/,
      () =>
        refusalOf(run(song, 'changeFigure', { figureId: 'one', what: 'x', set: {} }), 'changePart', {
          partId: 'one',
          set: { instrument: { ...song.parts.one!.instrument, fretCount: 12, capo: 8 } },
        }),
    ],
    [
      'a tuning for fewer strings',
      /has 6 strings; the tuning is for 4/,
      () => refusalOf(song, 'retunePart', { partId: 'one', tuning: drop }),
    ],
    [
      'the same, keeping the sound',
      /has 6 strings; the tuning is for 4/,
      () => refusalOf(song, 'retuneKeepingSound', { partId: 'one', tuning: drop, changes: [] }),
    ],
    [
      'a figure of another part',
      /belongs to Guitar 2/,
      () => refusalOf(song, 'setPlacement', placement({ figureId: 'two' })),
    ],
    [
      'a place outside its section',
      /outside "Whole song"/,
      () => refusalOf(song, 'setPlacement', placement({ startTicks: -4 * BAR })),
    ],
    [
      'a place that is taken',
      /There is "Figure one" in Whole song already/,
      () => refusalOf(song, 'setPlacement', placement({ startTicks: BAR })),
    ],
    [
      'a pass of another length',
      /not as long as/,
      () =>
        refusalOf(
          run(song, 'addFigure', { figure: figure('short', 'one', { lengthTicks: BAR }) }),
          'setPlacement',
          placement({ passFigures: [{ pass: 2, figureId: 'short' }] }),
        ),
    ],
    [
      'a fret beyond the neck',
      /fret 30 is beyond the neck/,
      () =>
        refusalOf(song, 'addFigure', {
          figure: figure('x', 'two', {
            content: {
              ...EMPTY_CONTENT,
              notes: [{ id: 'n', string: 3, fret: 30, startTicks: 0, lengthTicks: Q, marks: [] }],
            },
          }),
        }),
    ],
    ['nonsense', /cannot be entered/, () => refusalOf(song, 'setFacts', { referenceHz: 9000 })],
  ])('%s', (_, message, attempt) => expect(attempt()).toMatch(message))
  it('tell what is no longer there, whatever is asked of it', () => {
    const tuning = tuningsFor('guitar-6')[0]!
    const attempts: Record<string, () => string> = {
      section: () => refusalOf(song, 'changeSection', { sectionId: 'gone', set: { name: 'X' } }),
      split: () =>
        refusalOf(song, 'splitSection', {
          sectionId: 'gone',
          atBar: 1,
          newId: 'x',
          name: 'X',
          kind: 'other',
        }),
      merge: () => refusalOf(song, 'mergeSection', { sectionId: 'gone' }),
      move: () => refusalOf(song, 'moveSectionStart', { sectionId: 'gone', byBars: 1 }),
      returns: () =>
        refusalOf(song, 'setReturn', {
          sectionId: 'chorus',
          returns: { sectionId: 'gone', shiftSemitones: 0, withDifferences: false },
        }),
      part: () => refusalOf(song, 'changePart', { partId: 'gone', set: {} }),
      order: () => refusalOf(song, 'movePart', { partId: 'gone', to: 0 }),
      removal: () => refusalOf(song, 'removePart', { partId: 'gone' }),
      tuning: () => refusalOf(song, 'retunePart', { partId: 'gone', tuning }),
      sound: () =>
        refusalOf(song, 'retuneKeepingSound', {
          partId: 'one',
          tuning,
          changes: [{ figureId: 'two', set: {} }],
        }),
      figure: () => refusalOf(song, 'changeFigure', { figureId: 'gone', what: 'x', set: {} }),
      figures: () =>
        refusalOf(song, 'changeFigures', { what: 'x', changes: [{ figureId: 'gone', set: {} }] }),
      release: () => refusalOf(song, 'releaseFigure', { figureId: 'gone', from: 'eased' }),
      remove: () => refusalOf(song, 'removeFigure', { figureId: 'gone' }),
      pattern: () => refusalOf(song, 'removePattern', { patternId: 'gone' }),
      placement: () => refusalOf(song, 'removePlacement', { placementId: 'gone' }),
      place: () => refusalOf(song, 'setPlacement', placement({ sectionId: 'gone' })),
      placed: () => refusalOf(song, 'setPlacement', placement({ figureId: 'gone' })),
      player: () => refusalOf(song, 'setPlacement', placement({ partId: 'gone' })),
      source: () => refusalOf(song, 'changeSource', { source: { ...song.sources.rec!, id: 'gone' } }),
      doubt: () => refusalOf(song, 'removeDoubt', { doubtId: 'gone' }),
    }
    for (const [what, attempt] of Object.entries(attempts)) expect(attempt(), what).toMatch(/no longer there/)
  })
  it('change nothing of several cells when one cannot be', () => {
    const cells = [
      {
        partId: 'one',
        sectionId: 'chorus',
        placements: [placement({ sectionId: 'chorus', startTicks: 0 }).placement],
      },
      {
        partId: 'two',
        sectionId: 'chorus',
        placements: [placement({ id: 'r', sectionId: 'chorus', partId: 'two', startTicks: 0 }).placement],
      },
    ]
    expect(refusalOf(song, 'replaceCells', { cells, what: 'paste' })).toMatch(
      /cannot be placed in another part/,
    )
    expect(
      Object.keys(run(song, 'replaceCells', { cells: cells.slice(0, 1), what: 'paste' }).placements).sort(),
    ).toEqual(['p', 'q'])
  })
})

describe('what undo is called', () => {
  const song = place(band())
  it.each<[string, () => string]>([
    [
      'rename Guitar 1 to "Left"',
      () => labelOf(song, 'changePart', { partId: 'one', set: { name: 'Left' } }),
    ],
    [
      'change role, sound of Guitar 1',
      () => labelOf(song, 'changePart', { partId: 'one', set: { role: 'lead', sound: 'driven' } }),
    ],
    ['move Guitar 2', () => labelOf(song, 'movePart', { partId: 'two', to: 0 })],
    [
      'make Chorus a bridge',
      () => labelOf(song, 'changeSection', { sectionId: 'chorus', set: { kind: 'bridge' } }),
    ],
    [
      'change chords of Chorus',
      () => labelOf(song, 'changeSection', { sectionId: 'chorus', set: { harmony: [] } }),
    ],
    [
      'mark Chorus as returning Whole song',
      () =>
        labelOf(song, 'setReturn', {
          sectionId: 'chorus',
          returns: { sectionId: 'verse', shiftSemitones: 0, withDifferences: false },
        }),
    ],
    ['Chorus returns nothing', () => labelOf(song, 'setReturn', { sectionId: 'chorus', returns: null })],
    [
      'move the start of Chorus by -1 bar',
      () => labelOf(song, 'moveSectionStart', { sectionId: 'chorus', byBars: -1 }),
    ],
    [
      'change "Figure one" in Whole song',
      () => labelOf(song, 'setPlacement', { placement: song.placements.p! }),
    ],
    [
      'place rests in Chorus',
      () =>
        labelOf(song, 'setPlacement', {
          placement: {
            kind: 'rests',
            id: 'r',
            partId: 'two',
            sectionId: 'chorus',
            startTicks: 0,
            lengthTicks: BAR,
          },
        }),
    ],
    ['change title, count and swing', () => labelOf(song, 'setFacts', { title: 'X', feel: song.feel })],
    ['no eased form: Figure one', () => labelOf(song, 'releaseFigure', { figureId: 'one', from: 'eased' })],
    [
      'eased in Figure one and 1 more',
      () =>
        labelOf(song, 'changeFigures', {
          what: 'eased',
          changes: [
            { figureId: 'one', set: {} },
            { figureId: 'two', set: {} },
          ],
        }),
    ],
  ])('%s', (label, of) => expect(of()).toBe(label))
})

describe('a song file whose parts do not fit together', () => {
  const song = place(band())
  const grip = { id: 'g', startTicks: 0, lengthTicks: Q, grip: readGrip('022100', 6)! }
  const broken = (change: (copy: Song) => void): string => {
    const copy = structuredClone(song)
    change(copy)
    const result = readSong(JSON.parse(JSON.stringify(copy)))
    return result.ok ? 'sound' : result.refusal.message
  }
  it.each<[RegExp, (copy: Song) => void]>([
    [
      /order of the parts/,
      (copy) => {
        copy.partOrder.pop()
      },
    ],
    [
      /order of the sections/,
      (copy) => {
        copy.sectionOrder.push('verse')
      },
    ],
    [
      /order of the sources/,
      (copy) => {
        copy.sourceOrder = ['nowhere']
      },
    ],
    [
      /wrong id \(one\)/,
      (copy) => {
        copy.figures.one!.id = 'other'
      },
    ],
    [
      /belongs to no part/,
      (copy) => {
        copy.figures.one!.partId = 'gone'
      },
    ],
    [
      /varies a figure that is missing/,
      (copy) => {
        copy.figures.one!.variationOf = { figureId: 'gone', replacedBars: [] }
      },
    ],
    [
      /varies itself/,
      (copy) => {
        copy.figures.one!.variationOf = { figureId: 'one', replacedBars: [] }
      },
    ],
    [
      /hand pattern that is missing/,
      (copy) => {
        copy.figures.one!.pattern = { patternId: 'gone', ownBars: [] }
      },
    ],
    [
      /follows a line that is missing/,
      (copy) => {
        copy.figures.one!.derivedFrom = {
          figureId: 'gone',
          interval: 3,
          kind: 'diatonic',
          key: song.key,
          exceptions: [],
        }
      },
    ],
    [
      /placement points at something missing/,
      (copy) => {
        copy.placements.p!.sectionId = 'gone'
      },
    ],
    [
      /pass of a placement plays something missing/,
      (copy) => {
        Object.assign(copy.placements.p!, { passFigures: [{ pass: 1, figureId: 'two' }] })
      },
    ],
    [
      /returns a section that is missing/,
      (copy) => {
        copy.sections.chorus!.returns = { sectionId: 'gone', shiftSemitones: 0, withDifferences: false }
      },
    ],
    [
      /returns a section that is not before it/,
      (copy) => {
        copy.sections.verse!.returns = { sectionId: 'chorus', shiftSemitones: 0, withDifferences: false }
        copy.sections.chorus!.returns = { sectionId: 'verse', shiftSemitones: 0, withDifferences: false }
      },
    ],
    [
      /(a doubt|a spot) lies in a section that is missing/,
      (copy) => {
        copy.spots.spot!.place.sectionId = 'gone'
      },
    ],
    [
      /fret 40|frets?|expected/i,
      (copy) => {
        copy.figures.one!.content.notes[0]!.fret = 40
      },
    ],
    [
      /already has a note at that place/,
      (copy) => {
        copy.figures.one!.content.notes.push({ ...copy.figures.one!.content.notes[0]!, id: 'm', fret: 7 })
      },
    ],
    [
      /starts after the end of the figure/,
      (copy) => {
        copy.figures.one!.content.notes[0]!.startTicks = 2 * BAR
      },
    ],
    [
      /grip starts after the end/,
      (copy) => {
        copy.figures.one!.content.grips.push({ ...grip, startTicks: 9 * BAR })
      },
    ],
    [
      /grip for 6 strings|does not fit/,
      (copy) => {
        copy.figures.one!.content.grips.push({ ...grip, grip: { strings: grip.grip.strings.slice(0, 5) } })
      },
    ],
    [
      /grip reaches beyond the neck/,
      (copy) => {
        copy.figures.one!.content.grips.push({ ...grip, grip: readGrip('x-x-x-23-23-23', 6)! })
      },
    ],
    [
      /stroke or a muting starts after/,
      (copy) => {
        copy.figures.one!.content.mutes.push({
          id: 'm',
          startTicks: 9 * BAR,
          lengthTicks: Q,
          mark: { kind: 'let ring' },
        })
      },
    ],
  ])('is refused: %s', (message, change) => expect(broken(change)).toMatch(message))
  it('and taken when they do', () => expect(broken(() => {})).toBe('sound'))
})
