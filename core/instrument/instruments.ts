// The instruments a part can be played on. Strings are numbered 1 = highest; arrays of strings start with
// string 1.

export const INSTRUMENT_KINDS = [
  'guitar-6',
  'guitar-7',
  'guitar-12',
  'baritone-6',
  'bass-4',
  'bass-5',
  'bass-6',
] as const
export type InstrumentKind = (typeof INSTRUMENT_KINDS)[number]

export interface InstrumentFacts {
  name: string
  strings: number
  frets: number
  scaleLengthMm: number
  /**
   * Sounding MIDI number of each open string in the tuning called standard for this instrument, string 1
   * first.
   */
  standardMidi: number[]
  /**
   * Courses of two strings: string numbers whose second string sounds an octave higher; the others are
   * doubled in unison.
   */
  octaveCourses?: number[]
}

const GUITAR = [64, 59, 55, 50, 45, 40]
export const INSTRUMENTS: Record<InstrumentKind, InstrumentFacts> = {
  'guitar-6': { name: 'Guitar', strings: 6, frets: 22, scaleLengthMm: 648, standardMidi: GUITAR },
  'guitar-7': {
    name: '7-string guitar',
    strings: 7,
    frets: 24,
    scaleLengthMm: 648,
    standardMidi: [...GUITAR, 35],
  },
  'guitar-12': {
    name: '12-string guitar',
    strings: 6,
    frets: 20,
    scaleLengthMm: 648,
    standardMidi: GUITAR,
    octaveCourses: [3, 4, 5, 6],
  },
  'baritone-6': {
    name: 'Baritone guitar',
    strings: 6,
    frets: 22,
    scaleLengthMm: 686,
    standardMidi: GUITAR.map((midi) => midi - 5),
  },
  'bass-4': { name: 'Bass', strings: 4, frets: 21, scaleLengthMm: 864, standardMidi: [43, 38, 33, 28] },
  'bass-5': {
    name: '5-string bass',
    strings: 5,
    frets: 21,
    scaleLengthMm: 889,
    standardMidi: [43, 38, 33, 28, 23],
  },
  'bass-6': {
    name: '6-string bass',
    strings: 6,
    frets: 24,
    scaleLengthMm: 889,
    standardMidi: [48, 43, 38, 33, 28, 23],
  },
}

export const isBass = (kind: InstrumentKind): boolean => kind.startsWith('bass')
