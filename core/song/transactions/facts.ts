// Song facts, sources and the recording.
import { z } from 'zod'
import { ok } from '../../result'
import { songSchema, sourceSchema, spotSchema, doubtSchema } from '../schema'
import { define, missing, withEntity } from './transaction'

const facts = songSchema.pick({ title: true, artist: true, key: true, referenceHz: true, meter: true, feel: true, rights: true }).partial()
const FACT_WORDS: Record<string, string> = { title: 'title', artist: 'artist', key: 'key', referenceHz: 'reference pitch', meter: 'meter', feel: 'count and swing', rights: 'rights note' }

export const setFacts = define(facts, (args) => `change ${Object.keys(args).map((name) => FACT_WORDS[name]).join(', ')}`, (song, args) => ok({ ...song, ...args }))

export const addSource = define(z.strictObject({ source: sourceSchema }), ({ source }) => `add ${source.kind} "${source.name}"`, (song, { source }) =>
  ok({ ...song, sources: withEntity(song.sources, source.id, source), sourceOrder: [...song.sourceOrder.filter((id) => id !== source.id), source.id] }))

export const changeSource = define(z.strictObject({ source: sourceSchema }), ({ source }) => `change source "${source.name}"`, (song, { source }) =>
  song.sources[source.id] ? ok({ ...song, sources: withEntity(song.sources, source.id, source) }) : missing('source'))

export const setSpot = define(z.strictObject({ spot: spotSchema }), () => 'note a spot to do', (song, { spot }) => ok({ ...song, spots: withEntity(song.spots, spot.id, spot) }))
export const setDoubt = define(z.strictObject({ doubt: doubtSchema }), () => 'note a doubt', (song, { doubt }) => ok({ ...song, doubts: withEntity(song.doubts, doubt.id, doubt) }))
