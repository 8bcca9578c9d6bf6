import { describe, expect, it } from 'vitest'
import { BAR, noteAt, placeOf, run, smallSong } from '../../tests/support/small-song'
import { EMPTY_CONTENT } from '../document/schema'
import { changesOf, frettedAt, playAt, playOfFigure } from './sounding-now'

const song = run(smallSong(), 'setPlacement', { placement: placeOf('p', { startTicks: BAR, passes: 2 }) })
const VERSE = 8 * BAR

describe('what sounds now', () => {
  it('is the pass at a tick of the song', () => {
    expect(playAt(song, 'one', VERSE + 3.5 * BAR)).toMatchObject({ pass: 2, startTicks: VERSE + 3 * BAR })
    expect(playAt(song, 'one', VERSE)).toBeUndefined()
    expect(playAt(song, 'two', VERSE + 2 * BAR)).toBeUndefined()
  })
  it('of a figure is its pass, or the one that comes', () => {
    expect(playOfFigure(song, 'one', 'riff', VERSE + 4 * BAR)?.pass).toBe(2)
    expect(playOfFigure(song, 'one', 'riff', 0)?.pass).toBe(1)
    expect(playOfFigure(song, 'one', 'riff', VERSE + 7 * BAR)?.pass).toBe(1)
  })
  it('on the neck is what rings and what is struck next', () => {
    const content = { ...EMPTY_CONTENT, notes: [noteAt(0, 4, 5), noteAt(0, 3, 7), noteAt(BAR, 4, 3)] }
    expect(frettedAt(content, 100).now.map((note) => note.fret)).toEqual([5, 7])
    expect(frettedAt(content, 100).next.map((note) => note.fret)).toEqual([3])
    expect(frettedAt(content, BAR + 1).next.map((note) => note.fret)).toEqual([5, 7])
    expect(frettedAt(EMPTY_CONTENT, 0)).toEqual({ now: [], next: [] })
    expect(changesOf(content)).toEqual([0, BAR / 4, BAR, 1.25 * BAR])
  })
})
