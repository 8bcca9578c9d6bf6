import { describe, expect, it } from 'vitest'
import { guitar, said } from '../../../tests/support/said-line'
import { freePartName } from '../../document/part-names'
import { noteAt, BAR, figureOf, placeOf, run, smallSong } from '../../../tests/support/small-song'
import { EMPTY_CONTENT } from '../../document/schema'
import { overdubIn } from './overdub'

describe('what one player cannot join', () => {
  it('is nothing in a line one hand plays', () => {
    expect(overdubIn(said('low E 3, 5, A 3, 5, D 5, G 5 bend 2'), guitar)).toBeUndefined()
    expect(overdubIn(said('low E open, high E 12'), guitar)).toBeUndefined()
    expect(overdubIn(EMPTY_CONTENT, guitar)).toBeUndefined()
  })
  it('is a run that begins before the riff is done: it goes to a second hand, with why', () => {
    const content = said('low E 1, high E 14, low E 1, high E 15')
    const found = overdubIn(content, guitar)!
    expect(found.second.size).toBe(2)
    expect(found.why).toBe('from fret 1 to 14 within an eighth no hand is there in time')
    const second = content.notes.filter(({ id }) => found.second.has(id))
    expect(second.map(({ fret }) => fret)).toEqual([14, 15])
  })
  it('is a string that would sound twice, and a reach no hand has', () => {
    const twice = { ...EMPTY_CONTENT, notes: [noteAt(0, 4, 5), { ...noteAt(0, 4, 9), id: 'other' }] }
    expect(overdubIn(twice, guitar)!.why).toContain('string 4 would have to sound frets 5 and 9 at once')
    expect(overdubIn(said('low E 1 + high E 12'), guitar)!.why).toContain('out of reach')
  })
  it('is left alone when two hands cannot do it either', () => {
    const notes = [1, 2, 3].map((fret) => ({ ...noteAt(0, 4, fret), id: `n${fret}` }))
    expect(overdubIn({ ...EMPTY_CONTENT, notes }, guitar)).toBeUndefined()
  })
})

describe('an overdub split off', () => {
  it('is one step: a new player, the notes moved, played where they were', () => {
    const song = run(smallSong(), 'setPlacement', { placement: placeOf('p') })
    const name = freePartName(song, 'Guitar 1')
    const part = { ...song.parts.one!, id: 'over', name }
    const split = run(song, 'addPlacedFigures', {
      what: 'split',
      part,
      figures: [figureOf('second', { partId: 'over', content: EMPTY_CONTENT })],
      placements: [placeOf('q', { partId: 'over', figureId: 'second' })],
      changes: [{ figureId: 'riff', set: { content: EMPTY_CONTENT } }],
    })
    expect(split.parts.over!.name).toBe('Guitar 3')
    expect(split.figures.riff!.content.notes).toEqual([])
    expect(split.placements.q).toMatchObject({ partId: 'over', startTicks: 0 })
    expect(split.figures.second!.lengthTicks).toBe(2 * BAR)
  })
})
