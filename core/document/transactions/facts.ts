// Song facts, sources and the recording.
import { z } from 'zod'
import { ok } from '../../result'
import { withKey } from '../song-key'
import { idSchema, songSchema, sourceSchema } from '../schema'
import { define, missing, withEntity } from './transaction'

const facts = songSchema
  .pick({ title: true, artist: true, key: true, referenceHz: true, meter: true, feel: true, rights: true })
  .partial()
const FACT_WORDS: Record<string, string> = {
  title: 'title',
  artist: 'artist',
  key: 'key',
  referenceHz: 'reference pitch',
  meter: 'meter',
  feel: 'count and swing',
  rights: 'rights note',
}

export const setFacts = define(
  facts,
  (args) =>
    `change ${Object.keys(args)
      .map((name) => FACT_WORDS[name])
      .join(', ')}`,
  (song, args) => ok({ ...(args.key ? withKey(song, args.key) : song), ...args }),
)

export const addSource = define(
  z.strictObject({ source: sourceSchema }),
  ({ source }) => `add ${source.kind} "${source.name}"`,
  (song, { source }) =>
    ok({
      ...song,
      sources: withEntity(song.sources, source.id, source),
      sourceOrder: [...song.sourceOrder.filter((id) => id !== source.id), source.id],
    }),
)

export const changeSource = define(
  z.strictObject({ source: sourceSchema }),
  ({ source }) => `change source "${source.name}"`,
  (song, { source }) =>
    song.sources[source.id]
      ? ok({ ...song, sources: withEntity(song.sources, source.id, source) })
      : missing('source'),
)

/** Removes a source; what named it names none, and its reading stays. */
export const removeSource = define(
  z.strictObject({ sourceId: idSchema }),
  (args, song) => `remove source "${song.sources[args.sourceId]?.name ?? ''}"`,
  (song, { sourceId }) => {
    if (!song.sources[sourceId]) return missing('source')
    const figures = Object.entries(song.figures).map(([key, figure]) => {
      const { sourceId: named, ...rest } = figure
      return [key, named === sourceId ? rest : figure] as const
    })
    const doubts = Object.entries(song.doubts).map(([key, doubt]) => {
      if (!doubt.readings.some((reading) => reading.sourceId === sourceId)) return [key, doubt] as const
      const readings = doubt.readings.map(({ sourceId: named, ...rest }) =>
        named === undefined || named === sourceId ? rest : { ...rest, sourceId: named },
      )
      return [key, { ...doubt, readings }] as const
    })
    return ok({
      ...song,
      sources: withEntity(song.sources, sourceId, undefined),
      sourceOrder: song.sourceOrder.filter((other) => other !== sourceId),
      figures: Object.fromEntries(figures),
      doubts: Object.fromEntries(doubts),
    })
  },
)
