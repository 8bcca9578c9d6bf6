// Song facts, sources and the recording.
import { z } from 'zod'
import { ok } from '../../result'
import { songSchema, sourceSchema } from '../schema'
import { define, missing, withEntity } from './transaction'

const facts = songSchema.pick({ title: true, artist: true, key: true, referenceHz: true, meter: true, feel: true, rights: true }).partial()
const FACT_WORDS: Record<string, string> = { title: 'title', artist: 'artist', key: 'key', referenceHz: 'reference pitch', meter: 'meter', feel: 'count and swing', rights: 'rights note' }

export const setFacts = define(facts, (args) => `change ${Object.keys(args).map((name) => FACT_WORDS[name]).join(', ')}`, (song, args) => ok({ ...song, ...args }))

export const addSource = define(z.strictObject({ source: sourceSchema }), ({ source }) => `add ${source.kind} "${source.name}"`, (song, { source }) =>
  ok({ ...song, sources: withEntity(song.sources, source.id, source), sourceOrder: [...song.sourceOrder.filter((id) => id !== source.id), source.id] }))

export const changeSource = define(z.strictObject({ source: sourceSchema }), ({ source }) => `change source "${source.name}"`, (song, { source }) =>
  song.sources[source.id] ? ok({ ...song, sources: withEntity(song.sources, source.id, source) }) : missing('source'))
