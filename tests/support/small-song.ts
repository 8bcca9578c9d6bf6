// A song small enough to see through: three sections of eight bars, two guitars, figures of two bars, some of
// them standing on each other.
import { must } from '../../core/result'
import { newPart, newSong } from '../../core/document/new-song'
import {
  EMPTY_CONTENT,
  type Content,
  type Figure,
  type Note,
  type Placement,
  type Song,
} from '../../core/document/schema'
import type { ArgsOf, TransactionName } from '../../core/document/transactions'
import { transact, type Applied } from '../../core/editing/transact'
import { STRAIGHT, TICKS_PER_QUARTER } from '../../core/time/meter'

export const BAR = 4 * TICKS_PER_QUARTER

/** Runs a transaction that must succeed and gives back all of what it did. */
export const apply = <Name extends TransactionName>(song: Song, name: Name, args: ArgsOf<Name>): Applied =>
  must(transact(song, name, args))
export const run = <Name extends TransactionName>(song: Song, name: Name, args: ArgsOf<Name>): Song =>
  apply(song, name, args).song
/** The sentence of a refusal; undefined when there was none. */
export function refusal<Name extends TransactionName>(
  song: Song,
  name: Name,
  args: ArgsOf<Name>,
): string | undefined {
  const result = transact(song, name, args)
  return result.ok ? undefined : result.refusal.message
}

export const noteAt = (startTicks: number, string = 4, fret = 5): Note => ({
  id: `n${startTicks}s${string}`,
  string,
  fret,
  startTicks,
  lengthTicks: TICKS_PER_QUARTER,
  marks: [],
})
/** A note on the first beat of every bar. */
export const onOnes = (bars: number, fret = 5): Content => ({
  ...EMPTY_CONTENT,
  notes: Array.from({ length: bars }, (_, bar) => noteAt(bar * BAR, 4, fret)),
})
export const figureOf = (id: string, over: Partial<Figure> = {}): Figure => ({
  id,
  partId: 'one',
  name: id,
  lengthTicks: 2 * BAR,
  meter: { beats: 4, unit: 4 },
  feel: { subdivision: 'eighths', swing: STRAIGHT },
  content: onOnes(2),
  ...over,
})
export const placeOf = (
  id: string,
  over: Partial<Extract<Placement, { kind: 'figure' }>> = {},
): Placement => ({
  kind: 'figure',
  id,
  partId: 'one',
  sectionId: 'verse',
  startTicks: 0,
  figureId: 'riff',
  passes: 1,
  shiftFrets: 0,
  form: 'exact',
  ...over,
})

const BEATS = 24 * 4
/** Intro, Verse and Chorus of eight bars at 120; guitars "one" and "two"; the figure "riff" of guitar one. */
export function smallSong(): Song {
  const source = { id: 'rec', kind: 'recording' as const, name: 'take', rank: 1, offsetSemitones: 0 }
  let song = newSong({ id: 'small', title: 'Paper Boat', artist: 'The Sample Four' })
  song = run(song, 'addSource', {
    source: { ...source, offsetCents: 0, offsetSeconds: 0, durationSeconds: 60 },
  })
  // Only a source with a recording carries the beats.
  song = run(song, 'changeSource', { source: { ...song.sources.rec!, audioHash: 'a'.repeat(64) } })
  song = run(song, 'setBeats', {
    beats: Array.from({ length: BEATS }, (_, index) => ({
      seconds: 0.5 + index * 0.5,
      one: index % 4 === 0,
    })),
    endSeconds: 0.5 + BEATS * 0.5,
    what: 'lay out beats',
    newSectionId: 'intro',
  })
  const cut = (sectionId: string, newId: string, name: string): void => {
    song = run(song, 'splitSection', { sectionId, atBar: 8, newId, name, kind: 'verse' })
  }
  cut('intro', 'verse', 'Verse')
  cut('verse', 'chorus', 'Chorus')
  for (const [id, name] of [
    ['one', 'Guitar 1'],
    ['two', 'Guitar 2'],
  ] as const)
    song = run(song, 'addPart', { part: newPart({ id, name, kind: 'guitar-6' }) })
  return run(song, 'addFigure', { figure: figureOf('riff') })
}
