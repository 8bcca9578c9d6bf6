// What a call over the form changes: cells copied, played so often, at rest; a figure without its last bars.
import { placementTicks } from '../document/figure-content'
import { sectionTicks } from '../document/form'
import { EMPTY_CONTENT, type Figure, type Placement, type Section, type Song } from '../document/schema'
import { cellPlacements, fitted, fittingPasses } from '../timeline/cells'
import { barTicks } from '../time/meter'
import type { FormContext } from './form-names'

export interface Cell {
  partId: string
  sectionId: string
  placements: Placement[]
}
type FigurePlacement = Extract<Placement, { kind: 'figure' }>

/** Ticks of the last bars of a section. */
const lastBarsTicks = (section: Section, bars: number): number =>
  section.bars.slice(-bars).reduce((sum, bar) => sum + barTicks(bar.meter), 0)

/** A figure with nothing from a place on, as a variation of it. */
function withoutFrom(figure: Figure, tick: number, newId: () => string): Figure {
  const bar = barTicks(figure.meter)
  const bars = Math.round(figure.lengthTicks / bar)
  const first = Math.floor(tick / bar)
  const { eased: _eased, derivedFrom: _line, pattern: _pattern, licks: _licks, ...shape } = figure
  return {
    ...shape,
    id: newId(),
    name: `${figure.name.slice(0, 60)}, end open`,
    content: EMPTY_CONTENT,
    variationOf: {
      figureId: figure.id,
      replacedBars: Array.from({ length: bars - first }, (_, index) => first + index),
    },
  }
}

/** What a part plays in one section, for another, with its last bars left open. */
export function copiedCell(
  context: FormContext,
  from: Section,
  to: Section,
  { partId, openBars }: { partId: string; openBars: number },
): { cell: Cell; figures: Figure[] } {
  const { song, newId } = context
  const figures: Figure[] = []
  const limit = sectionTicks(to) - (openBars ? lastBarsTicks(to, openBars) : 0)
  const placements = fitted(song, cellPlacements(song, from.id, partId), to, newId).flatMap((placement) => {
    if (placement.startTicks >= limit) return []
    const end = placement.startTicks + placementTicks(song, placement)
    if (end <= limit) return [placement]
    if (placement.kind === 'rests') return [{ ...placement, lengthTicks: limit - placement.startTicks }]
    return [cutPlacement(song, placement, { limit, newId, figures })]
  })
  return { cell: { partId, sectionId: to.id, placements }, figures }
}

/** A placement that ends at a place: whole passes before it, and one that breaks off there. */
function cutPlacement(
  song: Song,
  placement: FigurePlacement,
  { limit, newId, figures }: { limit: number; newId: () => string; figures: Figure[] },
): FigurePlacement {
  const figure = song.figures[placement.figureId]
  if (!figure) return placement
  const within = limit - placement.startTicks
  const whole = fittingPasses(figure, within)
  const rest = within - whole * figure.lengthTicks
  if (rest === 0) return { ...placement, passes: Math.max(1, whole) }
  const cut = withoutFrom(figure, rest, newId)
  figures.push(cut)
  const pass = whole + 1
  if (pass === 1) return { ...placement, figureId: cut.id, passes: 1, passFigures: undefined }
  const others = (placement.passFigures ?? []).filter((one) => one.pass < pass)
  return { ...placement, passes: pass, passFigures: [...others, { pass, figureId: cut.id }] }
}

/** A part at rest through a section. */
export const restCell = ({ newId }: FormContext, section: Section, partId: string): Cell => ({
  partId,
  sectionId: section.id,
  placements: [
    {
      kind: 'rests',
      id: newId(),
      partId,
      sectionId: section.id,
      startTicks: 0,
      lengthTicks: sectionTicks(section),
    },
  ],
})

/** A figure through a section: as often as was said, else as often as it fits. Undefined when it does not. */
export function playedCell(
  { newId }: FormContext,
  section: Section,
  figure: Figure,
  passes: number | undefined,
): Cell | undefined {
  const room = fittingPasses(figure, sectionTicks(section))
  const count = passes ?? room
  if (count < 1 || count > room) return undefined
  return {
    partId: figure.partId,
    sectionId: section.id,
    placements: [
      {
        kind: 'figure',
        id: newId(),
        partId: figure.partId,
        sectionId: section.id,
        startTicks: 0,
        figureId: figure.id,
        passes: count,
        shiftFrets: 0,
        form: 'exact',
      },
    ],
  }
}

/** A cell's figure so many times, from the second time on at other frets. Undefined when there is no room. */
export function repeatedCell(
  { song, newId }: FormContext,
  section: Section,
  partId: string,
  { times, laterFrets }: { times: number; laterFrets: number },
): Cell | undefined {
  const first = cellPlacements(song, section.id, partId).find(
    (placement): placement is FigurePlacement => placement.kind === 'figure',
  )
  const figure = first && song.figures[first.figureId]
  if (!first || !figure) return undefined
  if (first.startTicks + times * figure.lengthTicks > sectionTicks(section)) return undefined
  const { passFigures: _figures, ...plain } = first
  const all = { ...plain, id: newId(), passes: times }
  if (laterFrets === 0) return { partId, sectionId: section.id, placements: [all] }
  const later: FigurePlacement = {
    ...plain,
    id: newId(),
    startTicks: first.startTicks + figure.lengthTicks,
    passes: times - 1,
    shiftFrets: first.shiftFrets + laterFrets,
  }
  return { partId, sectionId: section.id, placements: [{ ...all, passes: 1 }, later] }
}
