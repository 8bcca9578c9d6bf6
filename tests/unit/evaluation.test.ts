import { describe, expect, it } from 'vitest'
import { readLabel } from '../../core/hear/decode/chord-labels'
import { network } from '../../core/hear/models/net'
import { compose, drawnRecord, drawnWish, WISHES } from '../../demo/evaluation/compose'
import { amplified } from '../../demo/amplifier'
import { strokesOf } from '../../demo/evaluation/figure'
import { performSong } from '../../demo/evaluation/perform'
import { fitNet } from '../../tools/fit-net'

describe.each(
  [...WISHES, drawnWish(7), drawnWish(41), drawnRecord(3), drawnRecord(8), drawnRecord(12)].map(
    (wish) => [wish.name, wish] as const,
  ),
)('the evaluation song %s', (_, wish) => {
  const { truth, stems, endSeconds } = performSong(compose(wish))
  it('has a truth whose beats rise, whose ones are beats, whose chords and sections fit together', () => {
    truth.beats.slice(1).forEach((beat, index) => expect(beat).toBeGreaterThan(truth.beats[index]!))
    expect(truth.downbeats.every((one) => truth.beats.includes(one))).toBe(true)
    for (const chord of truth.chords) {
      expect(chord.label === 'N' || readLabel(chord.label), chord.label).toBeTruthy()
      expect(chord.end).toBeGreaterThan(chord.start)
    }
    truth.sections
      .slice(1)
      .forEach((section, index) => expect(section.start).toBeCloseTo(truth.sections[index]!.end, 3))
    expect(truth.sections.at(-1)!.end).toBeCloseTo(endSeconds, 3)
  })
  it('is played, within its time', () => {
    const pitched = stems.filter((stem) => stem.name !== 'drums').flatMap((stem) => stem.events)
    expect(pitched.length).toBeGreaterThan(200)
    for (const event of pitched) {
      expect(event.startSeconds).toBeLessThan(endSeconds + 0.1)
    }
  })
})

describe('a song as dense as a record', () => {
  const songs = Array.from({ length: 40 }, (_, seed) => compose(drawnRecord(seed)))
  const some = (found: (song: (typeof songs)[number]) => boolean): number => songs.filter(found).length
  it('is often played to a click by a wall of guitars, tuned low, on one root, with a half bar', () => {
    expect(some(({ drift }) => drift === 0)).toBeGreaterThan(15)
    expect(some(({ drift }) => drift > 0)).toBeGreaterThan(5)
    const players = (song: (typeof songs)[number]) => song.passages.flatMap(({ passage }) => passage.players)
    expect(
      some((song) => players(song).some(({ amplifier, pan }) => amplifier && pan < -0.7)),
    ).toBeGreaterThan(20)
    expect(some(({ lowest = 40 }) => lowest < 38)).toBeGreaterThan(5)
    expect(some((song) => song.passages.some(({ joined }) => joined))).toBeGreaterThan(4)
    const onOneRoot = (song: (typeof songs)[number]): boolean =>
      song.passages.some(({ passage }) => passage.changes.length === 1 && passage.bars >= 4)
    expect(some(onOneRoot)).toBeGreaterThan(10)
  })
  it('counts a half bar to the section before it', () => {
    const song = songs.find(({ passages }) => passages.some(({ joined }) => joined))!
    const { truth } = performSong(song)
    expect(truth.sections).toHaveLength(song.passages.filter(({ joined }) => !joined).length)
    const at = song.passages.findIndex(({ joined }) => joined)
    expect(truth.meters[at]).toBe('2/4')
  })
})

describe('an amplifier', () => {
  const RATE = 22_050
  const dyad = Float32Array.from({ length: RATE }, (_, i) =>
    [110, 165].reduce((sum, hz) => sum + 0.3 * Math.sin((2 * Math.PI * hz * i) / RATE), 0),
  )
  const levelAt = (signal: Float32Array, hz: number): number => {
    let [re, im] = [0, 0]
    signal.forEach((value, i) => {
      re += value * Math.cos((2 * Math.PI * hz * i) / RATE)
      im += value * Math.sin((2 * Math.PI * hz * i) / RATE)
    })
    return Math.hypot(re, im) / signal.length
  }
  it('adds what two notes make together, as loud as it came in, and nothing over its loudspeaker', () => {
    const out = amplified(dyad, 20, RATE)
    const rms = (signal: Float32Array): number => Math.hypot(...[...signal].slice(0, 9000))
    expect(rms(out) / rms(dyad)).toBeCloseTo(1, 1)
    // The major third of a power chord: five times its root, in neither of the strings.
    expect(levelAt(out, 550)).toBeGreaterThan(20 * levelAt(dyad, 550))
    expect(levelAt(out, 9900)).toBeLessThan(0.01 * levelAt(out, 550))
  })
})

describe('a figure', () => {
  it('repeats to the end, and lets ring what is not muted until the next stroke', () => {
    expect(strokesOf('m.3.', 6)).toEqual([
      { step: 0, length: 1, semitones: 0, muted: true },
      { step: 2, length: 2, semitones: 3, muted: false },
      { step: 4, length: 1, semitones: 0, muted: true },
    ])
  })
})

describe('fitting', () => {
  it('learns what no straight line divides, the same each time', () => {
    const groups = [
      [0, 0, 0],
      [0, 1, 1],
      [1, 0, 1],
      [1, 1, 0],
    ].flatMap(([a, b, target]) =>
      Array.from({ length: 20 }, () => ({ rows: [[a!, b!]], right: 0, target: target! })),
    )
    const fit = () =>
      fitNet(groups, { hidden: 6, outputs: 1, rounds: 150, rate: 0.03, decay: 1e-5, binary: true, seed: 3 })
    const net = network(fit())
    expect(
      [
        [0, 0],
        [0, 1],
        [1, 0],
        [1, 1],
      ].map((row) => net(row)[0]! > 0),
    ).toEqual([false, true, true, false])
    expect(fit()).toEqual(fit())
  })
})
