// Notes of a Standard MIDI File: another instrument's line to take over. The bytes are the library's; which
// track, and what is no note, is decided here.
import { BasicMIDI } from 'spessasynth_core'
import { ok, refuse, type Result } from '../result'
import { TICKS_PER_QUARTER } from '../time/meter'

export interface MidiTrack {
  name: string
  notes: { midi: number; startTicks: number; lengthTicks: number }[]
}
const MOST_BYTES = 4_000_000
const MOST_NOTES = 20_000
const DRUM_CHANNEL = 9

/** Ticks a file may last: a delta time beyond this is damage, and unpacking it would take for ever. */
const MOST_FILE_TICKS = 2 ** 26

/**
 * What is wrong with the bytes before the library reads them: chunks that claim more than there is, times
 * that add up to years. Undefined when they may be read.
 */
export function midiBytesProblem(bytes: Uint8Array): string | undefined {
  if (bytes.length > MOST_BYTES) return 'is larger than 4 MB: export only the track you need.'
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const [headerBytes, tracks, division] = [view.getUint32(4), view.getUint16(10), view.getUint16(12)]
  const damaged = 'is damaged: export it anew.'
  if (headerBytes < 6 || headerBytes > 64 || tracks < 1 || tracks > 1000 || division === 0) return damaged
  if (division & 0x8000) return 'counts in film frames, not in beats: export it with ticks per quarter note.'
  let at = 8 + headerBytes
  for (let track = 0; track < tracks; track++) {
    if (at + 8 > bytes.length) return damaged
    const size = view.getUint32(at + 4)
    const end = at + 8 + size
    if (end > bytes.length || !timesEnd(bytes, at + 8, end)) return damaged
    at = end
  }
  return undefined
}

/** Walks the events of one track: true when every one of them ends inside it and its times stay bounded. */
function timesEnd(bytes: Uint8Array, from: number, end: number): boolean {
  let at = from
  let ticks = 0
  let running = 0
  const number = (): number => {
    let value = 0
    for (let read = 0; read < 4 && at < end; read++) {
      const byte = bytes[at++]!
      value = value * 128 + (byte & 0x7f)
      if (byte < 0x80) return value
    }
    return Number.POSITIVE_INFINITY
  }
  while (at < end) {
    ticks += number()
    if (!(ticks <= MOST_FILE_TICKS) || at >= end) return false
    if (bytes[at]! >= 0x80) running = bytes[at++]!
    if (running < 0x80) return false
    if (running >= 0xf0) {
      if (running === 0xff) at++
      const size = number()
      at += size
    } else at += running >= 0xc0 && running < 0xe0 ? 1 : 2
    if (at > end) return false
  }
  return true
}

/** The tracks with notes, in our ticks. Refused when the file is no MIDI file, too large, or has no notes. */
export function readMidiNotes(bytes: Uint8Array): Result<MidiTrack[]> {
  if (bytes.length < 14 || String.fromCharCode(...bytes.subarray(0, 4)) !== 'MThd')
    return refuse('midi', 'This is not a MIDI file. Export the line as a .mid file and try again.')
  const problem = midiBytesProblem(bytes)
  if (problem) return refuse('midi', `This MIDI file ${problem}`)
  let file: BasicMIDI
  try {
    file = BasicMIDI.fromArrayBuffer(bytes.slice().buffer as ArrayBuffer)
  } catch {
    return refuse('midi', 'This MIDI file is damaged: export it anew.')
  }
  const scale = TICKS_PER_QUARTER / file.timeDivision
  const tracks = file.tracks
    .map((track, index) => ({
      name: track.name?.trim() || `Track ${index + 1}`,
      notes: notesOf(track.events, scale),
    }))
    .filter((track) => track.notes.length > 0)
  if (tracks.length === 0) return refuse('midi', 'There are no notes in this MIDI file (drums are left out).')
  if (tracks.some((track) => track.notes.length > MOST_NOTES))
    return refuse('midi', `A track has more than ${MOST_NOTES} notes: export only the line you need.`)
  return ok(tracks)
}

const NOTE_ON = 0x90
const NOTE_OFF = 0x80

function notesOf(events: BasicMIDI['tracks'][number]['events'], scale: number): MidiTrack['notes'] {
  const open = new Map<number, { starts: number[]; next: number }>()
  const notes: MidiTrack['notes'] = []
  for (const event of events) {
    const kind = event.statusByte & 0xf0
    const [midi, velocity] = [event.data[0] ?? 0, event.data[1] ?? 0]
    if ((event.statusByte & 0x0f) === DRUM_CHANNEL || (kind !== NOTE_ON && kind !== NOTE_OFF)) continue
    if (event.ticks < 0 || midi > 127) continue
    if (kind === NOTE_ON && velocity > 0) {
      const held = open.get(midi) ?? { starts: [], next: 0 }
      held.starts.push(event.ticks)
      open.set(midi, held)
      continue
    }
    // The first that was begun ends first; taking it off the front of a long list would take long.
    const queue = open.get(midi)
    const start = queue?.starts[queue.next++]
    if (start === undefined || event.ticks <= start) continue
    const lengthTicks = Math.max(1, Math.round((event.ticks - start) * scale))
    notes.push({ midi, startTicks: Math.round(start * scale), lengthTicks })
  }
  return notes.sort((a, b) => a.startTicks - b.startTicks)
}
