// What the map shows: per section and part the stretches that are played, rest, or are not charted yet.
import { barTicks } from '../time/meter'
import { sectionTicks } from '../document/form'
import { placementTicks } from '../document/figure-content'
import { cellKey, timelineOf } from './timeline'
import type { Figure, Placement, Section, Song } from '../document/schema'

export type Stretch =
  | {
      kind: 'figure'
      startTicks: number
      lengthTicks: number
      placement: Extract<Placement, { kind: 'figure' }>
      figure: Figure
    }
  | {
      kind: 'rests'
      startTicks: number
      lengthTicks: number
      placement: Extract<Placement, { kind: 'rests' }>
    }
  | { kind: 'open'; startTicks: number; lengthTicks: number }

export const cellPlacements = (song: Song, sectionId: string, partId: string): readonly Placement[] =>
  timelineOf(song).cells.get(cellKey(partId, sectionId)) ?? []

/** The stretches of one cell in order; they add up to the section (pickups before it come first). */
export function cellStretches(song: Song, section: Section, partId: string): Stretch[] {
  const stretches: Stretch[] = []
  let at = 0
  for (const placement of cellPlacements(song, section.id, partId)) {
    if (placement.startTicks > at)
      stretches.push({ kind: 'open', startTicks: at, lengthTicks: placement.startTicks - at })
    const common = { startTicks: placement.startTicks, lengthTicks: placementTicks(song, placement) }
    if (placement.kind === 'rests') stretches.push({ kind: 'rests', ...common, placement })
    else stretches.push({ kind: 'figure', ...common, placement, figure: song.figures[placement.figureId]! })
    at = Math.max(at, common.startTicks + common.lengthTicks)
  }
  const total = sectionTicks(section)
  if (at < total) stretches.push({ kind: 'open', startTicks: at, lengthTicks: total - at })
  return stretches
}

/** First stretch of a cell that is free; undefined when all is charted. */
export const firstOpen = (
  song: Song,
  section: Section,
  partId: string,
): { startTicks: number; lengthTicks: number } | undefined =>
  cellStretches(song, section, partId).find((stretch) => stretch.kind === 'open')

/** Passes of a figure that fit into a length; at least 0. */
export const fittingPasses = (figure: Pick<Figure, 'lengthTicks'>, lengthTicks: number): number =>
  Math.floor(lengthTicks / figure.lengthTicks + 1e-9)

/**
 * The charting of one cell for another section: what does not fit is shortened by whole passes or left out.
 */
export function fitted(
  song: Song,
  placements: readonly Placement[],
  section: Section,
  newId: () => string,
): Placement[] {
  const total = sectionTicks(section)
  return placements.flatMap((placement): Placement[] => {
    if (placement.startTicks >= total) return []
    const room = total - placement.startTicks
    if (placement.kind === 'rests')
      return [
        {
          ...placement,
          id: newId(),
          sectionId: section.id,
          lengthTicks: Math.min(placement.lengthTicks, room),
        },
      ]
    const figure = song.figures[placement.figureId]
    const passes = figure ? Math.min(placement.passes, fittingPasses(figure, room)) : 0
    if (passes === 0) return []
    // A pass that no longer fits takes the figure it had of its own with it.
    const passFigures = placement.passFigures?.filter((one) => one.pass <= passes)
    return [
      { ...placement, id: newId(), sectionId: section.id, passes, ...(passFigures ? { passFigures } : {}) },
    ]
  })
}

/**
 * The charting of a cell for a section that returns it: moved by the return's shift, and only where nothing
 * is charted yet, pass by pass, so that what the return does differently stays.
 */
export function fittedToReturn(
  song: Song,
  placements: readonly Placement[],
  section: Section,
  partId: string,
  newId: () => string,
): Placement[] {
  const kept = cellPlacements(song, section.id, partId)
  const shift = section.returns?.shiftSemitones ?? 0
  const isFree = (startTicks: number, lengthTicks: number): boolean =>
    !kept.some(
      (other) =>
        other.startTicks < startTicks + lengthTicks &&
        startTicks < other.startTicks + placementTicks(song, other),
    )
  const added = fitted(song, placements, section, newId).flatMap((placement): Placement[] => {
    if (placement.kind === 'rests')
      return isFree(placement.startTicks, placement.lengthTicks) ? [placement] : []
    const { lengthTicks } = song.figures[placement.figureId]!
    const { passFigures: _passes, ...plain } = placement
    const runs: Extract<Placement, { kind: 'figure' }>[] = []
    for (let pass = 0; pass < placement.passes; pass++) {
      const startTicks = placement.startTicks + pass * lengthTicks
      if (!isFree(startTicks, lengthTicks)) continue
      const last = runs.at(-1)
      if (last && last.startTicks + last.passes * lengthTicks === startTicks) last.passes++
      else
        runs.push({ ...plain, id: newId(), startTicks, passes: 1, shiftFrets: placement.shiftFrets + shift })
    }
    // Whole, the placement keeps the passes that differ.
    return runs.length === 1 && runs[0]!.passes === placement.passes && placement.passFigures
      ? [{ ...runs[0]!, passFigures: placement.passFigures }]
      : runs
  })
  return [...kept, ...added].sort((a, b) => a.startTicks - b.startTicks)
}

/** A length in the bars of a section: "4 bars", "1½ bars", "2 beats" below a bar. */
export function lengthInBars(section: Section, lengthTicks: number): string {
  const bar = barTicks(section.bars[0]!.meter)
  const halves = Math.round((2 * lengthTicks) / bar)
  if (halves < 2) return `${Math.round(lengthTicks / 10080)} beats`
  const whole = Math.floor(halves / 2)
  return `${whole}${halves % 2 ? '½' : ''} ${halves === 2 ? 'bar' : 'bars'}`
}
