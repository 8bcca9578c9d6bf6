// The timeline bar by bar, as it is printed and counted: every bar of every part, and what is played there.
import type { Song } from '../document/schema'
import { chartedSpans } from './coverage'
import { timelineOf, type FormBar, type Play } from './timeline'

export interface PartBar {
  partId: string
  /** 0 and no plays = not charted. */
  chartedTicks: number
  plays: { figureId: string | undefined; placementId: string; pass: number; startTicks: number }[]
}
export interface TimelineBar extends FormBar {
  /** In band order. */
  parts: PartBar[]
}

/** form → every bar of every part. The lengths add up to the form's. */
export function unroll(song: Song): TimelineBar[] {
  const { bars, playsByPart } = timelineOf(song)
  const rows = song.partOrder.map((partId) => ({ partId, walk: walker(playsByPart.get(partId) ?? []) }))
  return bars.map((bar) => ({
    ...bar,
    parts: rows.map(({ partId, walk }) => partBar(song, partId, walk(bar), bar)),
  }))
}

/** Plays that sound in a bar; bars are asked for in order, so each play is looked at once. */
function walker(plays: readonly Play[]): (bar: FormBar) => Play[] {
  let next = 0
  let sounding: Play[] = []
  return ({ startTicks, lengthTicks }) => {
    while (next < plays.length && plays[next]!.startTicks < startTicks + lengthTicks)
      sounding.push(plays[next++]!)
    sounding = sounding.filter((play) => play.startTicks + play.lengthTicks > startTicks)
    return sounding
  }
}

function partBar(song: Song, partId: string, plays: readonly Play[], bar: FormBar): PartBar {
  const end = bar.startTicks + bar.lengthTicks
  let chartedTicks = 0
  for (const play of plays)
    for (const { from, to } of chartedSpans(song, play))
      chartedTicks += Math.max(0, Math.min(end, to) - Math.max(bar.startTicks, from))
  return {
    partId,
    chartedTicks: Math.min(bar.lengthTicks, chartedTicks),
    plays: plays.map((play) => ({
      figureId: play.figure?.id,
      placementId: play.placement.id,
      pass: play.pass,
      startTicks: play.startTicks,
    })),
  }
}
