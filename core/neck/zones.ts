// A scale on the neck: every place over the whole neck, and the zones a hand plays without moving, each named
// by the fret under the index finger and the degree it begins on.
import { degreeAbove, scaleKind } from '../music/scale'
import { pitchClassOf } from '../music/pitch'
import { soundingMidi } from '../document/part-pitch'
import type { Part } from '../document/schema'

export interface ScaleName {
  tonic: string
  /** A name of SCALE_KINDS: "minor pentatonic". */
  name: string
}
export interface NeckPlace {
  string: number
  fret: number
  midi: number
  /** "1", "b3". */
  degree: string
}
export interface Zone {
  /** The fret under the index finger. */
  position: number
  places: NeckPlace[]
  /** Degree of its lowest note. */
  lowest: string
  /** The string on which the lowest root of the zone lies; undefined when there is none in it. */
  rootString: number | undefined
}

/** A hand in one position reaches this many frets. */
const REACH_FRETS = 4
/** One fret below the index finger or above the little one is stretched to. */
const STRETCH_FRETS = 1

const highestFret = ({ instrument }: Part): number => instrument.fretCount - instrument.capo

/** Every place of a scale on a neck, string 1 first, each string from the nut up. */
export function scalePlaces(part: Part, { tonic, name }: ScaleName): NeckPlace[] {
  const kind = scaleKind(name)
  const root = pitchClassOf(tonic)
  const inside = new Set(kind.semitones.map((semitones) => (root + semitones) % 12))
  return part.tuning.openMidi.flatMap((_, index) =>
    Array.from({ length: highestFret(part) + 1 }, (__, fret): NeckPlace => {
      const midi = Math.round(soundingMidi(part, index + 1, fret))
      return { string: index + 1, fret, midi, degree: degreeAbove(midi, root, kind) }
    }).filter(({ midi }) => inside.has(midi % 12)),
  )
}

/**
 * The places of a zone: per string those under the hand; where a tone between two strings would be missing,
 * the one it stretches for.
 */
function zoneAt(part: Part, all: readonly NeckPlace[], position: number): NeckPlace[] {
  const last = position + REACH_FRETS - 1
  const near = all.filter(({ fret }) => fret >= position && fret <= last)
  const sounds = new Set(near.map(({ midi }) => midi))
  const lowest = Math.min(...sounds)
  const highest = Math.max(...sounds)
  const stretched = all.filter(
    ({ fret, midi }) =>
      (fret === position - STRETCH_FRETS || fret === last + STRETCH_FRETS) &&
      fret > 0 &&
      midi > lowest &&
      midi < highest &&
      !sounds.has(midi),
  )
  // A tone that could be stretched for on two strings is taken where the hand stretches up.
  const taken = new Map<number, NeckPlace>()
  for (const place of stretched)
    if (!taken.has(place.midi) || place.fret > position) taken.set(place.midi, place)
  return [...near, ...taken.values()].sort((a, b) => a.midi - b.midi || b.string - a.string)
}

/**
 * The zones of a scale up to the octave: one for each degree the lowest string begins on, in the order of the
 * neck. Together they hold every tone of the scale at least once.
 */
export function scaleZones(part: Part, scale: ScaleName): Zone[] {
  const all = scalePlaces(part, scale)
  const lowString = part.tuning.openMidi.length
  const starts = all.filter(({ string, fret }) => string === lowString && fret >= 1 && fret <= 12)
  return starts.flatMap(({ fret: position }): Zone[] => {
    const places = zoneAt(part, all, position)
    const [first] = places
    if (!first) return []
    const root = places.find(({ degree }) => degree === '1')
    return [{ position, places, lowest: first.degree, rootString: root?.string }]
  })
}

/** "position 3, lowest ♭3, root on string 5". */
export function zoneWords({ position, lowest, rootString }: Zone): string {
  const from = `lowest ${lowest === '1' ? 'the root' : lowest.replace('b', '♭').replace('#', '♯')}`
  return [`position ${position}`, from, ...(rootString ? [`root on string ${rootString}`] : [])].join(', ')
}

/**
 * Degrees counted from a root on one string: where each of them lies on the same string, up to the octave.
 */
export function degreesOnString(part: Part, scale: ScaleName, string: number): NeckPlace[] {
  const root = pitchClassOf(scale.tonic)
  const own = scalePlaces(part, scale).filter((place) => place.string === string)
  const first = own.findIndex(({ midi }) => midi % 12 === root)
  if (first === -1) return []
  const from = own[first]!.midi
  return own.slice(first).filter(({ midi }) => midi <= from + 12)
}
