// The beat grid and the bars under it. Corrections come as a whole list of beats (see time/flat-beats);
// sections keep the place where they start: each goes to the nearest bar line of the new grid, so a moved
// beat never moves a section by accident.
import { ok, refuse, type Result } from '../../result'
import { barsFromBeats, beatsProblem } from '../../time/flat-beats'
import type { Section, Song } from '../schema'
import { beatsArgs } from './beats-args'
import { mainSource, sectionPlaces } from '../form'
import { define, withEntity } from './transaction'

export const setBeats = define(
  beatsArgs,
  (args) => args.what,
  (song, args): Result<Song> => {
    const source = mainSource(song)
    if (!source) return refuse('no-recording', 'Add a recording before laying out its beats.')
    const problem = beatsProblem(args.beats, args.endSeconds)
    if (problem) return refuse('beats', problem)
    const { bars, grid } = barsFromBeats(args.beats, args.endSeconds, song.meter)
    const sources = withEntity(song.sources, source.id, { ...source, grid })
    const starts = grid.bars.map((bar) => bar.beatSeconds[0]!)
    const oldStarts = source.grid?.bars.map((bar) => bar.beatSeconds[0]!) ?? []
    const kept: { section: Section; at: number }[] = []
    for (const place of sectionPlaces(song)) {
      const wanted = oldStarts[place.firstBar] ?? 0
      const at = kept.length === 0 ? 0 : nearest(starts, wanted)
      if (kept.length > 0 && at <= kept.at(-1)!.at)
        return refuse('section-lost', `"${place.section.name}" would be left without a bar: merge it first.`)
      kept.push({ section: place.section, at })
    }
    if (kept.length === 0)
      kept.push({
        section: {
          id: args.newSectionId,
          kind: 'other',
          name: 'Whole song',
          bars: [],
          passes: 1,
          pickupTicks: 0,
          harmony: [],
        },
        at: 0,
      })
    const sections = { ...song.sections }
    kept.forEach(({ section, at }, index) => {
      const next = bars.slice(at, kept[index + 1]?.at ?? bars.length)
      if (JSON.stringify(next) !== JSON.stringify(section.bars))
        sections[section.id] = { ...section, bars: next }
    })
    return ok({
      ...song,
      sources,
      sections,
      sectionOrder: song.sectionOrder.length ? song.sectionOrder : kept.map(({ section }) => section.id),
    })
  },
)

function nearest(values: readonly number[], wanted: number): number {
  let best = 0
  values.forEach((value, index) => {
    if (Math.abs(value - wanted) < Math.abs(values[best]! - wanted)) best = index
  })
  return best
}
