// timeline SONG: the unrolled form, bar by bar.
import { orderedParts, songTimeMap } from '../core/document/form'
import type { Song } from '../core/document/schema'
import { clock, ticksToSeconds } from '../core/time/beat-grid'
import { unroll } from '../core/timeline/unroll'

/** A line for each bar: its number, its time, its section, and what each part plays. */
export function printTimeline(song: Song): void {
  const map = songTimeMap(song)
  const parts = orderedParts(song)
  console.log(['bar', 'time', 'section', 'in it', ...parts.map((part) => part.name)].join('\t'))
  for (const bar of unroll(song)) {
    const cells = bar.parts.map((cell) =>
      cell.plays.length
        ? cell.plays
            .map((play) => (play.figureId ? `${song.figures[play.figureId]!.name} (${play.pass})` : 'rests'))
            .join(' + ')
        : 'not charted',
    )
    console.log(
      [
        bar.barIndex + 1,
        map ? clock(ticksToSeconds(map, bar.startTicks), 1) : '',
        song.sections[bar.sectionId]!.name,
        bar.barInSection + 1,
        ...cells,
      ].join('\t'),
    )
  }
}
