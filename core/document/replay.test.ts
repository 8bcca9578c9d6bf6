// What a journal gives back: the song, its history, and a way out when the last state is broken.
import { describe, expect, it } from 'vitest'
import { must, type Result } from '../result'
import { smallSong } from '../../tests/support/small-song'
import { readSong } from './migrations'
import { transact } from '../editing/transact'
import { redo, undo } from './history'
import { newPart, newSong } from './new-song'
import { invertPatch, type Patch } from './patch'
import { historyOf, isDamaged, replay, type JournalEntry } from './replay'
import { salvageSong } from './salvage'
import type { Song } from './schema'

const start = newSong({ id: 's', title: 'Start', artist: '' })
/** Titles set one after the other, with the journal that says so. */
function written(titles: readonly string[]): { song: Song; entries: JournalEntry[] } {
  let song = start
  const entries = titles.map((title, index): JournalEntry => {
    const applied = must(transact(song, 'setFacts', { title }))
    song = applied.song
    return { seq: index + 1, label: applied.label, patch: applied.patch, kind: 'do' }
  })
  return { song, entries }
}
const breaking: Patch = [{ table: 'song', id: 'partOrder', before: [], after: ['ghost'] }]

describe('a journal', () => {
  it('gives back the song and what undo and redo reach, over a reload and over a snapshot', () => {
    const { song, entries } = written(['One', 'Two', 'Three'])
    const back: JournalEntry = {
      seq: 4,
      label: entries[2]!.label,
      patch: invertPatch(entries[2]!.patch),
      kind: 'undo',
    }
    const read = replay(song, 3, [...entries, back])
    if (isDamaged(read)) throw new Error(read.refusal.message)
    const history = historyOf(must(read).song, [...entries, back])
    expect(history.song.title).toBe('Two')
    expect(redo(history)!.history.song.title).toBe('Three')
    const first = undo(undo(history)!.history)!.history
    expect(first.song).toEqual(start)
    expect(undo(first)).toBeUndefined()
  })

  it('reads and takes back what was written before marks had one shape', () => {
    const song = smallSong()
    const { articulations, ...note } = { ...song.figures.riff!.content.notes[0]!, articulations: [] }
    const old = (fret: number, accent: boolean): unknown => {
      const { marks: _, ...bare } = note
      const notes = [{ ...bare, fret, articulations, accent }]
      return { ...song.figures.riff!, content: { grips: [], strokes: [], notes, mutes: [] } }
    }
    const patch: Patch = [{ table: 'figures', id: 'riff', before: old(5, false), after: old(7, true) }]
    const entries: JournalEntry[] = [{ seq: 1, label: 'fret', patch, kind: 'do' }]
    const read = must(replay({ ...song, schemaVersion: 7 }, 0, entries) as Result<{ song: Song }>)
    const marksOf = (of: Song): unknown =>
      of.figures.riff!.content.notes.map(({ fret, marks }) => [fret, marks])
    expect(marksOf(read.song)).toEqual([[7, [{ kind: 'accent' }]]])
    const back = undo(historyOf(read.song, entries))!.history.song
    expect(marksOf(back)).toEqual([[5, []]])
    expect(must(readSong(back))).toEqual(back)
  })

  it.each([
    ['after the snapshot', 0],
    ['in the snapshot', 3],
  ])('whose last state is broken %s offers the last one that was sound, and says what is lost', (_, seq) => {
    const { song, entries } = written(['One', 'Two'])
    const all = [...entries, { seq: 3, label: 'break it', patch: breaking, kind: 'do' as const }]
    const snapshot = seq === 0 ? start : { ...song, partOrder: ['ghost'] }
    const read = replay(snapshot, seq, all)
    if (!isDamaged(read)) throw new Error('should be damaged')
    expect(read.refusal.code).toBe('damaged')
    expect(read.lastGood).toMatchObject({ song: { title: 'Two', partOrder: [] }, lost: ['break it'] })
  })

  it('with an entry of an unknown kind is read as far as it goes', () => {
    const { entries } = written(['One'])
    const alien = { seq: 2, label: 'alien', patch: [{ table: 'nowhere', id: 'x' }], kind: 'do' } as never
    const read = replay(start, 0, [...entries, alien])
    expect(!isDamaged(read) && must(read).song.title).toBe('One')
  })
})

describe('a damaged song', () => {
  it('shows what can be read and names what cannot', () => {
    const song = must(
      transact(start, 'addPart', { part: newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' }) }),
    ).song
    const broken = {
      ...song,
      referenceHz: 'loud',
      figures: { f: { id: 'f', name: 7 } },
      spots: { a: { id: 'a', place: { sectionId: 'none', startTicks: 0 }, text: 'hm', done: false } },
    }
    const salvaged = must(salvageSong(broken))
    expect(salvaged.song.parts.g?.name).toBe('Guitar')
    expect(salvaged.song.title).toBe('Start')
    expect(salvaged.song.spots).toEqual({})
    expect(salvaged.leftOut).toHaveLength(3)
  })
  it.each([undefined, null, 7, 'text', []])('that is no song at all is refused: %j', (data) =>
    expect(salvageSong(data)).toMatchObject({ ok: false }),
  )
})
