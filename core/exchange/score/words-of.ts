// What is said in words along a part: what it is played through where that changes, the landmarks by which
// its player finds the place, the names of licks.
import { same } from '../../same'
import type { Part, Song } from '../../document/schema'
import { landmarkWords } from '../../timeline/landmarks'
import { rigLines, rigOf } from '../../timeline/rig'
import { playsOfPart, timelineOf } from '../../timeline/timeline'
import type { WrittenWords } from './written-score'

/** A rig in one line. */
const LONGEST = 200

/** Said where the rig changes; what follows the tempo within it, as an echo does, is no change. */
function rigWords(song: Song, part: Part): WrittenWords[] {
  let before: ReturnType<typeof rigOf> | undefined
  return timelineOf(song).places.flatMap(({ section, startTicks }): WrittenWords[] => {
    const rig = rigOf(part, section.id)
    if (before && same(rig, before)) return []
    const first = before === undefined
    before = rig
    const words = rigLines(song, part, section.id).join('; ')
    if (first && !words) return []
    return [{ startTicks, text: `rig: ${words || 'none'}`.slice(0, LONGEST) }]
  })
}

/** Landmarks of one part, or, without one, those that are everybody's. */
function landmarksOf(song: Song, partId: string | undefined): WrittenWords[] {
  const marks = Object.values(song.spots).filter(
    ({ kind, place }) => kind === 'landmark' && place.partId === partId,
  )
  return timelineOf(song).places.flatMap(({ section, startTicks }) =>
    marks
      .filter(({ place }) => place.sectionId === section.id)
      .map((spot) => ({
        startTicks: Math.max(0, startTicks + spot.place.startTicks),
        text: landmarkWords(spot).slice(0, LONGEST),
      })),
  )
}

function lickWords(song: Song, part: Part): WrittenWords[] {
  return playsOfPart(song, part.id).flatMap(({ figure, startTicks }) =>
    (figure?.licks ?? []).map((lick) => ({
      startTicks: startTicks + lick.startTicks,
      text: `“${lick.name}”`,
    })),
  )
}

const inOrder = (words: WrittenWords[]): WrittenWords[] => words.sort((a, b) => a.startTicks - b.startTicks)

/** Rig, own landmarks and licks of a part, in time order, ticks of the song. */
export const wordsOfPart = (song: Song, part: Part): WrittenWords[] =>
  inOrder([...rigWords(song, part), ...landmarksOf(song, part.id), ...lickWords(song, part)])

/** Landmarks of the whole band, in time order, ticks of the song. */
export const wordsOfSong = (song: Song): WrittenWords[] => inOrder(landmarksOf(song, undefined))
