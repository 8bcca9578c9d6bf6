// Placements: what they play is there and on the neck, they lie within their section's reach, and in one
// section no part plays two of them at once. (A pickup may sound over the end of the section before.)
import { figureContent, placementTicks } from '../figure-content'
import { sectionPlaces } from '../form'
import type { Content, Placement, Song } from '../schema'
import { own, type Problem } from './problem'

interface Span {
  placement: Placement
  from: number
  to: number
}

type FigurePlacement = Extract<Placement, { kind: 'figure' }>

export function* placementProblems(song: Song): Generator<Problem> {
  const places = new Map(sectionPlaces(song).map((place) => [place.section.id, place]))
  const cells = new Map<string, Span[]>()
  for (const placement of Object.values(song.placements)) {
    const about = { table: 'placements', id: placement.id } as const
    const place = places.get(placement.sectionId)
    if (!own(song.parts, placement.partId) || !place) {
      yield { message: 'a placement points at something missing', ...about }
      continue
    }
    const message = placement.kind === 'figure' ? playedProblem(song, placement) : undefined
    if (message) {
      yield { message, ...about }
      continue
    }
    const to = placement.startTicks + placementTicks(song, placement)
    if (to > place.lengthTicks || to < 0)
      yield { message: `a placement reaches beyond the bars of "${place.section.name}"`, ...about }
    const cell = `${placement.partId}/${placement.sectionId}`
    const span = { placement, from: placement.startTicks, to }
    const row = cells.get(cell)
    if (row) row.push(span)
    else cells.set(cell, [span])
  }
  for (const row of cells.values()) yield* overlaps(song, row)
}

function playedProblem(song: Song, placement: FigurePlacement): string | undefined {
  const figure = own(song.figures, placement.figureId)
  if (!figure) return 'a placement points at something missing'
  if (figure.partId !== placement.partId) return `a placement plays "${figure.name}" in another part`
  const passes = (placement.passFigures ?? []).map(({ pass }) => pass)
  if (new Set(passes).size < passes.length || passes.some((pass) => pass > placement.passes))
    return 'a pass of a placement is not there or is named twice'
  for (const { figureId, pass } of placement.passFigures ?? []) {
    const other = own(song.figures, figureId)
    if (other?.partId !== placement.partId) return 'a pass of a placement plays something missing'
    if (other.lengthTicks !== figure.lengthTicks)
      return `"${other.name}" is not as long as "${figure.name}": pass ${pass} would not add up`
  }
  return shiftProblem(song, placement)
}

const ranges = new WeakMap<Content, { lowest: number; highest: number }>()
/** Lowest and highest fret of a content, open strings included; 0 and 0 when there is none. */
function fretRange(content: Content): { lowest: number; highest: number } {
  const known = ranges.get(content)
  if (known) return known
  let range = { lowest: Number.POSITIVE_INFINITY, highest: Number.NEGATIVE_INFINITY }
  const add = (fret: number | null): void => {
    if (fret !== null)
      range = { lowest: Math.min(range.lowest, fret), highest: Math.max(range.highest, fret) }
  }
  for (const note of content.notes) add(note.fret)
  for (const { grip } of content.grips) for (const string of grip.strings) add(string.fret)
  if (range.lowest > range.highest) range = { lowest: 0, highest: 0 }
  ranges.set(content, range)
  return range
}

/** Why a placement cannot be shifted that far, in a sentence. */
export function shiftProblem(song: Song, placement: FigurePlacement): string | undefined {
  if (placement.shiftFrets === 0) return undefined
  const { instrument } = song.parts[placement.partId]!
  const ids = [placement.figureId, ...(placement.passFigures ?? []).map(({ figureId }) => figureId)]
  for (const figureId of ids) {
    const figure = song.figures[figureId]!
    const { lowest, highest } = fretRange(figureContent(song, figure, placement.form))
    const top = instrument.fretCount - instrument.capo
    if (lowest + placement.shiftFrets < 0 || highest + placement.shiftFrets > top)
      return `Shifted by ${placement.shiftFrets} frets “${figure.name}” leaves the neck`
  }
  return undefined
}

function* overlaps(song: Song, row: Span[]): Generator<Problem> {
  row.sort((a, b) => a.from - b.from)
  for (let index = 1; index < row.length; index++) {
    const { placement, from } = row[index]!
    if (from >= row[index - 1]!.to) continue
    const part = song.parts[placement.partId]!.name
    const section = song.sections[placement.sectionId]!.name
    yield {
      message: `${part} would play two things at once in "${section}"`,
      table: 'placements',
      id: placement.id,
    }
  }
}
