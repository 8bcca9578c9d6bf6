import { describe, expect, it } from 'vitest'
import { must } from '../result'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { songTimeMap } from '../document/form'
import { newPart, newSong } from '../document/new-song'
import { EMPTY_CONTENT, type Figure, type Song } from '../document/schema'
import { transact } from '../editing/transact'
import type { ArgsOf, TransactionName } from '../document/transactions'
import { soundFigure, soundPart } from './sound-song'

const BAR = 4 * Q
const run = <Name extends TransactionName>(song: Song, name: Name, args: ArgsOf<Name>): Song =>
  must(transact(song, name, args)).song

/** Two sections of two bars; the beats slow down from 0.5 to 0.6 s. */
const BEATS = Array.from({ length: 16 }, (_, index) => 1 + index * 0.5 + 0.003 * index ** 2)
function sample(kind: 'guitar-6' | 'guitar-12' = 'guitar-6', over: Partial<Figure> = {}): Song {
  let song = newSong({ id: 's', title: 'S', artist: '' })
  song = run(song, 'addSource', {
    source: {
      id: 'r',
      kind: 'recording',
      name: 'r',
      rank: 1,
      offsetSemitones: 0,
      offsetCents: 0,
      offsetSeconds: 0,
      audioHash: 'e'.repeat(64),
      durationSeconds: 12,
    },
  })
  song = run(song, 'setBeats', {
    beats: BEATS.map((seconds, index) => ({ seconds, one: index % 4 === 0 })),
    endSeconds: 10,
    what: 'beats',
    newSectionId: 'a',
  })
  song = run(song, 'splitSection', { sectionId: 'a', atBar: 2, newId: 'b', name: 'B', kind: 'verse' })
  song = run(song, 'addPart', { part: newPart({ id: 'g', name: 'Guitar', kind }) })
  const notes = [0, 1, 2, 3].map((eighth) => ({
    id: `n${eighth}`,
    string: 3,
    fret: 5,
    startTicks: eighth * (Q / 2),
    lengthTicks: Q / 2,
    marks: [],
  }))
  return run(song, 'addFigure', {
    figure: {
      id: 'f',
      partId: 'g',
      name: 'F',
      lengthTicks: BAR,
      meter: song.meter,
      feel: song.feel,
      content: { ...EMPTY_CONTENT, notes },
      ...over,
    },
  })
}
const place = (
  song: Song,
  sectionId: string,
  startTicks: number,
  over: { passes?: number; shiftFrets?: number; form?: 'exact' | 'eased' } = {},
): Song =>
  run(song, 'setPlacement', {
    placement: {
      kind: 'figure',
      id: `p${sectionId}${startTicks}`,
      partId: 'g',
      sectionId,
      startTicks,
      figureId: 'f',
      passes: 1,
      shiftFrets: 0,
      form: 'exact',
      ...over,
    },
  })
const starts = (song: Song): number[] => soundPart(song, 'g').map((event) => event.startSeconds)

describe('the chart in the time of its recording', () => {
  it('follows the drift of the band', () => {
    const heard = starts(place(sample(), 'a', 0, { passes: 2 }))
    expect(heard[0]).toBeCloseTo(BEATS[0]!, 9)
    expect(heard[2]).toBeCloseTo(BEATS[1]!, 9)
    expect(heard[4]).toBeCloseTo(BEATS[4]!, 9)
    expect(heard[1]).toBeCloseTo((BEATS[0]! + BEATS[1]!) / 2, 9)
  })
  it('starts a pickup before its section', () =>
    expect(starts(place(sample(), 'b', -2 * Q))[0]).toBeCloseTo(BEATS[6]!, 9))
  it('swings the off-beats and leaves the beats', () => {
    const swung = sample('guitar-6', {
      feel: { subdivision: 'eighths', swing: { ratio: 2 / 3, level: 'eighths' } },
    })
    const heard = starts(place(swung, 'a', 0))
    expect(heard[0]).toBeCloseTo(BEATS[0]!, 9)
    expect(heard[1]).toBeCloseTo(BEATS[0]! + ((BEATS[1]! - BEATS[0]!) * 2) / 3, 9)
  })
  it('moves by frets, and plays the eased form where it is chosen', () => {
    const eased = sample('guitar-6', { eased: { ...EMPTY_CONTENT, notes: [] } })
    expect(soundPart(place(eased, 'a', 0, { shiftFrets: 2 }), 'g')[0]!.midi).toBe(62)
    expect(soundPart(place(eased, 'a', 0, { form: 'eased' }), 'g')).toEqual([])
  })
  it('doubles the courses of a twelve-string, the wound ones an octave up', () => {
    const [string, twin] = soundPart(place(sample('guitar-12'), 'a', 0), 'g')
    expect(twin!.midi - string!.midi).toBeCloseTo(12, 1)
    expect(twin!.string).toBe(string!.string + 12)
  })
  it('sounds a figure that is placed nowhere on a pulse of its own', () => {
    const song = sample()
    expect(songTimeMap(song)).toBeDefined()
    expect(
      soundFigure(song, song.figures.f!, { startTicks: 0, toSeconds: (tick) => tick / Q }).map(
        (event) => event.startSeconds,
      ),
    ).toEqual([0, 0.5, 1, 1.5])
  })
})
