// Orders list exactly their table, entries are filed under their own id, tables stay within bounds.
import type { Song } from '../schema'
import { MOST_ROWS, own, TABLES, type Problem } from './problem'

const ORDERED = [
  ['sections', 'sectionOrder', 'section'],
  ['parts', 'partOrder', 'part'],
  ['sources', 'sourceOrder', 'source'],
] as const

export function* orderProblems(song: Song): Generator<Problem> {
  for (const [table, order, name] of ORDERED) {
    const ids = song[order]
    const rows = song[table] as Record<string, unknown>
    const exact =
      new Set(ids).size === ids.length &&
      ids.length === Object.keys(rows).length &&
      ids.every((id) => own(rows, id))
    if (!exact)
      yield { message: `the order of the ${name}s does not match the ${name}s`, table: 'song', id: order }
  }
}

export function* tableProblems(song: Song): Generator<Problem> {
  for (const table of TABLES) {
    const rows = Object.entries(song[table] as Record<string, { id: string }>)
    if (rows.length > MOST_ROWS[table])
      yield { message: `there are more than ${MOST_ROWS[table]} ${table}`, table: 'song', id: table }
    for (const [id, entity] of rows)
      if (entity.id !== id) yield { message: `an entry is filed under a wrong id (${id})`, table, id }
  }
}
