// Sections: split, merge, move their borders, name, type, mark as returning. Splitting and merging carry
// the charting with them.
import { counted } from '../../words/words'
import { z } from 'zod'
import { ok, refuse } from '../../result'
import { beatTicks } from '../../time/meter'
import { barStarts } from '../form'
import { numberedNames, renumbered } from '../section-numbers'
import { idSchema as id, sectionSchema, type Section, type Song } from '../schema'
import { carry, withBorderAt, withReturns } from './carry'
import { define, missing, withEntity } from './transaction'

const nameOf = (song: Song, sectionId: string): string => song.sections[sectionId]?.name ?? 'section'

export const splitSection = define(
  z.strictObject({
    sectionId: id,
    atBar: z.int(),
    newId: id,
    name: z.string().min(1).max(80),
    kind: sectionSchema.shape.kind,
  }),
  (args, song) => `start "${args.name}" in ${nameOf(song, args.sectionId)}`,
  (song, args) => {
    const section = song.sections[args.sectionId]
    if (!section) return missing('section')
    if (song.sections[args.newId])
      return refuse('split-twice', 'A section with that name tag is already there.')
    if (args.atBar < 1 || args.atBar >= section.bars.length)
      return refuse('split-edge', `"${section.name}" already starts there: choose a later bar to split it.`)
    const cut = barStarts(section)[args.atBar]!
    const first: Section = {
      ...section,
      bars: section.bars.slice(0, args.atBar),
      harmony: section.harmony.filter((chord) => chord.startTicks < cut),
    }
    const second: Section = {
      id: args.newId,
      kind: args.kind,
      name: args.name,
      bars: section.bars.slice(args.atBar),
      passes: 1,
      pickupTicks: 0,
      ...(section.key ? { key: section.key } : {}),
      ...(section.feel ? { feel: section.feel } : {}),
      harmony: section.harmony
        .filter((chord) => chord.startTicks >= cut)
        .map((chord) => ({ ...chord, startTicks: chord.startTicks - cut })),
    }
    const at = song.sectionOrder.indexOf(section.id) + 1
    return ok({
      ...song,
      sections: withReturns(
        withEntity(withEntity(song.sections, first.id, first), second.id, second),
        section.id,
        // A return of bars that all lie in the second half now returns that one.
        (returns) =>
          (returns.firstBar ?? 0) < args.atBar
            ? returns
            : { ...returns, sectionId: second.id, firstBar: returns.firstBar! - args.atBar },
      ),
      sectionOrder: song.sectionOrder.toSpliced(at, 0, second.id),
      ...carry(song, { from: section.id, fromTicks: cut, to: second.id, offsetTicks: -cut }),
    })
  },
)

export const mergeSection = define(
  z.strictObject({ sectionId: id }),
  (args, song) => `merge ${nameOf(song, args.sectionId)} into the section before`,
  (song, args) => {
    const at = song.sectionOrder.indexOf(args.sectionId)
    const section = song.sections[args.sectionId]
    if (!section) return missing('section')
    if (at === 0) return refuse('merge-first', 'The first section has nothing before it to merge into.')
    const before = song.sections[song.sectionOrder[at - 1]!]!
    const offset = barStarts(before).at(-1)!
    const merged: Section = {
      ...before,
      bars: [...before.bars, ...section.bars],
      harmony: [
        ...before.harmony,
        ...section.harmony.map((chord) => ({ ...chord, startTicks: chord.startTicks + offset })),
      ],
    }
    const sections = withReturns(
      withEntity(withEntity(song.sections, section.id, undefined), before.id, merged),
      section.id,
      // What returned the merged section returns its bars where they are now.
      (returns) => ({
        ...returns,
        sectionId: before.id,
        firstBar: before.bars.length + (returns.firstBar ?? 0),
        barCount: returns.barCount ?? section.bars.length - (returns.firstBar ?? 0),
      }),
    )
    const sectionOrder = song.sectionOrder.toSpliced(at, 1)
    return ok({
      ...song,
      sections: renumbered(sections, sectionOrder, numberedNames(song)),
      sectionOrder,
      ...carry(song, {
        from: section.id,
        fromTicks: Number.NEGATIVE_INFINITY,
        to: before.id,
        offsetTicks: offset,
      }),
    })
  },
)

/**
 * Moves the start of a section by bars, giving them to or taking them from the section before, or by beats:
 * then it begins before its first bar, with a lead-in. What is charted around it stays where it sounds.
 */
export const moveSectionStart = define(
  z.strictObject({ sectionId: id, byBars: z.int(), byBeats: z.int().optional() }),
  (args, song) => `move the start of ${nameOf(song, args.sectionId)} by ${movedWords(args)}`,
  (song, args) => {
    const at = song.sectionOrder.indexOf(args.sectionId)
    const section = song.sections[args.sectionId]
    if (!section) return missing('section')
    const before = song.sections[song.sectionOrder[at - 1] ?? '']
    if (!before)
      return refuse('move-first', 'The first section starts with the recording: it cannot be moved.')
    const bars = [...before.bars, ...section.bars]
    const { cut, pickupTicks } = movedCut(before, section, args)
    if (cut < 1 || cut >= bars.length)
      return refuse(
        'move-over',
        `There are not enough bars: "${cut < 1 ? before.name : section.name}" would be left empty.`,
      )
    const led: Section = { ...section, pickupTicks }
    return ok(withBorderAt(song, { before, section: led, bars, cut }))
  },
)

const movedWords = ({ byBars, byBeats = 0 }: { byBars: number; byBeats?: number | undefined }): string =>
  [byBars || !byBeats ? counted(byBars, 'bar') : '', byBeats ? counted(byBeats, 'beat') : '']
    .filter(Boolean)
    .join(' and ')

/** The bar a section starts with among its own and those of the section before, and how far before it. */
function movedCut(
  before: Section,
  section: Section,
  { byBars, byBeats = 0 }: { byBars: number; byBeats?: number | undefined },
): { cut: number; pickupTicks: number } {
  const cut = before.bars.length + byBars
  if (byBeats === 0) return { cut, pickupTicks: section.pickupTicks }
  const lines = barStarts({ ...before, bars: [...before.bars, ...section.bars] })
  const meter = (before.bars.at(-1) ?? section.bars[0])?.meter ?? { beats: 4, unit: 4 }
  const moment = (lines[cut] ?? 0) - section.pickupTicks + byBeats * beatTicks(meter)
  const line = lines.findIndex((start) => start >= moment)
  return { cut: line, pickupTicks: Math.max(0, (lines[line] ?? moment) - moment) }
}

/**
 * Every section begins with its first bar: what came before it is no lead-in but the end of what is
 * before.
 */
export const startOnOnes = define(
  z.strictObject({}),
  () => 'start every section on its one',
  (song) => ok({ ...song, sections: mapped(song.sections, (section) => ({ ...section, pickupTicks: 0 })) }),
)
const mapped = (sections: Song['sections'], change: (section: Section) => Section): Song['sections'] =>
  Object.fromEntries(Object.entries(sections).map(([key, section]) => [key, change(section)]))

/** The chords of some sections, as one step. */
export const changeChords = define(
  z.strictObject({
    what: z.string().min(1).max(120),
    sections: z
      .array(z.strictObject({ sectionId: id, harmony: sectionSchema.shape.harmony }))
      .min(1)
      .max(200),
  }),
  ({ what }) => what,
  (song, args) => {
    const sections = { ...song.sections }
    for (const { sectionId, harmony } of args.sections) {
      const section = sections[sectionId]
      if (!section) return missing('section')
      sections[sectionId] = { ...section, harmony }
    }
    return ok({ ...song, sections })
  },
)

export const changeSection = define(
  z.strictObject({
    sectionId: id,
    set: sectionSchema
      .pick({
        name: true,
        kind: true,
        ownKind: true,
        key: true,
        feel: true,
        passes: true,
        harmony: true,
        pickupTicks: true,
      })
      .partial(),
  }),
  ({ set, sectionId }, song) => {
    const name = nameOf(song, sectionId)
    if ('name' in set) return `rename ${name} to "${set.name}"`
    if ('kind' in set) return `make ${name} a ${set.kind}`
    return 'harmony' in set ? `change chords of ${name}` : `change ${name}`
  },
  (song, args) => {
    const section = song.sections[args.sectionId]
    return section
      ? ok({ ...song, sections: withEntity(song.sections, section.id, { ...section, ...args.set }) })
      : missing('section')
  },
)

export const setReturn = define(
  z.strictObject({ sectionId: id, returns: sectionSchema.shape.returns.unwrap().nullable() }),
  (args, song) =>
    args.returns
      ? `mark ${nameOf(song, args.sectionId)} as returning ${nameOf(song, args.returns.sectionId)}`
      : `${nameOf(song, args.sectionId)} returns nothing`,
  (song, args) => {
    const section = song.sections[args.sectionId]
    if (!section) return missing('section')
    const { returns: _old, ...rest } = section
    if (!args.returns) return ok({ ...song, sections: withEntity(song.sections, section.id, rest) })
    const target = song.sections[args.returns.sectionId]
    if (!target) return missing('section it returns')
    if (song.sectionOrder.indexOf(target.id) >= song.sectionOrder.indexOf(section.id))
      return refuse('returns-later', 'A section can only return one that was heard before it.')
    return ok({
      ...song,
      sections: withEntity(song.sections, section.id, { ...rest, returns: args.returns }),
    })
  },
)
