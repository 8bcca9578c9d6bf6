import { describe, expect, it } from 'vitest'
import { must } from '../../result'
import { newPart } from '../../document/new-song'
import { EMPTY_CONTENT, type Song } from '../../document/schema'
import { TICKS_PER_QUARTER as Q } from '../../time/meter'
import { transact } from '../../editing/transact'
import { BAR, figureOf, noteAt, onOnes, placeOf, run, smallSong } from '../../../tests/support/small-song'
import { everyMarkSong } from '../../../tests/support/every-mark'
import { missingFacts, partFacts } from '../../../tests/support/score-facts'
import { performContent } from '../../score/perform'
import { scoreFromSong } from './from-song'
import { partFor } from './instrument-for'
import { cellsOf, takeIntoSong } from './into-song'
import { placesOnNeck } from './on-the-neck'
import { strumsOf } from './strums'
import { songFromScore } from './to-song'
import type { WrittenNote, WrittenScore } from './written-score'

const facts = { id: 'p', name: 'Part' }
const STANDARD = [64, 59, 55, 50, 45, 40]

describe('a dead stroke over no grip', () => {
  it('is written on the strings on which it is heard', () => {
    const stroke = { id: 's', startTicks: 0, lengthTicks: Q, direction: 'down' as const }
    const content = { ...EMPTY_CONTENT, strokes: [{ ...stroke, marks: [{ kind: 'dead' as const }] }] }
    const figure = { ...figureOf('dead'), content }
    const song = run(run(smallSong(), 'addFigure', { figure }), 'setPlacement', {
      placement: placeOf('p', { figureId: 'dead' }),
    })
    const [part] = scoreFromSong(song).parts
    const heard = performContent(content, figure, song.parts.one!)
    expect(heard.map(({ string }) => string).sort()).toEqual([4, 5, 6])
    expect(part!.notes.map(({ string }) => string).sort()).toEqual([4, 5, 6])
  })
})

describe('the instrument a file means', () => {
  it.each([
    ['six strings in standard', { openMidi: STANDARD, name: '' }, 'guitar-6', 'Standard'],
    [
      'half a step down',
      { openMidi: STANDARD.map((midi) => midi - 1), name: '' },
      'guitar-6',
      'Half step down',
    ],
    [
      'a baritone by its strings',
      { openMidi: STANDARD.map((midi) => midi - 5), name: '' },
      'baritone-6',
      'B standard',
    ],
    ['four strings', { openMidi: [43, 38, 33, 28], name: '' }, 'bass-4', 'Standard'],
    ['five strings', { openMidi: [43, 38, 33, 28, 23], name: '' }, 'bass-5', 'Standard'],
    ['seven strings', { openMidi: [...STANDARD, 35], name: '' }, 'guitar-7', 'Standard'],
    ['a tuning without a name', { openMidi: [64, 59, 55, 50, 45, 37], name: '' }, 'guitar-6', 'Own tuning'],
    [
      'twelve strings by their name',
      { openMidi: STANDARD, name: '12-string guitar' },
      'guitar-12',
      'Standard',
    ],
    ['a bass by its name', { openMidi: [], name: 'Bass left' }, 'bass-4', 'Standard'],
    ['a bass by its sound', { openMidi: [], name: 'x', program: 33 }, 'bass-4', 'Standard'],
    ['strings nobody has', { openMidi: [60, 50, 40], name: '' }, 'guitar-6', 'Standard'],
  ])('%s', (_, said, kind, tuning) => {
    const part = partFor(said, facts)
    expect([part.instrument.kind, part.tuning.name]).toEqual([kind, tuning])
  })

  it('keeps a capo and takes the sound of the program where it fits', () => {
    expect(partFor({ openMidi: STANDARD, name: '', capo: 3, program: 30 }, facts)).toMatchObject({
      instrument: { capo: 3 },
      sound: 'distorted',
    })
    expect(partFor({ openMidi: STANDARD, name: '', program: 33 }, facts).sound).toBe('clean')
    expect(partFor({ openMidi: STANDARD, name: '', capo: 99 }, facts).instrument.capo).toBe(12)
  })
})

describe('pitches laid on the neck', () => {
  const guitar = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
  const at = (midi: number, startTicks = 0, pressed = false) => ({
    midi,
    startTicks,
    lengthTicks: Q,
    pressed,
  })

  it('lie on a string each when they sound together', () => {
    const places = placesOnNeck(
      [40, 47, 52, 56, 59, 64].map((midi) => at(midi)),
      guitar,
    )
    expect(new Set(places.map((place) => place!.string)).size).toBe(6)
  })

  it('are nowhere when no string reaches them or all that do are taken', () => {
    expect(placesOnNeck([at(30)], guitar)).toEqual([undefined])
    const low = placesOnNeck([at(40), at(41)], guitar)
    expect(low.filter(Boolean)).toHaveLength(1)
  })

  it('lie under a finger when they are bent', () => {
    expect(placesOnNeck([at(64, 0, true)], guitar)[0]!.fret).toBeGreaterThan(0)
  })

  it('are as many as there were, however many', () => {
    const many = Array.from({ length: 400 }, (_, index) => at(52 + (index % 12), index * Q))
    expect(placesOnNeck(many, guitar).filter(Boolean)).toHaveLength(400)
  })
})

describe('what a hand takes together', () => {
  const note = (
    string: number,
    fret: number,
    startTicks: number,
    over: Partial<WrittenNote> = {},
  ): WrittenNote => ({
    string,
    fret,
    midi: 60,
    startTicks,
    lengthTicks: Q,
    marks: [],
    pick: 'down',
    ...over,
  })
  const chord = (startTicks: number, over: Partial<WrittenNote> = {}): WrittenNote[] =>
    [4, 5, 6].map((string) => note(string, 2, startTicks, over))

  it('is a stroke over a grip, and the same grip goes on', () => {
    const { grips, strokes, single } = strumsOf(
      [...chord(0), ...chord(Q, { pick: 'up', marks: [{ kind: 'accent' }] })],
      6,
    )
    expect(strokes).toMatchObject([
      { startTicks: 0, direction: 'down', marks: [] },
      { startTicks: Q, direction: 'up', marks: [{ kind: 'accent' }] },
    ])
    expect(grips).toMatchObject([{ startTicks: 0, lengthTicks: 2 * Q }])
    expect(grips[0]!.grip.strings.map(({ fret }) => fret)).toEqual([null, null, null, 2, 2, 2])
    expect(single).toEqual([])
  })

  it('keeps mutes and rings, choke and staccato', () => {
    const { strokes, mutes } = strumsOf(
      [
        ...chord(0, { marks: [{ kind: 'palm mute', pressure: 'firm' }] }),
        ...chord(Q, { marks: [{ kind: 'let ring' }] }),
        ...chord(2 * Q, { marks: [{ kind: 'let ring' }] }),
        ...chord(3 * Q, { marks: [{ kind: 'choke' }, { kind: 'staccato' }] }),
      ],
      6,
    )
    expect(strokes.map(({ marks }) => marks)).toEqual([
      [{ kind: 'palm mute', pressure: 'firm' }],
      [],
      [],
      [{ kind: 'choke' }, { kind: 'staccato' }],
    ])
    expect(mutes).toMatchObject([{ mark: { kind: 'let ring' }, startTicks: Q, lengthTicks: 2 * Q }])
  })

  it.each([
    ['two strings of a pick', chord(0).slice(1)],
    ['three without a direction', chord(0, { pick: undefined })],
    ['notes of different lengths', chord(0).map((one, index) => ({ ...one, lengthTicks: Q * (index + 1) }))],
    ['a bent note among them', chord(0, { marks: [{ kind: 'bend', semitones: 1, shape: 'plain' }] })],
  ])('leaves single what is none: %s', (_, notes) => {
    const { single, strokes } = strumsOf(notes as WrittenNote[], 6)
    expect([single.length, strokes.length]).toEqual([notes.length, 0])
  })

  it('ends a grip where the next begins', () => {
    const ringing = [...chord(0, { lengthTicks: 4 * Q }), ...[1, 2, 3].map((string) => note(string, 5, Q))]
    expect(
      strumsOf(ringing, 6).grips.map(({ startTicks, lengthTicks }) => [startTicks, lengthTicks]),
    ).toEqual([
      [0, Q],
      [Q, Q],
    ])
  })
})

describe('a song unrolled', () => {
  const twice = (): Song => {
    const song = run(smallSong(), 'addFigure', { figure: figureOf('other', { content: onOnes(2, 9) }) })
    return run(song, 'setPlacement', {
      placement: placeOf('p', { passes: 3, shiftFrets: 2, passFigures: [{ pass: 2, figureId: 'other' }] }),
    })
  }

  it('has every pass with what it plays, moved as it is placed', () => {
    const { notes } = scoreFromSong(twice()).parts[0]!
    expect(notes.map(({ startTicks, fret }) => [startTicks / BAR, fret])).toEqual([
      [8, 7],
      [9, 7],
      [10, 11],
      [11, 11],
      [12, 7],
      [13, 7],
    ])
    expect(notes[0]!.midi).toBe(57)
  })

  it('strikes a grip that no hand touches once, and holds it', () => {
    const grip = { strings: [0, 1, 0, 2, 3, null].map((fret) => ({ fret })) }
    const held = figureOf('held', {
      content: { ...EMPTY_CONTENT, grips: [{ id: 'g', startTicks: 0, lengthTicks: BAR, grip }] },
    })
    const song = run(run(smallSong(), 'addFigure', { figure: held }), 'setPlacement', {
      placement: placeOf('p', { figureId: 'held' }),
    })
    const { notes, grips } = scoreFromSong(song).parts[0]!
    expect(notes).toHaveLength(5)
    expect(notes.every(({ lengthTicks }) => lengthTicks === BAR)).toBe(true)
    expect(grips[0]!.symbol).toBe('C')
  })

  it('begins with the tempo that holds where it begins', () => {
    const { tempo, bars } = scoreFromSong(twice(), { sectionId: 'chorus' })
    expect([bars.length, tempo[0]]).toEqual([8, { startTicks: 0, quartersPerMinute: 120 }])
  })
})

describe('a part brought into a song', () => {
  const wish = (score: WrittenScore, partId: string) => ({ from: score.parts[0]!, partId, prefix: 'in1' })
  const brought = (song: Song, score: WrittenScore, partId: string): Song => {
    const taken = must(takeIntoSong(song, score, wish(score, partId)))
    return run(song, 'bringInPart', { part: taken.part, figures: taken.figures, cells: cellsOf(taken) })
  }

  it('is a new part, or replaces what one plays there, as one step', () => {
    const song = everyMarkSong()
    const score = scoreFromSong(song)
    const added = brought(song, score, 'new')
    expect(added.partOrder).toEqual(['one', 'two', 'new'])
    const [first, , third] = scoreFromSong(added).parts
    expect(third!.name).toBe('Guitar 1 2')
    expect(
      missingFacts(
        partFacts({ ...score, parts: [first!] }),
        partFacts({ ...score, parts: [{ ...third!, name: first!.name }] }),
      ),
    ).toEqual([])
    const replaced = brought(song, score, 'one')
    expect(scoreFromSong(replaced).parts[0]!.notes.length).toBe(score.parts[0]!.notes.length)
    expect(Object.keys(replaced.figures).length).toBeGreaterThan(Object.keys(song.figures).length)
  })

  it('may be brought in twice, and leaves a song that opens again', () => {
    const song = everyMarkSong()
    const score = scoreFromSong(song)
    const once = brought(song, score, 'two')
    const again = must(takeIntoSong(once, score, { ...wish(score, 'two'), prefix: 'in2' }))
    const result = transact(once, 'bringInPart', {
      part: again.part,
      figures: again.figures,
      cells: cellsOf(again),
    })
    expect(result.ok).toBe(true)
    // The same ids a second time are refused, and nothing is half done.
    const same = must(takeIntoSong(once, score, wish(score, 'two')))
    const clash = transact(once, 'bringInPart', {
      part: same.part,
      figures: same.figures,
      cells: cellsOf(same),
    })
    expect(clash.ok || clash.refusal.message).toContain('already there')
  })

  it('says what lies behind the end of the form, and where bars are not as long', () => {
    const song = run(smallSong(), 'setPlacement', { placement: placeOf('p') })
    const score = scoreFromSong(song)
    const late = { ...noteAt(0), midi: 55, startTicks: 30 * BAR }
    const part = { ...score.parts[0]!, notes: [...score.parts[0]!.notes, late] }
    const bars = score.bars.map((bar, index) => (index === 2 ? { ...bar, lengthTicks: 3 * Q } : bar))
    const longer = { ...score, bars, parts: [part] }
    const { dropped } = must(takeIntoSong(song, longer, { from: part, partId: 'two', prefix: 'x' }))
    expect(dropped.map(({ what, count }) => `${count} ${what}`)).toEqual([
      '1 notes behind the last bar',
      '1 bars',
    ])
  })

  it('lies whole bar on whole bar where only the file has a pickup, or only the form', () => {
    const song = run(smallSong(), 'setPlacement', { placement: placeOf('p') })
    const score = scoreFromSong(song)
    const later = (notes: WrittenNote[], by: number): WrittenNote[] =>
      notes.map((note) => ({ ...note, startTicks: note.startTicks + by }))
    const pickup = { startTicks: 0, lengthTicks: Q, meter: { beats: 1, unit: 4 as const }, free: false }
    const own = score.parts[0]!
    const early = { ...own.notes[0]!, startTicks: 0 }
    const part = { ...own, notes: [early, ...later(own.notes, Q)] }
    const withPickup = { ...score, bars: [pickup, ...score.bars], parts: [part] }
    const taken = must(takeIntoSong(song, withPickup, { from: part, partId: 'two', prefix: 'x' }))
    expect(taken.dropped.map(({ what, count }) => `${count} ${what}`)).toEqual(['1 notes of the pickup'])
    expect(taken.notes).toBe(own.notes.length)
    expect(taken.placements.map(({ startTicks }) => startTicks)).toEqual([0])
  })

  it('says when two notes come onto one string at once', () => {
    const song = run(smallSong(), 'setPlacement', { placement: placeOf('p') })
    const score = scoreFromSong(song)
    const own = score.parts[0]!
    const part = { ...own, notes: [...own.notes, own.notes[0]!] }
    const { dropped } = must(takeIntoSong(song, score, { from: part, partId: 'two', prefix: 'x' }))
    expect(dropped).toMatchObject([{ count: 1, why: 'a string is struck once at a time' }])
  })

  it('is refused where there is no form', () => {
    const song = smallSong()
    const empty = { ...song, sectionOrder: [], sections: {} }
    const result = takeIntoSong(empty, scoreFromSong(song), wish(scoreFromSong(song), 'one'))
    expect(result.ok || result.refusal.message).toContain('no bars yet')
  })
})

describe('a song of a score', () => {
  it('has parts of different names, sections that fit their figures, and the tempo as a grid', () => {
    const song = everyMarkSong()
    const score = scoreFromSong(song)
    const doubled = { ...score, parts: [score.parts[0]!, score.parts[0]!] }
    const made = must(songFromScore(doubled, { id: 'x', sourceName: 'file.mid' })).song
    expect(made.partOrder.map((id) => made.parts[id]!.name)).toEqual(['Guitar 1', 'Guitar 1 2'])
    expect(made.sources.score).toMatchObject({ kind: 'written chart', name: 'file.mid' })
    expect(made.sources.score!.grid!.bars[2]!.beatSeconds[0]).toBeCloseTo(4, 6)
  })

  it('rests where nothing is written, and keeps a silent bar within a figure', () => {
    const notes = [2, 4, 5].map((bar) => noteAt(bar * BAR))
    const figure = figureOf('some', { lengthTicks: 8 * BAR, content: { ...EMPTY_CONTENT, notes } })
    const song = run(run(smallSong(), 'addFigure', { figure }), 'setPlacement', {
      placement: placeOf('p', { figureId: 'some' }),
    })
    const made = must(songFromScore(scoreFromSong(song), { id: 'x', sourceName: '' })).song
    const lead = Object.values(made.placements).filter(({ partId }) => partId === 'part-1')
    expect(
      lead.map((placement) => [
        made.sections[placement.sectionId]!.name,
        placement.kind,
        placement.startTicks / BAR,
        (placement.kind === 'rests' ? placement.lengthTicks : made.figures[placement.figureId]!.lengthTicks) /
          BAR,
      ]),
    ).toEqual([
      ['Whole song', 'rests', 0, 8],
      ['Verse', 'rests', 0, 2],
      ['Verse', 'figure', 2, 4],
      ['Verse', 'rests', 6, 2],
      ['Chorus', 'rests', 0, 8],
    ])
    // Over a form that is there, silence is only not charted yet.
    const taken = must(
      takeIntoSong(song, scoreFromSong(song), {
        from: scoreFromSong(song).parts[0]!,
        partId: 'new',
        prefix: 'x',
      }),
    )
    expect(taken.placements.map(({ kind }) => kind)).toEqual(['figure'])
  })

  it('cuts long sections into figures of sixteen bars', () => {
    const song = run(smallSong(), 'addFigure', {
      figure: figureOf('long', { lengthTicks: 8 * BAR, content: onOnes(8) }),
    })
    const placed = ['intro', 'verse', 'chorus'].reduce(
      (one, sectionId, index) =>
        run(one, 'setPlacement', { placement: placeOf(`p${index}`, { figureId: 'long', sectionId }) }),
      song,
    )
    const score = scoreFromSong(placed)
    const bars = score.bars.map(({ section: _section, ...bar }) => bar)
    const made = must(songFromScore({ ...score, bars }, { id: 'x', sourceName: '' })).song
    expect(made.sectionOrder).toHaveLength(1)
    expect(Object.values(made.figures).map(({ lengthTicks }) => lengthTicks / BAR)).toEqual([16, 8])
  })
})
