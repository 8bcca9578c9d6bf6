// What a fret of a part sounds and what it is called, by shape or as sounding. The one place that knows the
// difference: by shape, names are as if the band were at standard pitch and the capo were the nut; as
// sounding, they are what a piano would say.
import { openStringLetter } from '../instrument/tunings'
import { fretToMidi } from '../instrument/neck'
import { spellMidi, transposeKey, type Key } from '../music/pitch'
import type { Part, Song } from './schema'

export type Naming = 'shape' | 'sounding'

export const soundingMidi = (part: Part, stringNumber: number, fret: number): number =>
  fretToMidi(part.tuning.openMidi[stringNumber - 1]!, fret, part.instrument.capo)

/** Semitones from the sounding pitch to the name by shape. */
export const shapeShift = (part: Part): number => -part.tuning.shapeOffset - part.instrument.capo

/** The key in which a part's notes are spelled under a naming. */
export const namingKey = (song: Pick<Song, 'key'>, part: Part, naming: Naming): Key =>
  naming === 'sounding' ? song.key : transposeKey(song.key, shapeShift(part))

export function pitchName(song: Pick<Song, 'key'>, part: Part, midi: number, naming: Naming): string {
  return spellMidi(naming === 'sounding' ? midi : midi + shapeShift(part), namingKey(song, part, naming))
}

/**
 * Name of a string: its number, or its letter as the key spells it (the lowest and highest E told apart as
 * "E" and "e").
 */
export function stringName(
  song: Pick<Song, 'key'>,
  part: Part,
  stringNumber: number,
  options: { strings: 'numbers' | 'letters'; naming: Naming },
): string {
  if (options.strings === 'numbers') return String(stringNumber)
  const open = part.tuning.openMidi[stringNumber - 1]!
  const shift = options.naming === 'sounding' ? part.instrument.capo : -part.tuning.shapeOffset
  const letter = openStringLetter(open + shift, namingKey(song, part, options.naming))
  const twin = part.tuning.openMidi.findIndex(
    (other, index) => index + 1 > stringNumber && (other - open) % 12 === 0,
  )
  return stringNumber === 1 && twin !== -1 ? letter.toLowerCase() : letter
}

/** The part's key for the whole band: by shape only when every part agrees on the shift. */
export function bandShift(song: Song): number | undefined {
  const shifts = new Set(Object.values(song.parts).map((part) => -part.tuning.shapeOffset))
  return shifts.size === 1 ? [...shifts][0] : undefined
}
