// Where in its bar a figure begins: a pickup is counted from there, not from one.
import { barStarts, orderedSections } from '../document/form'
import type { Figure, Placement, Section, Song } from '../document/schema'
import { barTicks } from '../time/meter'

/**
 * Ticks from the bar line to where a figure is placed; 0 where it begins on a one, is placed nowhere, or
 * begins at different counts.
 */
export function startInBar(song: Song, figure: Figure): number {
  const starts = new Set<number>()
  for (const placement of Object.values(song.placements)) {
    if (!plays(placement, figure.id)) continue
    const section = song.sections[placement.sectionId]
    if (section) starts.add(inBar(song, section, placement.startTicks))
  }
  const [only] = starts
  return starts.size === 1 && only !== undefined && only < barTicks(figure.meter) ? only : 0
}

const plays = (placement: Placement, figureId: string): boolean =>
  placement.kind === 'figure' &&
  (placement.figureId === figureId ||
    placement.passFigures?.some((other) => other.figureId === figureId) === true)

function inBar(song: Song, section: Section, startTicks: number): number {
  if (startTicks >= 0) {
    const line = barStarts(section).findLast((start) => start <= startTicks) ?? 0
    return startTicks - line
  }
  const sections = orderedSections(song)
  const before = sections[sections.indexOf(section) - 1]
  const meter = before?.bars.at(-1)?.meter ?? section.bars[0]?.meter
  const bar = meter ? barTicks(meter) : -startTicks
  return ((startTicks % bar) + bar) % bar
}
