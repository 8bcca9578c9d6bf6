// Thinking on the neck from the command line: zones of a scale, movable shapes, tension, what to improvise
// with, riffs side by side.
import type { Part, Song } from '../core/document/schema'
import { orderedSections } from '../core/document/form'
import { writeGrip } from '../core/neck/grips/grip'
import { movableShapes } from '../core/neck/movable-shapes'
import { scaleZones, zoneWords } from '../core/neck/zones'
import { stringTensions } from '../core/instrument/string-tension'
import { pitchClassOf } from '../core/music/pitch'
import { degreeAbove, SCALE_KINDS } from '../core/music/scale'
import { improviseOver } from '../core/explore/improvise'
import { findLicks, lickPlaceWords } from '../core/explore/licks'
import { riffScales } from '../core/explore/riff-scales'
import { Complaint, type Answer, type Flags } from './answer'
import { partFrom, value } from './flag-values'

/** "A minor pentatonic": a tonic and the name of a scale. */
function scaleFrom(text: string): { tonic: string; name: string } {
  const [tonic = '', ...rest] = text.trim().split(/\s+/)
  const name = rest.join(' ').toLowerCase()
  if (Number.isNaN(pitchClassOf(tonic)) || !SCALE_KINDS.some((kind) => kind.name === name))
    throw new Complaint(
      `“${text}” is no scale: a tonic and one of ${SCALE_KINDS.map((kind) => kind.name).join(', ')}.`,
    )
  return { tonic, name }
}

/** The zones of a scale on a neck. */
export function zones(text: string, flags: Flags): Answer {
  const scale = scaleFrom(text)
  const found = scaleZones(partFrom(flags), scale)
  const data = {
    ...scale,
    zones: found.map((zone) => ({
      position: zone.position,
      lowest: zone.lowest,
      rootString: zone.rootString ?? null,
      places: zone.places.map(({ string, fret, degree }) => ({ string, fret, degree })),
    })),
  }
  const line = (zone: (typeof found)[number]): string =>
    `${zoneWords(zone)}: ${zone.places.map(({ string, fret }) => `${string}/${fret}`).join(' ')}`
  return { data, words: found.map(line).join('\n') }
}

/** The movable shapes of a chord. */
export function shapes(text: string, flags: Flags): Answer {
  const found = value(movableShapes(text, partFrom(flags)))
  const data = {
    chord: text,
    shapes: found.map(({ grip, rootString, rootFret }) => ({ grip: writeGrip(grip), rootString, rootFret })),
  }
  const words = found.map(({ grip, words: said }) => `${writeGrip(grip)}  ${said}`).join('\n')
  return { data, words: words || 'No shape without an open string within twelve frets.' }
}

/** Gauges in thousandths of an inch, string 1 first, or low to high where the first is the thickest. */
function gaugesFrom(text: string | undefined, part: Part): number[] | undefined {
  if (text === undefined) return undefined
  const gauges = text
    .trim()
    .split(/[\s,-]+/)
    .map((one) => Number(one) / 1000)
  if (gauges.length !== part.tuning.openMidi.length || gauges.some((one) => !(one >= 0.005 && one <= 0.2)))
    throw new Complaint(
      `--gauges wants ${part.tuning.openMidi.length} numbers from 5 to 200, in thousandths of an inch.`,
    )
  return gauges[0]! > gauges.at(-1)! ? gauges.reverse() : gauges
}

/** How tight each string is. */
export function tension(flags: Flags): Answer {
  const part = partFrom(flags)
  const gauges = gaugesFrom(flags.gauges, part)
  const strings = stringTensions({
    ...part,
    instrument: { ...part.instrument, ...(gauges ? { gauges } : {}) },
  })
  return {
    data: { strings: strings.map((one) => ({ ...one, caution: one.caution ?? null })) },
    words: strings
      .map(
        ({ stringNumber, gauge, newtons, caution }) =>
          `string ${stringNumber}: ${gauge} inch, ${newtons} N${caution ? `, ${caution}` : ''}`,
      )
      .join('\n'),
  }
}

/** What to improvise with over a section. */
export function improvise(song: Song, flags: Flags): Answer {
  const sections = orderedSections(song)
  const wanted = flags.section?.toLowerCase()
  const section = sections.find(({ name }) => name.toLowerCase() === wanted)
  if (!section)
    throw new Complaint(
      `Say which section: --section NAME. This song has: ${sections.map(({ name }) => name).join(', ')}.`,
    )
  const scales = improviseOver(song, section)
  return {
    data: { section: section.name, scales },
    words:
      scales
        .map(({ tonic, name, why, mind }) => [`${tonic} ${name}: ${why}`, ...mind].join('; '))
        .join('\n') || `No chord is known in ${section.name}.`,
  }
}

/** All riffs on the root of the song. */
export function riffs(song: Song): Answer {
  const found = riffScales(song)
  const degree = (semitone: number): string => degreeAbove(semitone, 0)
  const data = {
    root: found.root,
    shared: found.shared.map(degree),
    riffs: found.riffs.map(({ name, scale, degrees }) => ({ name, scale, degrees: degrees.map(degree) })),
  }
  const line = ({ name, scale, degrees }: (typeof data.riffs)[number]): string =>
    `${name}: ${scale.tonic} ${scale.name}, on ${data.root}: ${degrees.join(' ')}`
  return { data, words: [...data.riffs.map(line), `shared: ${data.shared.join(' ') || 'none'}`].join('\n') }
}

/** Named phrases and where else they are played. */
export function licks(song: Song): Answer {
  const nameOf = (figureId: string): string => song.figures[figureId]?.name ?? figureId
  const found = findLicks(song)
  const data = found.map(({ lick, figureId, notes, places, plays }) => ({
    name: lick.name,
    figure: nameOf(figureId),
    notes,
    plays,
    places: places.map((place) => ({
      figure: nameOf(place.figureId),
      startTicks: place.startTicks,
      shiftSemitones: place.shiftSemitones,
      words: lickPlaceWords(place, notes),
    })),
  }))
  const words = data.map(
    ({ name, figure, plays, places }) =>
      `“${name}” of ${figure}, ${plays} times: ` +
      (places.map((place) => `${place.figure} (${place.words})`).join('; ') || 'nowhere else'),
  )
  return { data: { licks: data }, words: words.join('\n') || 'No phrase has a name yet.' }
}
