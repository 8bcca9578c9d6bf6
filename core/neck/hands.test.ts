import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { newPart } from '../document/new-song'
import { EMPTY_CONTENT, type Mark, type Content, type Note, type Stroke } from '../document/schema'
import { humanised } from '../score/human-feel'
import { performContent } from '../score/perform'
import { fretSteps } from '../score/pitch-curve'
import {
  pickDirections,
  schoolDirections,
  turnedTo,
  upstrokesOnUpper,
  withPicks,
  wrongPicks,
  wrongWays,
} from './strokes'
import { soundingNote } from '../../tests/support/sounding'
import type { SoundingEvent } from '../score/sounding-event'

const guitar = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
const FOUR = { beats: 4, unit: 4 } as const
const feel = { meter: FOUR, subdivision: 'eighths' as const }
const stroke = (tick: number, direction: Stroke['direction'] = 'down'): Stroke => ({
  id: `s${tick}`,
  startTicks: tick,
  lengthTicks: Q / 2,
  direction,
  marks: [],
})
const note = (
  startTicks: number,
  fret: number,
  string = 3,
  marks: Mark[] = [],
  more: Partial<Note> = {},
): Note => ({ id: `n${startTicks}`, string, fret, startTicks, lengthTicks: Q, marks, ...more })
const perform = (content: Partial<Content>) =>
  performContent({ ...EMPTY_CONTENT, ...content }, { lengthTicks: 8 * Q, meter: FOUR }, guitar)

describe('the striking hand by school', () => {
  const list = [stroke(0), stroke(Q / 2), stroke(1.5 * Q), stroke(2 * Q)]
  it.each([
    ['pendulum', ['down', 'up', 'up', 'down']],
    ['all down', ['down', 'down', 'down', 'down']],
    ['alternate', ['down', 'up', 'down', 'up']],
  ] as const)('%s goes %j', (school, ways) => expect(schoolDirections(list, school, feel)).toEqual(ways))
  it('points at what goes against it, and leaves thumb and fingers alone', () => {
    expect([...wrongWays([stroke(0), stroke(Q / 2), stroke(Q, 'thumb')], 'pendulum', feel)]).toEqual([
      `s${Q / 2}`,
    ])
    expect(wrongPicks([note(0, 5, 3, [], { pick: 'up' }), note(Q, 7)], 'alternate', feel)).toEqual(
      new Set(['n0']),
    )
  })
  it('picks on in the same direction by economy, and skips slurred notes', () => {
    const line = [note(0, 5, 4), note(Q, 7, 4), note(2 * Q, 5, 3), note(3 * Q, 7, 3, [{ kind: 'hammer-on' }])]
    expect([...pickDirections(line, 'economy', feel).values()]).toEqual(['down', 'up', 'down'])
    expect([...pickDirections([note(0, 5, 4), note(Q, 5, 3)], 'economy', feel).values()]).toEqual([
      'down',
      'down',
    ])
    expect([...pickDirections(line, 'alternate', feel).values()]).toEqual(['down', 'up', 'down'])
  })
  it('turns strokes to a school, and writes picks on notes', () => {
    const turned = turnedTo([stroke(0, 'up'), stroke(Q / 2, 'down'), stroke(Q, 'thumb')], 'pendulum', feel)
    expect(turned.map((one) => one.direction)).toEqual(['down', 'up', 'thumb'])
    expect(wrongWays(turned, 'pendulum', feel).size).toBe(0)
    const picked = withPicks(
      [
        note(0, 5, 3, [], { pick: 'up' }),
        note(Q, 7, 3, [{ kind: 'hammer-on' }], { pick: 'up' }),
        note(2 * Q, 5),
      ],
      'alternate',
      feel,
    )
    expect(picked.map((one) => one.pick)).toEqual(['down', undefined, 'up'])
    expect(wrongPicks(picked, 'alternate', feel).size).toBe(0)
  })
  it('catches only the upper strings going up', () =>
    expect(
      upstrokesOnUpper([stroke(0), stroke(Q / 2, 'up')], () => [6, 5, 4, 3, 2, 1]).map((one) => one.strings),
    ).toEqual([undefined, [1, 2, 3]]))
})

describe('from figure to sound', () => {
  it('slides fret by fret and is not struck again', () => {
    const [slid, ...others] = perform({
      notes: [note(0, 5), note(Q, 9, 3, [{ kind: 'slide', how: 'legato' }])],
    })
    expect(others).toEqual([])
    expect(slid!.endTicks).toBe(2 * Q)
    const levels = new Set(slid!.curve.map((point) => point.semitones))
    expect([...levels].sort((a, b) => a - b)).toEqual([0, 1, 2, 3, 4])
    expect(slid!.curve.at(-1)!.semitones).toBe(4)
  })
  it('reaches a struck slide by its pitch and strikes it', () => {
    const [before, after] = perform({ notes: [note(0, 5), note(Q, 7, 3, [{ kind: 'slide', how: 'shift' }])] })
    expect(before!.curve.at(-1)).toMatchObject({ ticks: Q, semitones: 2 })
    expect(after!.attack).toBe('picked')
  })
  it('lets a bend down in the same breath', () => {
    const played = perform({
      notes: [
        note(0, 9, 3, [{ kind: 'bend', semitones: 2, shape: 'plain' }]),
        note(Q, 9, 3, [{ kind: 'bend', semitones: 2, shape: 'release' }]),
      ],
    })
    expect(played).toHaveLength(1)
    expect(played[0]!.curve.map((point) => point.semitones)).toEqual([0, 2, 2, 2, 0])
  })
  it('puts grace notes before the beat, rakes on lower strings, repeats under tremolo', () => {
    const grace = perform({ notes: [note(Q, 7, 3, [{ kind: 'grace', frets: -2 }])] })
    expect(grace.map((one) => [one.startTicks < Q, one.attack])).toEqual([
      [true, 'picked'],
      [false, 'slurred'],
    ])
    expect(grace[0]!.midi).toBe(grace[1]!.midi - 2)
    expect(
      perform({ notes: [note(Q, 7, 2, [{ kind: 'rake' }])] })
        .filter((one) => one.dead)
        .map((one) => one.string),
    ).toEqual([5, 4, 3])
    expect(perform({ notes: [note(0, 7, 3, [{ kind: 'tremolo picking' }])] })).toHaveLength(8)
  })
  it('rings until its string is struck again', () => {
    const [rung, , cut] = perform({
      notes: [note(0, 7, 3, [{ kind: 'let ring' }]), note(Q, 5, 2), note(2 * Q, 9, 3)],
    })
    expect(rung!.endTicks).toBe(2 * Q)
    expect(cut!.endTicks).toBe(3 * Q)
  })
  it('sounds pinched harmonics where they are said, trills up and back', () => {
    const pitch = (semitones: 12 | 19 | 24) =>
      perform({ notes: [note(0, 5, 3, [{ kind: 'pinched harmonic', semitones }])] })[0]!.midi
    expect([pitch(12), pitch(19), pitch(24)]).toEqual([72, 79, 84])
    expect(
      new Set(
        perform({ notes: [note(0, 5, 3, [{ kind: 'trill', frets: 2 }])] })[0]!.curve.map(
          (point) => point.semitones,
        ),
      ),
    ).toEqual(new Set([0, 2]))
  })
  it('stands on every fret of a slide', () => {
    const steps = fretSteps(0, -3, 0, 300)
    expect(steps.map((point) => point.semitones)).toEqual([0, 0, -1, -1, -2, -2, -3])
    expect(steps.map((point) => point.ticks)).toEqual(
      steps.map((point) => point.ticks).toSorted((a, b) => a - b),
    )
  })
  it('halves a staccato stroke', () =>
    expect(
      perform({
        grips: [
          {
            id: 'g',
            startTicks: 0,
            lengthTicks: Q,
            grip: { strings: [0, 0, 1, 2, 2, 0].map((fret) => ({ fret })) },
          },
        ],
        strokes: [{ ...stroke(0), marks: [{ kind: 'staccato' }] }],
      })[0]!.endTicks,
    ).toBe(Q / 4))
})

describe('human feel', () => {
  const event = (startSeconds: number, string: number): SoundingEvent =>
    soundingNote({ string, startSeconds, endSeconds: startSeconds + 0.4, midi: 60 })
  it('is small, the same every time, and moves the strings of a stroke together', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 300, noNaN: true }), (at) => {
        const [a, b] = humanised([event(at, 1), event(at, 4)])
        expect(Math.abs(a!.startSeconds - at)).toBeLessThan(0.01)
        expect(a!.startSeconds).toBe(b!.startSeconds)
        expect(Math.abs(a!.loudness - 0.7)).toBeLessThan(0.08)
        expect(humanised([event(at, 1)])).toEqual([a])
      }),
    )
    expect(humanised([event(1, 1)], 0)[0]!.startSeconds).toBe(1)
  })
})
