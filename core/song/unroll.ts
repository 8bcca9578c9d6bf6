// The unrolled timeline: every bar of every part, with its section and pass, and what is played there. Computed, never stored.
import { barTicks } from '../time/meter'
import { tilePattern } from './pattern'
import { barStarts, orderedParts, sectionPlaces } from './form'
import type { Content, Figure, Placement, Song } from './schema'

/** Length of a placement in ticks: all passes of its figure, or the rest. 0 when the figure is missing. */
export function placementTicks(song: Song, placement: Placement): number {
  return placement.kind === 'rests' ? placement.lengthTicks : (song.figures[placement.figureId]?.lengthTicks ?? 0) * placement.passes
}

/** What a figure plays: its own bars over those of the figure it varies, its strokes from its hand pattern except in bars of its own. */
export function figureContent(song: Song, figure: Figure, form: 'exact' | 'eased' = 'exact'): Content {
  if (form === 'eased' && figure.eased) return figure.eased
  return withPattern(song, figure, ownOrInherited(song, figure))
}

function ownOrInherited(song: Song, figure: Figure): Content {
  const base = figure.variationOf && song.figures[figure.variationOf.figureId]
  if (!base || base.id === figure.id) return figure.content
  const replaced = new Set(figure.variationOf!.replacedBars)
  return joinBars(figure, figureContent(song, base), figure.content, replaced)
}

/** `theirs`, with the given bars (by where events start) taken from `own`. */
export function joinBars(figure: Pick<Figure, 'meter' | 'lengthTicks'>, theirs: Content, own: Content, replaced: ReadonlySet<number>): Content {
  const bar = barTicks(figure.meter)
  const isOwn = (event: { startTicks: number }): boolean => replaced.has(Math.floor(event.startTicks / bar))
  const join = <T extends { startTicks: number }>(a: T[], b: T[]): T[] => [...a.filter((event) => event.startTicks < figure.lengthTicks && !isOwn(event)), ...b.filter(isOwn)].sort((x, y) => x.startTicks - y.startTicks)
  return { grips: join(theirs.grips, own.grips), strokes: join(theirs.strokes, own.strokes), notes: join(theirs.notes, own.notes), mutes: join(theirs.mutes, own.mutes) }
}

function withPattern(song: Song, figure: Figure, content: Content): Content {
  const pattern = figure.pattern && song.patterns[figure.pattern.patternId]
  if (!pattern) return content
  const bar = barTicks(figure.meter)
  const own = new Set(figure.pattern!.ownBars)
  const isOwn = (stroke: { startTicks: number }): boolean => own.has(Math.floor(stroke.startTicks / bar))
  const tiled = tilePattern(pattern, content.grips, figure.lengthTicks)
  return { ...content, strokes: [...tiled.filter((stroke) => !isOwn(stroke)), ...content.strokes.filter(isOwn)].sort((a, b) => a.startTicks - b.startTicks) }
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
    const other = new Map((placement.passFigures ?? []).map((entry) => [entry.pass, song.figures[entry.figureId]]))
    return Array.from({ length: placement.passes }, (_, pass) => ({ placement, figure: other.get(pass + 1) ?? figure, pass: pass + 1, startTicks: startTicks + pass * figure.lengthTicks, lengthTicks: figure.lengthTicks }))
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
