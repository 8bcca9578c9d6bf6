import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import {
  barTicks,
  countBar,
  countedBeats,
  countWords,
  swungTick,
  tickOfCount,
  TICKS_PER_QUARTER as Q,
  type Meter,
} from './meter'
import {
  barAtTick,
  clock,
  gridBeats,
  isSteady,
  medianTempo,
  secondsToTicks,
  ticksToSeconds,
  timeMap,
  type BarShape,
  type BeatGrid,
} from './beat-grid'
import { barsFromBeats, beatsFromGrid, beatsProblem, insertBeat, removeBeat } from './flat-beats'

const four: Meter = { beats: 4, unit: 4 }
const sixEight: Meter = { beats: 6, unit: 8 }
const texts = (meter: Meter, subdivision: Parameters<typeof countBar>[1]) =>
  countBar(meter, subdivision)
    .map((count) => count.text)
    .join(' ')

describe('counting', () => {
  it('says the syllables of the subdivision', () => {
    expect(texts(four, 'eighths')).toBe('1 & 2 & 3 & 4 &')
    expect(texts({ beats: 2, unit: 4 }, 'sixteenths')).toBe('1 e & a 2 e & a')
    expect(texts({ beats: 2, unit: 4 }, 'triplets')).toBe('1 trip let 2 trip let')
    expect(texts(sixEight, 'eighths')).toBe('1 2 3 4 5 6')
  })
  it('counts 6/8 in two dotted quarters', () => expect(countedBeats(sixEight)).toBe(2))
  it('marks the groups of 3+3+2', () => {
    const strong = countBar({ ...four, grouping: [3, 3, 2] }, 'eighths')
      .filter((count) => count.strength !== 'between')
      .map((count) => count.tick / (Q / 2))
    expect(strong).toEqual([0, 3, 6])
  })
  it('finds a count that is said, and the one half way to the next', () => {
    const meter = (beats: number, unit: 4 | 8): Meter => ({ beats, unit })
    expect(tickOfCount(meter(4, 4), 3, false)).toBe(2 * Q)
    expect(tickOfCount(meter(4, 4), 4, true)).toBe(3.5 * Q)
    // Six eighths are counted one by one: half way is a sixteenth.
    expect(tickOfCount(meter(6, 8), 2, false)).toBe(Q / 2)
    expect(tickOfCount(meter(6, 8), 2, true)).toBe(0.75 * Q)
    expect(tickOfCount(meter(3, 4), 4, false)).toBeUndefined()
  })
  it('says places in words', () => {
    expect(countWords(four, 3.5 * Q)).toBe('the and of 4')
    expect(countWords(four, 1.25 * Q)).toBe('the e of 2')
    expect(countWords(four, Q / 3)).toBe('the trip of 1')
  })
  it('swings the second eighth and nothing on the beat', () => {
    expect(swungTick(Q / 2, { ratio: 2 / 3, level: 'eighths' }, four)).toBeCloseTo((2 / 3) * Q)
    expect(swungTick(3 * Q, { ratio: 2 / 3, level: 'eighths' }, four)).toBe(3 * Q)
  })
  it('swings the second sixteenth of each eighth, and no eighth, where sixteenths swing', () => {
    const swing = { ratio: 0.6, level: 'sixteenths' } as const
    const played = [0, 1, 2, 3, 4].map((step) => swungTick((step * Q) / 4, swing, four) / Q)
    expect(played).toEqual([0, 0.3, 0.5, 0.8, 1].map((beats) => expect.closeTo(beats)))
  })
})

const shapes = fc.array(
  fc.record({ meter: fc.constantFrom<Meter>(four, { beats: 3, unit: 4 }, sixEight), free: fc.boolean() }),
  { minLength: 1, maxLength: 12 },
)
const gridFor = (bars: BarShape[], gaps: number[]): BeatGrid => {
  let at = 0.3
  let used = 0
  const next = () => {
    const now = at
    at += gaps[used++ % gaps.length]!
    return now
  }
  return {
    bars: bars.map((bar) => ({ beatSeconds: Array.from({ length: gridBeats(bar) }, next) })),
    endSeconds: at,
  }
}
const gaps = fc.array(fc.double({ min: 0.2, max: 1.5, noNaN: true }), { minLength: 3, maxLength: 9 })

describe('beat grid', () => {
  it('maps position to seconds and back', () => {
    fc.assert(
      fc.property(shapes, gaps, fc.double({ min: 0, max: 1, noNaN: true }), (bars, gap, share) => {
        const map = timeMap(bars, gridFor(bars, gap))
        const tick = share * map.endTicks
        expect(secondsToTicks(map, ticksToSeconds(map, tick))).toBeCloseTo(tick, 3)
      }),
    )
  })
  it('is exact at the beats and finds bars', () => {
    const bars = [{ meter: four }, { meter: { beats: 3, unit: 4 } as Meter }]
    const grid = gridFor(bars, [0.5, 0.52, 0.48])
    const map = timeMap(bars, grid)
    expect(ticksToSeconds(map, 4 * Q)).toBe(grid.bars[1]!.beatSeconds[0])
    expect(barAtTick(map, 4 * Q)).toBe(1)
    expect(barAtTick(map, 4 * Q - 1)).toBe(0)
    expect(medianTempo(bars, grid)).toBeCloseTo(120, 0)
    expect(clock(67.44, 1)).toBe('1:07.4')
  })
})

describe('a steady pulse', () => {
  const bars = Array.from({ length: 12 }, () => ({ meter: four }))
  it('is one that lies on a click, to a rounded hundredth, over a break too', () => {
    const grid = gridFor(bars, [0.3158])
    expect(isSteady(bars, grid)).toBe(true)
    const rounded = grid.bars.map(({ beatSeconds }, index) => ({
      beatSeconds: beatSeconds.map((time) => Math.round(100 * (time + (index > 5 ? 8 * 0.3158 : 0))) / 100),
    }))
    expect(isSteady(bars, { bars: rounded, endSeconds: grid.endSeconds + 8 * 0.3158 })).toBe(true)
  })
  it('is not one that drifts, nor none at all', () => {
    expect(isSteady(bars, gridFor(bars, [0.5, 0.52, 0.47, 0.51, 0.49]))).toBe(false)
    expect(isSteady([], { bars: [], endSeconds: 0 })).toBe(false)
  })
})

const even = (count: number, gap = 0.5) =>
  Array.from({ length: count }, (_, index) => ({
    seconds: index * gap,
    one: index % 4 === 0,
    ...(index % 4 === 0 ? { meter: four } : {}),
  }))
const ones = (beats: { one: boolean }[]) => beats.flatMap((beat, index) => (beat.one ? [index] : []))

describe('correcting beats', () => {
  it('goes from grid to list and back unchanged', () => {
    fc.assert(
      fc.property(shapes, gaps, (bars, gap) => {
        const grid = gridFor(bars, gap)
        const back = barsFromBeats(beatsFromGrid(bars, grid), grid.endSeconds, four)
        expect(back.grid).toEqual(grid)
        expect(back.bars.map((bar) => barTicks(bar.meter))).toEqual(bars.map((bar) => barTicks(bar.meter)))
      }),
    )
  })
  it('gives a missed beat back to its bar', () => {
    const beats = removeBeat(even(8), 2)
    expect(barsFromBeats(beats, 4, four).bars[0]!.meter.beats).toBe(3)
    expect(barsFromBeats(insertBeat(beats, 1), 4, four).bars[0]!.meter.beats).toBe(4)
  })
  it('hands the one on when its beat is removed', () =>
    expect(ones(removeBeat(even(9), 4))).toEqual([0, 4, 7]))
  it('refuses beats on top of each other', () => {
    expect(beatsProblem(insertBeat(even(4), 0.51), 4)).toContain('40 ms')
    expect(beatsProblem(even(4), 1)).toContain('outside')
    expect(beatsProblem([], 1)).toBeDefined()
  })
})
