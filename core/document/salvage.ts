// A song that breaks a rule is still mostly a song: what can be read is kept, what cannot is left out and
// named. For looking at and for saving, never to be taken for the whole.
import { ok, refuse, type Result } from '../result'
import { songProblem } from './invariants'
import { TABLES, type Problem, type TableName } from './invariants/problem'
import { issueWords } from './issue-words'
import { inPresentShape } from './migrations'
import { songSchema, SCHEMA_VERSION, type Song } from './schema'
import { newSong } from './new-song'

export interface Salvaged {
  song: Song
  /** What was left out and why, a sentence each without its full stop. */
  leftOut: string[]
}

type Plain = Record<string, unknown>
const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** What can be read of data that should be a song. Refused when hardly anything can. */
export function salvageSong(stored: unknown): Result<Salvaged> {
  if (!isPlain(stored)) return refuse('not-a-song', 'This is not a Synchorda song.')
  const data = inPresentShape(stored)
  const leftOut: string[] = []
  const song = withSoundRows(withSoundFields(data, leftOut), data, leftOut)
  const limit = TABLES.reduce((sum, table) => sum + Object.keys(song[table]).length, 20)
  let current = song
  for (let round = 0; round < limit; round++) {
    current = withOrders(current)
    const problem = songProblem(current)
    if (!problem) return ok({ song: current, leftOut })
    leftOut.push(problem.message)
    if (problem.table === 'song') break
    current = without(current, problem as Problem & { table: TableName })
  }
  return refuse('damaged', `Hardly anything of this song can be read: ${leftOut.at(-1) ?? 'it is empty'}.`)
}

/** Title, key and so on as they are where they are sound, as in a new song where not. */
function withSoundFields(data: Plain, leftOut: string[]): Song {
  const fresh = newSong({ id: 'salvaged', title: 'Damaged song', artist: '' })
  const { keyUnknown: _open, ...known } = fresh
  const next: Plain = { ...known }
  for (const [name, schema] of Object.entries(songSchema.shape)) {
    if (TABLES.includes(name as TableName) || name.endsWith('Order') || name === 'schemaVersion') continue
    if (!Object.hasOwn(data, name)) continue
    const read = schema.safeParse(data[name])
    if (read.success) next[name] = read.data
    else leftOut.push(`${name} is not as it should be`)
  }
  return { ...(next as Song), schemaVersion: SCHEMA_VERSION, ...orders(data) }
}

const orders = (data: Plain): Pick<Song, 'sourceOrder' | 'sectionOrder' | 'partOrder'> => {
  const list = (name: string): string[] =>
    Array.isArray(data[name])
      ? [...new Set(data[name].filter((id): id is string => typeof id === 'string'))]
      : []
  return {
    sourceOrder: list('sourceOrder'),
    sectionOrder: list('sectionOrder'),
    partOrder: list('partOrder'),
  }
}

const withSoundRows = (song: Song, data: Plain, leftOut: string[]): Song => ({
  ...song,
  ...Object.fromEntries(TABLES.map((table) => [table, soundRows(data, table, leftOut)])),
})

function soundRows(data: Plain, table: TableName, leftOut: string[]): Plain {
  const rows: Plain = {}
  const schema = songSchema.shape[table].valueType
  const given = data[table]
  if (!isPlain(given)) return rows
  for (const [id, row] of Object.entries(given)) {
    const read = schema.safeParse(row)
    if (read.success && (read.data as { id: string }).id === id) rows[id] = read.data
    else
      leftOut.push(
        `one of the ${table}: ${read.success ? 'filed wrongly' : issueWords(read.error.issues[0]!)}`,
      )
  }
  return rows
}

/** Orders list what is left, new finds at the end. */
function withOrders(song: Song): Song {
  const order = (ids: readonly string[], table: Plain): string[] => [
    ...ids.filter((id) => Object.hasOwn(table, id)),
    ...Object.keys(table).filter((id) => !ids.includes(id)),
  ]
  return {
    ...song,
    sourceOrder: order(song.sourceOrder, song.sources),
    sectionOrder: order(song.sectionOrder, song.sections),
    partOrder: order(song.partOrder, song.parts),
  }
}

function without(song: Song, problem: Problem & { table: TableName }): Song {
  const rows: Plain = { ...(song[problem.table] as Plain) }
  Reflect.deleteProperty(rows, problem.id)
  return { ...song, [problem.table]: rows }
}
