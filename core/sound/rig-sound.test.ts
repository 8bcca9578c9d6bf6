// What a rig and a scraping hand do, rendered and measured.
import { beforeAll, describe, expect, it } from 'vitest'
import { centsBetween, level, measurePitch } from '../../tests/support/pitch'
import { shippedBank, soundingNote } from '../../tests/support/sounding'
import type { Effect } from '../document/schema'
import { throughRig } from '../score/effects'
import type { SoundingEvent } from '../score/sounding-event'
import type { Bank } from './bank'
import { renderEvents } from './player'

const RATE = 44_100
let bank: Bank
beforeAll(async () => {
  bank = await shippedBank()
})
const note = (over: Partial<SoundingEvent> = {}): SoundingEvent =>
  soundingNote({ endSeconds: 0.35, releaseSeconds: 0.05, ...over })
const TICKS_A_SECOND = 20_160
const rendered = (event: SoundingEvent, effects: Omit<Effect, 'id' | 'words' | 'knobs'>[]): Float32Array => {
  const all = effects.map((effect, index) => ({ ...effect, id: `${index}`, words: '', knobs: [] }))
  const events = throughRig(
    [event],
    { pickup: '', gain: '', effects: all },
    (seconds, ticks) => seconds + ticks / TICKS_A_SECOND,
  )
  return renderEvents(bank, events, { sampleRate: RATE, seconds: 2.4 })
}
/** Energy of the second difference beside that of the sound: how bright it is. */
function brightness(audio: Float32Array, from: number, to: number): number {
  let [bright, all] = [0, 1e-12]
  for (let at = Math.round(from * RATE) + 1; at < to * RATE; at++) {
    bright += (audio[at]! - audio[at - 1]!) ** 2
    all += audio[at]! ** 2
  }
  return bright / all
}

describe('a rig that sounds', () => {
  it('repeats in time, each softer than the one before', () => {
    const audio = rendered(note(), [{ kind: 'delay', delayTicks: TICKS_A_SECOND / 2, repeats: 3 }])
    const heard = [0, 1, 2, 3].map((repeat) => level(audio, RATE, 0.12 + repeat * 0.5, 0.25 + repeat * 0.5))
    const between = level(audio, RATE, 0.5, 0.58)
    for (const [index, loud] of heard.entries()) {
      if (index > 0) expect(loud).toBeLessThan(heard[index - 1]!)
      expect(loud).toBeGreaterThan(between * 2)
    }
    const later = audio.subarray(Math.round(0.5 * RATE))
    expect(Math.abs(centsBetween(measurePitch(later, RATE, 0.2, { windowSeconds: 0.1 })!, 57))).toBeLessThan(
      5,
    )
  })
  it('adds an octave below that is lower by exactly that', () => {
    const long = note({ endSeconds: 1.5 })
    const audio = rendered(long, [{ kind: 'octave', semitones: -12 }])
    expect(Math.abs(centsBetween(measurePitch(audio, RATE, 0.8, { windowSeconds: 0.1 })!, 45))).toBeLessThan(
      5,
    )
  })
  it('is duller through a filter', () => {
    const long = note({ endSeconds: 1.5, sound: 'distorted' })
    const [open, dull] = [rendered(long, []), rendered(long, [{ kind: 'filter', cutoffHz: 700 }])]
    expect(brightness(dull, 0.2, 1)).toBeLessThan(brightness(open, 0.2, 1) / 2)
  })
})

describe('a scrape', () => {
  it('rasps from its beginning to its end, brighter as the hand climbs', () => {
    const curve = [
      { seconds: 0, semitones: 0 },
      { seconds: 1, semitones: 24 },
    ]
    const audio = rendered(note({ endSeconds: 1.1, dead: true, scraped: true, curve }), [])
    const [early, late, after] = [
      level(audio, RATE, 0.2, 0.3),
      level(audio, RATE, 0.9, 1),
      level(audio, RATE, 1.4, 1.6),
    ]
    expect(Math.min(early, late)).toBeGreaterThan(after * 20)
    expect(brightness(audio, 0.8, 1)).toBeGreaterThan(brightness(audio, 0.15, 0.35) * 2)
  })
})
