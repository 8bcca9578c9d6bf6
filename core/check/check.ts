// The check: everything found in a song, in the order of the song, what is excused apart.
import { firstPlayOf } from '../timeline/timeline'
import { sectionPlaces } from '../document/form'
import type { Song } from '../document/schema'
import { chartingFindings } from './charting-findings'
import { chordFindings } from './chord-findings'
import { doublingFindings } from './doubling-findings'
import { SEVERITIES, type Finding, type FindingPlace } from './finding'
import { formFindings } from './form-findings'
import { lineFindings } from './line-findings'
import { namesAt } from './names'
import { octaveFindings } from './octave-findings'
import { playingFindings } from './playing-findings'
import { returnFindings } from './return-findings'

export interface Check {
  /** What is to be done, in the order of the song. */
  open: Finding[]
  /** What somebody wants so, with the reason. */
  excused: Finding[]
}

/**
 * Notes and chords are called so many semitones from how they sound; `more` are findings from elsewhere: of
 * the recording.
 */
export function checkSong(song: Song, nameShift = 0, more: readonly Finding[] = []): Check {
  const names = namesAt(nameShift)
  const at = placer(song)
  const all = [
    ...formFindings(song),
    ...chartingFindings(song),
    ...playingFindings(song),
    ...chordFindings(song, names),
    ...lineFindings(song, names),
    ...doublingFindings(song, names),
    ...octaveFindings(song, names),
    ...returnFindings(song, names),
    ...more,
  ]
  // The same said twice is said once.
  const found = [...new Map(all.map((one) => [one.id, one])).values()]
  const ordered = found
    .map((one) => ({ one, ticks: at(one.place) }))
    .sort(
      (a, b) => a.ticks - b.ticks || SEVERITIES.indexOf(a.one.severity) - SEVERITIES.indexOf(b.one.severity),
    )
    .map(({ one }) => one)
  const excuses = new Map(Object.values(song.excuses).map(({ finding, why }) => [finding, why]))
  return {
    open: ordered.filter(({ id }) => !excuses.has(id)),
    excused: ordered.flatMap((one) => {
      const why = excuses.get(one.id)
      return why === undefined ? [] : [{ ...one, excused: why }]
    }),
  }
}

/** Where in the song a place lies, in ticks; what lies nowhere comes first. */
function placer(song: Song): (place: FindingPlace) => number {
  const starts = new Map(sectionPlaces(song).map(({ section, startTicks }) => [section.id, startTicks]))
  return ({ sectionId, figureId, startTicks = 0 }) => {
    if (figureId !== undefined) return (firstPlayOf(song, figureId)?.startTicks ?? -1) + startTicks
    return sectionId === undefined ? -1 : (starts.get(sectionId) ?? -1) + startTicks
  }
}
