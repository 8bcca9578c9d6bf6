import { describe, expect, it } from 'vitest'
import type { Content, Lick, Song } from '../document/schema'
import { BAR, figureOf, placeOf, run, smallSong } from '../../tests/support/small-song'
import { said } from '../../tests/support/said-line'
import { findLick, findLicks, lickNotes, lickPlaceWords } from './licks'

const LICK: Lick = { id: 'l', name: 'usual line', startTicks: 0, lengthTicks: BAR }
const PHRASE = 'G 7, 9, B 7, 10, 7, G 9, 7, D 9'
const later = (content: Content, by: number): Content => ({
  ...content,
  notes: content.notes.map((note) => ({ ...note, startTicks: note.startTicks + by })),
})
const home = figureOf('home', { content: said(PHRASE), licks: [LICK] })
const withFigures = (...others: [id: string, content: Content, partId?: string][]): Song =>
  others.reduce(
    (song, [id, content, partId = 'one']) =>
      run(song, 'addFigure', { figure: figureOf(id, { content, partId, name: id }) }),
    run(smallSong(), 'addFigure', { figure: home }),
  )
const found = (song: Song) => {
  const { places, notes } = findLick(song, 'home', LICK)
  return places.map(
    (place) => `${place.figureId} at ${place.startTicks / BAR}: ${lickPlaceWords(place, notes)}`,
  )
}

describe('a lick found again', () => {
  it('is the same phrase elsewhere, in whatever bar and on whatever strings', () => {
    const onOtherStrings = said('D 12, 14, G 11, 14, 11, D 14, 12, A 14')
    expect(found(withFigures(['there', later(said(PHRASE), BAR)], ['strings', onOtherStrings]))).toEqual([
      'there at 1: the same',
      'strings at 0: the same',
    ])
  })
  it('is moved, said by how much', () =>
    expect(found(withFigures(['up', said('G 12, 14, B 12, 15, 12, G 14, 12, D 14')]))).toEqual([
      'up at 0: 5 half steps higher',
    ]))
  it('has another ending, another beginning, or notes otherwise', () => {
    const ending = said('G 7, 9, B 7, 10, 7, G 9, 5, D 5')
    const beginning = said('G 5, 5, B 7, 10, 7, G 9, 7, D 9')
    const inside = said('G 7, 9, B 7, 12, 7, G 9, 7, D 9')
    expect(found(withFigures(['e', ending], ['b', beginning], ['i', inside]))).toEqual([
      'e at 0: with another ending',
      'b at 0: with another beginning',
      'i at 0: with 1 note otherwise',
    ])
  })
  it('is found in another part, tuned otherwise or not', () =>
    expect(found(withFigures(['other', said(PHRASE), 'two']))).toEqual(['other at 0: the same']))
  it('is not found in what only shares a few notes, nor in two notes', () => {
    expect(found(withFigures(['no', said('G 7, 9, B 8, 8, 6, D 9, 7, D 5')]))).toEqual([])
    const short = { ...LICK, lengthTicks: BAR / 4 }
    expect(findLick(withFigures(['there', said(PHRASE)]), 'home', short).places).toEqual([])
  })
  it('is found by what it sounds now: a part that was retuned plays something else', () => {
    const song = withFigures(['other', said(PHRASE), 'two'])
    expect(found(song)).toEqual(['other at 0: the same'])
    const { tuning } = song.parts.two!
    const openMidi = tuning.openMidi.map((midi) => midi - 2)
    const retuned = run(song, 'retunePart', { partId: 'two', tuning: { ...tuning, openMidi } })
    expect(found(retuned)).toEqual(['other at 0: 2 half steps lower'])
  })
  it('is counted as often as it is played', () => {
    let song = withFigures(['there', said(PHRASE)])
    song = run(song, 'setPlacement', { placement: placeOf('p', { figureId: 'there', passes: 3 }) })
    song = run(song, 'setPlacement', { placement: placeOf('q', { figureId: 'home', sectionId: 'chorus' }) })
    expect(findLicks(song)).toMatchObject([{ notes: 8, plays: 4, places: [{ plays: 3 }] }])
  })
  it('gives its notes to be put in elsewhere', () => {
    const song = withFigures()
    expect(lickNotes(song, home, { startTicks: BAR / 4, lengthTicks: BAR / 2 })).toHaveLength(4)
  })
})
