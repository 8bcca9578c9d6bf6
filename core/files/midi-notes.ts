// Notes of a Standard MIDI File: another instrument's line to take over. The bytes are the library's; which track, and what is no note, is decided here.
import { BasicMIDI } from 'spessasynth_core'
import { ok, refuse, type Result } from '../result'
import { TICKS_PER_QUARTER } from '../time/meter'

export interface MidiTrack { name: string; notes: { midi: number; startTicks: number; lengthTicks: number }[] }
const MOST_BYTES = 4_000_000
const MOST_NOTES = 20_000
const DRUM_CHANNEL = 9

/** The tracks with notes, in our ticks. Refused when the file is no MIDI file, too large, or has no notes. */
export function readMidiNotes(bytes: Uint8Array): Result<MidiTrack[]> {
  if (bytes.length > MOST_BYTES) return refuse('midi', 'This MIDI file is larger than 4 MB: export only the track you need.')
  if (bytes.length < 14 || String.fromCharCode(...bytes.subarray(0, 4)) !== 'MThd') return refuse('midi', 'This is not a MIDI file. Export the line as a .mid file and try again.')
  let file: BasicMIDI
  try { file = BasicMIDI.fromArrayBuffer(bytes.slice().buffer as ArrayBuffer) } catch { return refuse('midi', 'This MIDI file is damaged: export it anew.') }
  const scale = TICKS_PER_QUARTER / file.timeDivision
  const tracks = file.tracks.map((track, index): MidiTrack => {
    const open = new Map<number, number[]>()
    const notes: MidiTrack['notes'] = []
    for (const event of track.events) {
      const kind = event.statusByte & 0xf0
      const [midi, velocity] = [event.data[0] ?? 0, event.data[1] ?? 0]
      if ((event.statusByte & 0x0f) === DRUM_CHANNEL || (kind !== 0x90 && kind !== 0x80)) continue
      if (kind === 0x90 && velocity > 0) open.set(midi, [...(open.get(midi) ?? []), event.ticks])
      else { const start = open.get(midi)?.shift(); if (start !== undefined && event.ticks > start) notes.push({ midi, startTicks: Math.round(start * scale), lengthTicks: Math.max(1, Math.round((event.ticks - start) * scale)) }) }
    }
    return { name: track.name?.trim() || `Track ${index + 1}`, notes: notes.sort((a, b) => a.startTicks - b.startTicks) }
  }).filter((track) => track.notes.length > 0)
  if (tracks.length === 0) return refuse('midi', 'There are no notes in this MIDI file (drums are left out).')
  if (tracks.some((track) => track.notes.length > MOST_NOTES)) return refuse('midi', `A track has more than ${MOST_NOTES} notes: export only the line you need.`)
  return ok(tracks)
}
