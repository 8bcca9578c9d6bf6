// Parts: add, change, order, remove, retune.
import { z } from 'zod'
import { ok, refuse } from '../../result'
import { openPitchProblem } from '../../instrument/tunings'
import {
  idSchema as id,
  figureSchema,
  partSchema,
  rigSchema,
  tuningSchema,
  type Part,
  type Song,
} from '../schema'
import { freePartName } from '../part-names'
import { contentProblem } from '../invariants/content'
import { releasedFrom } from './release'
import { define, missing, withEntity } from './transaction'

const nameOf = (song: Song, partId: string): string => song.parts[partId]?.name ?? 'part'

/** Why a part cannot be as given, in a sentence. */
function partProblem(song: Song, part: Part): string | undefined {
  if (part.tuning.openMidi.some((midi) => openPitchProblem(midi)))
    return openPitchProblem(part.tuning.openMidi.find((midi) => openPitchProblem(midi))!)
  if (part.instrument.capo >= part.instrument.fretCount) return 'The capo is beyond the neck.'
  for (const figure of Object.values(song.figures)) {
    if (figure.partId !== part.id) continue
    for (const content of [figure.content, figure.eased]) {
      const problem = content && contentProblem(content, part, figure.lengthTicks)
      if (problem) return `"${figure.name}" would become impossible: ${problem}.`
    }
  }
  return undefined
}

export const addPart = define(
  z.strictObject({ part: partSchema }),
  ({ part }, song) => `add ${freePartName(song, part.name)}`,
  (song, args) => {
    if (song.parts[args.part.id]) return refuse('part-twice', 'That part is already in the band.')
    const part = { ...args.part, name: freePartName(song, args.part.name) }
    const problem = partProblem(song, part)
    return problem
      ? refuse('part', problem)
      : ok({ ...song, parts: withEntity(song.parts, part.id, part), partOrder: [...song.partOrder, part.id] })
  },
)

export const changePart = define(
  z.strictObject({ partId: id, set: partSchema.omit({ id: true }).partial() }),
  (args, song) =>
    'name' in args.set && Object.keys(args.set).length === 1
      ? `rename ${nameOf(song, args.partId)} to "${args.set.name}"`
      : `change ${Object.keys(args.set).join(', ')} of ${nameOf(song, args.partId)}`,
  (song, args) => {
    const part = song.parts[args.partId]
    if (!part) return missing('part')
    const next: Part = { ...part, ...args.set }
    const free = freePartName(song, next.name, part.id)
    if (args.set.name !== undefined && free !== next.name)
      return refuse('name-taken', `There is a part called “${next.name}” already: call this one “${free}”?`)
    const problem = partProblem(song, next)
    return problem ? refuse('part', problem) : ok({ ...song, parts: withEntity(song.parts, part.id, next) })
  },
)

export const retunePart = define(
  z.strictObject({ partId: id, tuning: tuningSchema }),
  (args, song) => `tune ${nameOf(song, args.partId)} to ${args.tuning.name}`,
  (song, args) => {
    const part = song.parts[args.partId]
    if (!part) return missing('part')
    if (args.tuning.openMidi.length !== part.tuning.openMidi.length)
      return refuse(
        'strings',
        `${part.name} has ${part.tuning.openMidi.length} strings; ` +
          `the tuning is for ${args.tuning.openMidi.length}.`,
      )
    const problem = partProblem(song, { ...part, tuning: args.tuning })
    return problem
      ? refuse('part', problem)
      : ok({ ...song, parts: withEntity(song.parts, part.id, { ...part, tuning: args.tuning }) })
  },
)

/** Retunes and moves every figure of the part, as one step: the music stays, the frets change. */
export const retuneKeepingSound = define(
  z.strictObject({
    partId: id,
    tuning: tuningSchema,
    changes: z
      .array(z.strictObject({ figureId: id, set: figureSchema.omit({ id: true, partId: true }).partial() }))
      .max(2000),
  }),
  (args, song) => `tune ${nameOf(song, args.partId)} to ${args.tuning.name}, keeping the sound`,
  (song, args) => {
    const part = song.parts[args.partId]
    if (!part) return missing('part')
    if (args.tuning.openMidi.length !== part.tuning.openMidi.length)
      return refuse(
        'strings',
        `${part.name} has ${part.tuning.openMidi.length} strings; ` +
          `the tuning is for ${args.tuning.openMidi.length}.`,
      )
    const figures = { ...song.figures }
    for (const { figureId, set } of args.changes) {
      const figure = figures[figureId]
      if (!figure || figure.partId !== part.id) return missing('figure')
      figures[figureId] = { ...figure, ...set }
    }
    const next: Part = { ...part, tuning: args.tuning }
    const problem = partProblem({ ...song, figures }, next)
    return problem
      ? refuse('part', problem)
      : ok({ ...song, figures, parts: withEntity(song.parts, part.id, next) })
  },
)

/**
 * What a part is played through: everywhere, or in one section. Without a rig the section has that of the
 * part again.
 */
export const setRig = define(
  z.strictObject({ partId: id, sectionId: id.optional(), rig: rigSchema.optional() }),
  (args, song) => {
    const where =
      args.sectionId === undefined ? '' : ` in ${song.sections[args.sectionId]?.name ?? 'section'}`
    return `rig of ${nameOf(song, args.partId)}${where}`
  },
  (song, { partId, sectionId, rig }) => {
    const part = song.parts[partId]
    if (!part) return missing('part')
    const { rig: own, sectionRigs, ...rest } = part
    if (sectionId === undefined) {
      const next = { ...rest, ...(rig ? { rig } : {}), ...(sectionRigs ? { sectionRigs } : {}) }
      return ok({ ...song, parts: withEntity(song.parts, partId, next) })
    }
    if (!Object.hasOwn(song.sections, sectionId)) return missing('section')
    const others = (sectionRigs ?? []).filter((one) => one.sectionId !== sectionId)
    const all = rig ? [...others, { sectionId, rig }] : others
    const next = { ...rest, ...(own ? { rig: own } : {}), ...(all.length ? { sectionRigs: all } : {}) }
    return ok({ ...song, parts: withEntity(song.parts, partId, next) })
  },
)

export const movePart = define(
  z.strictObject({ partId: id, to: z.int().min(0) }),
  (args, song) => `move ${nameOf(song, args.partId)}`,
  (song, args) => {
    if (!song.parts[args.partId]) return missing('part')
    const rest = song.partOrder.filter((partId) => partId !== args.partId)
    return ok({ ...song, partOrder: rest.toSpliced(Math.min(args.to, rest.length), 0, args.partId) })
  },
)

const without = <T>(table: Record<string, T>, isGone: (row: T) => boolean): Record<string, T> =>
  Object.fromEntries(Object.entries(table).filter(([, row]) => !isGone(row)))

/**
 * Removes a part with everything charted and noted for it. Lines, variations and parts of others that stood
 * on it keep what they play and stand by themselves from then on.
 */
export const removePart = define(
  z.strictObject({ partId: id }),
  (args, song) => `remove ${nameOf(song, args.partId)}`,
  (song, { partId }) => {
    if (!song.parts[partId]) return missing('part')
    const figures = releasedFrom(song, (figureId) => song.figures[figureId]?.partId === partId)
    const parts = Object.entries(withEntity(song.parts, partId, undefined)).map(([key, part]) => {
      const { derivedFrom, ...rest } = part
      return [key, derivedFrom?.partId === partId ? rest : part] as const
    })
    return ok({
      ...song,
      parts: Object.fromEntries(parts),
      partOrder: song.partOrder.filter((other) => other !== partId),
      figures: without(figures, (figure) => figure.partId === partId),
      placements: without(song.placements, (placement) => placement.partId === partId),
      doubts: without(song.doubts, ({ place }) => place.partId === partId),
      spots: without(song.spots, ({ place }) => place.partId === partId),
    })
  },
)
