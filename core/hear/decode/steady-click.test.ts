import { describe, expect, it } from 'vitest'
import { drumKit, noise, RATE, silence } from '../../../tests/support/tones'
import { matchScore } from '../metrics'
import { believed, clickReadings } from './click-readings'
import { Cancelled, quietJob } from '../job'
import { attackMeter } from '../features/attacks'
import { steadyClick, type SteadyClick } from './steady-click'
import { nodeFft } from '../../../node/fft'

const SECONDS = 100
const makeFft = await nodeFft()
/** Drums at a steady tempo, silent in a break, with noise over all of it. */
function record(bpm: number, { drift = 0 } = {}): { mono: Float32Array; beats: number[] } {
  const mono = silence(SECONDS)
  const beats: number[] = []
  let at = 0.4
  for (let bar = 0; at < SECONDS - 3; bar++) {
    const tempo = bpm * (1 + drift * Math.sin(bar / 5))
    const own = bar === 12 || bar === 13 ? silence(SECONDS) : mono
    beats.push(...drumKit(own, { bpm: tempo, start: at, beats: 4 }))
    at += (4 * 60) / tempo
  }
  const random = noise(3)
  for (let i = 0; i < mono.length; i++) mono[i] = (mono[i] ?? 0) + 0.02 * random()
  return { mono, beats }
}
const risesOf = (mono: Float32Array): Float32Array => {
  const meter = attackMeter(RATE)
  meter.take(mono)
  return meter.rises()
}
const clickOf = (mono: Float32Array) => steadyClick(risesOf(mono), makeFft, quietJob)

describe('a steady click', () => {
  it.each([84, 118.37, 171.2])(
    'of %d a minute is found to a hundredth of a percent, over a break',
    async (bpm) => {
      const { mono, beats } = record(bpm)
      const click = believed(await clickOf(mono))
      expect(click).toBeDefined()
      const ratio = (click?.periodSeconds ?? 0) / (60 / bpm)
      // Which multiple of the beat is the sharpest is not the question here.
      const nearest = [0.5, 1, 1.5, 2].reduce((best, one) =>
        Math.abs(one - ratio) < Math.abs(best - ratio) ? one : best,
      )
      expect(Math.abs(ratio / nearest - 1)).toBeLessThan(2e-4)
      const scores = click
        ? clickReadings(click, SECONDS, 100).map(
            ({ beatFrames }) =>
              matchScore(
                beats,
                beatFrames.map((frame) => frame / 100),
              ).f,
          )
        : []
      expect(Math.max(...scores)).toBeGreaterThan(0.96)
    },
  )
  it('is not believed of a band that drifts, of noise, of a moment', async () => {
    expect(believed(await clickOf(record(118, { drift: 0.03 }).mono))).toBeUndefined()
    const random = noise(5)
    expect(believed(await clickOf(silence(SECONDS).map(() => random())))).toBeUndefined()
    expect(await clickOf(silence(4))).toBeUndefined()
  })
  const click: SteadyClick = {
    periodSeconds: 0.5,
    phasesSeconds: [0.1, 0.2],
    sharpness: 60,
    steadiness: 0.6,
    agreement: 1,
    coherence: 1,
    likenessOf: () => 1,
  }
  it('that folds faintly is believed only where it is the same throughout: a dense band drifts so', () => {
    expect(believed(click)).toBe(click)
    expect(believed({ ...click, sharpness: 20 })).toBeUndefined()
    expect(believed({ ...click, sharpness: 20, steadiness: 0.9 })).toBeDefined()
  })
  it('of three to a beat may be counted from any of them', () => {
    const sixEight = { ...click, phasesSeconds: [0.1] }
    const slow = clickReadings(sixEight, 60, 100).filter(
      ({ beatFrames: [first, second] }) => Math.abs((second ?? 0) - (first ?? 0) - 150) < 1e-6,
    )
    const likeliest = Math.max(...slow.map(({ click: way }) => way?.prior ?? Number.NEGATIVE_INFINITY))
    const starts = slow
      .filter(({ click: way }) => way?.prior === likeliest)
      .map(({ beatFrames: [first] }) => Math.round(first ?? 0))
    expect(starts.sort((a, b) => a - b)).toEqual([10, 60, 110])
  })
  it('may begin between its attacks, less likely between its weaker ones', () => {
    const priors = new Map(
      clickReadings(click, 60, 100)
        .filter(({ beatFrames: [first, second] }) => Math.abs((second ?? 0) - (first ?? 0) - 50) < 1e-6)
        .map(({ beatFrames: [first], click: way }) => [Math.round(first ?? 0), way?.prior ?? 0]),
    )
    const ordered = [10, 35, 20, 45].map((first) => priors.get(first) ?? Number.NEGATIVE_INFINITY)
    expect(ordered).toEqual([...ordered].sort((a, b) => b - a))
    expect(ordered[3]).toBeLessThan(ordered[2] ?? 0)
  })
  it('stops when it is told to', async () => {
    const asked = { ...quietJob, isCancelled: () => true }
    await expect(steadyClick(risesOf(record(118).mono), makeFft, asked)).rejects.toThrow(Cancelled)
  })
  it('says where attacks go along with it', async () => {
    const click = await clickOf(record(118).mono)
    expect(click?.likenessOf(0, 20)).toBeGreaterThan(0.8)
    expect(click?.likenessOf(24.5, 28)).toBeLessThan(0.5)
  })
})
