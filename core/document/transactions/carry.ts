// When a border between sections comes, goes or moves, what lies around it is carried to the section in which
// it sounds now.
import { placementTicks } from '../figure-content'
import { sectionTicks } from '../form'
import type { Doubt, Placement, Section, Song, Spot } from '../schema'

export interface Way {
  from: string
  /** What starts at or after this tick of the first section is carried. */
  fromTicks: number
  to: string
  /** Added to its place. */
  offsetTicks: number
}

/** Placements, doubts and spots carried one way, all where they were in the song. */
export const carry = (song: Song, way: Way): Pick<Song, 'placements' | 'doubts' | 'spots'> => ({
  placements: carryPlacements(song, way),
  doubts: carryPlaces(song.doubts, way),
  spots: carryPlaces(song.spots, way),
})

function carryPlaces<T extends Doubt | Spot>(table: Record<string, T>, way: Way): Record<string, T> {
  const carried = (entry: T): T => {
    const { sectionId, startTicks } = entry.place
    if (sectionId !== way.from || startTicks < way.fromTicks) return entry
    return {
      ...entry,
      place: { ...entry.place, sectionId: way.to, startTicks: startTicks + way.offsetTicks },
    }
  }
  return Object.fromEntries(Object.entries(table).map(([key, entry]) => [key, carried(entry)]))
}

/** A placement that reaches over the tick is divided there, pass by pass. */
function carryPlacements(song: Song, way: Way): Song['placements'] {
  const table: Song['placements'] = {}
  for (const placement of Object.values(song.placements)) {
    const pieces = placement.sectionId === way.from ? divided(song, placement, way) : [placement]
    for (const piece of pieces) table[piece.id] = piece
  }
  return table
}

function divided(song: Song, placement: Placement, way: Way): Placement[] {
  if (placement.startTicks >= way.fromTicks) return [moved(placement, way)]
  const end = placement.startTicks + placementTicks(song, placement)
  if (end <= way.fromTicks) return [placement]
  if (placement.kind === 'figure') return dividedPasses(song, placement, way)
  const later = { ...placement, id: freeId(song, placement.id), startTicks: way.fromTicks }
  return [
    { ...placement, lengthTicks: way.fromTicks - placement.startTicks },
    moved({ ...later, lengthTicks: end - way.fromTicks }, way),
  ]
}

const moved = <T extends Placement>(placement: T, way: Way): T => ({
  ...placement,
  sectionId: way.to,
  startTicks: placement.startTicks + way.offsetTicks,
})

/** The pass that goes on over the border is heard as leading into the later section. */
function dividedPasses(song: Song, placement: Extract<Placement, { kind: 'figure' }>, way: Way): Placement[] {
  const { lengthTicks } = song.figures[placement.figureId]!
  const first = Math.floor((way.fromTicks - placement.startTicks) / lengthTicks)
  if (first === 0) return [moved(placement, way)]
  const { passFigures = [], ...plain } = placement
  const before = passFigures.filter(({ pass }) => pass <= first)
  const after = passFigures
    .filter(({ pass }) => pass > first)
    .map((entry) => ({ ...entry, pass: entry.pass - first }))
  const later = {
    ...plain,
    id: freeId(song, placement.id),
    startTicks: placement.startTicks + first * lengthTicks,
    passes: placement.passes - first,
    ...(after.length ? { passFigures: after } : {}),
  }
  return [{ ...plain, passes: first, ...(before.length ? { passFigures: before } : {}) }, moved(later, way)]
}

/** An id for the second piece of a placement, the same every time. */
function freeId(song: Song, id: string): string {
  for (let number = 2; ; number++) {
    const wanted = `${id.slice(0, 34)}-${number}`
    if (!Object.hasOwn(song.placements, wanted)) return wanted
  }
}

type Returns = NonNullable<Section['returns']>

/** The sections, every return of one of them read anew. */
export function withReturns(
  sections: Song['sections'],
  sectionId: string,
  read: (returns: Returns) => Returns,
): Song['sections'] {
  const next = { ...sections }
  for (const section of Object.values(sections))
    if (section.returns?.sectionId === sectionId)
      next[section.id] = { ...section, returns: read(section.returns) }
  return next
}

export interface Border {
  before: Section
  section: Section
  /** Of both sections. */
  bars: Section['bars']
  /** The bar among them with which the second section starts. */
  cut: number
}

/** Two neighbours with another border. Everything that was set stays where it sounds. */
export function withBorderAt(song: Song, { before, section, bars, cut }: Border): Song {
  const first: Section = { ...before, bars: bars.slice(0, cut) }
  const second: Section = { ...section, bars: bars.slice(cut) }
  const [oldStart, start] = [sectionTicks(before), sectionTicks(first)]
  const chords = [
    ...before.harmony,
    ...section.harmony.map((chord) => ({ ...chord, startTicks: chord.startTicks + oldStart })),
  ]
  first.harmony = chords.filter((chord) => chord.startTicks < start)
  second.harmony = chords
    .filter((chord) => chord.startTicks >= start)
    .map((chord) => ({ ...chord, startTicks: chord.startTicks - start }))
  const bordered = { ...song, sections: { ...song.sections, [before.id]: first, [section.id]: second } }
  // All of it counted from the first of the two, then what begins behind the border from there.
  const counted = {
    ...bordered,
    ...carry(bordered, {
      from: section.id,
      fromTicks: Number.NEGATIVE_INFINITY,
      to: before.id,
      offsetTicks: oldStart,
    }),
  }
  const carried = carry(counted, { from: before.id, fromTicks: start, to: section.id, offsetTicks: -start })
  return { ...counted, ...carried, placements: withPickupsBack(song, carried.placements, section.id, start) }
}

/** What led into the second section before still does, wherever the border went. */
function withPickupsBack(
  song: Song,
  placements: Song['placements'],
  sectionId: string,
  start: number,
): Song['placements'] {
  const back = (placement: Placement): Placement => {
    const was = Object.hasOwn(song.placements, placement.id) ? song.placements[placement.id] : undefined
    const ledIn = was?.sectionId === sectionId && was.startTicks < 0 && placement.sectionId !== sectionId
    return ledIn ? { ...placement, sectionId, startTicks: placement.startTicks - start } : placement
  }
  return Object.fromEntries(Object.entries(placements).map(([id, placement]) => [id, back(placement)]))
}
