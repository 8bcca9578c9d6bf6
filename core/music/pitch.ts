// Spelled pitches. F♯ is not G♭: the key decides. Spelling walks the line of fifths (… B♭ F C G D …),
// on which every pitch class has one name within any twelve neighbours; the key says which twelve.
import { Note } from 'tonal'

export const MODES = ['major', 'minor', 'dorian', 'phrygian', 'lydian', 'mixolydian', 'locrian'] as const
export type Mode = (typeof MODES)[number]
export interface Key {
  tonic: string
  mode: Mode
}

const LINE = ['F', 'C', 'G', 'D', 'A', 'E', 'B'] as const
/** Fifths from the relative major's tonic to each mode's tonic. */
const MODE_FIFTHS: Record<Mode, number> = {
  major: 0,
  minor: 3,
  dorian: 2,
  phrygian: 4,
  lydian: -1,
  mixolydian: 1,
  locrian: 5,
}

/** Place of a plain name ("F#", "Bb") on the line of fifths, C = 0. NaN for anything else. */
export function fifthsOf(name: string): number {
  const match = /^([A-G])(#*|b*)$/.exec(name)
  if (!match) return Number.NaN
  const accidentals = match[2]!.startsWith('b') ? -match[2]!.length : match[2]!.length
  return LINE.indexOf(match[1] as (typeof LINE)[number]) - 1 + 7 * accidentals
}

/** Name at a place on the line of fifths: 6 → "F#", −6 → "Gb". */
export function nameAtFifths(fifths: number): string {
  const accidentals = Math.floor((fifths + 1) / 7)
  return (
    LINE[fifths + 1 - 7 * accidentals]! +
    (accidentals < 0 ? 'b'.repeat(-accidentals) : '#'.repeat(accidentals))
  )
}

/** Pitch class 0–11 (C = 0) of a name; NaN when it is none. */
export const pitchClass = (midi: number): number => ((Math.round(midi) % 12) + 12) % 12

export function pitchClassOf(name: string): number {
  return (((fifthsOf(name) * 7) % 12) + 12) % 12
}

/** Place of the key's relative major on the line of fifths, i.e. its signature: +2 = two sharps. */
export function signatureOf(key: Key): number {
  return fifthsOf(key.tonic) - MODE_FIFTHS[key.mode]
}

/** The key of a mode with a signature: +2 and minor is B minor. */
export const keyOfSignature = (fifths: number, mode: Mode): Key => ({
  tonic: nameAtFifths(fifths + MODE_FIFTHS[mode]),
  mode,
})

/**
 * Name of a pitch class in a key. In minor-like modes the raised seventh is kept inside the twelve (D♯ in E
 * minor); a double flat helps nobody at a fretboard and is said plainly (A in E♭ minor).
 */
export function spellPitchClass(pitchClass: number, key: Key): string {
  const signature = signatureOf(key)
  const lowest = key.mode === 'major' || key.mode === 'lydian' ? signature - 4 : signature - 3
  const start = (((pitchClass * 7) % 12) + 12) % 12
  const fifths = lowest + ((((start - lowest) % 12) + 12) % 12)
  return nameAtFifths(fifths < -8 ? fifths + 12 : fifths)
}

/** Spelled pitch with octave for a MIDI number in a key: 61 in A major → "C#4". */
export const spellMidi = (midi: number, key: Key): string =>
  withOctave(spellPitchClass(((midi % 12) + 12) % 12, key), midi)

/** A spelled name with the octave it has at a MIDI number: "Cb" at 59 → "Cb4". */
export function withOctave(name: string, midi: number): string {
  const accidentals = [...name.slice(1)].reduce((sum, sign) => sum + (sign === '#' ? 1 : -1), 0)
  return `${name}${Math.floor((midi - accidentals) / 12) - 1}`
}

/** MIDI number of a written pitch ("Eb2", "F♯3"), undefined when it is none. */
export function midiOf(pitch: string): number | undefined {
  const note = Note.get(pitch.trim().replaceAll('♯', '#').replaceAll('♭', 'b'))
  return note.empty || note.midi === null ? undefined : note.midi
}

/** "F#m7/Eb" → "F♯m7/E♭": the signs as printed, also inside chord symbols. */
export function pretty(name: string): string {
  return name
    .replaceAll('#', '♯')
    .replace(/(?<=(?:^|[/\s])[A-G]b*)b/g, '♭')
    .replace(/b(?=\d)/g, '♭')
}

/** The same key moved by semitones, spelled with the fewer accidentals. */
export function transposeKey(key: Key, semitones: number): Key {
  const pitchClass = (pitchClassOf(key.tonic) + semitones + 120) % 12
  const start = (pitchClass * 7) % 12
  const candidates = [start - 12, start].map((fifths) => ({ tonic: nameAtFifths(fifths), mode: key.mode }))
  return candidates.reduce((best, next) =>
    Math.abs(signatureOf(next)) < Math.abs(signatureOf(best)) ? next : best,
  )
}

export const keyName = (key: Key): string => `${pretty(key.tonic)} ${key.mode}`
