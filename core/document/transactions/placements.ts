// Where figures are played and where parts rest.
import { own } from '../invariants/problem'
import { z } from 'zod'
import { ok, refuse } from '../../result'
import { placementTicks } from '../figure-content'
import { sectionTicks } from '../form'
import { shiftProblem } from '../invariants/placements'
import { idSchema as id, placementSchema, type Placement, type Song } from '../schema'
import { define, missing, withEntity } from './transaction'

type FigurePlacement = Extract<Placement, { kind: 'figure' }>
type Refused = ReturnType<typeof refuse>

const placeWords = (song: Song, placement: Placement): string => {
  const where = song.sections[placement.sectionId]?.name ?? 'a section'
  return placement.kind === 'rests'
    ? `rests in ${where}`
    : `"${song.figures[placement.figureId]?.name ?? 'figure'}" in ${where}`
}

/** What of its figures forbids a placement. */
function figuresProblem(song: Song, placement: FigurePlacement): Refused | undefined {
  const figure = song.figures[placement.figureId]
  if (!figure) return missing('figure')
  if (figure.partId !== placement.partId)
    return refuse(
      'other-part',
      `"${figure.name}" belongs to ${song.parts[figure.partId]?.name}: it cannot be placed in another part.`,
    )
  for (const { figureId, pass } of placement.passFigures ?? []) {
    const other = song.figures[figureId]
    if (!other || other.partId !== placement.partId) return missing('figure')
    if (other.lengthTicks !== figure.lengthTicks)
      return refuse(
        'pass-length',
        `"${other.name}" is not as long as "${figure.name}": pass ${pass} would not add up.`,
      )
  }
  const passes = (placement.passFigures ?? []).map(({ pass }) => pass)
  if (new Set(passes).size < passes.length || passes.some((pass) => pass > placement.passes))
    return refuse('passes', 'A pass is named that is not there, or one is named twice.')
  const shift = shiftProblem(song, placement)
  return shift ? refuse('shift', `${shift}.`) : undefined
}

/** What of its place forbids a placement. */
function placeProblem(song: Song, placement: Placement): Refused | undefined {
  const section = song.sections[placement.sectionId]!
  const end = placement.startTicks + placementTicks(song, placement)
  if (end > sectionTicks(section))
    return refuse(
      'too-long',
      `That is longer than what is left of "${section.name}": fewer passes, or a later section as well.`,
    )
  if (placement.startTicks >= sectionTicks(section) || end < 0)
    return refuse('outside', `That lies outside "${section.name}".`)
  const clash = clashing(song, placement)
  return clash && refuse('taken', `There is ${placeWords(song, clash)} already: move or remove it first.`)
}

/** What the part already plays in this section at that time. */
function clashing(song: Song, placement: Placement): Placement | undefined {
  const end = placement.startTicks + placementTicks(song, placement)
  return Object.values(song.placements).find(
    (other) =>
      other.id !== placement.id &&
      other.partId === placement.partId &&
      other.sectionId === placement.sectionId &&
      other.startTicks < end &&
      placement.startTicks < other.startTicks + placementTicks(song, other),
  )
}

/**
 * Puts a placement, new or changed. It may start before its section (a pickup) but must not reach past its
 * end or lie over another of its part.
 */
export const setPlacement = define(
  z.strictObject({ placement: placementSchema }),
  ({ placement }, song) =>
    `${song.placements[placement.id] ? 'change' : 'place'} ${placeWords(song, placement)}`,
  (song, { placement }) => {
    if (!song.sections[placement.sectionId]) return missing('section')
    if (!song.parts[placement.partId]) return missing('part')
    const problem =
      (placement.kind === 'figure' ? figuresProblem(song, placement) : undefined) ??
      placeProblem(song, placement)
    return problem ?? ok({ ...song, placements: withEntity(song.placements, placement.id, placement) })
  },
)

export const removePlacement = define(
  z.strictObject({ placementId: id }),
  (args, song) => {
    const placement = own(song.placements, args.placementId)
    return `remove ${placement ? placeWords(song, placement) : 'placement'}`
  },
  (song, args) =>
    song.placements[args.placementId]
      ? ok({ ...song, placements: withEntity(song.placements, args.placementId, undefined) })
      : missing('placement'),
)

/**
 * Replaces everything a part has in a section at once: paste, rest, clear, copy to a return. Each placement
 * is checked like a single one.
 */
export const replaceCell = define(
  z.strictObject({
    partId: id,
    sectionId: id,
    placements: z.array(placementSchema).max(200),
    what: z.string().max(80),
  }),
  (args, song) =>
    `${args.what}: ${song.parts[args.partId]?.name ?? ''}, ${song.sections[args.sectionId]?.name ?? ''}`,
  (song, args) => {
    const kept = Object.fromEntries(
      Object.entries(song.placements).filter(
        ([, placement]) => placement.partId !== args.partId || placement.sectionId !== args.sectionId,
      ),
    )
    let next: Song = { ...song, placements: kept }
    for (const placement of args.placements) {
      if (Object.hasOwn(next.placements, placement.id))
        return refuse(
          'placed-twice',
          'That place is already in another cell: give the copy an id of its own.',
        )
      const result = setPlacement.apply(next, { placement })
      if (!result.ok) return result
      next = result.value
    }
    return ok(next)
  },
)

/** Several cells at once, as one step to undo. */
export const replaceCells = define(
  z.strictObject({
    cells: z
      .array(z.strictObject({ partId: id, sectionId: id, placements: z.array(placementSchema).max(200) }))
      .max(200),
    what: z.string().max(120),
  }),
  (args) => args.what,
  (song, args) => {
    let next = song
    for (const cell of args.cells) {
      const result = replaceCell.apply(next, { ...cell, what: args.what })
      if (!result.ok) return result
      next = result.value
    }
    return ok(next)
  },
)
