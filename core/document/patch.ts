// The currency of change: which entities of a song were replaced, each with the value before and after. A
// patch inverts without the document.
import { invariant } from '../result'
import type { Song } from './schema'

const TABLES = [
  'sources',
  'sections',
  'parts',
  'figures',
  'patterns',
  'placements',
  'doubts',
  'spots',
  'excuses',
] as const
const FIELDS = [
  'title',
  'artist',
  'key',
  'keyUnknown',
  'referenceHz',
  'meter',
  'feel',
  'bandTuning',
  'rights',
  'sourceOrder',
  'sectionOrder',
  'partOrder',
] as const
type Table = (typeof TABLES)[number]
type Field = (typeof FIELDS)[number]
/** What a song is called and where it comes from never changes; all else must be in a patch to be saved. */
type Left = Exclude<keyof Song, Table | Field | 'id' | 'schemaVersion'>
const NOTHING_LEFT: [Left] extends [never] ? true : never = true
invariant(NOTHING_LEFT, 'a part of the song that no patch carries')

/** `before` or `after` is absent where the entity did not or does not exist. */
export interface Change {
  table: Table | 'song'
  id: string
  before?: unknown
  after?: unknown
}
export type Patch = Change[]

const change = (table: Change['table'], id: string, before: unknown, after: unknown): Change => ({
  table,
  id,
  ...(before === undefined ? {} : { before }),
  ...(after === undefined ? {} : { after }),
})

/** What changed between two states, by identity: untouched entities must be the same objects. */
export function diffSongs(before: Song, after: Song): Patch {
  const patch: Patch = []
  for (const table of TABLES) {
    if (before[table] === after[table]) continue
    const a = before[table] as Record<string, unknown>
    const b = after[table] as Record<string, unknown>
    for (const id of new Set([...Object.keys(a), ...Object.keys(b)]))
      if (a[id] !== b[id]) patch.push(change(table, id, a[id], b[id]))
  }
  for (const field of FIELDS)
    if (before[field] !== after[field]) patch.push(change('song', field, before[field], after[field]))
  return patch
}

export const invertPatch = (patch: Patch): Patch =>
  patch.map((entry) => change(entry.table, entry.id, entry.after, entry.before))

export function applyPatch(song: Song, patch: Patch): Song {
  const next: Record<string, unknown> = { ...song }
  const fresh = new Set<string>()
  for (const { table, id, after } of patch) {
    invariant(
      table === 'song' ? FIELDS.includes(id as Field) : TABLES.includes(table),
      `unknown table ${table}/${id}`,
    )
    if (table === 'song') {
      if (after === undefined) Reflect.deleteProperty(next, id)
      else next[id] = after
      continue
    }
    if (!fresh.has(table)) {
      next[table] = { ...(next[table] as object) }
      fresh.add(table)
    }
    const rows = next[table] as Record<string, unknown>
    if (after === undefined) Reflect.deleteProperty(rows, id)
    else rows[id] = after
  }
  return next as Song
}
