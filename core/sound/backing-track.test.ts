import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import { EMPTY_CONTENT, type Song } from '../document/schema'
import { figureOf, noteAt, placeOf, run, smallSong } from '../../tests/support/small-song'
import { backingSeconds, backingSpan, backingTrack, type BackingWish } from './backing-track'
import { openBank, type Bank } from './bank'
import { loudnessOf } from './loudness'

let bank: Bank
beforeAll(async () => {
  const file = readFileSync('public/sound/bank.sf3')
  bank = await openBank(file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer)
})

const RATE = 22_050
/** The verse, sixteen seconds at 120, in which guitar one plays a note on its first beat only. */
function song(): Song {
  const content = { ...EMPTY_CONTENT, notes: [noteAt(0, 3, 5)] }
  const start = run(smallSong(), 'addFigure', { figure: figureOf('hit', { content }) })
  return run(start, 'setPlacement', { placement: placeOf('p', { figureId: 'hit' }) })
}
const wish = (over: Partial<BackingWish> = {}): BackingWish => ({
  partIds: ['one', 'two'],
  speed: 1,
  countInBars: 0,
  click: false,
  fromSectionId: 'verse',
  toSectionId: 'verse',
  times: 1,
  sampleRate: RATE,
  ...over,
})
const power = (channel: Float32Array, from: number, to: number): number =>
  channel.slice(Math.round(from * RATE), Math.round(to * RATE)).reduce((sum, value) => sum + value * value, 0)
/** Seconds at which something begins: much louder than just before. */
function begins(channel: Float32Array): number[] {
  const found: number[] = []
  const step = 0.05
  for (let at = 0; at < channel.length / RATE; at += step) {
    const [before, now] = [power(channel, Math.max(0, at - step), at), power(channel, at, at + step)]
    if (now > 0.5 && now > 8 * before) found.push(Math.round(at * 10) / 10)
  }
  return found
}

describe('a backing track', () => {
  it('is the stretch, as often as wanted, at the speed wanted', () => {
    const track = (over: Partial<BackingWish>) => backingTrack(bank, song(), wish(over))
    expect(begins(track({}).channels[0])).toEqual([0])
    expect(begins(track({ times: 3 }).channels[0])).toEqual([0, 16, 32])
    expect(begins(track({ times: 2, speed: 0.5 }).channels[0])).toEqual([0, 32])
    expect(track({ speed: 0.5 }).seconds).toBeCloseTo(34, 1)
    expect(backingSeconds(song(), wish({ times: 2, speed: 2 }))).toBeCloseTo(18, 1)
  })

  it('counts in, and clicks every beat when that is wanted', () => {
    const counted = backingTrack(bank, song(), wish({ countInBars: 1, partIds: [] }))
    expect(begins(counted.channels[0])).toEqual([0, 0.5, 1, 1.5])
    const clicked = backingTrack(bank, song(), wish({ click: true, partIds: [], speed: 0.8 }))
    expect(begins(clicked.channels[0])).toHaveLength(32)
    expect(backingTrack(bank, song(), wish({ countInBars: 2 })).seconds).toBeCloseTo(22, 1)
  })

  it('clicks on the first beat of a bar too, and louder', () => {
    const { channels } = backingTrack(bank, song(), wish({ click: true, partIds: [] }))
    expect(power(channels[0], 0, 0.1)).toBeGreaterThan(1.5 * power(channels[0], 0.5, 0.6))
  })

  it('leaves out the parts that are not wanted', () => {
    const { channels, gainDb } = backingTrack(bank, song(), wish({ partIds: ['two'] }))
    expect(power(channels[0], 0, 18)).toBe(0)
    expect(gainDb).toBe(0)
  })

  it('is as loud as every other, and never over full scale', () => {
    for (const over of [{ click: true }, { partIds: ['one'] }]) {
      const { channels } = backingTrack(bank, song(), wish(over))
      const top = Math.max(
        ...channels.map((channel) => channel.reduce((high, value) => Math.max(high, Math.abs(value)), 0)),
      )
      expect(top).toBeLessThanOrEqual(0.8901)
      const loud = loudnessOf(channels, RATE)
      // A single note's peak may forbid more.
      expect(loud).toBeLessThan(-15.5)
      expect(loud > -16.5 || top > 0.88).toBe(true)
    }
  })

  it('has the record in it only when it is handed in, at the speed of the track', () => {
    const tone = new Float32Array(60 * RATE)
    for (let frame = 0; frame < tone.length; frame++)
      tone[frame] = frame / RATE > 20 ? Math.sin(frame / 8) : 0
    // Handed in from where the stretch begins, at the speed of the track.
    const { fromSeconds } = backingSpan(song(), wish())
    expect(fromSeconds).toBe(16.5)
    const cut = tone.slice(fromSeconds * RATE)
    const record = { channels: [cut, cut], gain: 0.5 }
    const { channels } = backingTrack(bank, song(), wish({ partIds: [], times: 2 }), { record })
    // The tone begins 3.5 seconds into the track, and again as long after its second time.
    expect(power(channels[0], 0, 3.4)).toBe(0)
    expect(power(channels[1], 3.6, 15)).toBeGreaterThan(10)
    expect(power(channels[0], 16.1, 19.4)).toBe(0)
    const slow = backingTrack(bank, song(), wish({ partIds: [], speed: 0.5 }), { record })
    expect(power(slow.channels[0], 3.6, 30)).toBeGreaterThan(10)
  })

  it('says how far it is', () => {
    const shares: number[] = []
    backingTrack(bank, song(), wish({ click: true }), { report: (share) => shares.push(share) })
    expect(shares.length).toBeGreaterThan(10)
    expect(shares.every((share, index) => share >= (shares[index - 1] ?? 0) && share <= 1)).toBe(true)
  })
})
