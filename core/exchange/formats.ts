// The open formats a song goes out in and comes in from, and what is said of it each time: how much is held,
// what is left out and why.
import { strFromU8, strToU8 } from 'fflate'
import type { Song } from '../document/schema'
import type { Meter } from '../time/meter'
import { ok, refuse, type Result } from '../result'
import { readMidiFile } from './midi/read-midi'
import { writeMidiFile } from './midi/write-midi'
import { readMusicXml } from './musicxml/read-musicxml'
import { musicXmlDropped, writeMusicXml, writeMxl } from './musicxml/write-musicxml'
import { formatOfName, type Format, type Held } from './format-names'
import type { ImportAnswers, ImportQuestion } from './import-questions'
import { scoreFromSong, type Scope } from './score/from-song'
import type { Dropped, WrittenScore } from './score/written-score'
import { chordTextDropped, writeChordText } from './text/chord-text'
import { cueSheetDropped, readCueSheet, writeCueSheet } from './text/cue-sheet'
import { readChordText } from './text/read-chord-text'

export interface Exported {
  bytes: Uint8Array
  held: Held
  dropped: Dropped[]
}
export interface Imported {
  score: WrittenScore
  held: Held
  dropped: Dropped[]
  /** What the file leaves open, with the answers taken. */
  questions: ImportQuestion[]
}
interface Read {
  score: WrittenScore
  dropped: Dropped[]
  questions?: ImportQuestion[]
}
interface ImportWish {
  meter?: Meter | undefined
  report?: ((share: number) => void) | undefined
  answers?: ImportAnswers | undefined
}

const heldOf = ({ bars, harmony, parts }: WrittenScore): Held => ({
  measures: bars.length,
  sections: bars.filter(({ section }) => section !== undefined).length,
  harmonies: harmony.length,
  parts: parts.map(({ name, notes }) => ({ name, notes: notes.length })),
})

/** A song in a format. Refused where there is nothing for it to hold. */
export function exportSong(song: Song, format: Format, scope: Scope = {}): Result<Exported> {
  const score = scoreFromSong(song, scope)
  if (!score.bars.length)
    return refuse('export', 'This song has no bars yet: lay out its form on the map first.')
  const ofForm = format === 'csv' || format === 'chords'
  if (!ofForm && !score.parts.length)
    return refuse('export', 'This song has no parts yet: add them in Set up, or choose the cue sheet.')
  const held = heldOf(ofForm ? { ...score, parts: [] } : score)
  switch (format) {
    case 'musicxml':
      return ok({ bytes: strToU8(writeMusicXml(score)), held, dropped: musicXmlDropped(score) })
    case 'mxl':
      return ok({ bytes: writeMxl(score), held, dropped: musicXmlDropped(score) })
    case 'midi': {
      const { bytes, notes, dropped } = writeMidiFile(song, scope)
      const parts = held.parts.map((part, index) => ({ ...part, notes: notes[index] ?? 0 }))
      return ok({ bytes, held: { ...held, harmonies: 0, parts }, dropped })
    }
    case 'csv':
      return ok({ bytes: strToU8(writeCueSheet(song)), held, dropped: cueSheetDropped(song) })
    case 'chords':
      return ok({
        bytes: strToU8(writeChordText(song, scope.sectionId)),
        held,
        dropped: chordTextDropped(song),
      })
  }
}

const USUAL_METER: Meter = { beats: 4, unit: 4 }

/**
 * Reads a file of any format. Nothing is changed by it: what it makes is decided with what it holds in view.
 */
export function importFile(bytes: Uint8Array, name: string, wish: ImportWish = {}): Result<Imported> {
  const format = formatOfName(name)
  if (!format)
    return refuse(
      'import',
      `“${name.slice(0, 80)}” is in a format that is not read here. ` +
        'MusicXML (.musicxml, .mxl), MIDI (.mid), cue sheets (.csv) and chords (.txt) are.',
    )
  const title = name.replace(/\.[^.]*$/, '').slice(0, 200)
  const read = readAs(format, bytes, { title, ...wish })
  if (!read.ok) return read
  const { score, dropped, questions = [] } = read.value
  return ok({ score, held: heldOf(score), dropped, questions })
}

function readAs(
  format: Format,
  bytes: Uint8Array,
  { title, meter = USUAL_METER, report, answers }: ImportWish & { title: string },
): Result<Read> {
  const named = (read: Result<Read>): Result<Read> =>
    read.ok && title ? ok({ ...read.value, score: { ...read.value.score, title } }) : read
  switch (format) {
    case 'musicxml':
    case 'mxl':
      return readMusicXml(bytes, { report, answers })
    case 'midi':
      return readMidiFile(bytes, title, answers)
    case 'csv':
      return named(readCueSheet(strFromU8(bytes)))
    case 'chords':
      return named(readChordText(strFromU8(bytes), meter))
  }
}
