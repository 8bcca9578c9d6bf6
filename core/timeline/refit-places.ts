// Chords, doubts and spots are about a moment of the song: when borders of sections move, they go to the
// section in which that moment now lies.
import { ok, type Result } from '../result'
import { sectionPlaces, sectionTicks, type SectionPlace } from '../document/form'
import type { Section, Song } from '../document/schema'

/** Reaction: brings what lies after the end of its section to where it belongs now. */
export function refitPlaces(before: Song, after: Song): Result<Song> {
  if (before.sections === after.sections && before.sectionOrder === after.sectionOrder) return ok(after)
  const places = sectionPlaces(after)
  let next = after
  const sections = withHarmonyInside(places)
  if (sections) next = { ...next, sections: { ...next.sections, ...sections } }
  const doubts = movedInside(next.doubts, places)
  if (doubts) next = { ...next, doubts: { ...next.doubts, ...doubts } }
  const spots = movedInside(next.spots, places)
  if (spots) next = { ...next, spots: { ...next.spots, ...spots } }
  const returning = withReturnsInside(next)
  return ok(returning ? { ...next, sections: { ...next.sections, ...returning } } : next)
}

function withHarmonyInside(places: readonly SectionPlace[]): Record<string, Section> | undefined {
  const outside = places.filter(({ section, lengthTicks }) =>
    section.harmony.some((chord) => chord.startTicks >= lengthTicks),
  )
  if (outside.length === 0) return undefined
  return Object.fromEntries(
    outside.map(({ section, lengthTicks }) => [
      section.id,
      { ...section, harmony: section.harmony.filter((chord) => chord.startTicks < lengthTicks) },
    ]),
  )
}

interface Placed {
  id: string
  place: Song['spots'][string]['place']
}

function movedInside<T extends Placed>(
  table: Record<string, T>,
  places: readonly SectionPlace[],
): Record<string, T> | undefined {
  const moved: Record<string, T> = {}
  for (const entry of Object.values(table)) {
    const own = places.find(({ section }) => section.id === entry.place.sectionId)
    if (!own || entry.place.startTicks < own.lengthTicks) continue
    const at = own.startTicks + entry.place.startTicks
    const now = places.findLast((place) => place.startTicks <= at)!
    const startTicks = Math.min(at - now.startTicks, now.lengthTicks - 1)
    moved[entry.id] = { ...entry, place: { ...entry.place, sectionId: now.section.id, startTicks } }
  }
  return Object.keys(moved).length ? moved : undefined
}

/** A return of a range of bars that are no longer all there returns those that are. */
function withReturnsInside(song: Song): Record<string, Section> | undefined {
  const changed: Record<string, Section> = {}
  for (const section of Object.values(song.sections)) {
    const { returns } = section
    const target = returns && song.sections[returns.sectionId]
    if (!returns || !target || sectionTicks(target) === 0) continue
    const { firstBar = 0, barCount } = returns
    if (firstBar + (barCount ?? 1) <= target.bars.length) continue
    const { firstBar: _first, barCount: _count, ...whole } = returns
    const left = target.bars.length - firstBar
    changed[section.id] = {
      ...section,
      returns: left > 0 ? { ...whole, firstBar, barCount: left } : whole,
    }
  }
  return Object.keys(changed).length ? changed : undefined
}
