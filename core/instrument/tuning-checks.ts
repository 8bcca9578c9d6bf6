// Ways to check a tuning by ear, string against string: by a fretted unison, by harmonics, by octaves.
export interface TuningCheck {
  /** The string being tuned; checked against `against`. */
  stringNumber: number
  against: number
  how: 'fret' | 'harmonics' | 'octave'
  /** "fret 5 here sounds like string 2 open" */
  text: string
}

/** Frets over which a natural harmonic rings, and how far it sounds above the open string, in semitones. */
const HARMONICS = [
  { fret: 12, semitones: 12 },
  { fret: 7, semitones: 19 },
  { fret: 5, semitones: 24 },
] as const
const HIGHEST_FRET = 12

/**
 * For each string but the highest, how to check it against the next higher one and, by octave, against the
 * one above that. Harmonics of a fourth (fret 5 against fret 7) are pure: 2 cents wide of an equal fourth.
 */
export function tuningChecks(
  openMidi: readonly number[],
  label: (stringNumber: number) => string = (stringNumber) => `string ${stringNumber}`,
): TuningCheck[] {
  return openMidi.flatMap((midi, index): TuningCheck[] => {
    if (index === 0) return []
    const stringNumber = index + 1
    const checks: TuningCheck[] = []
    const gap = openMidi[index - 1]! - midi
    if (gap > 0 && gap <= HIGHEST_FRET)
      checks.push({
        stringNumber,
        against: index,
        how: 'fret',
        text: `fret ${gap} here sounds like ${label(index)} open`,
      })
    const pair = harmonicPair(midi, openMidi[index - 1]!)
    if (pair)
      checks.push({
        stringNumber,
        against: index,
        how: 'harmonics',
        text:
          `the harmonic over fret ${pair.here} here rings like` +
          ` the one over fret ${pair.there} of ${label(index)}`,
      })
    const octave = octaveCheck(openMidi, index, label)
    return octave ? [...checks, octave] : checks
  })
}

function harmonicPair(low: number, high: number): { here: number; there: number } | undefined {
  for (const here of HARMONICS)
    for (const there of HARMONICS)
      if (low + here.semitones === high + there.semitones) return { here: here.fret, there: there.fret }
  return undefined
}

/** The octave of an open string on the string two or three higher: the hand shape of an octave. */
function octaveCheck(
  openMidi: readonly number[],
  index: number,
  label: (stringNumber: number) => string,
): TuningCheck | undefined {
  const against = [index - 2, index - 3].find((at) => {
    const fret = at >= 0 ? openMidi[index]! + 12 - openMidi[at]! : -1
    return fret >= 0 && fret <= 4
  })
  if (against === undefined) return undefined
  const fret = openMidi[index]! + 12 - openMidi[against]!
  const there = fret === 0 ? `${label(against + 1)} open` : `fret ${fret} of ${label(against + 1)}`
  return {
    stringNumber: index + 1,
    against: against + 1,
    how: 'octave',
    text: `open here is an octave below ${there}`,
  }
}
