// A small song that is whole: two verses over a recording, one guitar that plays its riff through both. What
// a test breaks in it is all there is to find.
import { newPart, newSong } from '../../core/document/new-song'
import { EMPTY_CONTENT, type Content, type Note, type Song } from '../../core/document/schema'
import type { ArgsOf, TransactionName } from '../../core/document/transactions'
import { transact } from '../../core/editing/transact'
import { must } from '../../core/result'
import { TICKS_PER_QUARTER as Q } from '../../core/time/meter'

export const BAR = 4 * Q
export const FOUR = { beats: 4, unit: 4 } as const
export const run = <N extends TransactionName>(song: Song, name: N, args: ArgsOf<N>): Song =>
  must(transact(song, name, args)).song
export const note = (tick: number, string: number, fret: number, more: Partial<Note> = {}): Note => ({
  id: `n${tick}-${string}`,
  string,
  fret,
  startTicks: tick,
  lengthTicks: Q,
  marks: [],
  ...more,
})
/** Eight notes on the low strings, E and G. */
export const RIFF: Content = {
  ...EMPTY_CONTENT,
  notes: Array.from({ length: 8 }, (_, index) => note(index * Q, 6, index % 2 ? 3 : 0)),
}
export const figure = (id: string, content: Content, partId = 'g') => ({
  figure: { id, partId, name: id, lengthTicks: 2 * BAR, meter: FOUR, feel: STRAIGHT, content },
})
const STRAIGHT = { subdivision: 'eighths', swing: { ratio: 0.5, level: 'eighths' } } as const
export const place = (song: Song, id: string, figureId: string, sectionId: string): Song =>
  run(song, 'setPlacement', {
    placement: {
      kind: 'figure',
      id,
      partId: song.figures[figureId]!.partId,
      sectionId,
      startTicks: 0,
      figureId,
      passes: 2,
      shiftFrets: 0,
      form: 'exact',
    },
  })
export const chords = (...symbols: string[]) =>
  symbols.map((symbol, bar) => ({ startTicks: bar * BAR, lengthTicks: BAR, symbol }))

/** Two verses of four bars in E minor, a guitar that plays its riff through both: nothing to find. */
export function twoVerses(): Song {
  let song = newSong({ id: 'c', title: 'Counted Well', artist: 'The Sample Four' })
  song = run(song, 'addSource', {
    source: {
      id: 'r',
      kind: 'recording',
      name: 'Record',
      rank: 1,
      offsetSemitones: 0,
      offsetCents: 0,
      offsetSeconds: 0,
      audioHash: 'c'.repeat(64),
      durationSeconds: 20,
    },
  })
  song = run(song, 'setBeats', {
    beats: Array.from({ length: 32 }, (_, index) => ({ seconds: 1 + index / 2, one: index % 4 === 0 })),
    endSeconds: 17,
    what: 'beats',
    newSectionId: 'v1',
  })
  song = run(song, 'splitSection', { sectionId: 'v1', atBar: 4, newId: 'v2', name: 'Verse 2', kind: 'verse' })
  song = run(song, 'changeSection', {
    sectionId: 'v1',
    set: { name: 'Verse 1', kind: 'verse', harmony: chords('Em', 'Em', 'Em', 'Em') },
  })
  song = run(song, 'changeSection', { sectionId: 'v2', set: { harmony: chords('Em', 'Em', 'Em', 'Em') } })
  song = run(song, 'setFacts', { key: { tonic: 'E', mode: 'minor' } })
  song = run(song, 'setReturn', {
    sectionId: 'v2',
    returns: { sectionId: 'v1', shiftSemitones: 0, withDifferences: false },
  })
  song = run(song, 'addPart', { part: newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' }) })
  song = run(song, 'addFigure', figure('riff', RIFF))
  return place(place(song, 'p1', 'riff', 'v1'), 'p2', 'riff', 'v2')
}
