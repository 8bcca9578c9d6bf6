import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import type { Mark, Note } from '../document/schema'
import { fretSteps, glideTicks, pitchCurve } from './pitch-curve'

const played = (mark: Mark, lengthTicks = 2 * Q): ReturnType<typeof pitchCurve> =>
  pitchCurve({ id: 'n', string: 3, fret: 9, startTicks: 0, lengthTicks, marks: [mark] } satisfies Note, Q)
const semitones = (mark: Mark, lengthTicks?: number): number[] =>
  played(mark, lengthTicks).map((point) => point.semitones)
type Bend = Extract<Mark, { kind: 'bend' }>
const bend = (shape: Bend['shape'], by = 2): Bend => ({ kind: 'bend', semitones: by, shape })

describe('the pitch of a bent note', () => {
  it.each<[Bend['shape'], number[]]>([
    ['plain', [0, 2]],
    ['bend and hold', [0, 2]],
    ['pre-bend', [2]],
    ['release', [2, 2, 0]],
    ['bend and release', [0, 2, 2, 0]],
    ['re-bend', [0, 2, 0, 2]],
  ])('%s goes %j', (shape, expected) => expect(semitones(bend(shape))).toEqual(expected))
  it('arrives within half a beat, and within half of a shorter note', () => {
    expect(played(bend('plain')).at(-1)!.ticks).toBe(Q / 2)
    expect(played(bend('plain'), Q / 2).at(-1)!.ticks).toBe(Q / 4)
  })
  it('begins let go of what was bent before, so that nothing jumps', () => {
    const release = played(bend('release'))
    expect(release[0]).toEqual({ ticks: 0, semitones: 2 })
    expect(release.at(-1)!.ticks).toBeLessThan(2 * Q)
  })
  it('bends by quarter tones as well', () => expect(Math.max(...semitones(bend('re-bend', 0.5)))).toBe(0.5))
})

describe('the pitch of a slid note', () => {
  it('comes in from below or above, fret by fret, in a sixth of a beat', () => {
    const below = played({ kind: 'slide', how: 'in from below', frets: 2 })
    expect([below[0]!.semitones, below.at(-1)!.semitones, below.at(-1)!.ticks]).toEqual([-2, 0, Q / 6])
    expect(semitones({ kind: 'slide', how: 'in from above' })[0]).toBe(3)
  })
  it('goes out at its end, not before', () => {
    const out = played({ kind: 'slide', how: 'out', frets: 4 })
    expect(out[0]).toEqual({ ticks: 1.2 * Q, semitones: 0 })
    expect(out.at(-1)).toEqual({ ticks: 2 * Q, semitones: -4 })
  })
  it('stands on every fret it passes', () => {
    const steps = fretSteps(0, 5, 0, 100)
    expect([...new Set(steps.map((point) => point.semitones))]).toEqual([0, 1, 2, 3, 4, 5])
    for (let fret = 0; fret < 5; fret++)
      expect(steps.filter((point) => point.semitones === fret)).toHaveLength(2)
  })
  it('leaves the note before in its last fifth of a beat, or of a short note most of it', () => {
    expect(glideTicks(4 * Q, Q)).toBe(Q / 5)
    expect(glideTicks(Q / 8, Q)).toBeCloseTo(0.6 * (Q / 8))
  })
})

describe('the bar and the trill', () => {
  it.each<['dip' | 'dive' | 'return', number[]]>([
    ['dip', [0, -3, 0]],
    ['dive', [0, -3, -3]],
    ['return', [-3, 0]],
  ])('a %s of three goes %j', (how, expected) => {
    const curve = played({ kind: 'arm', semitones: -3, how })
    expect(curve.map((point) => point.semitones)).toEqual(expected)
    expect(curve.at(-1)!.ticks).toBe(2 * Q)
  })
  it('a trill begins on the note, alternates six times a beat and ends with it', () => {
    const curve = played({ kind: 'trill', frets: 2 }, Q)
    expect(curve.filter((_, index) => index % 2 === 0).map((point) => point.semitones)).toEqual([
      0, 2, 0, 2, 0, 2,
    ])
    expect(curve.at(-1)!.ticks).toBe(Q)
  })
  it('nothing else moves a pitch', () => {
    for (const kind of ['hammer-on', 'tap', 'ghost', 'dead', 'choke'] as const)
      expect(played({ kind })).toEqual([])
    expect(played({ kind: 'vibrato', width: 'wide' })).toEqual([])
  })
})

describe('any curve', () => {
  const mark: fc.Arbitrary<Mark> = fc.oneof(
    fc.record({
      kind: fc.constant('bend' as const),
      semitones: fc.constantFrom(0.5, 1, 2, 3),
      shape: fc.constantFrom('plain', 'pre-bend', 'release', 'bend and hold', 're-bend', 'bend and release'),
    }) as fc.Arbitrary<Mark>,
    fc.record({
      kind: fc.constant('slide' as const),
      how: fc.constantFrom('in from below', 'in from above', 'out'),
      frets: fc.integer({ min: 1, max: 12 }),
    }) as fc.Arbitrary<Mark>,
    fc.record({
      kind: fc.constant('arm' as const),
      semitones: fc.integer({ min: -12, max: -1 }),
      how: fc.constantFrom('dip', 'dive', 'return'),
    }) as fc.Arbitrary<Mark>,
    fc.record({
      kind: fc.constant('trill' as const),
      frets: fc.integer({ min: 1, max: 7 }),
    }) as fc.Arbitrary<Mark>,
  )
  it('goes forward in time within its note, whatever its length', () => {
    fc.assert(
      fc.property(mark, fc.integer({ min: Q / 4, max: 16 * Q }), (one, lengthTicks) => {
        const curve = played(one, lengthTicks)
        curve.forEach((point, index) => {
          expect(point.ticks).toBeGreaterThanOrEqual(index ? curve[index - 1]!.ticks : 0)
          expect(point.ticks).toBeLessThanOrEqual(lengthTicks + 1e-6)
        })
      }),
    )
  })
})
