import { describe, expect, it } from 'vitest'
import { mainSource, orderedParts, orderedSections, songTimeMap } from '#core/document/form'
import { ticksToSeconds } from '#core/time/beat-grid'
import { BAR, placeOf, run, smallSong } from '../../tests/support/small-song'
import { placeOfFigure, planPlaying, type OpenSong, type Scope } from './play-plan'

const song = run(smallSong(), 'setPlacement', { placement: placeOf('there', { passes: 2 }) })
const open: OpenSong = {
  song,
  map: songTimeMap(song),
  parts: orderedParts(song),
  sections: orderedSections(song),
  source: mainSource(song),
  heardSourceId: undefined,
}
const plan = (scope: Scope, over: Partial<Parameters<typeof planPlaying>[0]> = {}) =>
  planPlaying({
    from: 3,
    scope,
    loop: undefined,
    speed: 1,
    withRecording: true,
    countInBars: 0,
    humanFeel: false,
    open,
    ...over,
  })
const figureId = 'riff'

describe('what is played', () => {
  it('of the whole chart is a score of every part, from where it was asked', () => {
    const planned = plan({ kind: 'song' })
    expect(planned.score!.partIds).toEqual(song.partOrder)
    expect(planned.stems).toEqual([])
    expect(planned.fromSeconds).toBe(3)
  })
  it('of one part is that part alone', () => {
    expect(plan({ kind: 'part', partId: song.partOrder[1]! }).score!.partIds).toEqual([song.partOrder[1]])
  })
  it('of a figure is its first place, looped over its length', () => {
    const { stems, loop, fromSeconds, score } = plan({ kind: 'figure', figureId })
    const { startTicks, lengthTicks } = placeOfFigure(open, figureId)!
    expect(score).toBeUndefined()
    expect(stems.map((stem) => stem.id)).toEqual([song.figures[figureId]!.partId])
    expect(fromSeconds).toBeCloseTo(ticksToSeconds(open.map!, startTicks))
    expect(loop!.endSeconds).toBeCloseTo(ticksToSeconds(open.map!, startTicks + lengthTicks))
  })
  it('of what is learned so far is every pass of it and nothing else of the part', () => {
    const { partId } = song.figures[figureId]!
    const soFar = (forms: Record<string, 'exact'>) => plan({ kind: 'so far', partId, forms })
    const { stems, loop, withRecording } = soFar({ [figureId]: 'exact' })
    const once = plan({ kind: 'figure', figureId }).stems[0]!.events
    expect(stems.map(({ id }) => id)).toEqual([partId])
    expect(stems[0]!.events.length).toBe(2 * once.length)
    expect([loop, withRecording]).toEqual([undefined, true])
    expect(soFar({}).stems[0]!.events).toEqual([])
  })
  it('of a figure that is placed nowhere is a straight pulse without the record', () => {
    const nowhere = { ...song, placements: {} }
    const planned = plan({ kind: 'figure', figureId }, { open: { ...open, song: nowhere } })
    expect(placeOfFigure({ ...open, song: nowhere }, figureId)!.placed).toBe(false)
    expect(planned.fromSeconds).toBe(0)
    expect(planned.withRecording).toBe(false)
    expect(planned.stems[0]!.events.length).toBeGreaterThan(0)
  })
  it('of a draft is the draft', () => {
    const draft = { grips: [], strokes: [], notes: [], mutes: [] }
    expect(plan({ kind: 'figure', figureId, draft }).stems[0]!.events).toEqual([])
  })
  it('of a chord is that chord, looped over its stretch, whatever was looped before', () => {
    const scope = { kind: 'candidate', symbol: 'Em', startSeconds: 5, endSeconds: 7 } as const
    const planned = plan(scope, { loop: { startSeconds: 1, endSeconds: 2 } })
    expect(planned.loop).toEqual({ startSeconds: 5, endSeconds: 7 })
    expect(planned.fromSeconds).toBe(5)
    expect(planned.stems[0]!.id).toBe('candidate')
  })
  it('is nothing where nothing is open', () => {
    const nothing = { ...open, song: undefined, map: undefined, sections: [], parts: [] }
    const planned = plan({ kind: 'song' }, { open: nothing })
    expect([planned.score, planned.stems]).toEqual([undefined, []])
  })
})

describe('the count-in', () => {
  it('is bars of clicks as far apart as the beats there, nearer at speed', () => {
    const beat = ticksToSeconds(open.map!, BAR) / 4 - ticksToSeconds(open.map!, 0) / 4
    const slow = plan({ kind: 'song' }, { countInBars: 2, from: 0 })
    expect(slow.clickSeconds).toHaveLength(8)
    expect(slow.leadSeconds).toBeCloseTo(8 * beat, 3)
    const fast = plan({ kind: 'song' }, { countInBars: 2, from: 0, speed: 2 })
    expect(fast.leadSeconds).toBeCloseTo(slow.leadSeconds / 2, 6)
  })
  it('is none when none is wanted', () => {
    expect(plan({ kind: 'song' })).toMatchObject({ leadSeconds: 0, clickSeconds: [] })
  })
})
