// The beat grid and the bars under it. Corrections come as a whole list of beats (see time/correct-beats);
// what was set before stays where it sounds (see anchored.ts).
import { ok, refuse, type Result } from '../../result'
import { barsFromBeats, barsProblem, beatsProblem } from '../../time/flat-beats'
import type { Section, Song } from '../schema'
import { anchored } from './anchored'
import { beatsArgs } from './beats-args'
import { mainSource } from '../form'
import { withFiguresScaled } from './scaled-figures'
import { define, withEntity } from './transaction'

export const setBeats = define(
  beatsArgs,
  (args) => args.what,
  (song, args): Result<Song> => {
    const source = mainSource(song)
    if (!source) return refuse('no-recording', 'Add a recording before laying out its beats.')
    const problem = beatsProblem(args.beats, args.endSeconds)
    if (problem) return refuse('beats', problem)
    const laid = barsFromBeats(args.beats, args.endSeconds, song.meter)
    const tooMuch = barsProblem(laid.bars, laid.grid)
    if (tooMuch) return refuse('beats', tooMuch)
    if (song.sectionOrder.length > 0 && source.grid && source.grid.bars.length > 0)
      return anchored(args.charted ? withFiguresScaled(song, args.charted) : song, source, laid)
    const sources = withEntity(song.sources, source.id, { ...source, grid: laid.grid })
    return ok(overFirstBars({ ...song, sources }, laid.bars, args.newSectionId))
  },
)

/**
 * A form that stood without a recording keeps its sections: each has as many bars as it had, the last
 * the rest.
 */
function overFirstBars(song: Song, bars: Section['bars'], newSectionId: string): Song {
  if (song.sectionOrder.length === 0) {
    const whole: Section = {
      id: newSectionId,
      kind: 'other',
      name: 'Whole song',
      bars,
      passes: 1,
      pickupTicks: 0,
      harmony: [],
    }
    return { ...song, sections: { [newSectionId]: whole }, sectionOrder: [newSectionId] }
  }
  const sections = { ...song.sections }
  let at = 0
  song.sectionOrder.forEach((id, index) => {
    const section = sections[id]!
    const last = index === song.sectionOrder.length - 1
    const own = bars.slice(at, last ? undefined : at + section.bars.length)
    at += section.bars.length
    // Bars beyond the recording stay as they were: a recording that stops early leaves the form whole.
    sections[id] = { ...section, bars: [...own, ...section.bars.slice(own.length)] }
  })
  return { ...song, sections }
}
