// One measure of one part as the file has it: what begins when, in ticks from its start.
import { midiOf } from '../../music/pitch'
import { TICKS_PER_QUARTER } from '../../time/meter'
import type { Grip } from '../../document/schema'
import { readFrame, readHarmony } from './read-harmony'
import { readMarks, type ReadMarks } from './read-marks'
import { childOf, childrenOf, numberOf, textOf, type XmlNode } from './xml'

export interface ReadNote extends ReadMarks {
  startTicks: number
  lengthTicks: number
  midi: number
  string: number | undefined
  fret: number | undefined
  staff: number
  tieStop: boolean
  tieStart: boolean
  /** Written as a slash: the rhythm in which the chord is struck. */
  slash: boolean
}
export interface ReadMeasure {
  notes: ReadNote[]
  harmony: { startTicks: number; symbol: string; frame?: Grip | undefined }[]
  tempo: { startTicks: number; quartersPerMinute: number }[]
  rehearsal: string | undefined
  words: string[]
  /** Where the last of it ends. */
  lengthTicks: number
  /** Notes without a pitch: drums. */
  unpitched: number
  /** Small notes of what another plays. */
  cues: number
}

/** What holds from measure to measure. */
export interface Running {
  divisions: number
  /** Semitones from the written to the sounding pitch. */
  transpose: number
  /** Measures are drawn as slashes. */
  slashes: boolean
}

const MOST_TICKS = TICKS_PER_QUARTER * 4 * 64
const SLOWEST = 10
const FASTEST = 1000

interface Cursor {
  at: number
  /** Where the last note began: further notes of a chord begin there too. */
  chordAt: number
  furthest: number
  grace: Map<number, number>
}

/** Reads one measure; `running` changes as the measure says. */
export function readMeasure(measure: XmlNode, running: Running): ReadMeasure {
  const found: ReadMeasure = {
    notes: [],
    harmony: [],
    tempo: [],
    rehearsal: undefined,
    words: [],
    lengthTicks: 0,
    unpitched: 0,
    cues: 0,
  }
  const cursor: Cursor = { at: 0, chordAt: 0, furthest: 0, grace: new Map() }
  const ticks = (units: number | undefined): number => {
    const value = Math.round(((units ?? 0) * TICKS_PER_QUARTER) / running.divisions)
    return Number.isFinite(value) ? Math.max(-MOST_TICKS, Math.min(MOST_TICKS, value)) : 0
  }
  const placed = (node: XmlNode): number => Math.max(0, cursor.at + ticks(numberOf(node, 'offset')))
  const move = (by: number): void => {
    cursor.at = Math.max(0, Math.min(MOST_TICKS, cursor.at + by))
    cursor.furthest = Math.max(cursor.furthest, cursor.at)
  }
  for (const node of measure.children)
    switch (node.name) {
      case 'attributes':
        takeAttributes(node, running)
        break
      case 'backup':
        move(-ticks(numberOf(node, 'duration')))
        break
      case 'forward':
        move(ticks(numberOf(node, 'duration')))
        break
      case 'harmony':
        takeHarmony(node, placed(node), found)
        break
      case 'direction':
        takeDirection(node, placed(node), found)
        break
      case 'sound':
        takeTempo(node.attributes.tempo, placed(node), found)
        break
      case 'note':
        takeNote(node, { cursor, running, found, ticks, move })
        break
    }
  found.lengthTicks = cursor.furthest
  return found
}

function takeAttributes(node: XmlNode, running: Running): void {
  const divisions = numberOf(node, 'divisions')
  if (divisions && divisions > 0) running.divisions = divisions
  const transpose = childOf(node, 'transpose')
  if (transpose)
    running.transpose =
      (numberOf(transpose, 'chromatic') ?? 0) + 12 * (numberOf(transpose, 'octave-change') ?? 0)
  const slash = childrenOf(node, 'measure-style')
    .map((style) => childOf(style, 'slash'))
    .find(Boolean)
  if (slash) running.slashes = slash.attributes.type !== 'stop'
}

function takeHarmony(node: XmlNode, startTicks: number, found: ReadMeasure): void {
  const symbol = readHarmony(node)
  if (symbol) found.harmony.push({ startTicks, symbol, frame: readFrame(node) })
}

function takeTempo(text: string | undefined, startTicks: number, found: ReadMeasure): void {
  const quartersPerMinute = Number(text)
  if (text === undefined || !(quartersPerMinute >= SLOWEST && quartersPerMinute <= FASTEST)) return
  // Said twice at a place, the later holds.
  found.tempo = [
    ...found.tempo.filter((one) => one.startTicks !== startTicks),
    { startTicks, quartersPerMinute },
  ]
}

const QUARTERS: Record<string, number> = { whole: 4, half: 2, quarter: 1, eighth: 0.5, '16th': 0.25 }

function takeDirection(node: XmlNode, startTicks: number, found: ReadMeasure): void {
  const types = childrenOf(node, 'direction-type')
  for (const type of types) {
    found.rehearsal ??= textOf(type, 'rehearsal') || undefined
    found.words.push(...childrenOf(type, 'words').map(({ text }) => text.trim()))
  }
  const sound = childOf(node, 'sound')?.attributes.tempo
  if (sound !== undefined) {
    takeTempo(sound, startTicks, found)
    return
  }
  const metronome = types.map((type) => childOf(type, 'metronome')).find(Boolean)
  const unit = QUARTERS[textOf(metronome, 'beat-unit')]
  const perMinute = Number(textOf(metronome, 'per-minute'))
  const dot = metronome && childOf(metronome, 'beat-unit-dot') ? 1.5 : 1
  if (unit && perMinute) takeTempo(String(perMinute * unit * dot), startTicks, found)
}

interface NoteContext {
  cursor: Cursor
  running: Running
  found: ReadMeasure
  ticks: (units: number | undefined) => number
  move: (by: number) => void
}

function takeNote(node: XmlNode, { cursor, running, found, ticks, move }: NoteContext): void {
  const technical = childrenOf(node, 'notations').flatMap((one) => childrenOf(one, 'technical'))
  const string = technical.map((one) => numberOf(one, 'string')).find((value) => value !== undefined)
  const fret = technical.map((one) => numberOf(one, 'fret')).find((value) => value !== undefined)
  if (childOf(node, 'grace')) {
    if (string !== undefined && fret !== undefined) cursor.grace.set(string, fret)
    return
  }
  const inChord = childOf(node, 'chord') !== undefined
  const lengthTicks = ticks(numberOf(node, 'duration'))
  const startTicks = inChord ? cursor.chordAt : cursor.at
  if (!inChord) {
    cursor.chordAt = cursor.at
    move(lengthTicks)
  }
  if (childOf(node, 'rest') || lengthTicks <= 0) return
  if (childOf(node, 'cue')) {
    found.cues += 1
    return
  }
  const slash = running.slashes || textOf(node, 'notehead') === 'slash'
  const midi = slash ? 0 : pitchOf(node, running.transpose)
  if (midi === undefined) {
    found.unpitched += 1
    return
  }
  const ties = childrenOf(node, 'tie').map(({ attributes }) => attributes.type)
  found.notes.push({
    startTicks,
    lengthTicks,
    midi,
    string,
    fret,
    staff: numberOf(node, 'staff') ?? 1,
    tieStop: ties.includes('stop'),
    tieStart: ties.includes('start'),
    slash,
    ...withGrace(readMarks(node), fret, cursor.grace.get(string ?? 0)),
  })
  if (string !== undefined) cursor.grace.delete(string)
}

function pitchOf(node: XmlNode, transpose: number): number | undefined {
  const pitch = childOf(node, 'pitch')
  const written = midiOf(`${textOf(pitch, 'step')}${textOf(pitch, 'octave')}`)
  if (!pitch || written === undefined) return undefined
  const midi = Math.round(written + (numberOf(pitch, 'alter') ?? 0) + transpose)
  return midi >= 0 && midi <= 127 ? midi : undefined
}

const MOST_GRACE = 7
/** A grace note before on the same string is a mark of the note. */
function withGrace(marks: ReadMarks, fret: number | undefined, from: number | undefined): ReadMarks {
  const known = marks.marks.some(({ kind }) => kind === 'grace')
  if (fret === undefined || from === undefined || known) return marks
  const frets = from - fret
  if (frets === 0 || Math.abs(frets) > MOST_GRACE || !Number.isInteger(frets)) return marks
  return { ...marks, marks: [...marks.marks, { kind: 'grace', frets }] }
}
