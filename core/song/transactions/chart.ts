// Figures and where they are played.
import { z } from 'zod'
import { ok, refuse, type Result } from '../../result'
import { figureSchema, placementSchema, type Figure, type Placement, type Song } from '../schema'
import { contentProblem } from '../references'
import { sectionTicks } from '../form'
import { placementTicks } from '../unroll'
import { define, missing, withEntity } from './transaction'

const id = z.string().min(1).max(40)

function withFigure(song: Song, figure: Figure): Result<Song> {
  const part = song.parts[figure.partId]
  if (!part) return missing('part')
  for (const content of [figure.content, figure.eased]) {
    const problem = content && contentProblem(content, part, figure.lengthTicks)
    if (problem) return refuse('figure', `Not possible: ${problem}.`)
  }
  return ok({ ...song, figures: withEntity(song.figures, figure.id, figure) })
}

export const addFigure = define(z.strictObject({ figure: figureSchema }), ({ figure }) => `new figure "${figure.name}"`, (song, { figure }) => withFigure(song, figure))

export const changeFigure = define(
  z.strictObject({ figureId: id, what: z.string().max(120), set: figureSchema.omit({ id: true, partId: true }).partial() }),
  (args, song) => `${args.what} in ${song.figures[args.figureId]?.name ?? 'figure'}`,
  (song, args) => {
    const figure = song.figures[args.figureId]
    return figure ? withFigure(song, { ...figure, ...args.set }) : missing('figure')
  },
)

/** Removes a figure and every placement of it; variations of it become figures of their own. */
export const removeFigure = define(z.strictObject({ figureId: id }), (args, song) => `remove figure "${song.figures[args.figureId]?.name ?? ''}"`, (song, args) => {
  if (!song.figures[args.figureId]) return missing('figure')
  const placements = Object.fromEntries(Object.entries(song.placements).filter(([, placement]) => placement.kind !== 'figure' || placement.figureId !== args.figureId))
  const figures = Object.fromEntries(Object.entries(withEntity(song.figures, args.figureId, undefined)).map(([figureId, figure]) => {
    if (figure.variationOf?.figureId !== args.figureId) return [figureId, figure]
    const { variationOf: _gone, ...rest } = figure
    return [figureId, rest]
  }))
  return ok({ ...song, figures, placements })
})

const placeWords = (song: Song, placement: Placement): string => {
  const where = song.sections[placement.sectionId]?.name ?? 'a section'
  return placement.kind === 'rests' ? `rests in ${where}` : `"${song.figures[placement.figureId]?.name ?? 'figure'}" in ${where}`
}

/** Puts a placement, new or changed. It may start before its section (a pickup) but must not reach past its end or lie over another of its part. */
export const setPlacement = define(z.strictObject({ placement: placementSchema }), ({ placement }, song) => `${song.placements[placement.id] ? 'change' : 'place'} ${placeWords(song, placement)}`, (song, { placement }) => {
  const section = song.sections[placement.sectionId]
  if (!section) return missing('section')
  if (!song.parts[placement.partId]) return missing('part')
  if (placement.kind === 'figure') {
    const figure = song.figures[placement.figureId]
    if (!figure) return missing('figure')
    if (figure.partId !== placement.partId) return refuse('other-part', `"${figure.name}" belongs to ${song.parts[figure.partId]?.name}: it cannot be placed in another part.`)
    const part = song.parts[placement.partId]!
    const frets = figure.content.notes.map((note) => note.fret).concat(figure.content.grips.flatMap(({ grip }) => grip.strings.flatMap((string) => (string.fret === null ? [] : [string.fret]))))
    const moved = frets.map((fret) => fret + placement.shiftFrets)
    if (moved.some((fret) => fret < 0 || fret > part.instrument.fretCount - part.instrument.capo)) return refuse('shift', `Shifted by ${placement.shiftFrets} frets the figure leaves the neck.`)
  }
  const end = placement.startTicks + placementTicks(song, placement)
  if (end > sectionTicks(section)) return refuse('too-long', `That is longer than what is left of "${section.name}": fewer passes, or a later section as well.`)
  if (placement.startTicks >= sectionTicks(section) || end < 0) return refuse('outside', `That lies outside "${section.name}".`)
  const clash = Object.values(song.placements).find((other) => other.id !== placement.id && other.partId === placement.partId && other.sectionId === placement.sectionId
    && other.startTicks < end && placement.startTicks < other.startTicks + placementTicks(song, other))
  if (clash) return refuse('taken', `There is ${placeWords(song, clash)} already: move or remove it first.`)
  return ok({ ...song, placements: withEntity(song.placements, placement.id, placement) })
})

export const removePlacement = define(z.strictObject({ placementId: id }), (args, song) => `remove ${song.placements[args.placementId] ? placeWords(song, song.placements[args.placementId]!) : 'placement'}`, (song, args) =>
  song.placements[args.placementId] ? ok({ ...song, placements: withEntity(song.placements, args.placementId, undefined) }) : missing('placement'))

/** Replaces everything a part has in a section at once: paste, rest, clear, copy to a return. Each placement is checked like a single one. */
export const replaceCell = define(
  z.strictObject({ partId: id, sectionId: id, placements: z.array(placementSchema).max(200), what: z.string().max(80) }),
  (args, song) => `${args.what}: ${song.parts[args.partId]?.name ?? ''}, ${song.sections[args.sectionId]?.name ?? ''}`,
  (song, args) => {
    const kept = Object.fromEntries(Object.entries(song.placements).filter(([, placement]) => placement.partId !== args.partId || placement.sectionId !== args.sectionId))
    let next: Song = { ...song, placements: kept }
    for (const placement of args.placements) {
      const result = setPlacement.apply(next, { placement })
      if (!result.ok) return result
      next = result.value
    }
    return ok(next)
  },
)

/** Several cells at once, as one step to undo. */
export const replaceCells = define(
  z.strictObject({ cells: z.array(z.strictObject({ partId: id, sectionId: id, placements: z.array(placementSchema).max(200) })).max(200), what: z.string().max(120) }),
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
