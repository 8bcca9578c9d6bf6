// Sections: split, merge, move their borders, name, type, mark as returning. Splitting and merging carry the charting with them.
import { z } from 'zod'
import { ok, refuse } from '../../result'
import { barStarts } from '../form'
import { sectionSchema, type Doubt, type Placement, type Section, type Song, type Spot } from '../schema'
import { define, missing, withEntity } from './transaction'

const id = z.string().min(1).max(40)
const nameOf = (song: Song, sectionId: string): string => song.sections[sectionId]?.name ?? 'section'

/** Moves placements and harmony that start at or after `fromTicks` of one section to another, keeping where they sound. */
function carry(song: Song, from: string, fromTicks: number, to: string, offsetTicks: number): Song['placements'] {
  const moved = Object.values(song.placements).filter((placement) => placement.sectionId === from && placement.startTicks >= fromTicks)
  return moved.reduce<Record<string, Placement>>((table, placement) => ({ ...table, [placement.id]: { ...placement, sectionId: to, startTicks: placement.startTicks + offsetTicks } }), song.placements)
}

/** The same for doubts and spots: they stay at the place they are about. */
function carryPlaces<T extends Doubt | Spot>(table: Record<string, T>, from: string, fromTicks: number, to: string, offsetTicks: number): Record<string, T> {
  const moved = Object.values(table).filter(({ place }) => place.sectionId === from && place.startTicks >= fromTicks)
  return moved.reduce((next, entry) => ({ ...next, [entry.id]: { ...entry, place: { ...entry.place, sectionId: to, startTicks: entry.place.startTicks + offsetTicks } } }), table)
}

export const splitSection = define(
  z.strictObject({ sectionId: id, atBar: z.int(), newId: id, name: z.string().min(1).max(80), kind: sectionSchema.shape.kind }),
  (args, song) => `start "${args.name}" in ${nameOf(song, args.sectionId)}`,
  (song, args) => {
    const section = song.sections[args.sectionId]
    if (!section) return missing('section')
    if (song.sections[args.newId]) return refuse('split-twice', 'A section with that name tag is already there.')
    if (args.atBar < 1 || args.atBar >= section.bars.length) return refuse('split-edge', `"${section.name}" already starts there: choose a later bar to split it.`)
    const cut = barStarts(section)[args.atBar]!
    const first: Section = { ...section, bars: section.bars.slice(0, args.atBar), harmony: section.harmony.filter((chord) => chord.startTicks < cut) }
    const second: Section = {
      id: args.newId, kind: args.kind, name: args.name, bars: section.bars.slice(args.atBar), passes: 1, pickupTicks: 0, ...(section.key ? { key: section.key } : {}), ...(section.feel ? { feel: section.feel } : {}),
      harmony: section.harmony.filter((chord) => chord.startTicks >= cut).map((chord) => ({ ...chord, startTicks: chord.startTicks - cut })),
    }
    const at = song.sectionOrder.indexOf(section.id) + 1
    return ok({
      ...song, sections: withEntity(withEntity(song.sections, first.id, first), second.id, second), sectionOrder: song.sectionOrder.toSpliced(at, 0, second.id),
      placements: carry(song, section.id, cut, second.id, -cut), doubts: carryPlaces(song.doubts, section.id, cut, second.id, -cut), spots: carryPlaces(song.spots, section.id, cut, second.id, -cut),
    })
  },
)

export const mergeSection = define(z.strictObject({ sectionId: id }), (args, song) => `merge ${nameOf(song, args.sectionId)} into the section before`, (song, args) => {
  const at = song.sectionOrder.indexOf(args.sectionId)
  const section = song.sections[args.sectionId]
  if (!section) return missing('section')
  if (at === 0) return refuse('merge-first', 'The first section has nothing before it to merge into.')
  const before = song.sections[song.sectionOrder[at - 1]!]!
  const offset = barStarts(before).at(-1)!
  const merged: Section = { ...before, bars: [...before.bars, ...section.bars], harmony: [...before.harmony, ...section.harmony.map((chord) => ({ ...chord, startTicks: chord.startTicks + offset }))] }
  const sections = withEntity(withEntity(song.sections, section.id, undefined), before.id, merged)
  for (const other of Object.values(sections)) if (other.returns?.sectionId === section.id) { const { returns: _gone, ...rest } = other; sections[other.id] = rest }
  const all = Number.NEGATIVE_INFINITY
  return ok({
    ...song, sections, sectionOrder: song.sectionOrder.toSpliced(at, 1), placements: carry(song, section.id, all, before.id, offset),
    doubts: carryPlaces(song.doubts, section.id, all, before.id, offset), spots: carryPlaces(song.spots, section.id, all, before.id, offset),
  })
})

/** Moves the start of a section by bars, giving them to or taking them from the section before. Its charting moves with its start. */
export const moveSectionStart = define(
  z.strictObject({ sectionId: id, byBars: z.int() }),
  (args, song) => `move the start of ${nameOf(song, args.sectionId)} by ${args.byBars} ${Math.abs(args.byBars) === 1 ? 'bar' : 'bars'}`,
  (song, args) => {
    const at = song.sectionOrder.indexOf(args.sectionId)
    const section = song.sections[args.sectionId]
    if (!section) return missing('section')
    if (at === 0) return refuse('move-first', 'The first section starts with the recording: it cannot be moved.')
    const before = song.sections[song.sectionOrder[at - 1]!]!
    const bars = [...before.bars, ...section.bars]
    const cut = before.bars.length + args.byBars
    if (cut < 1 || cut >= bars.length) return refuse('move-over', `There are not enough bars: "${cut < 1 ? before.name : section.name}" would be left empty.`)
    return ok({ ...song, sections: { ...song.sections, [before.id]: { ...before, bars: bars.slice(0, cut) }, [section.id]: { ...section, bars: bars.slice(cut) } } })
  },
)

export const changeSection = define(
  z.strictObject({ sectionId: id, set: sectionSchema.pick({ name: true, kind: true, key: true, feel: true, passes: true, harmony: true, pickupTicks: true }).partial() }),
  (args, song) => ('name' in args.set ? `rename ${nameOf(song, args.sectionId)} to "${args.set.name}"` : 'kind' in args.set ? `make ${nameOf(song, args.sectionId)} a ${args.set.kind}` : 'harmony' in args.set ? `change chords of ${nameOf(song, args.sectionId)}` : `change ${nameOf(song, args.sectionId)}`),
  (song, args) => {
    const section = song.sections[args.sectionId]
    return section ? ok({ ...song, sections: withEntity(song.sections, section.id, { ...section, ...args.set }) }) : missing('section')
  },
)

export const setReturn = define(
  z.strictObject({ sectionId: id, returns: sectionSchema.shape.returns.unwrap().nullable() }),
  (args, song) => (args.returns ? `mark ${nameOf(song, args.sectionId)} as returning ${nameOf(song, args.returns.sectionId)}` : `${nameOf(song, args.sectionId)} returns nothing`),
  (song, args) => {
    const section = song.sections[args.sectionId]
    if (!section) return missing('section')
    const { returns: _old, ...rest } = section
    if (!args.returns) return ok({ ...song, sections: withEntity(song.sections, section.id, rest) })
    const target = song.sections[args.returns.sectionId]
    if (!target) return missing('section it returns')
    if (song.sectionOrder.indexOf(target.id) >= song.sectionOrder.indexOf(section.id)) return refuse('returns-later', 'A section can only return one that was heard before it.')
    return ok({ ...song, sections: withEntity(song.sections, section.id, { ...rest, returns: args.returns }) })
  },
)
