// Does the wanted part rise against the rest? The mask is made of the whole mix; part and rest then go
// through it one by one.
import loadFft from '@echogarden/pffft-wasm/simd'
import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import { mix } from '../../../demo/mix'
import { performBand, type Stem } from '../../../demo/perform-band'
import { saltOnTheSignal } from '../../../demo/salt-on-the-signal'
import { buildScore } from '../../../demo/score'
import { openBank, type Bank } from '../../sound/bank'
import { packedFft, type PackedFft } from '../features/packed-fft'
import { EARS_SIZE, earsMask, earsPieces, throughMask, type Ears } from './ears'
import { earsForPart, earsOf, earsWords } from './presets'

const RATE = 44_100
const SECONDS = 8
let fft: PackedFft
let bank: Bank
let band: Stem[]

/** The stems over a stretch of the song, as if it began there: the one in which a stem is busiest. */
function stretch(name: string): Stem[] {
  const own = band.find((stem) => stem.name === name)?.events ?? []
  const within = (from: number): number =>
    own.filter((event) => event.startSeconds >= from && event.startSeconds < from + SECONDS).length
  const starts = own.map((event) => event.startSeconds)
  const from = starts.reduce((best, from) => (within(from) > within(best) ? from : best), starts[0] ?? 0)
  const moved = band.map((stem) => ({
    ...stem,
    events: stem.events
      .filter((event) => event.startSeconds >= from && event.startSeconds < from + SECONDS)
      .map((event) => ({
        ...event,
        startSeconds: event.startSeconds - from,
        endSeconds: Math.min(SECONDS, event.endSeconds - from),
      })),
  }))
  return moved.filter((stem) => stem.events.length > 0)
}
const dry = (some: readonly Stem[]): [Float32Array, Float32Array] =>
  mix(
    bank,
    some.map((stem) => ({ ...stem, room: 0 })),
    { sampleRate: RATE, seconds: SECONDS, targetRms: 0.02, drive: 1, reverbSeconds: 1 },
  )
const energy = (channels: readonly Float32Array[]): number =>
  channels.reduce((sum, channel) => sum + channel.reduce((inner, value) => inner + value * value, 0), 0)

beforeAll(async () => {
  fft = packedFft(await loadFft(), EARS_SIZE)
  const file = readFileSync('public/sound/bank.sf3')
  bank = await openBank(file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer)
  band = performBand(buildScore(saltOnTheSignal, { hash: '0'.repeat(64) }), { timingSeconds: 0.005 })
}, 60_000)

/** By how many dB a stem rises against all the others, as heard through the ears. */
function rise(name: string, ears: Ears): number {
  const stems = stretch(name)
  const whole = mix(bank, stems, {
    sampleRate: RATE,
    seconds: SECONDS,
    targetRms: 0.17,
    drive: 1.15,
    reverbSeconds: 1.2,
  })
  const mask = earsMask(whole, ears, RATE, fft)
  const through = (channels: readonly Float32Array[]): Float32Array[] =>
    channels.map((channel) => throughMask(channel, mask, fft))
  const part = dry(stems.filter((stem) => stem.name === name))
  const rest = dry(stems.filter((stem) => stem.name !== name))
  const before = energy(part) / energy(rest)
  const after = energy(through(part)) / energy(through(rest))
  return 10 * Math.log10(after / before)
}

describe('ears', () => {
  it('raise the parts of the demo by 6 dB and more', () => {
    const rises = saltOnTheSignal.parts.map((part) => ({
      part: part.name,
      dB:
        Math.round(rise(part.id, earsForPart({ pan: part.pan ?? 0, bass: part.role === 'bass' })) * 10) / 10,
    }))
    expect(
      rises.filter(({ dB }) => dB < 6),
      JSON.stringify(rises),
    ).toEqual([])
  }, 120_000)

  it('tell steady from sudden sounds', () => {
    expect(rise('drums', earsOf({ drums: 'only' }))).toBeGreaterThan(6)
  }, 60_000)

  it('give the recording back, piece by piece from where it plays, when nothing is chosen', () => {
    const tone = (hz: number): Float32Array =>
      Float32Array.from({ length: 20 * RATE }, (_, i) => 0.4 * Math.sin((2 * Math.PI * hz * i) / RATE))
    const [left, right] = [tone(220), tone(330)]
    const pieces = [...earsPieces([left, right], {}, { sampleRate: RATE, fromSeconds: 9 }, fft)]
    expect(pieces.map(({ startFrame }) => startFrame / RATE)).toEqual([8, 16, 0])
    for (const { startFrame, channels } of pieces) {
      const off = channels[0].reduce(
        (most, value, i) => Math.max(most, Math.abs(value - (left[startFrame + i] ?? 0))),
        0,
      )
      expect(off).toBeLessThan(0.001)
    }
  })

  it('are said in words', () => {
    expect(earsWords({ place: 'left', register: 'low', drums: 'without' })).toBe('left, low, without drums')
    expect(earsWords({})).toBe('')
  })
})
