// The unrolled timeline: every bar of every part, with its section and pass, and what is played there. Computed, never stored.
import { barTicks } from '../time/meter'
import { barStarts, orderedParts, sectionPlaces } from './form'
import type { Content, Figure, Placement, Song } from './schema'

/** Length of a placement in ticks: all passes of its figure, or the rest. 0 when the figure is missing. */
export function placementTicks(song: Song, placement: Placement): number {
  return placement.kind === 'rests' ? placement.lengthTicks : (song.figures[placement.figureId]?.lengthTicks ?? 0) * placement.passes
}

/** What a figure plays: its own bars over those of the figure it varies. */
export function figureContent(song: Song, figure: Figure, form: 'exact' | 'eased' = 'exact'): Content {
  if (form === 'eased' && figure.eased) return figure.eased
  const base = figure.variationOf && song.figures[figure.variationOf.figureId]
  if (!base || base.id === figure.id) return figure.content
  const bar = barTicks(figure.meter)
  const replaced = new Set(figure.variationOf!.replacedBars)
  const inherited = figureContent(song, base)
  const join = <T extends { startTicks: number }>(own: T[], theirs: T[]): T[] =>
    [...theirs.filter((event) => event.startTicks < figure.lengthTicks && !replaced.has(Math.floor(event.startTicks / bar))), ...own.filter((event) => replaced.has(Math.floor(event.startTicks / bar)))].sort((a, b) => a.startTicks - b.startTicks)
  return { grips: join(figure.content.grips, inherited.grips), strokes: join(figure.content.strokes, inherited.strokes), notes: join(figure.content.notes, inherited.notes), mutes: join(figure.content.mutes, inherited.mutes) }
}

export interface Occurrence { placement: Placement; figure: Figure | undefined; pass: number; startTicks: number; lengthTicks: number }

/** Every pass of every placement of a part in song time, in order. A rest is one occurrence. */
export function occurrences(song: Song, partId: string): Occurrence[] {
  const starts = new Map(sectionPlaces(song).map((place) => [place.section.id, place.startTicks]))
  return Object.values(song.placements).filter((placement) => placement.partId === partId && starts.has(placement.sectionId)).flatMap((placement): Occurrence[] => {
    const startTicks = starts.get(placement.sectionId)! + placement.startTicks
    if (placement.kind === 'rests') return [{ placement, figure: undefined, pass: 1, startTicks, lengthTicks: placement.lengthTicks }]
    const figure = song.figures[placement.figureId]
    if (!figure) return []
    return Array.from({ length: placement.passes }, (_, pass) => ({ placement, figure, pass: pass + 1, startTicks: startTicks + pass * figure.lengthTicks, lengthTicks: figure.lengthTicks }))
  }).sort((a, b) => a.startTicks - b.startTicks)
}

export interface TimelineBar {
  barIndex: number; sectionId: string; barInSection: number; startTicks: number; lengthTicks: number
  /** Per part in band order: what is played in this bar; empty and chartedTicks 0 = not charted. */
  parts: { partId: string; chartedTicks: number; plays: { figureId: string | undefined; placementId: string; pass: number; startTicks: number }[] }[]
}

/** form → every bar of every part. The lengths add up to the form's. */
export function unroll(song: Song): TimelineBar[] {
  const parts = orderedParts(song).map((part) => ({ id: part.id, plays: occurrences(song, part.id) }))
  return sectionPlaces(song).flatMap((place) => {
    const starts = barStarts(place.section)
    return place.section.bars.map((bar, index): TimelineBar => {
      const startTicks = place.startTicks + starts[index]!
      const lengthTicks = barTicks(bar.meter)
      const end = startTicks + lengthTicks
      return {
        barIndex: place.firstBar + index, sectionId: place.section.id, barInSection: index, startTicks, lengthTicks,
        parts: parts.map(({ id, plays }) => {
          const here = plays.filter((play) => play.startTicks < end && play.startTicks + play.lengthTicks > startTicks)
          return {
            partId: id, chartedTicks: here.reduce((sum, play) => sum + Math.min(end, play.startTicks + play.lengthTicks) - Math.max(startTicks, play.startTicks), 0),
            plays: here.map((play) => ({ figureId: play.figure?.id, placementId: play.placement.id, pass: play.pass, startTicks: play.startTicks })),
          }
        }),
      }
    })
  })
}

export interface Coverage { partId: string; chartedTicks: number; totalTicks: number; figures: number }

/** How much of the form each part has charted (figures and rests). */
export function coverage(song: Song): Coverage[] {
  const bars = unroll(song)
  const totalTicks = bars.reduce((sum, bar) => sum + bar.lengthTicks, 0)
  return song.partOrder.map((partId, index) => ({
    partId, totalTicks, chartedTicks: Math.min(totalTicks, bars.reduce((sum, bar) => sum + Math.min(bar.lengthTicks, bar.parts[index]!.chartedTicks), 0)),
    figures: Object.values(song.figures).filter((figure) => figure.partId === partId).length,
  }))
}
