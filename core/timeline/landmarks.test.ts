import { describe, expect, it } from 'vitest'
import { checkSong } from '../check/check'
import { proveItems, proveSums } from '../doubts/prove-list'
import { engraveSheet } from '../engrave/sheet'
import type { Song, Spot } from '../document/schema'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { BAR, run, smallSong } from '../../tests/support/small-song'
import { landmarksIn, landmarkWords, startsBeforeWords } from './landmarks'

const spot = (id: string, over: Partial<Spot> = {}): Spot => ({
  id,
  place: { sectionId: 'verse', startTicks: 2 * BAR },
  text: '',
  done: false,
  kind: 'landmark',
  onSheet: true,
  ...over,
})
const marked = (...spots: Spot[]): Song =>
  spots.reduce((song, one) => run(song, 'setSpot', { spot: one }), smallSong())

describe('landmarks', () => {
  it('stand at their bar and count, in order, those of other parts left out', () => {
    const song = marked(
      spot('b', { text: 'lights out', place: { sectionId: 'verse', startTicks: 2 * BAR + 2 * Q } }),
      spot('a', { landmark: 'stop time' }),
      spot('c', {
        landmark: 'cued entry',
        text: 'nod',
        place: { sectionId: 'verse', startTicks: 0, partId: 'two' },
      }),
      spot('d', { kind: 'remark', text: 'not one' }),
    )
    const verse = song.sections.verse!
    expect(landmarksIn(song, verse).map(({ words }) => words)).toEqual([
      'bar 1: entry on a cue: nod',
      'bar 3: stop time',
      'bar 3, 3: cue “lights out”',
    ])
    expect(landmarksIn(song, verse, 'one').map(({ bar }) => bar)).toEqual([2, 2])
    expect(landmarksIn(song, song.sections.chorus!)).toEqual([])
  })
  it('are words a person says in quotation marks, else their kind', () => {
    expect(landmarkWords(spot('a'))).toBe('cue')
    expect(landmarkWords(spot('a', { landmark: 'partial return', text: 'second half only' }))).toBe(
      'returns in part: second half only',
    )
  })
  it('are no work in Prove, stand at the form on the sheet and not among its notes', () => {
    const song = marked(spot('a', { text: 'lights out' }))
    const items = proveItems(song, checkSong(song))
    expect(items.find(({ key }) => key === 'spot/a')).toMatchObject({ kind: 'landmark', done: true })
    expect(proveSums(items).all).toBe(proveSums(proveItems(smallSong(), checkSong(smallSong()))).all)
    const [page] = engraveSheet(song, {
      paper: 'A4',
      partIds: ['one'],
      naming: 'shape',
      strings: 'letters',
      form: 'exact',
    })
    const words = page!.primitives.flatMap((shape) => (shape.kind === 'text' ? [shape.text] : []))
    expect(words.filter((text) => text.includes('lights out'))).toEqual(['bar 3: cue “lights out”'])
    expect(words).not.toContain('Notes')
  })
})

describe('a start before the section', () => {
  const song = smallSong()
  const verse = song.sections.verse!
  it.each([
    [0, ''],
    [-Q, 'starts on the 4 before'],
    [-Q / 2, 'starts on the and of 4 before'],
    [-4 * Q, 'starts on the 1 before'],
    [-6 * Q, 'starts on the 3, 2 bars before'],
  ])('by %s ticks is “%s”', (ticks, words) => expect(startsBeforeWords(song, verse, ticks)).toBe(words))
})
