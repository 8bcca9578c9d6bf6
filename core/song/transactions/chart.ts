// Figures and where they are played.
import { z } from 'zod'
import { ok, refuse, type Result } from '../../result'
import { figureSchema, patternSchema, placementSchema, type Figure, type Placement, type Song } from '../schema'
import { contentProblem, variesItself } from '../references'
import { sectionTicks } from '../form'
import { figureContent, placementTicks } from '../unroll'
import { define, missing, withEntity } from './transaction'

const id = z.string().min(1).max(40)

function withFigure(song: Song, figure: Figure): Result<Song> {
  const part = song.parts[figure.partId]
  if (!part) return missing('part')
  for (const content of [figure.content, figure.eased]) {
    const problem = content && contentProblem(content, part, figure.lengthTicks)
    if (problem) return refuse('figure', `Not possible: ${problem}.`)
  }
  const next: Song = { ...song, figures: withEntity(song.figures, figure.id, figure) }
  if (figure.variationOf && (!song.figures[figure.variationOf.figureId] || variesItself(next, figure.id))) return refuse('circle', `"${figure.name}" cannot vary that figure: it would vary itself.`)
  return ok(next)
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

const partialFigure = figureSchema.omit({ id: true, partId: true }).partial()

/** Several figures at once, as one step to undo: a line and what follows it. */
export const changeFigures = define(
  z.strictObject({ what: z.string().max(120), changes: z.array(z.strictObject({ figureId: id, set: partialFigure })).min(1).max(200) }),
  (args, song) => `${args.what} in ${song.figures[args.changes[0]!.figureId]?.name ?? 'figure'}${args.changes.length > 1 ? ` and ${args.changes.length - 1} that follow it` : ''}`,
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

/** Takes keys off a figure that an update cannot: from then on it stands on its own. */
export const releaseFigure = define(z.strictObject({ figureId: id, from: z.enum(['variationOf', 'derivedFrom', 'pattern', 'eased']) }), (args, song) => `${{ variationOf: 'no longer a variation', derivedFrom: 'no longer follows', pattern: 'no longer follows its pattern', eased: 'no eased form' }[args.from]}: ${song.figures[args.figureId]?.name ?? 'figure'}`, (song, args) => {
  const figure = song.figures[args.figureId]
  if (!figure) return missing('figure')
  const { [args.from]: _gone, ...rest } = figure
  return withFigure(song, args.from === 'eased' || args.from === 'derivedFrom' ? rest : { ...rest, content: figureContent(song, figure) })
})

export const setPattern = define(z.strictObject({ pattern: patternSchema }), ({ pattern }, song) => `${song.patterns[pattern.id] ? 'change' : 'new'} hand pattern "${pattern.name}"`, (song, { pattern }) => {
  if (pattern.strokes.some((stroke) => stroke.startTicks >= pattern.lengthTicks)) return refuse('pattern', 'A stroke starts after the end of the pattern.')
  return ok({ ...song, patterns: withEntity(song.patterns, pattern.id, pattern) })
})

/** Removes a pattern; figures that follow it keep what they play. */
export const removePattern = define(z.strictObject({ patternId: id }), (args, song) => `remove hand pattern "${song.patterns[args.patternId]?.name ?? ''}"`, (song, args) => {
  if (!song.patterns[args.patternId]) return missing('pattern')
  const figures = Object.fromEntries(Object.entries(song.figures).map(([figureId, figure]) => {
    if (figure.pattern?.patternId !== args.patternId) return [figureId, figure]
    const { pattern: _gone, ...rest } = figure
    return [figureId, { ...rest, content: figureContent(song, figure) }]
  }))
  return ok({ ...song, figures, patterns: withEntity(song.patterns, args.patternId, undefined) })
})

/** Removes a figure and every placement of it; variations of it become figures of their own. */
export const removeFigure = define(z.strictObject({ figureId: id }), (args, song) => `remove figure "${song.figures[args.figureId]?.name ?? ''}"`, (song, args) => {
  if (!song.figures[args.figureId]) return missing('figure')
  const placements = Object.fromEntries(Object.entries(song.placements).filter(([, placement]) => placement.kind !== 'figure' || placement.figureId !== args.figureId).map(([key, placement]) => {
    if (placement.kind !== 'figure' || !placement.passFigures?.some((entry) => entry.figureId === args.figureId)) return [key, placement]
    const { passFigures, ...rest } = placement
    const left = passFigures.filter((entry) => entry.figureId !== args.figureId)
    return [key, left.length ? { ...rest, passFigures: left } : rest]
  }))
  const figures = Object.fromEntries(Object.entries(withEntity(song.figures, args.figureId, undefined)).map(([figureId, figure]) => {
    const { variationOf, derivedFrom, ...rest } = figure
    if (variationOf?.figureId === args.figureId) return [figureId, { ...rest, ...(derivedFrom ? { derivedFrom } : {}), content: figureContent(song, figure) }]
    if (derivedFrom?.figureId === args.figureId) return [figureId, { ...rest, ...(variationOf ? { variationOf } : {}) }]
    return [figureId, figure]
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
    for (const { figureId, pass } of placement.passFigures ?? []) {
      const other = song.figures[figureId]
      if (!other || other.partId !== placement.partId) return missing('figure')
      if (other.lengthTicks !== figure.lengthTicks) return refuse('pass-length', `"${other.name}" is not as long as "${figure.name}": pass ${pass} would not add up.`)
    }
    const part = song.parts[placement.partId]!
    for (const played of [figure, ...(placement.passFigures ?? []).map(({ figureId }) => song.figures[figureId]!)]) {
      const content = figureContent(song, played)
      const frets = [...content.notes.map((note) => note.fret), ...content.grips.flatMap(({ grip }) => grip.strings.flatMap((string) => (string.fret === null ? [] : [string.fret])))]
      if (frets.some((fret) => fret + placement.shiftFrets < 0 || fret + placement.shiftFrets > part.instrument.fretCount - part.instrument.capo)) return refuse('shift', `Shifted by ${placement.shiftFrets} frets “${played.name}” leaves the neck.`)
    }
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
