import { describe, expect, it } from 'vitest'
import { BAR, figureOf, noteAt, placeOf, run, smallSong } from '../../tests/support/small-song'
import { bigSong } from '../../tests/support/big-song'
import { EMPTY_CONTENT } from '../document/schema'
import { songTimeMap } from '../document/form'
import { chartedShare, coverage, percentOf } from './coverage'
import { flowOfPart, soundPart } from '../score/sound-song'
import { playsOfPart, timelineOf } from './timeline'
import { unroll } from './unroll'

describe('how much is charted', () => {
  it('counts bars with something in them; empty bars of a figure are not charted', () => {
    let song = run(smallSong(), 'addFigure', {
      figure: figureOf('half', { content: { ...EMPTY_CONTENT, notes: [noteAt(BAR)] } }),
    })
    song = run(song, 'setPlacement', { placement: placeOf('p', { figureId: 'half', passes: 4 }) })
    expect(coverage(song)[0]).toMatchObject({ chartedTicks: 4 * BAR, totalTicks: 24 * BAR, figures: 2 })
    const bars = unroll(song).slice(8, 12)
    expect(bars.map((bar) => bar.parts[0]!.chartedTicks / BAR)).toEqual([0, 1, 0, 1])
  })
  it('counts rests, and a place under a pickup once', () => {
    let song = run(smallSong(), 'setPlacement', {
      placement: {
        kind: 'rests',
        id: 'r',
        partId: 'one',
        sectionId: 'intro',
        startTicks: 0,
        lengthTicks: 8 * BAR,
      },
    })
    song = run(song, 'setPlacement', { placement: placeOf('p', { startTicks: -BAR }) })
    expect(coverage(song)[0]!.chartedTicks).toBe(9 * BAR)
  })
  it('adds up: the bars of the timeline, the parts, and the share of the song agree', () => {
    const song = bigSong(64, 3)
    const bars = unroll(song)
    for (const [index, part] of coverage(song).entries())
      expect(bars.reduce((sum, bar) => sum + bar.parts[index]!.chartedTicks, 0)).toBe(part.chartedTicks)
    expect(chartedShare(song)).toBe(1)
    expect(chartedShare(smallSong())).toBe(0)
  })
  it.each([
    [0, 0],
    [0.0001, 1],
    [0.5, 50],
    [0.9999, 99],
    [1, 100],
  ])('a share of %d is shown as %d %%', (share, percent) => expect(percentOf(share)).toBe(percent))
})

describe('the timeline', () => {
  it('is made once for a document, and its passes know where they come from', () => {
    const song = run(smallSong(), 'setPlacement', { placement: placeOf('p', { passes: 3 }) })
    expect(timelineOf(song)).toBe(timelineOf(song))
    expect(
      playsOfPart(song, 'one').map(({ pass, startTicks, placement }) => [
        placement.id,
        pass,
        startTicks / BAR,
      ]),
    ).toEqual([
      ['p', 1, 8],
      ['p', 2, 10],
      ['p', 3, 12],
    ])
    expect(playsOfPart(song, 'nobody')).toEqual([])
  })
  it('gives the same sound pass by pass as all at once, from any moment on', () => {
    const song = bigSong(48, 1)
    const map = songTimeMap(song)
    const whole = soundPart(song, 'p0', map)
    for (const from of [0, 7.3, 30]) {
      const flow = flowOfPart(song, 'p0', map, from)
      const flowed = [from + 1, from + 5, 1000].flatMap((until) => flow(until))
      const wanted = whole.filter((event) => event.endSeconds > from)
      expect(flowed.filter((event) => event.endSeconds > from)).toEqual(wanted)
    }
  })
})
