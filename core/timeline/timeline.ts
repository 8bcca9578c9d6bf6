// The song unrolled once for each document and kept: where every section and bar lies, and what every part
// plays when. Coverage, map, sheet, sound and words for a place all read it; none works it out again.
import { barStarts, sectionPlaces, type SectionPlace } from '../document/form'
import type { Figure, Placement, Song } from '../document/schema'
import { barTicks } from '../time/meter'

/** One pass of a placement in song time, or a rest. */
export interface Play {
  placement: Placement
  /** What sounds in this pass; undefined for a rest. */
  figure: Figure | undefined
  /** From 1. */
  pass: number
  startTicks: number
  lengthTicks: number
}

export interface FormBar {
  barIndex: number
  sectionId: string
  barInSection: number
  startTicks: number
  lengthTicks: number
}

export interface Timeline {
  places: readonly SectionPlace[]
  bars: readonly FormBar[]
  /** Of each part in the order of time; several may sound at once where a pickup overlaps. */
  playsByPart: ReadonlyMap<string, readonly Play[]>
  /** Placements of a cell ("part/section") in order. */
  cells: ReadonlyMap<string, readonly Placement[]>
  endTicks: number
}

const timelines = new WeakMap<Song, Timeline>()

/** The timeline of a document: the same object for the same document. */
export function timelineOf(song: Song): Timeline {
  const known = timelines.get(song)
  if (known) return known
  const places = sectionPlaces(song)
  const cells = cellsOf(song)
  const last = places.at(-1)
  const made: Timeline = {
    places,
    bars: places.flatMap(barsOf),
    playsByPart: playsOf(song, places, cells),
    cells,
    endTicks: last ? last.startTicks + last.lengthTicks : 0,
  }
  timelines.set(song, made)
  return made
}

function barsOf({ section, firstBar, startTicks }: SectionPlace): FormBar[] {
  const starts = barStarts(section)
  return section.bars.map((bar, index) => ({
    barIndex: firstBar + index,
    sectionId: section.id,
    barInSection: index,
    startTicks: startTicks + starts[index]!,
    lengthTicks: barTicks(bar.meter),
  }))
}

export const cellKey = (partId: string, sectionId: string): string => `${partId}/${sectionId}`

const cellTables = new WeakMap<Song['placements'], Map<string, Placement[]>>()

/** Kept as long as no placement changes: an edit of a figure leaves them all. */
function cellsOf(song: Song): Map<string, Placement[]> {
  const known = cellTables.get(song.placements)
  if (known) return known
  const cells = new Map<string, Placement[]>()
  for (const placement of Object.values(song.placements)) {
    const key = cellKey(placement.partId, placement.sectionId)
    const cell = cells.get(key)
    if (cell) cell.push(placement)
    else cells.set(key, [placement])
  }
  for (const cell of cells.values()) cell.sort((a, b) => a.startTicks - b.startTicks)
  cellTables.set(song.placements, cells)
  return cells
}

function playsOf(
  song: Song,
  places: readonly SectionPlace[],
  cells: ReadonlyMap<string, readonly Placement[]>,
): Map<string, Play[]> {
  const byPart = new Map<string, Play[]>()
  for (const partId of song.partOrder) {
    const plays = places.flatMap(({ section, startTicks }) =>
      (cells.get(cellKey(partId, section.id)) ?? []).flatMap((placement) =>
        passesOf(song, placement, startTicks),
      ),
    )
    byPart.set(
      partId,
      plays.sort((a, b) => a.startTicks - b.startTicks),
    )
  }
  return byPart
}

function passesOf(song: Song, placement: Placement, sectionStart: number): Play[] {
  const startTicks = sectionStart + placement.startTicks
  if (placement.kind === 'rests')
    return [{ placement, figure: undefined, pass: 1, startTicks, lengthTicks: placement.lengthTicks }]
  const figure = song.figures[placement.figureId]
  if (!figure) return []
  const { lengthTicks } = figure
  const plays: Play[] = []
  for (let index = 0; index < placement.passes; index++) {
    const other = placement.passFigures?.find(({ pass }) => pass === index + 1)
    plays.push({
      placement,
      figure: (other && song.figures[other.figureId]) ?? figure,
      pass: index + 1,
      startTicks: startTicks + index * lengthTicks,
      lengthTicks,
    })
  }
  return plays
}

/** Every pass of every placement of a part in song time, in order. */
export const playsOfPart = (song: Song, partId: string): readonly Play[] =>
  timelineOf(song).playsByPart.get(partId) ?? []

const firstPlays = new WeakMap<Song, Map<string, Play>>()

/** The first pass in which a figure sounds; undefined where it is played nowhere. */
export function firstPlayOf(song: Song, figureId: string): Play | undefined {
  const known = firstPlays.get(song)
  if (known) return known.get(figureId)
  const plays = [...timelineOf(song).playsByPart.values()].flat().toReversed()
  const first = new Map(plays.flatMap((play) => (play.figure ? [[play.figure.id, play] as const] : [])))
  firstPlays.set(song, first)
  return first.get(figureId)
}
