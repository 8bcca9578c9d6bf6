// What was set stays at the second at which it sounds, whatever is corrected, in whatever order.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { at, mostMoved } from '../../tests/support/moments'
import { BAR, figureOf, onOnes, placeOf, run, smallSong } from '../../tests/support/small-song'
import { transact } from '../editing/transact'
import { countIn, doublePulse, halvePulse, markFree, shiftOnes } from '../time/correct-beats'
import { beatsFromGrid, insertBeat, type FlatBeat } from '../time/flat-beats'
import { TICKS_PER_QUARTER as Q, type Meter } from '../time/meter'
import { applyTaps } from '../time/tapped-beats'
import { figureContent } from './figure-content'
import { allBars, mainSource, sectionPlaces } from './form'
import type { Song } from './schema'

const four: Meter = { beats: 4, unit: 4 }
const three: Meter = { beats: 3, unit: 4 }
const WHAT = { newSectionId: 'new', what: 'correct' }

const flat = (song: Song): FlatBeat[] => beatsFromGrid(allBars(song), mainSource(song)!.grid!)
const endOf = (song: Song): number => mainSource(song)!.grid!.endSeconds
const holds = (song: Song): number[] =>
  sectionPlaces(song).map(({ startTicks, section }) => at(song, startTicks - section.pickupTicks))

/** Twenty-four bars with a verse in three, chords early, late and between beats, figures, a rest, a spot. */
function laidOut(): Song {
  let song = smallSong()
  const verse = sectionPlaces(song)[1]!
  const [from, to] = [at(song, verse.startTicks), at(song, verse.startTicks + verse.lengthTicks)]
  song = run(song, 'setBeats', {
    beats: countIn(flat(song), from, to, three),
    endSeconds: endOf(song),
    ...WHAT,
  })
  const chord = (symbol: string, startTicks: number, lengthTicks: number) => ({
    symbol,
    startTicks,
    lengthTicks,
  })
  const chords: Record<string, ReturnType<typeof chord>[]> = {
    intro: [
      chord('E', 0, BAR),
      chord('A', BAR, 6 * Q),
      chord('B', 2.5 * BAR, 2 * Q),
      chord('C#m', 7 * BAR, 3 * Q),
    ],
    verse: [
      chord('F#m', -Q / 2, 3.5 * Q),
      chord('G#m', 3 * Q, 3 * Q),
      chord('D', 7.5 * Q, Q),
      chord('Bm', 24 * Q, 6 * Q),
    ],
    chorus: [
      chord('G', 0, 2 * Q),
      chord('Em', 2 * Q, 2 * Q),
      chord('Am', 3.5 * Q + BAR, 4 * Q),
      chord('F', 31 * Q, Q),
    ],
  }
  for (const [sectionId, harmony] of Object.entries(chords))
    song = run(song, 'changeSection', { sectionId, set: { harmony } })
  song = run(song, 'addFigure', {
    figure: figureOf('lick', { partId: 'two', lengthTicks: BAR, content: onOnes(1) }),
  })
  for (const placement of [
    placeOf('a', { sectionId: 'intro', passes: 4 }),
    placeOf('b', { sectionId: 'chorus', startTicks: 2 * BAR, passes: 2 }),
    placeOf('c', { sectionId: 'chorus', startTicks: -Q, figureId: 'lick', partId: 'two' }),
  ])
    song = run(song, 'setPlacement', { placement })
  return run(song, 'setSpot', {
    spot: { id: 'spot', place: { sectionId: 'verse', startTicks: 4 * Q }, text: 'listen', done: false },
  })
}

const song = laidOut()
const correct = (now: Song, change: (beats: FlatBeat[]) => FlatBeat[], charted?: 'double' | 'halve'): Song =>
  run(now, 'setBeats', {
    beats: change(flat(now)),
    endSeconds: endOf(now),
    ...WHAT,
    ...(charted ? { charted } : {}),
  })

const corrections: Record<string, (now: Song) => Song> = {
  'doubling the pulse': (now) => correct(now, (beats) => doublePulse(beats, endOf(now)), 'double'),
  'halving the pulse': (now) => correct(now, (beats) => halvePulse(beats, holds(now)), 'halve'),
  'the one a beat later': (now) => correct(now, (beats) => shiftOnes(beats, 1, false)),
  'the one a beat earlier in the verse': (now) => correct(now, (beats) => shiftOnes(beats, 34, false)),
  'the one from here on': (now) => correct(now, (beats) => shiftOnes(beats, 14, true)),
  'thirty-six taps over thirty-two beats': (now) =>
    correct(now, (beats) =>
      applyTaps(
        beats,
        Array.from({ length: 36 }, (_, tap) => 4.5 + (tap * 16) / 36),
        four,
        holds(now),
      ),
    ),
  'the chorus in three': (now) => correct(now, (beats) => countIn(beats, holds(now)[2]!, endOf(now), three)),
  'the verse in six-eight': (now) =>
    correct(now, (beats) => countIn(beats, holds(now)[1]!, holds(now)[2]!, { beats: 6, unit: 8 })),
  'a beat put in': (now) => correct(now, (beats) => insertBeat(beats, 9.75)),
  'free time over the middle': (now) =>
    correct(now, (beats) => markFree(beats, { from: 12.5, to: 20.5 }, four, holds(now))),
}

/** Nothing changes when a correction is refused: beats on top of each other, a section without a bar. */
function unlessRefused(now: Song, correction: (now: Song) => Song): Song {
  try {
    return correction(now)
  } catch (error) {
    expect(String(error)).toMatch(/beats:|section-lost:/)
    return now
  }
}

describe('corrections move the grid under what was set', () => {
  for (const [name, make] of Object.entries(corrections))
    it(`${name}`, () => {
      const { what, by } = mostMoved(song, make(song))
      // Taps at another pace meet no beat of before: the nearest place a player would mean is taken.
      expect(by, what).toBeLessThan(name.includes('taps') ? 0.09 : 0.002)
    })

  it('keeps a section in three when the rest is counted anew', () => {
    const after = corrections['the one a beat later']!(song)
    const verse = after.sections.verse!.bars
    expect(verse.map((bar) => bar.meter.beats)).toEqual([...Array<number>(10).fill(3), 2])
  })

  it('says how far before its bar a section begins when the one is shifted', () => {
    const plain = smallSong()
    const after = correct(plain, (beats) => shiftOnes(beats, 1, false))
    expect(after.sections.chorus).toMatchObject({ pickupTicks: Q })
    expect(after.sections.chorus!.bars[0]!.meter).toEqual(four)
    expect(mostMoved(plain, after).by).toBeLessThan(0.002)
  })

  it('holds after any corrections in any order', () => {
    const names = Object.keys(corrections).filter((name) => !/taps|free/.test(name))
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...names), { minLength: 2, maxLength: 4 }), (order) => {
        let now = song
        for (const name of order) {
          now = unlessRefused(now, corrections[name]!)
        }
        const { what, by } = mostMoved(song, now)
        expect(by, `${what} after ${order.join(', ')}`).toBeLessThan(0.03)
      }),
      { numRuns: Number(process.env.ANCHOR_RUNS ?? 80) },
    )
  })

  it('leaves everything on its beat when beats only move', () => {
    const nudged = flat(song).map((beat, index) =>
      index === 5 ? { ...beat, seconds: beat.seconds + 0.12 } : beat,
    )
    const after = run(song, 'setBeats', { beats: nudged, endSeconds: endOf(song), ...WHAT })
    expect(after.sections).toEqual(song.sections)
    expect(after.placements).toEqual(song.placements)
  })

  it('carries the other recording of the song along', () => {
    const bars = allBars(song)
    const live = mainSource(song)!.grid!.bars.map((bar) => ({
      beatSeconds: bar.beatSeconds.map((s) => 3 + s * 1.1),
    }))
    let two = run(song, 'addSource', {
      source: { ...mainSource(song)!, id: 'live', name: 'live', rank: 2, audioHash: 'b'.repeat(64) },
    })
    two = run(two, 'changeSource', {
      source: { ...two.sources.live!, grid: { bars: live, endSeconds: 3 + endOf(song) * 1.1 } },
    })
    const after = corrections['the one a beat later']!(two)
    const grid = after.sources.live!.grid!
    expect(grid.bars).toHaveLength(allBars(after).length)
    expect(allBars(after).length).not.toBe(bars.length)
    grid.bars.forEach((bar, index) =>
      expect(bar.beatSeconds[0]).toBeCloseTo(
        3 + mainSource(after)!.grid!.bars[index]!.beatSeconds[0]! * 1.1,
        3,
      ),
    )
  })
})

describe('doubling and halving what is charted', () => {
  it('writes figures in other note values, as many passes as before, and gives them back', () => {
    const doubled = corrections['doubling the pulse']!(song)
    expect(doubled.figures.riff!.lengthTicks).toBe(4 * BAR)
    expect(figureContent(doubled, doubled.figures.riff!).notes[1]!.startTicks).toBe(2 * BAR)
    expect(
      Object.values(doubled.placements)
        .map(({ id }) => id)
        .sort(),
    ).toEqual(['a', 'b', 'c'])
    expect(doubled.placements.a).toMatchObject({ passes: 4 })
    const back = corrections['halving the pulse']!(doubled)
    expect(back.figures).toEqual(song.figures)
  })
  it('keeps variations and patterned figures what they sounded', () => {
    const variation = figureOf('turn', {
      variationOf: { figureId: 'riff', replacedBars: [1] },
      content: { ...onOnes(2, 7), notes: onOnes(2, 7).notes.slice(1) },
    })
    const made = run(song, 'addFigure', { figure: variation })
    const halved = corrections['halving the pulse']!(made)
    expect(
      figureContent(halved, halved.figures.turn!).notes.map(({ fret, startTicks }) => [fret, startTicks]),
    ).toEqual([
      [5, 0],
      [7, BAR / 2],
    ])
    const back = corrections['doubling the pulse']!(halved)
    expect(figureContent(back, back.figures.turn!).notes).toEqual(
      figureContent(made, made.figures.turn!).notes,
    )
  })
  it('is refused in a sentence when nothing would be left', () => {
    const result = transact(song, 'setBeats', { beats: [], endSeconds: 10, ...WHAT })
    expect(result.ok ? '' : result.refusal.message).toContain('beat')
  })
})
