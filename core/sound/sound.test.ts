import { beforeAll, describe, expect, it } from 'vitest'
import { centsBetween, firstOnset, level, measurePitch } from '../../tests/support/pitch'
import { shippedBank, soundingNote } from '../../tests/support/sounding'
import type { SoundingEvent } from '../score/sounding-event'
import type { Bank } from './bank'
import { renderEvents, SamplePlayer } from './player'
import { heardEvents, heardToRecording, StemRenderer, type StemPlan } from './stems'
import { readWav, writeWav } from './wav'

const RATE = 44_100
let bank: Bank
beforeAll(async () => {
  bank = await shippedBank()
})
const event = soundingNote
const render = (events: SoundingEvent[], seconds = 1.6) =>
  renderEvents(bank, events, { sampleRate: RATE, seconds })
const pitchAt = (audio: Float32Array, seconds: number, midi: number) => {
  const hz = measurePitch(audio, RATE, seconds, { windowSeconds: 0.1 })
  expect(hz).toBeDefined()
  return centsBetween(hz!, midi)
}

describe('sampled sound', () => {
  it.each([
    ['clean', 45],
    ['clean', 64],
    ['driven', 52],
    ['distorted', 40],
    ['distorted', 52],
    ['steel', 57],
    ['finger bass', 33],
    ['finger bass', 40],
    ['pick bass', 38],
  ] as const)('%s sounds MIDI %i within 3 cents', (sound, midi) => {
    expect(Math.abs(pitchAt(render([event({ sound, midi })]), 0.6, midi))).toBeLessThan(3)
  })
  it('starts within 5 ms of the written time', () => {
    for (const sound of ['clean', 'distorted', 'finger bass'] as const)
      expect(Math.abs(firstOnset(render([event({ sound })]), RATE, 0.02) - 0.1)).toBeLessThan(0.005)
  })
  it('arrives exactly at the bend written, and at fractions of a semitone', () => {
    const bent = render([
      event({
        curve: [
          { seconds: 0, semitones: 0 },
          { seconds: 0.3, semitones: 2 },
        ],
      }),
    ])
    expect(Math.abs(pitchAt(bent, 0.7, 59))).toBeLessThan(3)
    expect(Math.abs(pitchAt(render([event({ midi: 57.5 })]), 0.6, 57.5))).toBeLessThan(3)
  })
  it('shortens and darkens by the pressure of the hand', () => {
    const late = (palmMute?: SoundingEvent['palmMute']) => {
      const audio = render([event(palmMute ? { palmMute } : {})])
      return level(audio, RATE, 0.4, 0.5) / level(audio, RATE, 0.1, 0.2)
    }
    const [open, light, medium, firm] = [late(), late('light'), late('medium'), late('firm')]
    expect(light).toBeLessThan(open)
    expect(medium).toBeLessThan(light)
    expect(firm).toBeLessThan(medium)
    expect(firm).toBeLessThan(open / 3)
  })
  it('gives a dead stroke no pitch and hardly any length', () => {
    const audio = render([event({ dead: true })])
    expect(measurePitch(audio, RATE, 0.11, { windowSeconds: 0.02, lowHz: 60 })).toBeUndefined()
    expect(level(audio, RATE, 0.1, 0.14)).toBeGreaterThan(0.003)
    expect(level(audio, RATE, 0.3, 0.5)).toBeLessThan(0.0005)
  })
  it('stops a string when it is struck again, and no other string', () => {
    const again = render([event({ endSeconds: 1.4 }), event({ startSeconds: 0.6, midi: 64 })])
    expect(Math.abs(pitchAt(again, 0.9, 64))).toBeLessThan(4)
    const player = new SamplePlayer(bank, [event({ endSeconds: 0.3 })], RATE)
    for (let block = 0; block < 30; block++) player.render(new Float32Array(4096))
    expect(player.finished).toBe(true)
  })
  it('damps when the note ends', () => {
    const audio = render([event({ endSeconds: 0.6 })])
    expect(level(audio, RATE, 0.9, 1)).toBeLessThan(level(audio, RATE, 0.4, 0.5) / 50)
  })
  it('renders the same in one piece and block by block', () => {
    const events = [
      event(),
      event({ startSeconds: 0.33, midi: 61, string: 2, vibrato: 'wide' }),
      event({ startSeconds: 0.5, dead: true, string: 5 }),
    ]
    const whole = render(events, 1)
    const pieces = new Float32Array(whole.length)
    const player = new SamplePlayer(bank, events, RATE)
    for (let at = 0; at < pieces.length; at += 4096)
      player.render(pieces.subarray(at, Math.min(pieces.length, at + 4096)))
    expect(pieces).toEqual(whole)
  })
})

const plan = (over: Partial<StemPlan> = {}): StemPlan => ({
  stems: [
    {
      id: 'g',
      events: [
        event({ startSeconds: 1, endSeconds: 1.2 }),
        event({ startSeconds: 2, endSeconds: 2.2, midi: 69 }),
      ],
    },
  ],
  fromSeconds: 0.5,
  speed: 1,
  leadSeconds: 0,
  clickSeconds: [],
  sampleRate: RATE,
  ...over,
})
function onsetsOf(request: StemPlan, seconds: number): number[] {
  const renderer = new StemRenderer(bank, request)
  const audio = new Float32Array(Math.round(seconds * RATE))
  for (let at = 0; at + 2205 <= audio.length; at += 2205) audio.set(renderer.render(2205)[0]!, at)
  const peak = audio.reduce((max, value) => Math.max(max, Math.abs(value)), 0)
  const found: number[] = []
  let last = -1
  audio.forEach((value, index) => {
    if (Math.abs(value) > peak * 0.1) {
      if (index / RATE - last > 0.15) found.push(index / RATE)
      last = index / RATE
    }
  })
  return found
}

describe('stems on the clock of what is heard', () => {
  it('follows the speed', () => {
    const [first, second] = onsetsOf(plan({ speed: 0.5 }), 4)
    expect(Math.abs(first! - 1)).toBeLessThan(0.01)
    expect(second! - first!).toBeCloseTo(2, 2)
  })
  it('waits for the count-in', () =>
    expect(Math.abs(onsetsOf(plan({ leadSeconds: 1 }), 3)[0]! - 1.5)).toBeLessThan(0.01))
  it.each([1, 0.6, 1.5])('does not drift however often it goes round, at speed %d', (speed) => {
    const loop = { startSeconds: 0.9, endSeconds: 1.4137 }
    const heard = onsetsOf(plan({ fromSeconds: 0.9, loop, speed }), 6)
    expect(heard.length).toBeGreaterThan(5)
    const length = 0.5137 / speed
    heard.forEach((time, round) => expect(Math.abs(time - (heard[0]! + round * length))).toBeLessThan(0.003))
  })
  it('takes up a note under way and leaves out what is nearly over', () => {
    const [taken] = heardEvents([event({ startSeconds: 0, endSeconds: 3 })], {
      from: 1,
      to: 10,
      outSeconds: 0,
      speed: 1,
    })
    expect(taken).toMatchObject({ startSeconds: 0, endSeconds: 2, slurred: true })
    expect(
      heardEvents([event({ startSeconds: 0, endSeconds: 1.1 })], {
        from: 1,
        to: 10,
        outSeconds: 0,
        speed: 1,
      }),
    ).toEqual([])
  })
  it('says which place of the recording is heard', () => {
    const loop = { startSeconds: 2, endSeconds: 4 }
    expect(heardToRecording({ fromSeconds: 1, speed: 0.5, loop: undefined, leadSeconds: 1 }, 0.4)).toBe(1)
    expect(heardToRecording({ fromSeconds: 1, speed: 0.5, loop: undefined, leadSeconds: 1 }, 3)).toBe(2)
    expect(heardToRecording({ fromSeconds: 3, speed: 1, loop, leadSeconds: 0 }, 1.5)).toBe(2.5)
    expect(heardToRecording({ fromSeconds: 3, speed: 1, loop, leadSeconds: 0 }, 7.5)).toBe(2.5)
  })
})

describe('WAV', () => {
  it('reads back what it writes', () => {
    const audio = Float32Array.from({ length: 500 }, (_, index) => Math.sin(index / 9) * 0.8)
    const back = readWav(writeWav([audio, audio], 48_000))!
    expect(back.sampleRate).toBe(48_000)
    back.channels[1]!.forEach((value, index) => expect(Math.abs(value - audio[index]!)).toBeLessThan(1e-4))
  })
  /** A file as other programs write it: with a chunk before the samples, at any width. */
  function foreign(bits: number, code: number, values: readonly number[], channels = 1): Uint8Array {
    const width = bits / 8
    const extra = 8 + 4
    const bytes = new Uint8Array(44 + extra + values.length * width)
    const view = new DataView(bytes.buffer)
    const tag = (at: number, text: string) =>
      [...text].forEach((letter, index) => {
        bytes[at + index] = letter.charCodeAt(0)
      })
    tag(0, 'RIFF')
    tag(8, 'WAVE')
    tag(12, 'fmt ')
    view.setUint32(16, 16, true)
    view.setUint16(20, code, true)
    view.setUint16(22, channels, true)
    view.setUint32(24, 22_050, true)
    view.setUint16(34, bits, true)
    tag(36, 'LIST')
    view.setUint32(40, 4, true)
    tag(48, 'data')
    view.setUint32(52, values.length * width, true)
    values.forEach((value, index) => {
      const at = 56 + index * width
      if (bits === 8) bytes[at] = Math.round((value + 1) * 127.5)
      else if (bits === 24) {
        const whole = Math.round(value * 8_388_607)
        bytes[at] = whole & 255
        bytes[at + 1] = (whole >> 8) & 255
        bytes[at + 2] = (whole >> 16) & 255
      } else if (code === 3) view.setFloat32(at, value, true)
      else view.setInt32(at, Math.round(value * 2_147_483_647), true)
    })
    return bytes
  }
  it.each([
    [8, 1, 0.01],
    [24, 1, 1e-6],
    [32, 1, 1e-6],
    [32, 3, 1e-7],
  ] as const)('reads %i bits, format %i, behind a foreign chunk', (bits, code, tolerance) => {
    const back = readWav(foreign(bits, code, [0, 0.5, -0.5, 0.25], 2))!
    expect(back.sampleRate).toBe(22_050)
    const [left, right] = back.channels.map((channel) => [...channel])
    for (const [index, value] of [0, -0.5].entries())
      expect(Math.abs(left![index]! - value)).toBeLessThan(tolerance)
    for (const [index, value] of [0.5, 0.25].entries())
      expect(Math.abs(right![index]! - value)).toBeLessThan(tolerance)
  })
  it('refuses a width there is not, and reads what is there of a file cut short', () => {
    expect(readWav(foreign(40, 1, []))).toBeUndefined()
    expect(readWav(foreign(32, 3, [0.1, 0.2, 0.3, 0.4]).subarray(0, -6))!.channels[0]).toHaveLength(2)
  })
  it('says no to what is none, and clips instead of wrapping round', () => {
    expect(readWav(new Uint8Array(60))).toBeUndefined()
    expect(readWav(writeWav([new Float32Array(9)], 48_000).subarray(0, 40))).toBeUndefined()
    expect(readWav(writeWav([Float32Array.of(3, -3)], 8000))!.channels[0]![0]).toBeGreaterThan(0.99)
  })
})
