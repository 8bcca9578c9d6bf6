// Two parts for one player: the first is kept, of the second whatever strings and hand are free for; every dropped note says why.
import { fingerPlaceMm } from '../instrument/neck'
import { ok, refuse, type Result } from '../result'
import type { Content, Grip, Note, Part } from '../song/schema'
import { USUAL_HAND, type Hand } from './hand'
import { soundingMidi } from './part-pitch'

export interface Dropped { startTicks: number; string: number; fret: number; midi: number; why: string }
export interface Merged { content: Content; kept: number; moved: number; dropped: Dropped[] }

interface Busy { string: number; fret: number; startTicks: number; endTicks: number; own: boolean }

/** Strokes of a part as what they sound: one entry a string. */
function struck(content: Content): Busy[] {
  return content.strokes.flatMap((stroke) => {
    if (stroke.dead) return []
    const grip: Grip | undefined = content.grips.findLast((span) => span.startTicks <= stroke.startTicks && stroke.startTicks < span.startTicks + span.lengthTicks)?.grip
    return (grip?.strings ?? []).flatMap((string, index): Busy[] => (string.fret === null || (stroke.strings && !stroke.strings.includes(index + 1)) ? [] : [{ string: index + 1, fret: string.fret, startTicks: stroke.startTicks, endTicks: stroke.startTicks + stroke.lengthTicks, own: true }]))
  })
}
const busyNotes = (notes: readonly Note[]): Busy[] => notes.map((note) => ({ string: note.string, fret: note.fret, startTicks: note.startTicks, endTicks: note.startTicks + note.lengthTicks, own: true }))

/**
 * Both contents (aligned at their starts) on the first part's instrument. `second` is moved to the strings that are free; what the hand cannot reach
 * beside what it holds is dropped.
 */
export function mergeParts(first: Content, second: Content, parts: { first: Part; second: Part }, hand: Hand = USUAL_HAND): Result<Merged> {
  const asked = [...busyNotes(second.notes), ...struck(second)].sort((a, b) => a.startTicks - b.startTicks || b.string - a.string)
  if (asked.length === 0) return refuse('nothing', 'The second part has nothing here to take over.')
  const busy = [...busyNotes(first.notes), ...struck(first)]
  const { first: part } = parts
  const highest = part.instrument.fretCount - part.instrument.capo
  const placeMm = (fret: number): number => fingerPlaceMm(fret + part.instrument.capo, part.instrument.scaleLengthMm)
  const notes: Note[] = []
  const dropped: Dropped[] = []
  let moved = 0
  const byPlace = new Map(second.notes.map((note) => [`${note.startTicks}/${note.string}`, note]))
  for (const want of asked) {
    const midi = soundingMidi(parts.second, want.string, want.fret)
    const held = busy.filter((other) => other.startTicks < want.endTicks && want.startTicks < other.endTicks)
    const sounding = held.some((other) => soundingMidi(part, other.string, other.fret) === midi && other.startTicks === want.startTicks)
    const drop = (why: string): void => { dropped.push({ startTicks: want.startTicks, string: want.string, fret: want.fret, midi, why }) }
    if (sounding) { drop('the first part plays this pitch already'); continue }
    const fretted = held.flatMap((other) => (other.fret ? [other.fret] : []))
    const places = part.tuning.openMidi.flatMap((_, index) => { const fret = midi - soundingMidi(part, index + 1, 0); return fret >= 0 && fret <= highest && Number.isInteger(fret) ? [{ string: index + 1, fret }] : [] })
    if (places.length === 0) { drop(`${part.name} has no such pitch`); continue }
    const free = places.filter((place) => !held.some((other) => other.string === place.string))
    if (free.length === 0) { drop('its strings are taken by the first part'); continue }
    const spread = (fret: number): number => (fret === 0 || fretted.length === 0 ? 0 : Math.max(...[...fretted, fret].map(placeMm)) - Math.min(...[...fretted, fret].map(placeMm)))
    const best = free.toSorted((a, b) => spread(a.fret) - spread(b.fret) || Math.abs(a.string - want.string) - Math.abs(b.string - want.string))[0]!
    if (spread(best.fret) > hand.cautionMm) { drop(`the hand is at fret ${Math.min(...fretted)} and would have to be at fret ${best.fret}`); continue }
    const fingers = new Set([...fretted, ...(best.fret ? [best.fret] : [])]).size
    if (fingers > 4) { drop('it would need a fifth finger'); continue }
    const source = byPlace.get(`${want.startTicks}/${want.string}`)
    if (best.string !== want.string || best.fret !== want.fret) moved++
    busy.push({ ...want, ...best })
    // A slur belongs to its string: moved away from it, the note is picked.
    const articulations = (source?.articulations ?? []).filter((mark) => best.string === want.string || (mark.kind !== 'hammer-on' && mark.kind !== 'pull-off' && mark.kind !== 'slide'))
    notes.push({ id: source?.id ?? `merged${want.startTicks}-${want.string}`, string: best.string, fret: best.fret, startTicks: want.startTicks, lengthTicks: want.endTicks - want.startTicks, articulations: best.fret === 0 ? articulations.filter((mark) => mark.kind !== 'bend' && mark.kind !== 'vibrato') : articulations })
  }
  const ids = new Set(first.notes.map((note) => note.id))
  const added = notes.map((note) => (ids.has(note.id) ? { ...note, id: `${note.id}-2` } : note))
  return ok({ content: { ...first, notes: [...first.notes, ...added].sort((a, b) => a.startTicks - b.startTicks || b.string - a.string) }, kept: notes.length, moved, dropped })
}
