import { describe, expect, it } from 'vitest'
import { readLabel } from '../../core/listen/decode/chord-labels'
import { network } from '../../core/listen/models/net'
import { compose, drawnWish, WISHES } from '../../demo/evaluation/compose'
import { performSong } from '../../demo/evaluation/perform'
import { fitNet } from '../../tools/fit-net'

describe.each([...WISHES, drawnWish(7), drawnWish(41)].map((wish) => [wish.name, wish] as const))(
  'the evaluation song %s',
  (_, wish) => {
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
  },
)

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
