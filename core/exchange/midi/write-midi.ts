// The chart as a Standard MIDI File (format 1): the tempo of the record, meters, keys and sections in the
// first track, then a track a part, with the pitch wheel where a string is bent, slid or shaken. It sounds
// as it is played here: swung where the figure swings, muted notes short, nothing dead.
import { strToU8 } from 'fflate'
import { writeMidi, type MidiEvent } from 'midi-file'
import { orderedParts } from '../../document/form'
import type { Part, Song } from '../../document/schema'
import { signatureOf } from '../../music/pitch'
import { swungTick, TICKS_PER_QUARTER } from '../../time/meter'
import { notesOfPlay, type PlayedNote } from '../../score/perform'
import { playsOfPart, timelineOf, type Play } from '../../timeline/timeline'
import { scoreFromSong, type Scope } from '../score/from-song'
import {
  dropped,
  type Dropped,
  type WrittenBar,
  type WrittenScore,
  type WrittenWords,
} from '../score/written-score'
import { PROGRAM_OF_SOUND } from '../score/midi-programs'

/** The pitch wheel reaches so many semitones either way: said at the start of each track. */
export const BEND_SEMITONES = 24
const WHEEL_MIDDLE = 8192
/** A wheel is moved at most so often, ticks, and when the course has gone so far: two cents. */
const WHEEL_TICKS = TICKS_PER_QUARTER / 480
const WHEEL_SEMITONES = 0.02
const DRUM_CHANNEL = 9
const MOST_CHANNELS = 15

interface Timed {
  tick: number
  /** At one tick: what ends, then what is set, then what begins. */
  rank: number
  event: MidiEvent
}

export interface WrittenMidi {
  bytes: Uint8Array
  /** Of each part, in order. */
  notes: number[]
  dropped: Dropped[]
}

export function writeMidiFile(song: Song, scope: Scope = {}): WrittenMidi {
  const score = scoreFromSong(song, scope)
  const parts = orderedParts(song).filter(({ id }) => scope.partIds?.includes(id) ?? true)
  const from = startOf(song, scope)
  const perPart = parts.length * 2 <= MOST_CHANNELS ? 2 : 1
  const channels = Array.from({ length: 16 }, (_, index) => index).filter((index) => index !== DRUM_CHANNEL)
  const played = parts.map((part) =>
    playedNotes(song, part).filter(
      ({ startTicks }) => startTicks >= from && startTicks < from + score.endTicks,
    ),
  )
  const tracks = parts.map((part, index) => {
    const plain = channels[(index * perPart) % channels.length]!
    const bent = channels[(index * perPart + perPart - 1) % channels.length]!
    const notes = trackOf(part, played[index]!, { plain, bent, from })
    return [...notes, ...(score.parts[index]?.words ?? []).map(saidAt)]
  })
  const data = {
    header: { format: 1 as const, numTracks: tracks.length + 1, ticksPerBeat: TICKS_PER_QUARTER },
    tracks: [timed(formTrack(score)), ...tracks.map(timed)],
  }
  return {
    bytes: Uint8Array.from(writeMidi(data)),
    notes: played.map((notes) => notes.filter(({ dead }) => !dead).length),
    dropped: leftOut(played.flat()),
  }
}

const startOf = (song: Song, { sectionId }: Scope): number =>
  timelineOf(song).places.find(({ section }) => section.id === sectionId)?.startTicks ?? 0

/** What a part sounds, in ticks of the song. */
function playedNotes(song: Song, part: Part): PlayedNote[] {
  return playsOfPart(song, part.id).flatMap((play) => playedIn(song, play))
}

function playedIn(song: Song, play: Play): PlayedNote[] {
  const { figure, startTicks } = play
  if (!figure) return []
  const swung = (tick: number): number =>
    startTicks + Math.round(swungTick(tick, figure.feel.swing, figure.meter))
  return notesOfPlay(song, play).map((note) => ({
    ...note,
    startTicks: swung(note.startTicks),
    endTicks: Math.max(swung(note.startTicks) + 1, swung(note.endTicks)),
  }))
}

/** Texts go as UTF-8: the library writes a byte a character. */
const asBytes = (text: string): string => String.fromCharCode(...strToU8(text.slice(0, 200)))

const metaAt = (tick: number, event: MidiEvent): Timed => ({
  tick,
  rank: 0,
  event: { ...event, meta: true } as MidiEvent,
})

/** What is said in words at a place. */
const saidAt = ({ startTicks, text }: WrittenWords): Timed =>
  metaAt(startTicks, { deltaTime: 0, type: 'text', text: asBytes(text) })

/** Tempo, meters, keys, sections and what is said to the whole band. */
function formTrack(score: WrittenScore): Timed[] {
  return [
    metaAt(0, { deltaTime: 0, type: 'trackName', text: asBytes(score.title) }),
    ...score.tempo.map(({ startTicks, quartersPerMinute }) =>
      metaAt(startTicks, {
        deltaTime: 0,
        type: 'setTempo',
        microsecondsPerBeat: Math.min(0xffffff, Math.round(60_000_000 / quartersPerMinute)),
      }),
    ),
    ...score.bars.flatMap((bar, index) => barEvents(score, bar, index)),
    ...(score.words ?? []).map(saidAt),
    metaAt(score.endTicks, { deltaTime: 0, type: 'text', text: 'end' }),
  ]
}

function barEvents({ bars, key }: WrittenScore, bar: WrittenBar, index: number): Timed[] {
  const { beats, unit } = bar.meter
  const before = bars[index - 1]?.meter
  const signed = index === 0 ? key : bar.key
  const at = (event: MidiEvent): Timed => metaAt(bar.startTicks, event)
  const meter = { numerator: beats, denominator: unit, metronome: 24, thirtyseconds: 8 }
  return [
    ...(before?.beats === beats && before.unit === unit
      ? []
      : [at({ deltaTime: 0, type: 'timeSignature', ...meter })]),
    ...(signed
      ? [
          at({
            deltaTime: 0,
            type: 'keySignature',
            key: Math.max(-7, Math.min(7, signatureOf(signed))),
            scale: signed.mode === 'minor' ? 1 : 0,
          }),
        ]
      : []),
    ...(bar.section ? [at({ deltaTime: 0, type: 'marker', text: asBytes(bar.section) })] : []),
  ]
}

interface Channels {
  plain: number
  bent: number
  from: number
}

function trackOf(part: Part, notes: readonly PlayedNote[], channels: Channels): Timed[] {
  const { plain, bent, from } = channels
  const used = [...new Set([plain, bent])]
  const heads: Timed[] = [
    {
      tick: 0,
      rank: 0,
      event: { deltaTime: 0, meta: true, type: 'trackName', text: asBytes(part.name) },
    },
    ...used.flatMap((channel) => headOf(part, channel)),
  ]
  return [
    ...heads,
    ...notes.filter(({ dead }) => !dead).flatMap((note) => noteEvents(note, { plain, bent, from })),
  ]
}

/** The program of the part, and how far its wheel reaches (registered parameter 0). */
function headOf(part: Part, channel: number): Timed[] {
  const at = (event: MidiEvent): Timed => ({ tick: 0, rank: 1, event })
  const controller = (controllerType: number, value: number): Timed =>
    at({ deltaTime: 0, type: 'controller', channel, controllerType, value })
  return [
    at({ deltaTime: 0, type: 'programChange', channel, programNumber: PROGRAM_OF_SOUND[part.sound] }),
    controller(101, 0),
    controller(100, 0),
    controller(6, BEND_SEMITONES),
    controller(38, 0),
  ]
}

/** Muted notes sound so much shorter. */
const MUTED_LENGTH = 0.5

function noteEvents(note: PlayedNote, { plain, bent, from }: Channels): Timed[] {
  const curved = note.curve.some(({ semitones }) => Math.abs(semitones) > 0.005)
  const channel = curved ? bent : plain
  const start = note.startTicks - from
  const length = (note.endTicks - note.startTicks) * (note.palmMute ? MUTED_LENGTH : 1)
  const end = start + Math.max(1, Math.round(length))
  const noteNumber = Math.max(0, Math.min(127, Math.round(note.midi)))
  const velocity = Math.max(1, Math.min(127, Math.round(note.loudness * 127)))
  return [
    ...(curved ? wheel(note, { start, end, channel }) : []),
    { tick: start, rank: 3, event: { deltaTime: 0, type: 'noteOn', channel, noteNumber, velocity } },
    { tick: end, rank: 0, event: { deltaTime: 0, type: 'noteOff', channel, noteNumber, velocity: 0 } },
  ]
}

/** The wheel along a note's course and back to the middle at its end. */
function wheel(
  note: PlayedNote,
  { start, end, channel }: { start: number; end: number; channel: number },
): Timed[] {
  const set = (tick: number, semitones: number, rank: number): Timed => {
    const value = WHEEL_MIDDLE + Math.round((semitones / BEND_SEMITONES) * WHEEL_MIDDLE)
    return {
      tick,
      rank,
      event: {
        deltaTime: 0,
        type: 'pitchBend',
        channel,
        value: Math.max(0, Math.min(2 * WHEEL_MIDDLE - 1, value)) - WHEEL_MIDDLE,
      },
    }
  }
  const moves: Timed[] = []
  let before = Number.POSITIVE_INFINITY
  for (let tick = start; tick < end; tick += WHEEL_TICKS) {
    const semitones = semitonesAt(note.curve, tick - start)
    if (Math.abs(semitones - before) < WHEEL_SEMITONES) continue
    moves.push(set(tick, semitones, 2))
    before = semitones
  }
  return [...moves, set(end, 0, 1)]
}

/** Linear between the points of a course, level before and after. */
function semitonesAt(curve: PlayedNote['curve'], ticks: number): number {
  const next = curve.findIndex((point) => point.ticks > ticks)
  if (next < 0) return curve.at(-1)?.semitones ?? 0
  const [from, to] = [curve[next - 1], curve[next]!]
  if (!from) return to.semitones
  const share = (ticks - from.ticks) / (to.ticks - from.ticks)
  return from.semitones + share * (to.semitones - from.semitones)
}

/** Events in order, with the time since the one before. */
function timed(events: readonly Timed[]): MidiEvent[] {
  let before = 0
  const ordered = events.toSorted((a, b) => a.tick - b.tick || a.rank - b.rank)
  const out = ordered.map(({ tick, event }) => {
    const deltaTime = Math.max(0, tick - before)
    before = Math.max(before, tick)
    return { ...event, deltaTime }
  })
  return [...out, { deltaTime: 0, meta: true, type: 'endOfTrack' }]
}

function leftOut(notes: readonly PlayedNote[]): Dropped[] {
  return dropped([
    { what: 'dead strokes', count: notes.filter(({ dead }) => dead).length, why: 'they have no pitch' },
    {
      what: 'strings, frets and fingers',
      count: notes.length > 0 ? 1 : 0,
      why: 'MIDI knows pitches only: MusicXML keeps them',
    },
  ])
}
