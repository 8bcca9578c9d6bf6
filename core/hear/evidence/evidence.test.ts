import { beforeAll, describe, expect, it } from 'vitest'
import { nodeFft } from '../../../node/fft'
import { noise, pluck, RATE, silence } from '../../../tests/support/tones'
import { bendOf } from './bend'
import { isPitchSounding, wasAttacked } from './evidence'
import { isMutedShort } from './mute'
import type { MakeFft } from '../features/spectrum'

let makeFft: MakeFft
beforeAll(async () => {
  makeFft = await nodeFft()
})
const place = (mono: Float32Array, tuningCents = 0) => ({ mono, sampleRate: RATE, tuningCents })
const hiss = (seconds: number): Float32Array => {
  const random = noise(3)
  return silence(seconds).map(() => 0.2 * random())
}

describe('is this pitch sounding', () => {
  const chord = silence(1.5)
  for (const midi of [48, 55, 59, 64]) pluck(chord, { midi, start: 0.1, length: 1.3 })
  it.each([
    [55, 'sounding'],
    [59, 'sounding'],
    [58, 'not heard'],
    [53, 'not heard'],
  ] as const)('%i in C E G B: %s', (midi, verdict) => {
    expect(isPitchSounding(place(chord), midi, { start: 0.15, end: 1.2 }).verdict).toBe(verdict)
  })
  it('follows a tape that runs flat', () => {
    const flat = silence(1.5)
    pluck(flat, { midi: 63.6, start: 0.1, length: 1.3 })
    expect(isPitchSounding(place(flat, -40), 64, { start: 0.15, end: 1.2 }).verdict).toBe('sounding')
  })
  it('cannot tell from silence, or from a moment of a low note', () => {
    expect(isPitchSounding(place(silence(1)), 60, { start: 0, end: 1 }).verdict).toBe('cannot tell')
    const low = silence(1)
    pluck(low, { midi: 28, start: 0, length: 1 })
    expect(isPitchSounding(place(low), 28, { start: 0.2, end: 0.26 })).toMatchObject({
      verdict: 'cannot tell',
      why: expect.stringContaining('too short') as string,
    })
  })
})

describe('picked or not', () => {
  it.each([
    [true, 'attacked'],
    [false, 'cannot tell'],
  ] as const)('a note among picked ones, with a pick %s: %s', (attack, verdict) => {
    const line = silence(1.8)
    for (const [index, midi] of [64, 67, 69, 67, 64].entries())
      pluck(line, { midi, start: 0.1 + 0.3 * index, length: 0.32, attack: index === 2 ? attack : true })
    expect(wasAttacked(place(line), 0.7, makeFft).verdict).toBe(verdict)
  })
  it('cannot tell a soft beginning where no pick is heard around it', () => {
    const line = silence(1.2)
    pluck(line, { midi: 64, start: 0.1, length: 0.42, attack: false })
    pluck(line, { midi: 67, start: 0.5, length: 0.5, attack: false })
    expect(wasAttacked(place(line), 0.5, makeFft).verdict).toBe('cannot tell')
  })
  it('cannot tell where nothing sounds', () =>
    expect(wasAttacked(place(silence(1)), 0.4, makeFft).verdict).toBe('cannot tell'))
})

describe('muted short or ringing', () => {
  it.each([
    [0.25, 'short'],
    [4, 'rings'],
  ] as const)('a note that falls by 60 dB in %f s: %s', (decay, verdict) => {
    const note = silence(1.6)
    pluck(note, { midi: 52, start: 0.1, length: 1.4, decay })
    const answer = isMutedShort(place(note), 52, { start: 0.1, end: 1.4 }, makeFft)
    expect(answer.verdict).toBe(verdict)
    // From the first looks to two tenths of a second after the beginning.
    expect(Math.abs(answer.value - (60 * 0.17) / decay)).toBeLessThan(8)
  })
  it('cannot tell when the next note comes at once, or there is none', () => {
    const note = silence(1)
    pluck(note, { midi: 52, start: 0.1, length: 0.8 })
    expect(isMutedShort(place(note), 52, { start: 0.1, end: 0.16 }, makeFft).verdict).toBe('cannot tell')
    expect(isMutedShort(place(silence(1)), 52, { start: 0.1, end: 0.9 }, makeFft).verdict).toBe('cannot tell')
  })
})

describe('how far a note is bent', () => {
  it.each([0, 1, 2])('by %i semitones, within ten cents', (semitones) => {
    const note = silence(1.4)
    pluck(note, { midi: 67, start: 0.1, length: 1.2, bend: { semitones, from: 0.15, to: 0.4 } })
    const answer = bendOf(place(note), 67, { start: 0.2, end: 1.2 }, makeFft)
    expect(answer.verdict).toBe(semitones ? 'bent' : 'straight')
    expect(Math.abs(answer.value - 100 * semitones)).toBeLessThan(10)
    expect(answer.track.length).toBeGreaterThan(20)
  })
  it('cannot tell from noise', () =>
    expect(bendOf(place(hiss(1)), 67, { start: 0.1, end: 0.9 }, makeFft).verdict).toBe('cannot tell'))
})
