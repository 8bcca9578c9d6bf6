// The open formats by name, without what reads and writes them: what a page needs before anybody chooses one.
import { counted } from '../words/words'
import type { Dropped } from './score/written-score'

export const FORMATS = {
  musicxml: { extension: 'musicxml', type: 'application/vnd.recordare.musicxml+xml', words: 'MusicXML' },
  mxl: { extension: 'mxl', type: 'application/vnd.recordare.musicxml', words: 'MusicXML, packed' },
  midi: { extension: 'mid', type: 'audio/midi', words: 'MIDI' },
  csv: { extension: 'csv', type: 'text/csv', words: 'cue sheet (CSV)' },
  chords: { extension: 'txt', type: 'text/plain', words: 'chords as text' },
} as const
export type Format = keyof typeof FORMATS
export const isFormat = (name: string): name is Format => Object.hasOwn(FORMATS, name)

/** How much of a song a file holds. */
export interface Held {
  measures: number
  sections: number
  harmonies: number
  parts: { name: string; notes: number }[]
}
const ENDINGS: readonly (readonly [RegExp, Format])[] = [
  [/\.(musicxml|xml)$/i, 'musicxml'],
  [/\.mxl$/i, 'mxl'],
  [/\.midi?$/i, 'midi'],
  [/\.csv$/i, 'csv'],
  [/\.(txt|chords)$/i, 'chords'],
]
/** What a file is by its name; undefined for a format that is not read. */
export const formatOfName = (name: string): Format | undefined =>
  ENDINGS.find(([ending]) => ending.test(name))?.[1]

/** "39 measures in 8 sections, 41 chords; Guitar 1: 812 notes". */
export function heldWords({ measures, sections, harmonies, parts }: Held): string {
  const form = `${counted(measures, 'measure')}`
  const inSections = sections ? ` in ${counted(sections, 'section')}` : ''
  const chords = harmonies ? `, ${counted(harmonies, 'chord')}` : ''
  const charted = parts.map(({ name, notes }) => `${name}: ${counted(notes, 'note')}`)
  return [`${form}${inSections}${chords}`, ...charted].join('; ')
}
/** "12 dead strokes: they have no pitch". */
export const droppedWords = ({ what, count, why }: Dropped): string =>
  `${count > 1 ? `${count} ` : ''}${what}: ${why}`
