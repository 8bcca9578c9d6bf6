// Parts: add, change, order, remove, retune.
import { z } from 'zod'
import { ok, refuse } from '../../result'
import { openPitchProblem } from '../../instrument/tunings'
import { figureSchema, partSchema, tuningSchema, type Part, type Song } from '../schema'
import { contentProblem } from '../references'
import { define, missing, withEntity } from './transaction'

const id = z.string().min(1).max(40)
const nameOf = (song: Song, partId: string): string => song.parts[partId]?.name ?? 'part'

/** Why a part cannot be as given, in a sentence. */
function partProblem(song: Song, part: Part): string | undefined {
  if (part.tuning.openMidi.some((midi) => openPitchProblem(midi))) return openPitchProblem(part.tuning.openMidi.find((midi) => openPitchProblem(midi))!)
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

export const addPart = define(z.strictObject({ part: partSchema }), ({ part }) => `add ${part.name}`, (song, { part }) => {
  if (song.parts[part.id]) return refuse('part-twice', 'That part is already in the band.')
  const problem = partProblem(song, part)
  return problem ? refuse('part', problem) : ok({ ...song, parts: withEntity(song.parts, part.id, part), partOrder: [...song.partOrder, part.id] })
})

export const changePart = define(
  z.strictObject({ partId: id, set: partSchema.omit({ id: true }).partial() }),
  (args, song) => ('name' in args.set && Object.keys(args.set).length === 1 ? `rename ${nameOf(song, args.partId)} to "${args.set.name}"` : `change ${Object.keys(args.set).join(', ')} of ${nameOf(song, args.partId)}`),
  (song, args) => {
    const part = song.parts[args.partId]
    if (!part) return missing('part')
    const next: Part = { ...part, ...args.set }
    const problem = partProblem(song, next)
    return problem ? refuse('part', problem) : ok({ ...song, parts: withEntity(song.parts, part.id, next) })
  },
)

export const retunePart = define(z.strictObject({ partId: id, tuning: tuningSchema }), (args, song) => `tune ${nameOf(song, args.partId)} to ${args.tuning.name}`, (song, args) => {
  const part = song.parts[args.partId]
  if (!part) return missing('part')
  if (args.tuning.openMidi.length !== part.tuning.openMidi.length) return refuse('strings', `${part.name} has ${part.tuning.openMidi.length} strings; the tuning is for ${args.tuning.openMidi.length}.`)
  const problem = partProblem(song, { ...part, tuning: args.tuning })
  return problem ? refuse('part', problem) : ok({ ...song, parts: withEntity(song.parts, part.id, { ...part, tuning: args.tuning }) })
})

/** Retunes and moves every figure of the part, as one step: the music stays, the frets change. */
export const retuneKeepingSound = define(z.strictObject({ partId: id, tuning: tuningSchema, changes: z.array(z.strictObject({ figureId: id, set: figureSchema.omit({ id: true, partId: true }).partial() })).max(2000) }), (args, song) => `tune ${nameOf(song, args.partId)} to ${args.tuning.name}, keeping the sound`, (song, args) => {
  const part = song.parts[args.partId]
  if (!part) return missing('part')
  if (args.tuning.openMidi.length !== part.tuning.openMidi.length) return refuse('strings', `${part.name} has ${part.tuning.openMidi.length} strings; the tuning is for ${args.tuning.openMidi.length}.`)
  const figures = { ...song.figures }
  for (const { figureId, set } of args.changes) { const figure = figures[figureId]; if (!figure || figure.partId !== part.id) return missing('figure'); figures[figureId] = { ...figure, ...set } }
  const next: Part = { ...part, tuning: args.tuning }
  const problem = partProblem({ ...song, figures }, next)
  return problem ? refuse('part', problem) : ok({ ...song, figures, parts: withEntity(song.parts, part.id, next) })
})

export const movePart = define(z.strictObject({ partId: id, to: z.int().min(0) }), (args, song) => `move ${nameOf(song, args.partId)}`, (song, args) => {
  if (!song.parts[args.partId]) return missing('part')
  const rest = song.partOrder.filter((partId) => partId !== args.partId)
  return ok({ ...song, partOrder: rest.toSpliced(Math.min(args.to, rest.length), 0, args.partId) })
})

/** Removes a part with everything charted and noted for it. */
export const removePart = define(z.strictObject({ partId: id }), (args, song) => `remove ${nameOf(song, args.partId)}`, (song, args) => {
  if (!song.parts[args.partId]) return missing('part')
  const keep = <T extends { partId: string }>(table: Record<string, T>) => Object.fromEntries(Object.entries(table).filter(([, entity]) => entity.partId !== args.partId))
  const parts = Object.fromEntries(Object.entries(withEntity(song.parts, args.partId, undefined)).map(([partId, part]) => {
    if (part.derivedFrom?.partId !== args.partId) return [partId, part]
    const { derivedFrom: _gone, ...rest } = part
    return [partId, rest]
  }))
  const keepPlaced = <T extends { place: { partId?: string | undefined } }>(table: Record<string, T>) => Object.fromEntries(Object.entries(table).filter(([, entity]) => entity.place.partId !== args.partId))
  return ok({ ...song, parts, partOrder: song.partOrder.filter((partId) => partId !== args.partId), figures: keep(song.figures), placements: keep(song.placements), doubts: keepPlaced(song.doubts), spots: keepPlaced(song.spots) })
})
