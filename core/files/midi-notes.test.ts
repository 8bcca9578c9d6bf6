import { describe, expect, it } from 'vitest'
import { readMidiNotes } from './midi-notes'
import { must } from '../result'

/** A file of one track at 96 ticks a quarter, from [delta, ...bytes] events. */
function file(events: number[][]): Uint8Array {
  const body = [...events.flat(), 0, 0xff, 0x2f, 0]
  const size = [body.length >>> 24, (body.length >>> 16) & 255, (body.length >>> 8) & 255, body.length & 255]
  return Uint8Array.from([...'MThd'].map((c) => c.charCodeAt(0)).concat([0, 0, 0, 6, 0, 0, 0, 1, 0, 96], [...'MTrk'].map((c) => c.charCodeAt(0)), size, body))
}

describe('notes of a MIDI file', () => {
  it('come in our ticks, a silent note-on ending a note, drums left out', () => {
    const [track] = must(readMidiNotes(file([[0, 0x90, 60, 90], [48, 0x80, 60, 0], [0, 0x90, 64, 90], [96, 0x90, 64, 0], [0, 0x99, 38, 90], [10, 0x89, 38, 0]])))
    expect(track!.notes).toEqual([{ midi: 60, startTicks: 0, lengthTicks: 5040 }, { midi: 64, startTicks: 5040, lengthTicks: 10_080 }])
  })
  it.each([['not a file', Uint8Array.from([1, 2, 3])], ['no notes', file([])], ['only drums', file([[0, 0x99, 38, 90], [10, 0x89, 38, 0]])], ['a cut file', file([[0, 0x90, 60, 90], [48, 0x80, 60, 0]]).slice(0, 20)], ['a huge file', new Uint8Array(5_000_000)]])('are refused in a sentence: %s', (_, bytes) => {
    const result = readMidiNotes(bytes)
    expect(result.ok).toBe(false)
    if (!result.ok) expect(result.refusal.message).toMatch(/MIDI/)
  })
})
