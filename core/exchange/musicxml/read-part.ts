// One part of a file as notes on strings: tied notes joined, the tablature staff where there is one, else
// every pitch laid on the neck by the way of the hand.
import { max, min } from 'd3-array'
import { soundingMidi } from '../../document/part-pitch'
import type { Part } from '../../document/schema'
import { midiOf } from '../../music/pitch'
import { noteOrder, type WrittenBar, type WrittenNote, type WrittenPart } from '../score/written-score'
import { partFor } from '../score/instrument-for'
import { placesOnNeck } from '../score/on-the-neck'
import type { PitchSide } from '../import-questions'
import type { ReadMeasure, ReadNote } from './read-measure'
import { withSlashes, type ChordsSaid } from './slashes'
import { childOf, childrenOf, numberOf, textOf, type XmlNode } from './xml'

export type PartMeasures = readonly ReadMeasure[]
interface Named {
  part: XmlNode
  listed: XmlNode | undefined
  number: number
}
export interface PartReading {
  bars: readonly WrittenBar[]
  /** Chords of the song, for slashes. */
  chords: ChordsSaid
  pitches: PitchSide
}
export interface ReadPart {
  /** Undefined where the part has nothing to play and no strings. */
  part: WrittenPart | undefined
  offNeck: number
  /** Slashes under no chord. */
  slashes: number
  differing: Differing[]
}
/** A note whose string and fret say another pitch than it does. */
export interface Differing {
  startTicks: number
  partName: string
  string: number
  fret: number
  fretMidi: number
  midi: number
}

const MOST_NAME = 60

export function readPart(
  measures: PartMeasures,
  { bars, chords, pitches }: PartReading,
  named: Named,
): ReadPart {
  const staff = tabStaff(named.part)
  const all = measures.flatMap((measure, place) => atPlace(measure, bars[place]!))
  const own = staff === undefined ? all : all.filter((note) => note.staff === staff)
  const joined = tied(own)
  const facts = partOf(
    named,
    min(
      joined.filter(({ slash }) => !slash),
      ({ midi }) => midi,
    ),
  )
  const struck = withSlashes(joined, chords, { part: facts, bars })
  const differing = differingNotes(struck.notes, facts)
  const asked = new Set(pitches === 'pitches' ? differing.map(({ note }) => note) : [])
  const meant = struck.notes.map((note) =>
    asked.has(note) ? { ...note, string: undefined, fret: undefined } : note,
  )
  const laid = onStrings(meant, facts)
  const found = {
    slashes: struck.lost,
    differing: differing.map(({ note: _note, ...one }) => one),
  }
  // A part that is silent throughout is one all the same when it has strings.
  if (!joined.length && !isStrung(named.part)) return { ...found, part: undefined, offNeck: 0 }
  const { name, instrument, tuning, sound } = facts
  const notes = laid.sort(noteOrder)
  return {
    ...found,
    part: { name, instrument, tuning, sound, notes, grips: [] },
    offNeck: meant.length - notes.length,
  }
}

/** Notes written an octave off throughout are only written so. */
function differingNotes(notes: readonly ReadNote[], part: Part): (Differing & { note: ReadNote })[] {
  const both = notes.flatMap((note) => {
    const { string, fret, midi, marks, startTicks } = note
    // A slash has no pitch of its own, and a harmonic sounds higher than its fret.
    const plain = midi > 0 && !marks.some(({ kind }) => kind.endsWith('harmonic'))
    if (!plain || string === undefined || fret === undefined || !part.tuning.openMidi[string - 1]) return []
    const fretMidi = soundingMidi(part, string, fret)
    return [{ note, startTicks, partName: part.name, string, fret, fretMidi, midi }]
  })
  const octaves = new Set(both.map(({ midi, fretMidi }) => midi - fretMidi))
  if (octaves.size === 1 && [...octaves].every((by) => by % 12 === 0)) return []
  return both.filter(({ midi, fretMidi }) => midi !== fretMidi)
}

const detailsOf = (part: XmlNode): readonly XmlNode[] =>
  childrenOf(part, 'measure')
    .flatMap((measure) => childrenOf(measure, 'attributes'))
    .flatMap((attributes) => childrenOf(attributes, 'staff-details'))
const isStrung = (part: XmlNode): boolean =>
  detailsOf(part).some((node) => childrenOf(node, 'staff-tuning').length > 0)

/** The notes of a measure in song time; what begins behind the bar line of a cut bar is none. */
const atPlace = ({ notes }: ReadMeasure, { startTicks, lengthTicks }: WrittenBar): ReadNote[] =>
  notes
    .filter((note) => note.startTicks < lengthTicks)
    .map((note) => ({ ...note, startTicks: note.startTicks + startTicks }))

function partOf({ part, listed, number }: Named, lowestMidi: number | undefined): Part {
  const tuned = detailsOf(part).find((node) => childrenOf(node, 'staff-tuning').length > 0)
  const lines = childrenOf(tuned, 'staff-tuning')
    .toSorted((a, b) => Number(b.attributes.line) - Number(a.attributes.line))
    .map(openPitch)
  const midiProgram = numberOf(childOf(listed, 'midi-instrument'), 'midi-program')
  const instrument = textOf(childOf(listed, 'score-instrument'), 'instrument-name')
  const name = textOf(listed, 'part-name').slice(0, MOST_NAME)
  return partFor(
    {
      openMidi: lines.every((midi) => midi !== undefined) ? lines.flatMap((midi) => midi ?? []) : [],
      name: instrument || name,
      program: midiProgram === undefined ? undefined : midiProgram - 1,
      // A capo may be said without any strings.
      capo: detailsOf(part)
        .map((node) => numberOf(node, 'capo'))
        .find((capo) => capo !== undefined),
      lowestMidi,
    },
    { id: `part-${number}`, name: name || `Part ${number}` },
  )
}

function openPitch(node: XmlNode): number | undefined {
  const midi = midiOf(`${textOf(node, 'tuning-step')}${textOf(node, 'tuning-octave')}`)
  return midi === undefined ? undefined : midi + (numberOf(node, 'tuning-alter') ?? 0)
}

/** The staff with a tablature clef; undefined when the part has none, or only one staff. */
function tabStaff(part: XmlNode): number | undefined {
  const attributes = childrenOf(part, 'measure').flatMap((measure) => childrenOf(measure, 'attributes'))
  const staves = max(attributes, (node) => numberOf(node, 'staves') ?? 1) ?? 1
  if (staves < 2) return undefined
  const tab = attributes
    .flatMap((node) => childrenOf(node, 'clef'))
    .find((clef) => textOf(clef, 'sign') === 'TAB')
  return tab && Number(tab.attributes.number ?? 1)
}

/** Tied notes as one: the ties of a string, or of a pitch where no string is given. */
function tied(notes: readonly ReadNote[]): ReadNote[] {
  const open = new Map<string, ReadNote>()
  const whole: ReadNote[] = []
  for (const note of notes.toSorted((a, b) => a.startTicks - b.startTicks)) {
    const key = note.string === undefined ? `pitch ${note.midi}` : `string ${note.string} ${note.fret}`
    const before = note.tieStop ? open.get(key) : undefined
    const joins = before && before.startTicks + before.lengthTicks === note.startTicks
    const kept = joins ? before : { ...note }
    if (joins) before.lengthTicks += note.lengthTicks
    else whole.push(kept)
    if (note.tieStart) open.set(key, kept)
    else open.delete(key)
  }
  return whole
}

const highestFret = ({ instrument }: Part): number => instrument.fretCount - instrument.capo

/** What the file lays on a string stays there; the rest goes where the hand finds it. */
function onStrings(notes: readonly ReadNote[], part: Part): WrittenNote[] {
  const fits = ({ string, fret }: ReadNote): boolean =>
    string !== undefined &&
    fret !== undefined &&
    Number.isInteger(string) &&
    Number.isInteger(fret) &&
    string >= 1 &&
    string <= part.tuning.openMidi.length &&
    fret >= 0 &&
    fret <= highestFret(part)
  const given = notes.filter(fits).map((note) => written(note, note.string!, note.fret!, part))
  return [
    ...given,
    ...laid(
      notes.filter((note) => !fits(note)),
      part,
    ),
  ]
}

function laid(notes: readonly ReadNote[], part: Part): WrittenNote[] {
  const places = placesOnNeck(notes, part)
  return notes.flatMap((note, index) => {
    const place = places[index]
    return place ? [written(note, place.string, place.fret, part)] : []
  })
}

function written(note: ReadNote, string: number, fret: number, part: Part): WrittenNote {
  const { startTicks, lengthTicks, marks, pick, finger, pluck } = note
  return {
    string,
    fret,
    midi: soundingMidi(part, string, fret),
    startTicks,
    lengthTicks,
    marks,
    ...(pick ? { pick } : {}),
    ...(finger ? { finger } : {}),
    ...(pluck ? { pluck } : {}),
  }
}
