// However the edge of a section moves, what was set stays where it sounds.
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { must } from '../result'
import { transact } from '../editing/transact'
import { timelineOf } from '../timeline/timeline'
import { placeOf, run, smallSong } from '../../tests/support/small-song'
import { dice } from '../../tests/support/random-transactions'
import { sectionPlaces } from './form'
import { readSong } from './migrations'
import type { Song } from './schema'

const demo = (name: string): Song =>
  must(readSong(JSON.parse(readFileSync(`demo/songs/${name}.json`, 'utf8'))))

/** Everything that has a place, in ticks of the song. */
function sounding(song: Song): string[] {
  const plays = song.partOrder.flatMap((partId) =>
    (timelineOf(song).playsByPart.get(partId) ?? []).flatMap(({ figure, startTicks, placement }) =>
      // A rest that is cut in two is as long as it was.
      figure ? [`${partId} plays ${figure.id} at ${startTicks} ${JSON.stringify(placement.kind)}`] : [],
    ),
  )
  const starts = new Map(sectionPlaces(song).map(({ section, startTicks }) => [section.id, startTicks]))
  const notes = [...Object.values(song.doubts), ...Object.values(song.spots)].map(
    ({ id, place }) => `${id} at ${starts.get(place.sectionId)! + place.startTicks}`,
  )
  const chords = sectionPlaces(song).flatMap(({ section, startTicks }) =>
    section.harmony.map((chord) => `${chord.symbol} at ${startTicks + chord.startTicks}`),
  )
  return [...plays, ...notes, ...chords].sort()
}

describe('the edge of a section', () => {
  it('moved by a bar leaves the figures of both sections where they sound', () => {
    const figures = run(smallSong(), 'setPlacement', { placement: placeOf('p', { passes: 4 }) })
    const song = run(figures, 'setPlacement', {
      placement: placeOf('q', { sectionId: 'chorus', passes: 2, startTicks: 0 }),
    })
    for (const byBars of [-3, -1, 1, 2, 3]) {
      const moved = run(song, 'moveSectionStart', { sectionId: 'chorus', byBars })
      expect(sounding(moved), `by ${byBars}`).toEqual(sounding(song))
    }
  })

  it.each(['salt-on-the-signal', 'cold-kiln'])(
    'moved, cut or taken away at random in %s leaves everything where it sounds',
    (name) => {
      const roll = dice(21)
      let song = demo(name)
      let done = 0
      for (let step = 0; step < 150; step++) {
        const sectionId = roll.one(song.sectionOrder)
        const bars = song.sections[sectionId]!.bars.length
        const result = roll.one([
          () => transact(song, 'moveSectionStart', { sectionId, byBars: roll.below(7) - 3 }),
          () => transact(song, 'moveSectionStart', { sectionId, byBars: 0, byBeats: roll.below(5) - 2 }),
          () =>
            transact(song, 'splitSection', {
              sectionId,
              atBar: roll.below(bars),
              newId: roll.id(),
              name: 'Cut',
              kind: 'verse',
            }),
          () => transact(song, 'mergeSection', { sectionId }),
        ])()
        // What cannot stay is asked about first.
        if (!result.ok || result.value.consequences.length) continue
        const after = result.value.song
        expect(sounding(after), result.value.label).toEqual(sounding(song))
        song = after
        done++
      }
      expect(done).toBeGreaterThan(40)
    },
  )
})
