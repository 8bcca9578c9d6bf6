// What is charted, rendered offline and measured: the way from a figure to the loudspeaker.
import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import { centsBetween, firstOnset, level, measurePitch } from '../../tests/support/pitch'
import { parseCall } from '../call/parse'
import { soundFigure } from '../score/sound-song'
import { newPart, newSong } from '../document/new-song'
import type { Content, Part, Song } from '../document/schema'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { openBank, type Bank } from './bank'
import { renderEvents } from './player'

const RATE = 44_100
let bank: Bank
beforeAll(async () => {
  const file = readFileSync('public/sound/bank.sf3')
  bank = await openBank(file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer)
})
const guitar: Part = { ...newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' }), sound: 'clean' }
const song: Song = { ...newSong({ id: 's', title: 'S', artist: '' }), parts: { g: guitar }, partOrder: ['g'] }
/** A beat lasts half a second, the figure starts at 0.2 s. */
const toSeconds = (tick: number): number => 0.2 + (tick / Q) * 0.5
function play(call: string, seconds = 3): { audio: Float32Array; events: ReturnType<typeof soundFigure> } {
  const read = parseCall(call, {
    part: guitar,
    letters: ['E', 'B', 'G', 'D', 'A', 'E'],
    meter: { beats: 4, unit: 4 },
    subdivision: 'quarters',
    stepTicks: Q,
  })
  if (!read.ok) throw new Error(read.error.message)
  const content: Content = read.value.content
  const events = soundFigure(
    song,
    {
      id: 'f',
      partId: 'g',
      name: 'f',
      lengthTicks: 8 * Q,
      meter: { beats: 4, unit: 4 },
      feel: song.feel,
      content,
    },
    { startTicks: 0, toSeconds },
  )
  return { audio: renderEvents(bank, events, { sampleRate: RATE, seconds }), events }
}
const centsAt = (audio: Float32Array, seconds: number, midi: number, window = 0.08): number =>
  centsBetween(measurePitch(audio, RATE, seconds, { windowSeconds: window })!, midi)
/** First time after `from` at which the sound rises to a share of its peak. */
const onsetAfter = (audio: Float32Array, from: number): number =>
  from + firstOnset(audio.subarray(Math.round(from * RATE)), RATE, 0.02)

describe('a figure heard', () => {
  it('starts its notes within 5 ms of where they are written', () => {
    const { audio } = play('low E 5 staccato, rest, rest, 7')
    expect(Math.abs(firstOnset(audio, RATE, 0.02) - 0.2)).toBeLessThan(0.005)
    expect(Math.abs(onsetAfter(audio, 1.5) - 1.7)).toBeLessThan(0.005)
  })
  it('arrives at a bend where it is written, and comes back without being struck', () => {
    const { audio, events } = play('G 9 bend 2 for 2, release for 2')
    expect(events).toHaveLength(1)
    expect(Math.abs(centsAt(audio, 0.6, 66))).toBeLessThan(3)
    expect(Math.abs(centsAt(audio, 1.9, 64))).toBeLessThan(3)
  })
  it('stands on the frets of a slide one after the other', () => {
    const { audio, events } = play('low E 5 for 2, slide 8 for 2')
    expect(events).toHaveLength(1)
    expect(Math.abs(centsAt(audio, 0.7, 45))).toBeLessThan(3)
    expect(Math.abs(centsAt(audio, 1.4, 48))).toBeLessThan(3)
  })
  it('hammers softer than it picks', () => {
    const peak = (call: string): number => {
      const { audio } = play(call)
      return level(audio, RATE, 0.72, 0.82)
    }
    expect(peak('G 7 hammer 9')).toBeLessThan(peak('G 7 9') * 0.85)
  })
  it('makes harmonics sound at their pitch', () => {
    expect(Math.abs(centsAt(play('A 12 harmonic for 4').audio, 0.8, 57))).toBeLessThan(5)
    expect(Math.abs(centsAt(play('A 7 harmonic for 4').audio, 0.8, 64))).toBeLessThan(5)
    expect(Math.abs(centsAt(play('A 5 pinch 12 for 4').audio, 0.8, 62))).toBeLessThan(5)
  })
  it('lets a string ring until it is struck again, a choke cuts', () => {
    const late = (call: string): number => {
      const { audio } = play(call)
      return level(audio, RATE, 1.5, 1.6)
    }
    expect(late('A 5 ring')).toBeGreaterThan(late('A 5') * 10)
    expect(late('A 5 for 4')).toBeGreaterThan(late('A 5 choke for 4') * 10)
  })
  it('gives a firm palm mute under a third of the open note’s sound, by span or by note', () => {
    const left = (call: string): number => {
      const { audio } = play(call)
      return level(audio, RATE, 0.55, 0.65) / level(audio, RATE, 0.2, 0.3)
    }
    const open = left('low E open for 4')
    expect(left('low E open palm firm for 4')).toBeLessThan(open / 3)
    expect(left('palming firm for 4, low E open for 4')).toBeLessThan(open / 3)
  })
  it('spreads a strum by its direction over 10 to 40 ms, low string first going down', () => {
    const spread = (call: string): { ms: number; first: number } => {
      const { events } = play(call)
      const starts = events.map((event) => event.startSeconds)
      return {
        ms: (Math.max(...starts) - Math.min(...starts)) * 1000,
        first: events.toSorted((a, b) => a.startSeconds - b.startSeconds)[0]!.string,
      }
    }
    for (const [call, first] of [
      ['hold 022100, down', 6],
      ['hold 022100, up', 1],
    ] as const) {
      const { ms, first: struck } = spread(call)
      expect(ms).toBeGreaterThanOrEqual(10)
      expect(ms).toBeLessThanOrEqual(40)
      expect(struck).toBe(first)
    }
  })
  it('gives counted dead strokes no pitch', () => {
    const { audio } = play('hold 022100, two dead')
    expect(measurePitch(audio, RATE, 0.21, { windowSeconds: 0.02, lowHz: 60 })).toBeUndefined()
    expect(level(audio, RATE, 0.5, 0.65)).toBeLessThan(level(audio, RATE, 0.2, 0.23) / 20)
  })
  it('trills between two pitches', () => {
    const { audio } = play('G 7 trill 9 for 4')
    const heard = new Set(
      [0.25, 0.33, 0.42, 0.5, 0.58, 0.66].map((at) => Math.round(62 + centsAt(audio, at, 62, 0.03) / 100)),
    )
    expect(heard.has(62) && heard.has(64)).toBe(true)
  })
})
