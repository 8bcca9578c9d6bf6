// Named tunings, and what a player must do to get there. `shapeOffset` is how far the whole set is moved
// from where shapes keep their everyday names: a half step down, an open E shape is still called E,
// sounding E♭, so the offset is −1. A dropped low string alone moves no name (offset 0).
import { pitchClass, pretty, signatureOf, spellMidi, spellPitchClass, type Key } from '../music/pitch'
import { INSTRUMENTS, isBass, type InstrumentKind } from './instruments'

export interface Tuning {
  name: string
  openMidi: number[]
  shapeOffset: number
}

const move = (open: readonly number[], semitones: number): number[] => open.map((midi) => midi + semitones)
const dropLow = (open: readonly number[], semitones: number): number[] =>
  open.map((midi, index) => (index === open.length - 1 ? midi + semitones : midi))

const OPEN_SIX: [string, number[]][] = [
  ['Open D', [62, 57, 54, 50, 45, 38]],
  ['Open G', [62, 59, 55, 50, 43, 38]],
  ['Open E', [64, 59, 56, 52, 47, 40]],
  ['Open A', [64, 61, 57, 52, 45, 40]],
  ['Open C', [64, 60, 55, 48, 43, 36]],
  ['Open D minor', [62, 57, 53, 50, 45, 38]],
  ['D modal (D A D G A D)', [62, 57, 55, 50, 45, 38]],
  ['Double drop D', [62, 59, 55, 50, 45, 38]],
]

const FIVE_STRING_SET = 'B E A D (five-string set without the top)'
/** Strung with strings made for it: nothing is turned down. */
export const hasOwnSet = ({ name }: Pick<Tuning, 'name'>): boolean => name === FIVE_STRING_SET

/** The tunings to choose from for an instrument, the standard one first. */
export function tuningsFor(kind: InstrumentKind): Tuning[] {
  const standard = INSTRUMENTS[kind].standardMidi
  const whole: [string, number][] = [
    ['Standard', 0],
    ['Half step down', -1],
    ['Whole step down', -2],
    ['One and a half steps down', -3],
    ['Two whole steps down', -4],
  ]
  const list: Tuning[] = whole.map(([name, by]) => ({ name, openMidi: move(standard, by), shapeOffset: by }))
  if (kind === 'baritone-6') list[0]!.name = 'B standard'
  else if (!kind.endsWith('7') && kind !== 'bass-5' && kind !== 'bass-6')
    list.push({ name: 'B standard (five semitones down)', openMidi: move(standard, -5), shapeOffset: -5 })
  const low = standard.at(-1)!
  for (const by of [0, -1, -2, -3, -4, -5]) {
    const pitch = pretty(spellMidi(low - 2 + by, FLAT_KEY)).replace(/\d/, '')
    list.push({
      name: `Dropped low string to ${pitch}${by === 0 ? '' : `, the rest ${-by} down`}`,
      openMidi: dropLow(move(standard, by), -2),
      shapeOffset: by,
    })
  }
  if (!isBass(kind) && standard.length === 6 && kind !== 'baritone-6')
    for (const [name, openMidi] of OPEN_SIX) list.push({ name, openMidi, shapeOffset: 0 })
  if (kind === 'bass-4')
    list.push(
      { name: FIVE_STRING_SET, openMidi: [38, 33, 28, 23], shapeOffset: 0 },
      { name: 'A D G C', openMidi: [36, 31, 26, 21], shapeOffset: 0 },
    )
  return list
}

const FLAT_KEY: Key = { tonic: 'Bb', mode: 'major' }
const SHARP_KEY: Key = { tonic: 'A', mode: 'major' }

/**
 * Pitch of an open string as a tuner shows it: naturals plain, the rest as flats when tuned down, sharps
 * when up.
 */
function openStringName(midi: number, sharps: boolean): string {
  return pretty(spellMidi(midi, sharps ? SHARP_KEY : FLAT_KEY))
}
/** The letter of an open string without its octave: with sharps in a key of sharps, else with flats. */
export const openStringLetter = (midi: number, key: Key): string =>
  spellPitchClass(pitchClass(midi), signatureOf(key) > 0 ? SHARP_KEY : FLAT_KEY)

export interface StringTuning {
  stringNumber: number
  midi: number
  name: string
  fromStandard: number
  way: string
}

const STEPS = [
  '',
  'a half step',
  'a whole step',
  'one and a half steps',
  'two whole steps',
  'two and a half steps',
  'three whole steps',
  'three and a half steps',
]
const distanceWords = (semitones: number): string =>
  STEPS[Math.abs(semitones)] ?? `${Math.abs(semitones)} semitones`

/**
 * For each string: its pitch, its distance from standard in semitones, and the way there in words; `label`
 * names strings as the user wants.
 */
export function describeTuning(
  kind: InstrumentKind,
  openMidi: readonly number[],
  label: (stringNumber: number) => string = (stringNumber) => `string ${stringNumber}`,
): StringTuning[] {
  const standard = INSTRUMENTS[kind].standardMidi
  return openMidi.map((midi, index) => {
    const fromStandard = midi - standard[index]!
    const turn =
      fromStandard === 0
        ? 'leave as it is'
        : `turn ${fromStandard < 0 ? 'down' : 'up'} ${distanceWords(fromStandard)}`
    const fret = index === 0 ? 0 : openMidi[index - 1]! - midi
    const check =
      index > 0 && fret > 0 && fret <= 12 ? `; check: fret ${fret} here sounds like ${label(index)} open` : ''
    return {
      stringNumber: index + 1,
      midi,
      name: openStringName(midi, fromStandard > 0),
      fromStandard,
      way: turn + check,
    }
  })
}

/** Caution when a set is tuned so far up that strings or neck may suffer; undefined when not. */
export function tensionCaution(kind: InstrumentKind, openMidi: readonly number[]): string | undefined {
  const highest = Math.max(...openMidi.map((midi, index) => midi - INSTRUMENTS[kind].standardMidi[index]!))
  return highest >= 2
    ? `A string is ${distanceWords(highest)} above standard: ` +
        `its tension rises by about ${Math.round((2 ** (highest / 6) - 1) * 100)} %. ` +
        "Check the maker's limits, wear eye protection, ask a luthier about the neck."
    : undefined
}

/** Says what is wrong with an open pitch typed by hand, undefined when it is playable. */
export function openPitchProblem(midi: number): string | undefined {
  return midi < 16 || midi > 76
    ? 'No string of a guitar or bass sounds there: choose a pitch between E0 and E5.'
    : undefined
}

/** Bottom-up spelling of a tuning, in a key of sharps with sharps: "E♭ A♭ D♭ G♭ B♭ E♭". */
export const tuningLine = (openMidi: readonly number[], key: Key): string =>
  openMidi
    .map((midi) => pretty(openStringLetter(midi, key)))
    .reverse()
    .join(' ')
