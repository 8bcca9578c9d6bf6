import { describe, expect, it } from 'vitest'
import { must } from '../result'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { checkSong } from '../check/check'
import { sectionTicks } from './form'
import {
  changeNote,
  cutToLength,
  gripAt,
  nextPressure,
  noteAt,
  removeGrip,
  removeNote,
  removeStroke,
  repeated,
  setFret,
  setGrip,
  setMuteSpan,
  setStroke,
  strokeAt,
  toggleMark,
} from './figure-edit'
import {
  cellPlacements,
  cellStretches,
  firstOpen,
  fitted,
  fittingPasses,
  lengthInBars,
} from '../timeline/cells'
import { newPart, newSong } from './new-song'
import { EMPTY_CONTENT, type Grip, type Song } from './schema'
import { transact } from '../editing/transact'
import type { ArgsOf, TransactionName } from './transactions'

const BAR = 4 * Q
const run = <Name extends TransactionName>(song: Song, name: Name, args: ArgsOf<Name>): Song =>
  must(transact(song, name, args)).song
let serial = 0
const newId = () => `id${++serial}`

/** Verse (8 bars), chorus (4 bars), a guitar with a two-bar riff. */
function charted(): Song {
  let song = newSong({ id: 's', title: 'S', artist: '' })
  song = run(song, 'addSource', {
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
  song = run(song, 'setBeats', {
    beats: Array.from({ length: 48 }, (_, index) => ({ seconds: index / 2, one: index % 4 === 0 })),
    endSeconds: 24,
    what: 'beats',
    newSectionId: 'verse',
  })
  song = run(song, 'splitSection', {
    sectionId: 'verse',
    atBar: 8,
    newId: 'chorus',
    name: 'Chorus',
    kind: 'chorus',
  })
  song = run(song, 'addPart', { part: newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' }) })
  return run(song, 'addFigure', {
    figure: {
      id: 'riff',
      partId: 'g',
      name: 'Riff',
      lengthTicks: 2 * BAR,
      meter: song.meter,
      feel: song.feel,
      content: setFret(EMPTY_CONTENT, { string: 6, tick: 0, fret: 3, lengthTicks: 2 * BAR, id: 'n' }),
    },
  })
}
const place = (song: Song, id: string, startTicks: number, passes: number, sectionId = 'verse') =>
  run(song, 'setPlacement', {
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
    },
  })
const kinds = (song: Song, sectionId = 'verse') =>
  cellStretches(song, song.sections[sectionId]!, 'g').map(
    (stretch) => `${stretch.kind} ${stretch.lengthTicks / BAR}`,
  )

describe('a cell of the map', () => {
  it('is open from end to end before anything is charted', () => expect(kinds(charted())).toEqual(['open 8']))
  it('shows what is played, what rests and what is open, adding up', () => {
    let song = place(charted(), 'p', 2 * BAR, 2)
    song = run(song, 'setPlacement', {
      placement: {
        kind: 'rests',
        id: 'q',
        partId: 'g',
        sectionId: 'verse',
        startTicks: 6 * BAR,
        lengthTicks: BAR,
      },
    })
    expect(kinds(song)).toEqual(['open 2', 'figure 4', 'rests 1', 'open 1'])
    expect(
      cellStretches(song, song.sections.verse!, 'g').reduce((sum, stretch) => sum + stretch.lengthTicks, 0),
    ).toBe(sectionTicks(song.sections.verse!))
    expect(firstOpen(song, song.sections.verse!, 'g')).toMatchObject({ startTicks: 0, lengthTicks: 2 * BAR })
  })
  it('fits a copy into a shorter section by whole passes', () => {
    const song = place(charted(), 'p', 0, 4)
    const copy = fitted(song, cellPlacements(song, 'verse', 'g'), song.sections.chorus!, newId)
    expect(copy).toMatchObject([{ sectionId: 'chorus', passes: 2 }])
    expect(copy[0]!.id).not.toBe('p')
    expect(fittingPasses({ lengthTicks: 3 * BAR }, 8 * BAR)).toBe(2)
  })
  it('pastes a whole cell as one step, or nothing of it', () => {
    const song = place(charted(), 'p', 0, 4)
    const copy = fitted(song, cellPlacements(song, 'verse', 'g'), song.sections.chorus!, newId)
    expect(
      kinds(
        run(song, 'replaceCell', { partId: 'g', sectionId: 'chorus', placements: copy, what: 'paste' }),
        'chorus',
      ),
    ).toEqual(['figure 4'])
    const broken = [...copy, { ...copy[0]!, id: 'again' }]
    expect(
      transact(song, 'replaceCells', {
        cells: [{ partId: 'g', sectionId: 'chorus', placements: broken }],
        what: 'copy',
      }),
    ).toMatchObject({ ok: false, refusal: { code: 'taken' } })
  })
  it('says lengths in bars', () => {
    const { verse } = charted().sections
    expect(lengthInBars(verse!, 4 * BAR)).toBe('4 bars')
    expect(lengthInBars(verse!, BAR)).toBe('1 bar')
    expect(lengthInBars(verse!, 1.5 * BAR)).toBe('1½ bars')
    expect(lengthInBars(verse!, 2 * Q)).toBe('2 beats')
  })
})

describe('findings', () => {
  it('names what is not charted, empty or placed nowhere', () => {
    const song = run(place(charted(), 'p', 0, 4), 'addFigure', {
      figure: { ...charted().figures.riff!, id: 'blank', name: 'Blank', content: EMPTY_CONTENT },
    })
    const texts = checkSong(song).open.map((finding) => `${finding.kind}: ${finding.words}`)
    expect(texts).toContain('not charted: Guitar in Chorus: 4 bars not charted.')
    expect(texts.some((text) => text.startsWith('empty figure: “Blank”'))).toBe(true)
    expect(texts.some((text) => text.startsWith('unplaced: “Blank”'))).toBe(true)
    expect(texts.some((text) => text.includes('Riff'))).toBe(false)
  })
  it('has nothing to say about a song that is all there', () => {
    const song = place(place(charted(), 'p', 0, 4), 'q', 0, 2, 'chorus')
    expect(checkSong(song).open).toEqual([])
  })
  it('notices a grid that does not fit the form', () => {
    const song = charted()
    const source = song.sources.r!
    const short = {
      ...song,
      sources: { r: { ...source, grid: { ...source.grid!, bars: source.grid!.bars.slice(1) } } },
    }
    expect(checkSong(short).open.find(({ kind }) => kind === 'form total')!.words).toBe(
      'The form has 12 bars, the recording is counted in 11: 1 too many.',
    )
  })
})

const grip = (first: number): Grip => ({ strings: Array.from({ length: 6 }, () => ({ fret: first })) })

describe('editing a figure', () => {
  it('sets a fret, changes it, removes it', () => {
    const one = setFret(EMPTY_CONTENT, { string: 2, tick: Q, fret: 5, lengthTicks: Q, id: 'a' })
    const other = setFret(one, { string: 2, tick: Q, fret: 7, lengthTicks: Q, id: 'b' })
    expect(other.notes).toHaveLength(1)
    expect(noteAt(other, 2, Q)).toMatchObject({ id: 'a', fret: 7 })
    expect(changeNote(other, 'a', { marks: [{ kind: 'accent' }] }).notes[0]!.marks).toEqual([
      { kind: 'accent' },
    ])
    expect(removeNote(other, 'a')).toEqual(EMPTY_CONTENT)
  })
  it('keeps one slur to a note and takes a mark off when asked twice', () => {
    const [start] = setFret(EMPTY_CONTENT, { string: 2, tick: 0, fret: 5, lengthTicks: Q, id: 'a' }).notes
    const hammered = toggleMark(start!, { kind: 'hammer-on' })
    const slid = toggleMark(hammered, { kind: 'slide', how: 'legato' })
    expect(slid.marks.map((mark) => mark.kind)).toEqual(['slide'])
    expect(
      toggleMark(toggleMark(start!, { kind: 'vibrato', width: 'narrow' }), {
        kind: 'vibrato',
        width: 'narrow',
      }).marks,
    ).toEqual([])
    const bent = toggleMark(toggleMark(start!, { kind: 'bend', semitones: 1, shape: 'plain' }), {
      kind: 'bend',
      semitones: 2,
      shape: 'plain',
    })
    expect(bent.marks).toEqual([{ kind: 'bend', semitones: 2, shape: 'plain' }])
  })
  it('goes round the pressures of the palm', () => {
    expect(nextPressure(undefined)).toBe('light')
    expect(nextPressure('light')).toBe('medium')
    expect(nextPressure('medium')).toBe('firm')
    expect(nextPressure('firm')).toBeUndefined()
  })
  it('holds a grip until the next, cutting the one before', () => {
    let content = setGrip(EMPTY_CONTENT, { tick: 0, grip: grip(1), id: 'a', figureTicks: 2 * BAR })
    content = setGrip(content, { tick: BAR, grip: grip(3), id: 'b', figureTicks: 2 * BAR })
    content = setGrip(content, { tick: 2 * Q, grip: grip(5), id: 'c', figureTicks: 2 * BAR })
    expect(content.grips.map((span) => [span.id, span.startTicks / Q, span.lengthTicks / Q])).toEqual([
      ['a', 0, 2],
      ['c', 2, 2],
      ['b', 4, 4],
    ])
    expect(gripAt(content, 3 * Q)!.id).toBe('c')
    expect(setGrip(content, { tick: BAR, grip: grip(7), id: 'd', figureTicks: 2 * BAR }).grips).toHaveLength(
      3,
    )
    expect(removeGrip(content, 'c').grips).toHaveLength(2)
  })
  it('has one stroke at a place', () => {
    const stroke = {
      id: 'a',
      startTicks: Q,
      lengthTicks: Q,
      direction: 'down' as const,
      marks: [],
    }
    const content = setStroke(setStroke(EMPTY_CONTENT, stroke), {
      ...stroke,
      id: 'b',
      marks: [{ kind: 'dead' }],
    })
    expect(content.strokes).toHaveLength(1)
    expect(strokeAt(content, Q)!.marks).toEqual([{ kind: 'dead' }])
    expect(removeStroke(content, Q).strokes).toEqual([])
  })
  it('cuts a muting span where another is set or cleared', () => {
    const all = setMuteSpan(EMPTY_CONTENT, {
      id: 'a',
      mark: { kind: 'let ring' },
      startTicks: 0,
      lengthTicks: 4 * Q,
    })
    const holed = setMuteSpan(all, { mark: { kind: 'let ring' }, startTicks: Q, lengthTicks: Q, clear: true })
    expect(holed.mutes.map((span) => [span.startTicks / Q, span.lengthTicks / Q])).toEqual([
      [0, 1],
      [2, 2],
    ])
    expect(
      setMuteSpan(all, {
        id: 'p',
        mark: { kind: 'palm mute', pressure: 'firm' },
        startTicks: Q,
        lengthTicks: Q,
      }).mutes,
    ).toHaveLength(2)
  })
  it('repeats, and cuts what lies beyond a shorter length', () => {
    const content = setFret(
      setFret(EMPTY_CONTENT, { string: 6, tick: 0, fret: 3, lengthTicks: Q, id: 'a' }),
      { string: 6, tick: 3 * Q, fret: 5, lengthTicks: 2 * Q, id: 'b' },
    )
    const twice = repeated(content, BAR, 2, newId)
    expect(twice.notes.map((note) => note.startTicks / Q)).toEqual([0, 3, 4, 7])
    expect(new Set(twice.notes.map((note) => note.id)).size).toBe(4)
    expect(cutToLength(twice, BAR).notes.map((note) => note.lengthTicks / Q)).toEqual([1, 1])
  })
})
