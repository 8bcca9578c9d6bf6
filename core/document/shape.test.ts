// No change leaves what a reload refuses: the bounds of the schema hold before every transaction.
import { describe, expect, it } from 'vitest'
import { figureOf, noteAt, placeOf, refusal, run, smallSong } from '../../tests/support/small-song'
import { transact } from '../editing/transact'
import { readSong } from './migrations'
import { EMPTY_CONTENT, type Song } from './schema'
import type { ArgsOf } from './transactions'

type Beats = ArgsOf<'setBeats'>
/** One beat every third of a second; a one where it is asked for. */
const beats = (count: number, over: (index: number) => Partial<Beats['beats'][number]>): Beats => ({
  beats: Array.from({ length: count }, (_, index) => ({
    seconds: 0.5 + index / 3,
    one: index === 0,
    ...over(index),
  })),
  endSeconds: 0.5 + count / 3,
  what: 'count',
  newSectionId: 'whole',
})
const bare = (): Song => {
  const { sources, sourceOrder, ...rest } = smallSong()
  const source = { ...sources.rec! }
  delete source.grid
  return { ...rest, sections: {}, sectionOrder: [], placements: {}, sources: { rec: source }, sourceOrder }
}

describe('what a change leaves', () => {
  it.each([
    [
      '11 counts of 12/8 in one bar',
      beats(40, (at) => ({ one: at % 11 === 0, meter: { beats: 12, unit: 8 } })),
    ],
    ['11 beats of 6/8 in one bar', beats(40, (at) => ({ one: at % 11 === 0, meter: { beats: 6, unit: 8 } }))],
    ['a bar of 40 beats', beats(80, (at) => ({ one: at % 40 === 0 }))],
    ['a free bar of 70 beats', beats(80, (at) => ({ one: at === 0, free: at === 0 }))],
  ])('%s is refused in words that say what to do', (_, args) => {
    for (const song of [smallSong(), bare()])
      expect(refusal(song, 'setBeats', args)).toMatch(/^Bar \d+ would .* at most \d+: put a one inside it/)
  })

  it('a section of more bars than a section can have is refused', () => {
    const all = beats(8200, (at) => ({ one: at % 4 === 0, seconds: 0.5 + at * 0.2 }))
    const song = run(smallSong(), 'setBeats', { ...all, beats: all.beats.slice(0, 7900), endSeconds: 2000 })
    const merged = ['verse', 'chorus'].reduce((now, sectionId) => {
      const next = transact(now, 'mergeSection', { sectionId })
      return next.ok ? next.value.song : now
    }, song)
    expect(readSong(JSON.parse(JSON.stringify(merged))).ok).toBe(true)
    expect(refusal(merged, 'setBeats', { ...all, endSeconds: 2000 })).toMatch(/at most 2000 entries/)
  })

  it('names the entity by the name it was given', () => {
    const song = run(smallSong(), 'addFigure', { figure: figureOf('long', { name: 'Long run' }) })
    const notes = [{ ...noteAt(0), lengthTicks: 2 ** 30 }]
    const bent: Song = {
      ...song,
      figures: { ...song.figures, long: { ...song.figures.long!, content: { ...EMPTY_CONTENT, notes } } },
    }
    // Doubling what is charted makes of a note the schema still takes one that it does not.
    const half = structuredClone(bent)
    half.figures.long!.content.notes[0]!.lengthTicks = 15_000_000
    const doubled = { ...beats(96, (at) => ({ one: at % 4 === 0 })), charted: 'double' as const }
    expect(refusal(half, 'setBeats', doubled)).toMatch(/“Long run”, length: longer than anything/)
  })
})

/** Extremes that a file could hold: refused before anything is unrolled from them. */
describe('bounds that no real song reaches', () => {
  const song = run(smallSong(), 'setPlacement', { placement: placeOf('p') })
  const read = (change: (song: Song) => void): string | undefined => {
    const copy = structuredClone(song)
    change(copy)
    const result = readSong(copy)
    return result.ok ? undefined : result.refusal.message
  }
  const stroke = { direction: 'down' as const, marks: [{ kind: 'dead' as const }] }
  it.each([
    [
      'a stroke without end',
      (copy: Song) => {
        const strokes = [{ id: 's', startTicks: 0, lengthTicks: 2 ** 40, ...stroke }]
        copy.figures.riff!.content = { ...EMPTY_CONTENT, strokes }
      },
      /length: longer than/,
    ],
    [
      'a figure of one tick',
      (copy: Song) => {
        copy.figures.riff!.lengthTicks = 1
        copy.figures.riff!.content = { ...EMPTY_CONTENT }
      },
      /shorter than a sixty-fourth/,
    ],
    [
      'a tremolo that is picked for ever',
      (copy: Song) => {
        const picked = { marks: [{ kind: 'tremolo picking' as const }], lengthTicks: 20_000_000 }
        const notes = Array.from({ length: 100 }, (_, at) => ({
          ...noteAt(at * 100),
          ...picked,
        }))
        copy.figures.riff!.content = { ...EMPTY_CONTENT, notes }
      },
      /more than 1000000 notes/,
    ],
  ])('%s', (_, change, words) => expect(read(change)).toMatch(words))
})
