// A whole Standard MIDI File as a written score: meters, tempo, sections by its markers, a part for each
// track with notes, laid on the strings by the way of the hand; what the pitch wheel does to a note as a
// bend.
import { bisector, max, min } from 'd3-array'
import { parseMidi, type MidiData, type MidiEvent } from 'midi-file'
import { soundingMidi } from '../../document/part-pitch'
import type { Part } from '../../document/schema'
import { keyOfSignature, type Key } from '../../music/pitch'
import { barTicks, MOST_BARS, STRAIGHT, TICKS_PER_QUARTER, type Meter } from '../../time/meter'
import { ok, refuse, type Result } from '../../result'
import { midiBytesProblem } from '../midi-notes'
import { partFor } from '../score/instrument-for'
import { placesOnNeck } from '../score/on-the-neck'
import { TIMINGS, type ImportAnswers, type ImportQuestion, type Timing } from '../import-questions'
import { secondsByTempo } from '../score/tempo-seconds'
import { quantised, rolledTogether, timingOf } from './quantise'
import {
  asText,
  byChannel,
  drumNotes,
  readTrack,
  textIn,
  type Events,
  type HeardNote,
  type Track,
} from './midi-track'
import {
  dropped,
  noteOrder,
  type Dropped,
  type WrittenBar,
  type WrittenNote,
  type WrittenPart,
  type WrittenScore,
  type WrittenTempo,
} from '../score/written-score'

const MOST_NOTES = 20_000
const MOST_TRACKS = 40

interface ReadMidi {
  score: WrittenScore
  dropped: Dropped[]
  questions: ImportQuestion[]
}

/** Refused when it is no MIDI file, damaged, or without notes. */
export function readMidiFile(bytes: Uint8Array, name: string, answers: ImportAnswers = {}): Result<ReadMidi> {
  if (bytes.length < 14 || String.fromCharCode(...bytes.subarray(0, 4)) !== 'MThd')
    return refuse('midi', 'This is not a MIDI file: it does not begin like one.')
  const problem = midiBytesProblem(bytes)
  if (problem) return refuse('midi', `This MIDI file ${problem}`)
  let data: MidiData
  try {
    data = parseMidi(bytes)
  } catch {
    return refuse('midi', 'This MIDI file is damaged: export it anew.')
  }
  const scale = TICKS_PER_QUARTER / (data.header.ticksPerBeat ?? TICKS_PER_QUARTER)
  const tracks = data.tracks.map((track) => inTicks(track, scale))
  return scoreOf(tracks, { name, answers, parted: data.header.format === 0 })
}

function inTicks(track: readonly MidiEvent[], scale: number): Events {
  let at = 0
  return track.map((event) => {
    at += event.deltaTime
    return { tick: Math.round(at * scale), event }
  })
}

function scoreOf(
  tracks: readonly Events[],
  { name, answers, parted }: { name: string; answers: ImportAnswers; parted: boolean },
): Result<ReadMidi> {
  const all = tracks.flat()
  const endTicks = max(all, ({ tick }) => tick) ?? 0
  const voices = parted ? tracks.flatMap(byChannel) : tracks
  const heard = voices.map(readTrack).filter(({ notes }) => notes.length > 0)
  if (!heard.length) return refuse('midi', 'There are no notes in this MIDI file (drums are left out).')
  const count = heard.reduce((sum, { notes }) => sum + notes.length, 0)
  if (heard.length > MOST_TRACKS || count > MOST_NOTES)
    return refuse('midi', `This MIDI file has more than ${MOST_NOTES} notes or ${MOST_TRACKS} tracks.`)
  const bars = barsOf(all, endTicks)
  if (!bars) return refuse('midi', `This MIDI file is longer than ${MOST_BARS} bars.`)
  const tempo = tempoOf(all)
  const { written, questions } = timed(heard, tempo, answers)
  const parts = written.map((track, index) => partOf(track, index))
  const title = textIn(tracks[0] ?? [], 'trackName') || name
  return ok({
    score: {
      title: title.slice(0, 200) || 'A MIDI file brought in',
      artist: '',
      key: keyOf(all),
      ...(all.some(({ event }) => event.type === 'keySignature') ? {} : { keyUnknown: true }),
      feel: { subdivision: 'sixteenths', swing: STRAIGHT },
      bars,
      harmony: [],
      tempo,
      parts: parts.map(({ part }) => part),
      endTicks: bars.reduce((sum, bar) => sum + bar.lengthTicks, 0),
    },
    dropped: leftOut(voices, parts),
    questions,
  })
}

const TIMING_WORDS: Record<Timing, string> = {
  'as played': 'as it was played',
  eighths: 'to eighths',
  triplets: 'to triplets of eighths',
  sixteenths: 'to sixteenths',
  'sixteenths and triplets': 'to sixteenths and triplets',
}

/** Tracks as they are written: chords together, and times that a hand played on a grid. */
function timed(
  heard: readonly Track[],
  tempo: readonly WrittenTempo[],
  answers: ImportAnswers,
): { written: Track[]; questions: ImportQuestion[] } {
  const seconds = secondsByTempo(tempo)
  const together = heard.map((track) => {
    const inOrder = track.notes.toSorted((a, b) => a.startTicks - b.startTicks)
    return { ...track, notes: rolledTogether(inOrder, seconds) }
  })
  const found = timingOf(together.flatMap(({ notes }) => notes))
  if (!found) return { written: together, questions: [] }
  const taken = answers.timing ?? found
  const question: ImportQuestion = {
    id: 'timing',
    text: 'These notes were played by hand and stand beside the beats. How are they written?',
    taken,
    options: TIMINGS.map((value) => ({ value, words: TIMING_WORDS[value] })),
  }
  return {
    written: together.map((track) => ({ ...track, notes: quantised(track.notes, taken) })),
    questions: [question],
  }
}

function keyOf(events: Events): Key {
  const said = events.find(({ event }) => event.type === 'keySignature')?.event
  const known = said?.type === 'keySignature' && Math.abs(said.key) <= 7
  return known
    ? keyOfSignature(said.key, said.scale === 1 ? 'minor' : 'major')
    : { tonic: 'C', mode: 'major' }
}

function tempoOf(events: Events): WrittenTempo[] {
  const found = new Map<number, number>([[0, 120]])
  for (const { tick, event } of events)
    if (event.type === 'setTempo' && event.microsecondsPerBeat > 0)
      found.set(tick, 60_000_000 / event.microsecondsPerBeat)
  return [...found]
    .map(([startTicks, quartersPerMinute]) => ({ startTicks, quartersPerMinute }))
    .filter(({ quartersPerMinute }) => quartersPerMinute >= 10 && quartersPerMinute <= 1000)
    .sort((a, b) => a.startTicks - b.startTicks)
}

/** A mark stands in the bar whose first half it lies in, else in the next. */
const nearestBar = bisector(({ startTicks, lengthTicks }: WrittenBar) => startTicks + lengthTicks / 2).right

const UNITS = new Set([2, 4, 8, 16])
const MOST_BEATS = 32

/** Bars to the end, with the markers nearest to where each begins; undefined when there are too many. */
function barsOf(events: Events, endTicks: number): WrittenBar[] | undefined {
  const meters = events
    .flatMap(({ tick, event }) =>
      event.type === 'timeSignature' && UNITS.has(event.denominator) && event.numerator <= MOST_BEATS
        ? [{ tick, meter: { beats: Math.max(1, event.numerator), unit: event.denominator } as Meter }]
        : [],
    )
    .sort((a, b) => a.tick - b.tick)
  const bars: WrittenBar[] = []
  let meter: Meter = { beats: 4, unit: 4 }
  let next = 0
  for (let startTicks = 0; startTicks < Math.max(endTicks, 1);) {
    if (bars.length >= MOST_BARS) return undefined
    for (let said = meters[next]; said && said.tick <= startTicks; said = meters[++next]) meter = said.meter
    const lengthTicks = barTicks(meter)
    bars.push({ startTicks, lengthTicks, meter, free: false })
    startTicks += lengthTicks
  }
  for (const { tick, event } of events) {
    if (event.type !== 'marker') continue
    const bar = bars[nearestBar(bars, tick)]
    const name = asText(event).slice(0, 80)
    if (bar && name) bar.section = name
  }
  return bars
}

function partOf(track: Track, index: number): { part: WrittenPart; offNeck: number } {
  const name = track.name.slice(0, 60) || `Track ${index + 1}`
  const part = partFor(
    {
      openMidi: [],
      name,
      program: track.program,
      lowestMidi: min(track.notes, ({ midi }) => midi),
    },
    { id: `part-${index + 1}`, name },
  )
  const notes = laid(track.notes, part)
  const { instrument, tuning, sound } = part
  return {
    part: { name, instrument, tuning, sound, notes: notes.sort(noteOrder), grips: [] },
    offNeck: track.notes.length - notes.length,
  }
}

function laid(notes: readonly HeardNote[], part: Part): WrittenNote[] {
  const places = placesOnNeck(
    notes.map((note) => ({ ...note, pressed: note.bend.length > 0 })),
    part,
  )
  return notes.flatMap(({ startTicks, lengthTicks, bend, accent }, index) => {
    const place = places[index]
    if (!place) return []
    const midi = soundingMidi(part, place.string, place.fret)
    return [{ ...place, midi, startTicks, lengthTicks, marks: accent ? [...bend, { kind: 'accent' }] : bend }]
  })
}

function leftOut(tracks: readonly Events[], parts: readonly { offNeck: number }[]): Dropped[] {
  const pedals = tracks
    .flat()
    .filter(({ event }) => event.type === 'controller' && event.controllerType === 64).length
  return dropped([
    ...tracks.map((events, index) => ({
      what: `drum notes of “${textIn(events, 'trackName').slice(0, 60) || `Track ${index + 1}`}”`,
      count: drumNotes(events),
      why: 'drums are not charted',
    })),
    {
      what: 'notes off the neck',
      count: parts.reduce((sum, { offNeck }) => sum + offNeck, 0),
      why: 'no string of the instrument reaches them',
    },
    { what: 'pedal changes', count: pedals, why: 'lengths are kept as the keys were held' },
  ])
}
