// Placements follow what they stand on: when a section loses bars or a figure grows, they keep as many passes
// as there is room for, and go when there is room for none.
import { ok, type Result } from '../result'
import { placementTicks } from '../document/figure-content'
import { sectionPlaces } from '../document/form'
import type { Placement, Song } from '../document/schema'

interface Span {
  placement: Placement
  from: number
}

/** Reaction: gives every part back the rule that it plays one thing at a time, within its sections. */
export function refitPlacements(before: Song, after: Song): Result<Song> {
  const parts = partsToRefit(before, after)
  if (parts.size === 0) return ok(after)
  const places = new Map(sectionPlaces(after).map((place) => [place.section.id, place]))
  const rows = new Map<string, Span[]>()
  for (const placement of Object.values(after.placements)) {
    const place = places.get(placement.sectionId)
    if (!place || !parts.has(placement.partId)) continue
    const span = { placement, from: place.startTicks + placement.startTicks }
    const cell = `${placement.partId}/${placement.sectionId}`
    const row = rows.get(cell)
    if (row) row.push(span)
    else rows.set(cell, [span])
  }
  const changed = new Map<string, Placement | undefined>()
  for (const row of rows.values()) {
    row.sort((a, b) => a.from - b.from)
    row.forEach((span, index) => {
      const place = places.get(span.placement.sectionId)!
      const end = Math.min(
        place.startTicks + place.lengthTicks,
        row[index + 1]?.from ?? Number.POSITIVE_INFINITY,
      )
      const fitted = fit(after, span.placement, end - span.from)
      if (fitted !== span.placement) changed.set(span.placement.id, fitted)
    })
  }
  return ok(changed.size ? { ...after, placements: replaced(after.placements, changed) } : after)
}

/** Parts one of whose sections or figures is not as long as it was. */
function partsToRefit(before: Song, after: Song): Set<string> {
  if (before.sections !== after.sections || before.sectionOrder !== after.sectionOrder) {
    const sizes = (song: Song): string =>
      sectionPlaces(song)
        .map(({ section, lengthTicks }) => `${section.id}:${lengthTicks}`)
        .join()
    if (sizes(before) !== sizes(after)) return new Set(after.partOrder)
  }
  const parts = new Set<string>()
  if (before.figures !== after.figures)
    for (const figure of Object.values(after.figures)) {
      const was = before.figures[figure.id]
      if (was && was !== figure && was.lengthTicks !== figure.lengthTicks) parts.add(figure.partId)
    }
  return parts
}

/** The placement with what fits into `room` ticks; the same object when all does, undefined when nothing. */
function fit(song: Song, placement: Placement, room: number): Placement | undefined {
  const length = placementTicks(song, placement)
  if (length <= room && matching(song, placement)) return placement
  if (placement.kind === 'rests')
    return room > 0 ? { ...placement, lengthTicks: Math.min(length, room) } : undefined
  const { lengthTicks } = song.figures[placement.figureId]!
  const passes = Math.min(placement.passes, Math.floor(room / lengthTicks))
  if (passes < 1) return undefined
  const { passFigures, ...plain } = placement
  const kept = passFigures?.filter(
    (entry) => entry.pass <= passes && song.figures[entry.figureId]?.lengthTicks === lengthTicks,
  )
  return { ...plain, passes, ...(kept?.length ? { passFigures: kept } : {}) }
}

/** Passes that play another figure are as long as the figure itself. */
const matching = (song: Song, placement: Placement): boolean =>
  placement.kind === 'rests' ||
  (placement.passFigures ?? []).every(
    ({ figureId }) => song.figures[figureId]?.lengthTicks === song.figures[placement.figureId]?.lengthTicks,
  )

function replaced(
  table: Song['placements'],
  changed: ReadonlyMap<string, Placement | undefined>,
): Song['placements'] {
  const next: Song['placements'] = {}
  for (const [id, placement] of Object.entries(table)) {
    if (!changed.has(id)) next[id] = placement
    else if (changed.get(id)) next[id] = changed.get(id)!
  }
  return next
}
