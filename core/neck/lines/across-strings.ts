// A riff moved to the fourth or the fifth as hands do it: the same shape, a string higher. Where two strings
// are not a fourth apart (the third and second string, a dropped low string) the shape changes there.
import { counted } from '../../words/words'
import { soundingMidi } from '../../document/part-pitch'
import type { Note, Part } from '../../document/schema'
import { ok, refuse, type Result } from '../../result'

const FOURTH = 5
/** Semitones a riff goes up, and frets its shape moves besides the string. */
const TO = { fourth: { semitones: 5, frets: 0 }, fifth: { semitones: 7, frets: 2 } } as const
export type AcrossTo = keyof typeof TO
export interface Across {
  notes: Note[]
  /** Where the shape changes and why, a sentence a pair of strings. */
  changes: string[]
}

const fretWords = (by: number): string => `${counted(Math.abs(by), 'fret')} ${by > 0 ? 'higher' : 'lower'}`

function changeWords(string: number, by: number): string {
  return (
    `what was on string ${string} lies ${fretWords(by)} than the shape has it: ` +
    `strings ${string} and ${string - 1} are ${FOURTH - by} half steps apart, not ${FOURTH}`
  )
}

/**
 * Every note a string higher, at the frets that sound a fourth or a fifth above. Refused when the highest
 * string is used already or a note leaves the neck.
 */
export function acrossStrings(notes: readonly Note[], part: Part, to: AcrossTo): Result<Across> {
  const { semitones, frets } = TO[to]
  if (notes.some(({ string }) => string === 1))
    return refuse('across', 'The riff uses the highest string already: there is no string above it.')
  const highest = part.instrument.fretCount - part.instrument.capo
  const changed = new Map<number, number>()
  const moved: Note[] = []
  for (const note of notes) {
    const string = note.string - 1
    const fret = soundingMidi(part, note.string, note.fret) + semitones - soundingMidi(part, string, 0)
    if (fret < 0 || fret > highest)
      return refuse(
        'across',
        `Fret ${note.fret} of string ${note.string} would become fret ${fret} of string ${string}: ` +
          'that is not on this neck.',
      )
    const by = fret - note.fret - frets
    if (by !== 0) changed.set(note.string, by)
    const { finger: _old, ...rest } = note
    moved.push({ ...rest, string, fret })
  }
  const changes = [...changed].sort(([a], [b]) => b - a).map(([string, by]) => changeWords(string, by))
  return ok({ notes: moved, changes })
}
