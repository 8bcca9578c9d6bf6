import { describe, expect, it } from 'vitest'
import { nodeFft } from '../../../node/fft'
import { quietJob } from '../job'
import { lowNoteOf, lowNotes } from './low-note'

const RATE = 22_050
const SECONDS = 2
const hz = (midi: number): number => 440 * 2 ** ((midi - 69) / 12)

/** A driven string: a tone clipped hard, so that its overtones are strong. */
const driven = (midi: number, phase: number): Float32Array =>
  Float32Array.from({ length: SECONDS * RATE }, (_, i) =>
    Math.tanh(5 * Math.sin((2 * Math.PI * hz(midi) * i) / RATE + phase)),
  )
/** A dyad through one amplifier: the sum is clipped, not each string. */
const dyad = (low: number, high: number, phase: number): Float32Array =>
  Float32Array.from({ length: SECONDS * RATE }, (_, i) => {
    const at = (midi: number): number =>
      Math.sin((2 * Math.PI * hz(midi) * i) / RATE + phase * (1 + (midi % 5)))
    return Math.tanh(4 * (at(low) + at(high)))
  })
const stereo = (left: Float32Array, right: Float32Array) => ({
  middle: left.map((value, i) => (value + right[i]!) / 2),
  side: left.map((value, i) => (value - right[i]!) / 2),
  sampleRate: RATE,
  tuningCents: 0,
})
/** Two takes left and right, a bass in the middle. */
const record = (takes: [Float32Array, Float32Array], bass: Float32Array, guitars: number) =>
  stereo(
    takes[0].map((value, i) => guitars * value + 0.5 * bass[i]!),
    takes[1].map((value, i) => guitars * value + 0.5 * bass[i]!),
  )
const makeFft = await nodeFft()

describe('the lowest note of a wall of guitars', () => {
  it.each([
    { name: 'a fifth above the bass', low: 45, high: 50, bass: 38 },
    { name: 'a low E under another bass note', low: 40, high: 47, bass: 36 },
    { name: 'a power chord on B, tuned down', low: 35, high: 42, bass: 35 },
  ])('$name', async ({ low, high, bass }) => {
    const heard = await lowNotes(
      record([dyad(low, high, 0), dyad(low, high, 1)], driven(bass, 0.4), 0.6),
      makeFft,
      quietJob,
    )
    const strengths = lowNoteOf(heard!, 0.3, 1.6)!
    expect(strengths.indexOf(1)).toBe(low % 12)
  })

  it('says nothing of a record with one channel turned round, or with one only', async () => {
    const both = driven(45, 0)
    const of = (left: Float32Array, right: Float32Array) => lowNotes(stereo(left, right), makeFft, quietJob)
    const turned = both.map((value) => -value)
    const silent = new Float32Array(both.length)
    expect(await of(both, turned)).toBeUndefined()
    expect(await of(both, silent)).toBeUndefined()
    expect(await of(silent, both)).toBeUndefined()
  })
  it('says nothing where the sides are faint, and nothing where they are silent', async () => {
    const takes: [Float32Array, Float32Array] = [driven(45, 0), driven(45, 1)]
    expect(await lowNotes(record(takes, driven(33, 0), 0.05), makeFft, quietJob)).toBeUndefined()
    const half = (take: Float32Array): Float32Array =>
      take.map((value, i) => (i < take.length / 2 ? value : 0))
    const heard = await lowNotes(
      record([half(driven(45, 0)), half(driven(45, 1))], driven(33, 0), 0.9),
      makeFft,
      quietJob,
    )
    expect(lowNoteOf(heard!, 1.4, 1.8)).toBeUndefined()
  })
})
