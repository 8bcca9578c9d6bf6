// Figures: put in, changed, released from what they stand on, removed.
import { z } from 'zod'
import { ok, refuse, type Result } from '../../result'
import { figureContent } from '../figure-content'
import { goesRound } from '../invariants/figures'
import { contentProblem } from '../invariants/content'
import { own } from '../invariants/problem'
import { idSchema as id, figureSchema, type Figure, type Song } from '../schema'
import { releasedFrom } from './release'
import { define, missing, withEntity } from './transaction'

function withFigure(song: Song, figure: Figure): Result<Song> {
  const part = song.parts[figure.partId]
  if (!part) return missing('part')
  for (const content of [figure.content, figure.eased]) {
    const problem = content && contentProblem(content, part, figure.lengthTicks)
    if (problem) return refuse('figure', `Not possible: ${problem}.`)
  }
  if (figure.pattern && !own(song.patterns, figure.pattern.patternId)) return missing('hand pattern')
  if (figure.derivedFrom && !own(song.figures, figure.derivedFrom.figureId)) return missing('first line')
  const next: Song = { ...song, figures: withEntity(song.figures, figure.id, figure) }
  if (
    figure.variationOf &&
    (!own(song.figures, figure.variationOf.figureId) || goesRound(next, figure.id, 'variationOf'))
  )
    return refuse('circle', `"${figure.name}" cannot vary that figure: it would vary itself.`)
  return goesRound(next, figure.id, 'derivedFrom')
    ? refuse('circle', `"${figure.name}" cannot follow that line: it would follow itself.`)
    : ok(next)
}

export const addFigure = define(
  z.strictObject({ figure: figureSchema }),
  ({ figure }) => `new figure "${figure.name}"`,
  (song, { figure }) =>
    own(song.figures, figure.id)
      ? refuse('figure-twice', 'That figure is already there.')
      : withFigure(song, figure),
)

export const changeFigure = define(
  z.strictObject({
    figureId: id,
    what: z.string().max(120),
    set: figureSchema.omit({ id: true, partId: true }).partial(),
  }),
  (args, song) => `${args.what} in ${song.figures[args.figureId]?.name ?? 'figure'}`,
  (song, args) => {
    const figure = song.figures[args.figureId]
    return figure ? withFigure(song, { ...figure, ...args.set }) : missing('figure')
  },
)

const partialFigure = figureSchema.omit({ id: true, partId: true }).partial()

/** Several figures at once, as one step to undo: a line and what follows it. */
export const changeFigures = define(
  z.strictObject({
    what: z.string().max(120),
    changes: z
      .array(z.strictObject({ figureId: id, set: partialFigure }))
      .min(1)
      .max(200),
  }),
  (args, song) =>
    `${args.what} in ${song.figures[args.changes[0]!.figureId]?.name ?? 'figure'}` +
    (args.changes.length > 1 ? ` and ${args.changes.length - 1} more` : ''),
  (song, args) => {
    let next = song
    for (const { figureId, set } of args.changes) {
      const result = changeFigure.apply(next, { figureId, what: args.what, set })
      if (!result.ok) return result
      next = result.value
    }
    return ok(next)
  },
)

const RELEASED = {
  variationOf: 'no longer a variation',
  derivedFrom: 'no longer follows',
  pattern: 'no longer follows its pattern',
  eased: 'no eased form',
}

/** Takes keys off a figure that an update cannot: from then on it stands on its own. */
export const releaseFigure = define(
  z.strictObject({ figureId: id, from: z.enum(['variationOf', 'derivedFrom', 'pattern', 'eased']) }),
  (args, song) => `${RELEASED[args.from]}: ${song.figures[args.figureId]?.name ?? 'figure'}`,
  (song, args) => {
    const figure = song.figures[args.figureId]
    if (!figure) return missing('figure')
    const { [args.from]: _gone, ...rest } = figure
    return withFigure(
      song,
      args.from === 'eased' || args.from === 'derivedFrom'
        ? rest
        : { ...rest, content: figureContent(song, figure) },
    )
  },
)

/** Removes a figure and every placement of it; variations of it become figures of their own. */
export const removeFigure = define(
  z.strictObject({ figureId: id }),
  (args, song) => `remove figure "${song.figures[args.figureId]?.name ?? ''}"`,
  (song, args) => {
    if (!song.figures[args.figureId]) return missing('figure')
    const placements = Object.fromEntries(
      Object.entries(song.placements)
        .filter(([, placement]) => placement.kind !== 'figure' || placement.figureId !== args.figureId)
        .map(([key, placement]) => {
          if (
            placement.kind !== 'figure' ||
            !placement.passFigures?.some((entry) => entry.figureId === args.figureId)
          )
            return [key, placement]
          const { passFigures, ...rest } = placement
          const left = passFigures.filter((entry) => entry.figureId !== args.figureId)
          return [key, left.length ? { ...rest, passFigures: left } : rest]
        }),
    )
    const released = releasedFrom(song, (figureId) => figureId === args.figureId)
    const figures = withEntity(released, args.figureId, undefined)
    return ok({ ...song, figures, placements })
  },
)
