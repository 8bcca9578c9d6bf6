import { describe, expect, it } from 'vitest'
import { BAR, RIFF, chords, figure, note, place, run, twoVerses } from '../../tests/support/two-verses'
import { EMPTY_CONTENT, type Song } from '../document/schema'
import { newPart } from '../document/new-song'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { chordSide, compareSides, formSide, passSide, sectionSide, type Side } from './compare-sides'
import { unrolledPart } from './unrolled-part'
import { readWrittenChart, writtenFor, type WrittenSection } from '../exchange/text/written-chart'

const KEY = { tonic: 'E', mode: 'minor' } as const
const differences = (upper: Side | undefined, lower: Side | undefined, nameShift = 0): string[] =>
  compareSides(upper!, lower!, { key: KEY, nameShift }).flatMap(({ number, difference }) =>
    difference.words.map((words) => `${number}: ${words}`),
  )
const changed = EMPTY_CONTENT.notes.concat(
  RIFF.notes.map((one, index) => (index === 5 ? { ...one, fret: 5 } : one)).filter((_, index) => index !== 2),
)
/** The second verse has a riff of its own: another fret in its second bar, a note less in its first. */
function apart(): Song {
  const song = run(twoVerses(), 'addFigure', figure('other', { ...EMPTY_CONTENT, notes: changed }))
  return place(run(song, 'removePlacement', { placementId: 'p2' }), 'p3', 'other', 'v2')
}

describe('two stretches one under the other', () => {
  it('are the same where they are', () => {
    const song = twoVerses()
    expect(differences(sectionSide(song, 'v1', 'g'), sectionSide(song, 'v2', 'g'))).toEqual([])
    expect(differences(passSide(song, 'v1', 'g', 1), passSide(song, 'v1', 'g', 2))).toEqual([])
  })

  it('differ by what is left out, added, or another fret, each at its place', () => {
    const song = apart()
    const pairs = compareSides(sectionSide(song, 'v1', 'g')!, sectionSide(song, 'v2', 'g')!, { key: KEY })
    expect(pairs.map(({ difference }) => difference.ticks)).toEqual([[2 * Q], [Q], [2 * Q], [Q]])
    expect(pairs[0]!.difference.words).toEqual(['3: string 6 fret 0 left out'])
    expect(pairs[1]!.difference.words).toEqual(['2: string 6 fret 5 instead of string 6 fret 3'])
    expect(differences(sectionSide(song, 'v2', 'g'), sectionSide(song, 'v1', 'g'))[0]).toBe(
      '1: 3: string 6 fret 0 added',
    )
  })

  it('show a harmonic over the fret it is touched at, not where its pitch is stopped', () => {
    const [first, ...others] = RIFF.notes
    const harmonic = { ...first!, fret: 7, marks: [{ kind: 'natural harmonic' as const }] }
    const song = run(twoVerses(), 'changeFigure', {
      figureId: 'riff',
      what: 'a harmonic',
      set: { content: { ...RIFF, notes: [harmonic, ...others] } },
    })
    expect(sectionSide(song, 'v1', 'g')!.bars[0]!.notes[0]).toMatchObject({ string: 6, fret: 7, midi: 59 })
  })

  it('say who rests, what is not charted, and which bars one side does not have', () => {
    const song = run(twoVerses(), 'removePlacement', { placementId: 'p2' })
    expect(differences(sectionSide(song, 'v1', 'g'), sectionSide(song, 'v2', 'g'))[0]).toBe(
      '1: not charted instead of plays',
    )
    const longer = run(twoVerses(), 'splitSection', {
      sectionId: 'v2',
      atBar: 1,
      newId: 'v3',
      name: 'End',
      kind: 'verse',
    })
    expect(differences(sectionSide(longer, 'v1', 'g'), sectionSide(longer, 'v2', 'g')).slice(-3)).toEqual([
      '2: only in the upper one',
      '3: only in the upper one',
      '4: only in the upper one',
    ])
  })

  it('of two parts differ by pitch, whatever the strings', () => {
    const withPart = run(twoVerses(), 'addPart', {
      part: newPart({ id: 'h', name: 'Other', kind: 'guitar-6' }),
    })
    // G on string 6 fret 3 and E on fret 0; the other has G up an octave once.
    const second = { ...EMPTY_CONTENT, notes: [note(0, 6, 0), note(Q, 3, 0)] }
    const song = place(run(withPart, 'addFigure', figure('h', second, 'h')), 'ph', 'h', 'v1')
    const told = differences(sectionSide(song, 'v1', 'g'), sectionSide(song, 'v1', 'h'))
    expect(told[0]).toBe('1: 2: G3 instead of G2')
    expect(differences(sectionSide(song, 'v1', 'g'), sectionSide(song, 'v1', 'h'), 1)[0]).toBe(
      '1: 2: A♭3 instead of A♭2',
    )
  })

  it('follow a figure that is moved, and do not exist for what is gone', () => {
    expect(sectionSide(twoVerses(), 'nowhere', 'g')).toBeUndefined()
    expect(passSide(twoVerses(), 'v1', 'g', 3)).toBeUndefined()
    const moved = run(twoVerses(), 'setPlacement', {
      placement: { ...twoVerses().placements.p2!, shiftFrets: 2 } as never,
    })
    expect(differences(sectionSide(moved, 'v1', 'g'), sectionSide(moved, 'v2', 'g'))[0]).toBe(
      '1: 1: string 6 fret 2 instead of string 6 fret 0',
    )
  })
})

describe('a part unrolled', () => {
  it('has every bar of the form once, each where it lies', () => {
    const bars = unrolledPart(twoVerses(), 'g')
    expect(bars.map(({ sectionId, barInSection }) => `${sectionId} ${barInSection}`)).toEqual([
      ...['v1 1', 'v1 2', 'v1 3', 'v1 4'],
      ...['v2 1', 'v2 2', 'v2 3', 'v2 4'],
    ])
    bars.forEach(({ startTicks, endTicks }, index) =>
      expect([startTicks, endTicks]).toEqual([index * BAR, (index + 1) * BAR]),
    )
    expect(bars.every(({ notes, idle }) => notes.length === 4 && idle === '')).toBe(true)
  })
  it('keeps bars in which it is not charted, and is empty for nobody', () => {
    const song = run(twoVerses(), 'removePlacement', { placementId: 'p2' })
    expect(
      unrolledPart(song, 'g')
        .slice(4)
        .map(({ idle }) => idle),
    ).toEqual(Array(4).fill('not charted'))
    expect(unrolledPart(song, 'nobody')).toEqual([])
  })
  it('puts a note that begins before its section into the bar in which it sounds', () => {
    const early = run(twoVerses(), 'setPlacement', {
      placement: { ...twoVerses().placements.p2!, startTicks: -Q } as never,
    })
    const bars = unrolledPart(early, 'g')
    expect(bars[3]!.notes.at(-1)).toMatchObject({ tick: 3 * Q, fret: 0 })
  })
})

describe('a written chart', () => {
  const symbols = ({ name, bars }: WrittenSection) => ({
    name,
    bars: bars.map((chords) => chords.map(({ symbol }) => symbol)),
  })
  const TEXT = 'Verse 1:\nEm | G | Am C | %\n\nVerse 2: Em Em x2\nthe singer waits here\n'
  it('is read by sections and bars, with repeats; what is no chord is said', () => {
    const chart = readWrittenChart(TEXT)
    expect(chart.sections.map(symbols)).toEqual([
      { name: 'Verse 1', bars: [['Em'], ['G'], ['Am', 'C'], ['Am', 'C']] },
      { name: 'Verse 2', bars: [['Em'], ['Em'], ['Em'], ['Em']] },
    ])
    expect(chart.problems).toEqual(['Line 5: “the singer waits here” is not a line of chords.'])
  })

  it('stands under the form’s own chords, and differs where it does', () => {
    const song = run(twoVerses(), 'changeSection', {
      sectionId: 'v1',
      set: { harmony: chords('Em', 'Em', 'Am', 'Am') },
    })
    const section = song.sections.v1!
    const found = writtenFor(readWrittenChart(TEXT), song, section)!
    const side = chordSide('The book', section, found.bars)
    expect(differences(formSide(song, 'v1'), side)).toEqual([
      '2: 1: G instead of Em',
      '3: 3: C instead of Am',
      '4: 3: C instead of Am',
    ])
    expect(BAR).toBe(4 * Q)
  })

  it('speaks of all verses under a name without a number, and of no section it does not name', () => {
    const song = twoVerses()
    const chart = readWrittenChart('VERSE: Em x4\nChorus:\nG D')
    expect(writtenFor(chart, song, song.sections.v2!)?.bars).toHaveLength(4)
    expect(writtenFor(readWrittenChart('Chorus: G'), song, song.sections.v1!)).toBeUndefined()
    expect(readWrittenChart('').sections).toEqual([])
    expect(readWrittenChart('Em | G').sections.map(symbols)).toEqual([{ name: '', bars: [['Em'], ['G']] }])
  })
})
