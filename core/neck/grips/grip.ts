// What is known about a grip once its strings are: sounding pitches, ranked names, degrees, inversion,
// shape family, reach and difficulty.
import { nameChord, type ChordName } from '../../music/chord-name'
import { fingerPlaceMm } from '../../instrument/neck'
import type { Grip, Part, Song } from '../../document/schema'
import { fingerGrip, type Fingering } from './fingering'
import { USUAL_HAND, type Hand } from '../hand'
import { namingKey, shapeShift, soundingMidi, type Naming } from '../../document/part-pitch'

export interface GripFacts {
  /** Per string (string 1 first): sounding MIDI number, undefined when muted. */
  midis: (number | undefined)[]
  names: ChordName[]
  /** Per string: degree in the best name, undefined when muted or unnamed. */
  degrees: (string | undefined)[]
  /** Degrees of the best name that sound on more than one string. */
  doubled: string[]
  family: string
  reachMm: number
  lowestFret: number
  /** Undefined when no hand can hold it. */
  fingering: Fingering | undefined
  caution: string | undefined
}

const tooMuch = (fretted: readonly number[]): string =>
  new Set(fretted).size > 4 ? 'fingers in more than four frets' : 'more than four fingers'
const ASK = 'stop at pain, ease the grip, ask a qualified teacher.'

export function gripFacts(
  song: Pick<Song, 'key'>,
  part: Part,
  grip: Grip,
  naming: Naming,
  hand: Hand = USUAL_HAND,
): GripFacts {
  const midis = grip.strings.map((string, index) =>
    string.fret === null ? undefined : soundingMidi(part, index + 1, string.fret),
  )
  const shift = naming === 'sounding' ? 0 : shapeShift(part)
  const names = nameChord(
    midis.flatMap((midi) => (midi === undefined ? [] : [midi + shift])),
    namingKey(song, part, naming),
  )
  const degrees = midis.map((midi) =>
    midi === undefined ? undefined : names[0]?.degrees[(midi + shift) % 12],
  )
  const fretted = grip.strings.flatMap((string) => (string.fret ? [string.fret] : []))
  const places = fretted.map((fret) =>
    fingerPlaceMm(fret + part.instrument.capo, part.instrument.scaleLengthMm),
  )
  const reachMm = places.length ? Math.max(...places) - Math.min(...places) : 0
  const told = degrees.flatMap((degree) => degree ?? [])
  // Fingers are tried only when somebody asks: names are wanted far more often.
  let tried: { fingering: Fingering | undefined } | undefined
  const fingering = (): Fingering | undefined =>
    (tried ??= { fingering: fingerGrip(grip, part, hand) }).fingering
  return {
    midis,
    names,
    degrees,
    doubled: [...new Set(told.filter((degree, index) => told.indexOf(degree) !== index))],
    family: shapeFamily(grip),
    reachMm,
    lowestFret: fretted.length ? Math.min(...fretted) : 0,
    get fingering() {
      return fingering()
    },
    get caution() {
      if (fingering() === undefined)
        return `No hand holds this: it needs ${tooMuch(fretted)}. Leave out a string.`
      return reachMm > hand.cautionMm
        ? `${Math.round(reachMm)} mm between the outer fingers ` +
            `(${hand.name.toLowerCase()}: up to ${hand.cautionMm}): ${ASK}`
        : undefined
    },
  }
}

/** The family a guitarist would file a shape under. */
export function shapeFamily(grip: Grip): string {
  const sounding = grip.strings
    .map((string, index) => ({ fret: string.fret, string: index + 1 }))
    .filter((string) => string.fret !== null)
  if (sounding.length === 0) return 'all muted'
  if (sounding.length === 1) return 'single note'
  const root = sounding.at(-1)!
  const shape = sounding.map(({ fret }) => fret! - root.fret!)
  if (sounding.length === 2 && shape[0] === 2)
    return sounding[0]!.string === root.string - 1 ? 'power' : 'octave'
  if (sounding.length === 3 && shape[1] === 2 && shape[0] === 2) return 'power'
  if (sounding.length >= 2 && sounding.length <= 3 && shape.every((step) => step === 0) && root.fret! > 0)
    return 'one finger'
  if (sounding.some(({ fret }) => fret === 0)) return 'open'
  if (sounding.length === 3 && sounding[2]!.string - sounding[0]!.string === 2) return 'three-string triad'
  return `movable, root on string ${root.string}`
}

/**
 * A grip from text low to high as it is usually written: "x32010", or "x-12-14-14-14-12". Undefined when it
 * is none.
 */
export function readGrip(text: string, strings: number): Grip | undefined {
  const tokens = text.includes('-') ? text.split('-') : [...text.trim()]
  if (tokens.length !== strings || tokens.some((token) => !/^(x|\d{1,2})$/i.test(token))) return undefined
  return { strings: tokens.reverse().map((token) => ({ fret: /x/i.test(token) ? null : Number(token) })) }
}

export function writeGrip(grip: Grip): string {
  const tokens = grip.strings.map((string) => (string.fret === null ? 'x' : String(string.fret))).reverse()
  return tokens.join(tokens.some((token) => token.length > 1) ? '-' : '')
}
