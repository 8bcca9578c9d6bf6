import { describe, expect, it } from 'vitest'
import { countIn, doublePulse, halvePulse, holdOnes, isOne, markFree, shiftOnes } from './correct-beats'
import { barsFromBeats, beatsFromGrid, insertBeat, type FlatBeat } from './flat-beats'
import { meterName, type Meter } from './meter'
import { applyTaps, countTaps } from './tapped-beats'

const four: Meter = { beats: 4, unit: 4 }
const three: Meter = { beats: 3, unit: 4 }
const GAP = 0.5

/** Bars of so many beats, half a second a beat; 0 is four seconds without a pulse. */
function bars(...sizes: number[]): FlatBeat[] {
  const beats: FlatBeat[] = []
  let at = 0
  for (const size of sizes) {
    if (size === 0) {
      beats.push({ seconds: at, one: true, free: true, meter: four })
      at += 4
      continue
    }
    const meter: Meter = { beats: size, unit: 4 }
    for (let beat = 0; beat < size; beat++) {
      beats.push({ seconds: at, one: beat === 0, ...(beat === 0 ? { meter } : {}) })
      at += GAP
    }
  }
  return beats
}
const endOf = (beats: readonly FlatBeat[]): number => beats.at(-1)!.seconds + GAP
const sizes = (beats: readonly FlatBeat[]): (number | string)[] => {
  const laid = barsFromBeats(beats, endOf(beats), four)
  return laid.bars.map((bar, index) => (bar.free ? 'free' : laid.grid.bars[index]!.beatSeconds.length))
}
const seconds = (beats: readonly FlatBeat[]): number[] => beats.map((beat) => beat.seconds)

describe('the one', () => {
  it('shifts all bars that are counted alike and leaves a bridge in three as it is', () => {
    const song = bars(4, 4, 4, 3, 3, 3, 4, 4)
    expect(sizes(shiftOnes(song, 5, false))).toEqual([1, 4, 4, 3, 3, 3, 3, 4, 4])
    expect(sizes(shiftOnes(song, 13, false))).toEqual([4, 4, 4, 1, 3, 3, 2, 4, 4])
  })
  it('shifts from here on only', () => {
    expect(sizes(shiftOnes(bars(4, 4, 4, 4), 6, true))).toEqual([4, 2, 4, 4, 2])
  })
  it('makes no crumbs of crumbs: shifting on and back is as it was', () => {
    const once = shiftOnes(bars(4, 4, 4), 5, false)
    expect(sizes(once)).toEqual([1, 4, 4, 3])
    expect(sizes(shiftOnes(once, 4, false))).toEqual([4, 4, 4])
  })
  it('stops at free time', () => {
    expect(sizes(shiftOnes(bars(4, 4, 0, 4, 4), 1, false))).toEqual([1, 4, 3, 'free', 4, 4])
  })
})

describe('halving and doubling', () => {
  it('begins anew at every section, and keeps the meters', () => {
    const song = bars(4, 4, 4, 3, 3, 4, 4)
    const halved = halvePulse(song, [0, 6, 9])
    expect(sizes(halved)).toEqual([4, 2, 3, 4])
    expect(barsFromBeats(halved, 13, four).bars.map((bar) => meterName(bar.meter))).toEqual([
      '4/4',
      '2/4',
      '3/4',
      '4/4',
    ])
  })
  it('makes two bars of one', () => {
    const doubled = doublePulse(bars(4, 3), 3.5)
    expect(sizes(doubled)).toEqual([4, 4, 3, 3])
    expect(seconds(doubled)).toEqual(Array.from({ length: 14 }, (_, index) => index / 4))
  })
  it('gives the beats back when one undoes the other', () => {
    const song = bars(4, 4, 3, 3, 0, 4, 4)
    expect(sizes(halvePulse(doublePulse(song, endOf(song)), [0, 4]))).toEqual(sizes(song))
  })
})

describe('taps', () => {
  const song = bars(4, 4, 4, 4, 4, 4)
  it('replace what they cover and nothing else', () => {
    const taps = [4.02, 4.5, 4.98, 5.52]
    const tapped = applyTaps(song, taps, four, [0])
    expect(seconds(tapped).slice(8, 12)).toEqual(taps)
    expect(sizes(tapped)).toEqual(sizes(song))
  })
  it('leave the bars after them alone when there were more or fewer than beats', () => {
    const slower = Array.from({ length: 6 }, (_, index) => 2 + index * 0.7)
    const tapped = applyTaps(song, slower, four, [0])
    const after = tapped.filter((beat) => beat.seconds > 6)
    expect(after.filter((beat) => beat.one).map((beat) => beat.seconds)).toEqual([8, 10])
  })
  it('begin a bar where a section begins', () => {
    const taps = Array.from({ length: 10 }, (_, index) => 2.05 + index * 0.5)
    const tapped = applyTaps(bars(4, 3, 4, 4, 4), taps, four, [0, 3.5])
    expect(tapped.filter((beat) => beat.one).map((beat) => beat.seconds)).toEqual([0, 2.05, 3.55, 5.55, 7.5])
  })
  it('count free time that is tapped, and leave the rest of it free', () => {
    const tapped = applyTaps(bars(4, 0, 4), [3, 3.5, 4, 4.5], four, [0])
    expect(sizes(tapped)).toEqual([4, 'free', 4, 'free', 4])
  })
  it('a finger that bounces counts once', () => {
    const tapped = applyTaps(song, [4, 4.04, 4.5, 5, 5.06, 5.5], four, [0])
    expect(sizes(tapped)).toEqual(sizes(song))
  })
  it('alone are counted from the first', () => {
    expect(sizes(countTaps([0, 1, 2, 3, 4], three))).toEqual([3, 2])
  })
})

describe('a stretch', () => {
  it('is counted in another meter and what follows keeps its count', () => {
    const counted = countIn(bars(4, 4, 4, 4), 2, 6, three)
    expect(sizes(counted)).toEqual([4, 3, 3, 2, 4])
  })
  it('of free time keeps the sections that begin in it', () => {
    expect(sizes(markFree(bars(4, 4, 4, 4), { from: 2, to: 6 }, four, [0, 4]))).toEqual([
      4,
      'free',
      'free',
      4,
    ])
  })
  it('found anew still begins a bar where sections begin', () => {
    expect(sizes(holdOnes(bars(4, 4, 4), [0, 3], four))).toEqual([4, 2, 2, 4])
  })
})

describe('a beat put before the first', () => {
  const four = { beats: 4, unit: 4 } as const
  const counted = Array.from({ length: 12 }, (_, index) =>
    index % 4 === 0
      ? { seconds: 1 + index / 2, one: true, meter: four }
      : { seconds: 1 + index / 2, one: false },
  )
  const before = insertBeat(counted, 0.5)
  it('is a pickup until it is said to be the one, and the count shifts with it', () => {
    // Laid out and read again, as the page has it.
    const laid = barsFromBeats(before, 7, four)
    const flat = beatsFromGrid(laid.bars, laid.grid)
    expect(isOne(flat, 0)).toBe(false)
    const shifted = shiftOnes(flat, 0, false)
    expect(shifted.flatMap(({ one, seconds }) => (one ? [seconds] : []))).toEqual([0.5, 2.5, 4.5, 6.5])
    expect(isOne(shifted, 0)).toBe(true)
  })
})
