// Heard chords against those that are set: where they would fill something, and how they are spelled.
import type { Analysis } from '../hear/analysis'
import type { Key } from '../music/pitch'
import { sectionPlaces, songTimeMap } from '../document/form'
import { withoutChords } from '../document/harmony'
import type { Song } from '../document/schema'
import { ticksToSeconds } from '../time/beat-grid'
import { barTicks } from '../time/meter'

/** The key names are spelled in: the song's, or while nobody has said it the one that was heard. */
export const spellingKey = (song: Song, analysis: Analysis | undefined): Key =>
  (song.keyUnknown ? analysis?.key : undefined) ?? song.key

/** A stretch without chords shorter than this is a rest somebody meant, not a gap to fill: in bars. */
const GAP_BARS = 1

/** The sections in which heard chords would fill something, each with how much of it in bars. */
export function openChords(song: Song, analysis: Analysis): { name: string; bare: boolean }[] {
  const map = songTimeMap(song)
  if (!map) return []
  const chords = (analysis.chords ?? []).filter((chord) => chord.label !== 'N')
  return sectionPlaces(song).flatMap(({ section, startTicks }) => {
    const bar = barTicks(section.bars[0]?.meter ?? song.meter)
    const fillable = withoutChords(section, GAP_BARS * bar).some(({ from, to }) => {
      const [start, end] = [from, to].map((ticks) => ticksToSeconds(map, startTicks + ticks)) as [
        number,
        number,
      ]
      const inside = chords.reduce(
        (sum, chord) => sum + Math.max(0, Math.min(end, chord.end) - Math.max(start, chord.start)),
        0,
      )
      return inside > (end - start) / 2
    })
    return fillable ? [{ name: section.name, bare: section.harmony.length === 0 }] : []
  })
}
