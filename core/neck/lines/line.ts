// A figure's notes as a line: what sounds, in order, for everything that reasons about lines (scale, path,
// harmony); and back onto strings.
import { hasMark, isSlurred } from '../../marks/marks-of'
import type { LineNote } from '../../music/scale'
import type { Content, Note, Part } from '../../document/schema'
import { soundingMidi } from '../../document/part-pitch'
import type { LinePath, PathNote } from './path'

export const inTimeOrder = (notes: readonly Note[]): Note[] =>
  [...notes].sort((a, b) => a.startTicks - b.startTicks || b.string - a.string)
/** Notes with a pitch. */
export const pitched = (content: Content): Note[] =>
  inTimeOrder(content.notes.filter((note) => !hasMark(note, 'dead')))

export const lineOf = (notes: readonly Note[], part: Part): LineNote[] =>
  notes.map((note) => ({
    midi: soundingMidi(part, note.string, note.fret),
    startTicks: note.startTicks,
    lengthTicks: note.lengthTicks,
  }))

export const pathNotes = (notes: readonly Note[], part: Part): PathNote[] =>
  notes.map((note) => ({
    midi: soundingMidi(part, note.string, note.fret),
    startTicks: note.startTicks,
    lengthTicks: note.lengthTicks,
    slurred: isSlurred(note),
    slid: note.marks.some((mark) => mark.kind === 'slide' && (mark.how === 'legato' || mark.how === 'shift')),
    pressed: hasMark(note, 'bend') || hasMark(note, 'vibrato') || hasMark(note, 'trill'),
  }))

/** Notes that have no place on the neck yet, to be laid on a path; ids are the prefix and a number. */
export const unplaced = (line: readonly PathNote[], prefix: string): Note[] =>
  line.map(({ startTicks, lengthTicks }, index) => ({
    id: `${prefix}${index}`,
    string: 1,
    fret: 0,
    startTicks,
    lengthTicks,
    marks: [],
  }))

/** The notes at the places of a path; a slur that left its string is picked. */
export function onPath(notes: readonly Note[], path: LinePath, withFingers: boolean): Note[] {
  return notes.map((note, index) => {
    const { string, fret, finger } = path.places[index]!
    const { finger: _old, ...rest } = note
    const marks = path.brokenSlurs.includes(index)
      ? note.marks.filter(
          (mark) => mark.kind !== 'hammer-on' && mark.kind !== 'pull-off' && mark.kind !== 'slide',
        )
      : note.marks
    return { ...rest, string, fret, marks, ...(withFingers && finger ? { finger } : {}) }
  })
}
