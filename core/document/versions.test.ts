import { describe, expect, it } from 'vitest'
import { playsOfPart } from '../timeline/timeline'
import { soundPart } from '../score/sound-song'
import { BAR, figureOf, onOnes, placeOf, run, smallSong } from '../../tests/support/small-song'
import { variationOf } from './figure-layers'
import { overSource } from './form'
import type { Song } from './schema'

const LIVE = 'live'
function song(): Song {
  let next = run(smallSong(), 'addSource', {
    source: {
      id: LIVE,
      kind: 'live take',
      name: 'Harbour night',
      rank: 2,
      offsetSemitones: 0,
      offsetCents: 0,
      offsetSeconds: 0,
    },
  })
  next = run(next, 'setPlacement', { placement: placeOf('p', { passes: 2 }) })
  return run(next, 'addFigure', {
    figure: figureOf('riff-live', {
      content: onOnes(2, 9),
      sourceId: LIVE,
      variationOf: { figureId: 'riff', replacedBars: [0, 1] },
    }),
  })
}
const figuresPlayed = (of: Song): (string | undefined)[] =>
  playsOfPart(of, 'one').map((play) => play.figure?.id)

describe('a version of a figure', () => {
  it('is played where its base is placed, while its source is listened to', () => {
    expect(figuresPlayed(song())).toEqual(['riff', 'riff'])
    expect(figuresPlayed(overSource(song(), LIVE))).toEqual(['riff-live', 'riff-live'])
  })
  it('sounds then, with the notes that differ', () => {
    const base = soundPart(song(), 'one').map(({ midi }) => midi)
    const live = soundPart(overSource(song(), LIVE), 'one').map(({ midi }) => midi)
    expect(live).toEqual(base.map((midi) => midi + 4))
  })
  it('in a pass that plays it anyway is a variation like any other', () => {
    const placed = run(song(), 'setPlacement', {
      placement: placeOf('p', { passes: 2, passFigures: [{ pass: 2, figureId: 'riff-live' }] }),
    })
    expect(figuresPlayed(overSource(placed, LIVE))).toEqual(['riff', 'riff-live'])
  })
  it('that has become another length stands in for nothing', () => {
    const longer = run(song(), 'changeFigure', {
      figureId: 'riff-live',
      what: 'length',
      set: { lengthTicks: 3 * BAR },
    })
    expect(figuresPlayed(overSource(longer, LIVE))).toEqual(['riff', 'riff'])
  })
})

describe('a variation of a figure', () => {
  it('keeps what it is played to, and names no lick a second time', () => {
    const licks = [{ id: 'l', name: 'the turn', startTicks: 0, lengthTicks: BAR }]
    const accentLines = [{ id: 'v', of: 'voice' as const, at: [0] }]
    const varied = variationOf(figureOf('riff', { licks, accentLines }), { id: 'v', name: 'varied' })
    expect(varied).not.toHaveProperty('licks')
    expect(varied.accentLines).toEqual(accentLines)
  })
})
