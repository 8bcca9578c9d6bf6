// Whether the bars add up: the form against the recording, each bar against its beats and its neighbours.
import { greatest, rollup } from 'd3-array'
import { allBars, barStarts, mainSource, orderedSections, sectionPlaces } from '../document/form'
import type { Section, Song } from '../document/schema'
import { gridBeats } from '../time/beat-grid'
import { meterName } from '../time/meter'
import { finding, type Finding } from './finding'

export function formFindings(song: Song): Finding[] {
  return [...gridFindings(song), ...orderedSections(song).flatMap(oddBars)]
}

/** Nobody has written how far the song is counted yet, or it is counted differently than it is charted. */
function gridFindings(song: Song): Finding[] {
  const grid = mainSource(song)?.grid
  const bars = allBars(song)
  if (!grid) return [finding(['not laid out', 'missing'], 'The recording is not laid out in bars yet.', {})]
  if (grid.bars.length !== bars.length) {
    const last = song.sectionOrder.at(-1)
    const more = bars.length - grid.bars.length
    const words =
      `The form has ${bars.length} bars, the recording is counted in ${grid.bars.length}: ` +
      `${Math.abs(more)} too ${more > 0 ? 'many' : 'few'}.`
    return [finding(['form total', 'wrong'], words, last === undefined ? {} : { sectionId: last })]
  }
  return sectionPlaces(song).flatMap(({ section, firstBar }) => {
    const starts = barStarts(section)
    return section.bars.flatMap((bar, index) => {
      const [wanted, counted] = [gridBeats(bar), grid.bars[firstBar + index]!.beatSeconds.length]
      if (wanted === counted) return []
      const words =
        `Bar ${index + 1} of ${section.name} is written with ${wanted} beats; the recording is counted ` +
        `with ${counted} there.`
      return [
        finding(['beats of a bar', 'wrong'], words, { sectionId: section.id, startTicks: starts[index]! }),
      ]
    })
  })
}

/** One bar of another meter between bars that all have the same: wanted, or a slip. */
function oddBars(section: Section): Finding[] {
  if (section.bars.length < 3) return []
  const names = section.bars.map(({ meter, free }) => (free ? 'free' : meterName(meter)))
  const counts = [...rollup(names, (list) => list.length, String)]
  const [usual] = greatest(counts, ([, count]) => count)!
  const odd = names.flatMap((name, index) => (name === usual ? [] : [index]))
  // Two meters in turn, or a section of several, are meant.
  if (odd.length === 0 || odd.length > Math.max(1, section.bars.length / 8)) return []
  const starts = barStarts(section)
  return odd.map((bar) =>
    finding(
      ['odd bar', 'look'],
      `Bar ${bar + 1} of ${section.name} has ${names[bar]} among bars of ${usual}: is it so on the record?`,
      { sectionId: section.id, startTicks: starts[bar]! },
      { facts: [names[bar]!, usual] },
    ),
  )
}
