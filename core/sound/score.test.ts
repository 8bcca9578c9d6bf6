// The chart rendered as it is worked out, pass by pass, against the same chart handed over whole.
import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import { bigSong } from '../../tests/support/big-song'
import { songTimeMap } from '../document/form'
import type { Song } from '../document/schema'
import { soundPart } from '../score/sound-song'
import { openBank, type Bank } from './bank'
import { soundsOf } from './needed-sounds'
import { inTune, stemsOf, type Score } from './score'
import { StemRenderer, type Stem, type StemPlan } from './stems'

const RATE = 22_050
let bank: Bank
beforeAll(async () => {
  const file = readFileSync('public/sound/bank.sf3')
  bank = await openBank(file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer)
})

const song: Song = bigSong(16, 2)
const score = (over: Partial<Score> = {}): Score => ({
  partIds: ['p0', 'p1'],
  tuning: { semitones: 0, humanFeel: false },
  ...over,
})
const plan = (stems: Stem[], over: Partial<StemPlan> = {}): StemPlan => ({
  stems,
  fromSeconds: 0,
  speed: 1,
  leadSeconds: 0,
  clickSeconds: [],
  sampleRate: RATE,
  ...over,
})
/** Seconds of every stem, rendered in uneven blocks. */
function rendered(given: StemPlan, seconds: number): Float32Array[] {
  const renderer = new StemRenderer(bank, given)
  const stems: Float32Array[] = renderer.names.map(() => new Float32Array(Math.round(seconds * RATE)))
  for (let at = 0, block = 700; at < stems[0]!.length; at += block, block = 700 + ((block * 7) % 3000))
    renderer
      .render(Math.min(block, stems[0]!.length - at))
      .forEach((samples, index) => stems[index]!.set(samples, at))
  return stems
}
const whole = (): Stem[] => ['p0', 'p1'].map((id) => ({ id, events: soundPart(song, id, songTimeMap(song)) }))
/** Largest difference of two renderings, against the loudest sample. */
function difference(one: readonly Float32Array[], other: readonly Float32Array[]): number {
  let [largest, loudest] = [0, 1e-9]
  one.forEach((samples, stem) =>
    samples.forEach((value, at) => {
      largest = Math.max(largest, Math.abs(value - other[stem]![at]!))
      loudest = Math.max(loudest, Math.abs(value))
    }),
  )
  return largest / loudest
}

describe('a chart worked out as it is played', () => {
  it.each<[string, Partial<StemPlan>]>([
    ['from the beginning', {}],
    ['from the middle', { fromSeconds: 5.3 }],
    ['slowly', { fromSeconds: 1, speed: 0.6 }],
    ['round and round', { fromSeconds: 2, loop: { startSeconds: 2, endSeconds: 3.1 } }],
    ['after a count-in', { leadSeconds: 0.5, clickSeconds: [0, 0.25] }],
  ])('sounds the same %s', (_, over) => {
    const flowing = rendered(plan(stemsOf(song, score()), over), 4)
    const given = rendered(plan(whole(), over), 4)
    expect(flowing.some((stem) => stem.some((value) => Math.abs(value) > 0.01))).toBe(true)
    expect(difference(given, flowing)).toBeLessThan(1e-4)
  })
  it('is heard at the pitch of the recording', () => {
    const [event] = soundPart(song, 'p0', songTimeMap(song))
    const [moved] = inTune([event!], { semitones: -1.14, humanFeel: false })
    expect(moved!.midi).toBeCloseTo(event!.midi - 1.14)
    expect(inTune([event!], { semitones: 0, humanFeel: false })[0]).toBe(event)
  })
  it('plays only the parts that are asked for', () =>
    expect(stemsOf(song, score({ partIds: ['p1'] })).map(({ id }) => id)).toEqual(['p1']))
})

describe('the sounds a song needs', () => {
  it('are each named once, and none is missing', () => {
    const needed = [...soundsOf(song)]
    const kind = (event: { midi: number; loudness: number }): string =>
      `${Math.round(event.midi)}/${Math.round(event.loudness * 8)}`
    const kinds = new Set(needed.map(kind))
    expect(kinds.size).toBe(needed.length)
    for (const event of soundPart(song, 'p0', songTimeMap(song))) expect(kinds).toContain(kind(event))
  })
})
