import { describe, expect, it } from 'vitest'
import { readMidiNotes } from './midi-notes'
import { must } from '../result'
import { dice } from '../../tests/support/random-transactions'
import { workedMs } from '../../tests/support/working-time'

/** A file of one track at 96 ticks a quarter, from [delta, ...bytes] events. */
function file(events: number[][]): Uint8Array {
  const body = [...events.flat(), 0, 0xff, 0x2f, 0]
  const size = [body.length >>> 24, (body.length >>> 16) & 255, (body.length >>> 8) & 255, body.length & 255]
  return Uint8Array.from(
    [...'MThd']
      .map((c) => c.charCodeAt(0))
      .concat(
        [0, 0, 0, 6, 0, 0, 0, 1, 0, 96],
        [...'MTrk'].map((c) => c.charCodeAt(0)),
        size,
        body,
      ),
  )
}

describe('notes of a MIDI file', () => {
  it('come in our ticks, a silent note-on ending a note, drums left out', () => {
    const [track] = must(
      readMidiNotes(
        file([
          [0, 0x90, 60, 90],
          [48, 0x80, 60, 0],
          [0, 0x90, 64, 90],
          [96, 0x90, 64, 0],
          [0, 0x99, 38, 90],
          [10, 0x89, 38, 0],
        ]),
      ),
    )
    expect(track!.notes).toEqual([
      { midi: 60, startTicks: 0, lengthTicks: 5040 },
      { midi: 64, startTicks: 5040, lengthTicks: 10_080 },
    ])
  })
  it.each([
    ['not a file', Uint8Array.from([1, 2, 3])],
    ['no notes', file([])],
    [
      'only drums',
      file([
        [0, 0x99, 38, 90],
        [10, 0x89, 38, 0],
      ]),
    ],
    [
      'a cut file',
      file([
        [0, 0x90, 60, 90],
        [48, 0x80, 60, 0],
      ]).slice(0, 20),
    ],
    ['a huge file', new Uint8Array(5_000_000)],
  ])('are refused in a sentence: %s', (_, bytes) => {
    const result = readMidiNotes(bytes)
    expect(result.ok).toBe(false)
    if (!result.ok) expect(result.refusal.message).toMatch(/MIDI/)
  })
})

describe('a damaged MIDI file', () => {
  const sound = file([
    [0, 0x90, 60, 90],
    [96, 0x80, 60, 0],
    [0, 0x90, 62, 90],
    [96, 0x80, 62, 0],
  ])
  it('is read or refused at once, whichever bytes are wrong, and gives no note before the start', () => {
    const roll = dice(3)
    for (let count = 0; count < 4000; count++) {
      const bytes = sound.slice(0, roll.chance(0.2) ? roll.below(sound.length) : sound.length)
      for (let hits = 0; hits <= roll.below(4); hits++)
        bytes[4 + roll.below(sound.length - 4)] = roll.below(256)
      const started = workedMs()
      const read = readMidiNotes(bytes)
      expect(workedMs() - started).toBeLessThan(500)
      if (!read.ok) expect(read.refusal.message).toMatch(/\.$/)
      else
        for (const { notes } of read.value)
          for (const note of notes) expect(note.startTicks).toBeGreaterThanOrEqual(0)
    }
  })
  it.each([
    ['a time of years', file([[0xff, 0xff, 0xff, 0x7f, 0x90, 60, 90]])],
    ['a header of absurd size', sound.with(4, 0x7f)],
    ['no ticks at all', sound.with(13, 0).with(12, 0)],
  ])('with %s is refused', (_, bytes) => expect(readMidiNotes(bytes)).toMatchObject({ ok: false }))
})
