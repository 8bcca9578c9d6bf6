// One track of a MIDI file: its notes, and what the pitch wheel does to them.
import { bisector } from 'd3-array'
import { strFromU8 } from 'fflate'
import type { MidiEvent } from 'midi-file'
import type { Mark } from '../../document/schema'

/** Events with the tick they stand at, in our ticks. */
export type Events = readonly { tick: number; event: MidiEvent }[]

const DRUM_CHANNEL = 9

export function textIn(events: Events, type: MidiEvent['type']): string {
  const found = events.find(({ event }) => event.type === type)
  return found ? asText(found.event) : ''
}
/** A text of the file: bytes that are UTF-8, without control characters. */
export function asText(event: MidiEvent): string {
  const raw = 'text' in event ? String(event.text) : ''
  const bytes = Uint8Array.from(raw.slice(0, 400), (character) => character.charCodeAt(0))
  return strFromU8(bytes)
    .replaceAll(/\p{Cc}/gu, ' ')
    .trim()
}

export interface HeardNote {
  midi: number
  startTicks: number
  lengthTicks: number
  accent: boolean
  bend: Mark[]
}
export interface Track {
  name: string
  program: number | undefined
  notes: HeardNote[]
}

/** The notes of a track that are no drums, and what it calls itself. */
export function readTrack(events: Events): Track {
  const program = events.find(({ event }) => event.type === 'programChange')?.event
  return {
    name: textIn(events, 'trackName'),
    program: program?.type === 'programChange' ? program.programNumber : undefined,
    notes: notesOf(events),
  }
}

/** A file of one track with everything in it, parted by channel; what belongs to none goes with the first. */
export function byChannel(events: Events): Events[] {
  const channels = new Set(events.flatMap(({ event }) => (event.type === 'noteOn' ? [event.channel] : [])))
  if (channels.size < 2) return [events]
  return [...channels]
    .sort((a, b) => a - b)
    .map((channel) => {
      const own = events.filter(({ event }) => 'channel' in event && event.channel === channel)
      const program = own.find(({ event }) => event.type === 'programChange')?.event
      const name = channelName(channel, program?.type === 'programChange' ? program.programNumber : undefined)
      return [{ tick: 0, event: { deltaTime: 0, meta: true, type: 'trackName', text: name } }, ...own]
    })
}

/** Guitars and basses among the programs of General MIDI, from 0. */
const GUITARS = { first: 24, last: 31 }
const BASSES = { first: 32, last: 39 }
function channelName(channel: number, program: number | undefined): string {
  const within = ({ first, last }: typeof GUITARS): boolean =>
    program !== undefined && program >= first && program <= last
  if (channel === DRUM_CHANNEL) return 'Drums'
  if (within(GUITARS)) return 'Guitar'
  return within(BASSES) ? 'Bass' : `Channel ${channel + 1}`
}

/** Drum notes of a track. */
export const drumNotes = (events: Events): number =>
  events.filter(
    ({ event }) => event.type === 'noteOn' && event.channel === DRUM_CHANNEL && event.velocity > 0,
  ).length

const ACCENT_VELOCITY = 110

function notesOf(events: Events): HeardNote[] {
  const open = new Map<string, { begun: { tick: number; velocity: number }[]; next: number }>()
  const wheels = new Map([...wheelsOf(events)].map(([channel, list]) => [channel, highestOf(list)]))
  const notes: HeardNote[] = []
  for (const { tick, event } of events) {
    if (event.type !== 'noteOn' && event.type !== 'noteOff') continue
    if (event.channel === DRUM_CHANNEL) continue
    const key = `${event.channel}/${event.noteNumber}`
    if (event.type === 'noteOn' && event.velocity > 0) {
      const held = open.get(key) ?? { begun: [], next: 0 }
      held.begun.push({ tick, velocity: event.velocity })
      open.set(key, held)
      continue
    }
    // The first that was begun ends first; taking it off the front of a long list would take long.
    const queue = open.get(key)
    const begun = queue?.begun[queue.next++]
    if (!begun || tick <= begun.tick) continue
    notes.push({
      midi: event.noteNumber,
      startTicks: begun.tick,
      lengthTicks: tick - begun.tick,
      accent: begun.velocity >= ACCENT_VELOCITY,
      bend: bendOf(wheels.get(event.channel) ?? STILL, begun.tick, tick),
    })
  }
  return notes
}

interface Wheel {
  tick: number
  semitones: number
}

/** What the wheel of each channel does, in semitones; its range is two unless the file says another. */
function wheelsOf(events: Events): Map<number, Wheel[]> {
  const wheels = new Map<number, Wheel[]>()
  const ranges = new Map<number, number>()
  const chosen = new Map<number, { coarse: number; fine: number }>()
  for (const { tick, event } of events) {
    if (event.type === 'controller') {
      const parameter = chosen.get(event.channel) ?? { coarse: 127, fine: 127 }
      if (event.controllerType === 101) chosen.set(event.channel, { ...parameter, coarse: event.value })
      if (event.controllerType === 100) chosen.set(event.channel, { ...parameter, fine: event.value })
      if (event.controllerType === 6 && parameter.coarse === 0 && parameter.fine === 0)
        ranges.set(event.channel, event.value)
    }
    if (event.type !== 'pitchBend') continue
    const semitones = (event.value / 8192) * (ranges.get(event.channel) ?? 2)
    const list = wheels.get(event.channel) ?? []
    list.push({ tick, semitones })
    wheels.set(event.channel, list)
  }
  return wheels
}

const LEAST_BEND = 0.4
const MOST_BEND = 5
/** Under this share of its highest, a bend has come back. */
const BACK = 0.3

/** The positions of a wheel, with the highest over every stretch of 1, 2, 4 … of them. */
interface Wheels {
  list: readonly Wheel[]
  highest: readonly (readonly number[])[]
}
const STILL: Wheels = { list: [], highest: [[]] }

/** Long notes under many positions ask for a highest each: it is found in two looks (sparse table). */
function highestOf(list: readonly Wheel[]): Wheels {
  const highest = [list.map(({ semitones }) => semitones)]
  for (let span = 1; 2 * span <= list.length; span *= 2) {
    const shorter = highest.at(-1) ?? []
    highest.push(shorter.slice(0, -span).map((here, at) => Math.max(here, shorter[at + span] ?? here)))
  }
  return { list, highest }
}

/** The highest of positions [first, last); undefined where there are none. */
function highestIn({ highest }: Wheels, first: number, last: number): number | undefined {
  if (last <= first) return undefined
  const level = Math.floor(Math.log2(last - first))
  const from = highest[level]?.[first]
  const to = highest[level]?.[last - 2 ** level]
  return from === undefined || to === undefined ? undefined : Math.max(from, to)
}

const byTick = bisector(({ tick }: Wheel) => tick)
/** A push up and where it ends: a bend in quarter steps. Shakes and slides down are none. */
function bendOf(wheels: Wheels, from: number, to: number): Mark[] {
  const wheel = wheels.list
  const [first, last] = [byTick.right(wheel, from), byTick.left(wheel, to)]
  const before = wheel[first - 1]?.semitones ?? 0
  const highest = Math.max(before, highestIn(wheels, first, last) ?? before)
  if (highest < LEAST_BEND || highest > MOST_BEND) return []
  const semitones = Math.round(highest * 4) / 4
  const [begun, ended] = [
    before / highest,
    (last > first ? (wheel[last - 1]?.semitones ?? before) : before) / highest,
  ]
  const bend = (shape: Extract<Mark, { kind: 'bend' }>['shape']): Mark[] => [
    { kind: 'bend', semitones, shape },
  ]
  if (begun > 1 - BACK) return bend(ended < BACK ? 'release' : 'pre-bend')
  return bend(ended < BACK ? 'bend and release' : 'plain')
}
