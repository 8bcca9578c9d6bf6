// How much of the form is charted. Every percentage shown comes from here: a bar counts for a part when the
// part rests there or plays a bar of a figure that has something in it.
import { figureContent } from '../document/figure-content'
import type { Content, Figure, Song } from '../document/schema'
import { barTicks } from '../time/meter'
import { timelineOf, type Play } from './timeline'

export interface Coverage {
  partId: string
  chartedTicks: number
  totalTicks: number
  figures: number
}

interface Span {
  from: number
  to: number
}

const coverages = new WeakMap<Song, Coverage[]>()

/** Of each part in band order how much of the form it has charted. */
export function coverage(song: Song): Coverage[] {
  const known = coverages.get(song)
  if (known) return known
  const timeline = timelineOf(song)
  const figures = new Map<string, number>()
  for (const { partId } of Object.values(song.figures)) figures.set(partId, (figures.get(partId) ?? 0) + 1)
  const made = song.partOrder.map((partId) => ({
    partId,
    totalTicks: timeline.endTicks,
    chartedTicks: chartedTicks(song, timeline.playsByPart.get(partId) ?? [], timeline.endTicks),
    figures: figures.get(partId) ?? 0,
  }))
  coverages.set(song, made)
  return made
}

/** 0 to 1 over all parts together; 0 before there is a form or a band. */
export function chartedShare(song: Song): number {
  const shares = coverage(song)
  const total = shares.reduce((sum, part) => sum + part.totalTicks, 0)
  return total ? shares.reduce((sum, part) => sum + part.chartedTicks, 0) / total : 0
}

/** A share as it is shown everywhere; 100 only when nothing is missing, 0 only when nothing is there. */
export function percentOf(share: number): number {
  const rounded = Math.round(100 * share)
  if (rounded >= 100 && share < 1) return 99
  return rounded <= 0 && share > 0 ? 1 : rounded
}

function chartedTicks(song: Song, plays: readonly Play[], endTicks: number): number {
  let sum = 0
  let reached = 0
  for (const play of plays)
    for (const { from, to } of chartedSpans(song, play)) {
      const start = Math.max(from, reached)
      const end = Math.min(to, endTicks)
      if (end <= start) continue
      sum += end - start
      reached = end
    }
  return sum
}

/** What of one pass is charted, in song time. */
export function chartedSpans(song: Song, play: Play): Span[] {
  const { figure, startTicks, lengthTicks } = play
  if (!figure) return [{ from: startTicks, to: startTicks + lengthTicks }]
  const form = play.placement.kind === 'figure' ? play.placement.form : 'exact'
  return filledSpans(figure, figureContent(song, figure, form)).map(({ from, to }) => ({
    from: startTicks + from,
    to: startTicks + Math.min(to, lengthTicks),
  }))
}

const filled = new WeakMap<Content, { figure: Figure; spans: Span[] }>()
/** Bars of a figure with something in them, neighbours joined. A figure in free time counts as a whole. */
function filledSpans(figure: Figure, content: Content): Span[] {
  const known = filled.get(content)
  if (known?.figure === figure) return known.spans
  const bar = figure.freeTime ? figure.lengthTicks : barTicks(figure.meter)
  const bars = new Set<number>()
  const count = Math.ceil(figure.lengthTicks / bar)
  for (const event of [...content.grips, ...content.strokes, ...content.notes]) {
    // What rings on beyond the end fills no bar there.
    const last = Math.min(count, Math.ceil((event.startTicks + event.lengthTicks) / bar))
    for (let index = Math.floor(event.startTicks / bar); index < last; index++) bars.add(index)
  }
  const spans: Span[] = []
  for (const index of [...bars].sort((a, b) => a - b)) {
    const span = { from: index * bar, to: Math.min((index + 1) * bar, figure.lengthTicks) }
    const before = spans.at(-1)
    if (span.to <= span.from) continue
    if (before?.to === span.from) before.to = span.to
    else spans.push(span)
  }
  filled.set(content, { figure, spans })
  return spans
}
