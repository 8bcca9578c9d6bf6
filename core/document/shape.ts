// What a change touched, held against the schema's own bounds. The rules (invariants/) say what a schema
// cannot; this says what it can, so that both stand before every change exactly as they stand before a file.
import type { z } from 'zod'
import { issueWords } from './issue-words'
import { TABLES, type TableName } from './invariants/problem'
import type { Patch } from './patch'
import { songSchema } from './schema'

type Row = z.ZodType<unknown>

const isTable = (name: string): name is TableName => (TABLES as readonly string[]).includes(name)
const schemaOf = ({ table, id }: Patch[number]): Row | undefined =>
  isTable(table) ? songSchema.shape[table].valueType : (songSchema.shape as Record<string, Row>)[id]

/**
 * The first thing in a patch that a reload would refuse, in a clause that names where it is ("in “Verse 1”,
 * beats: at most 32"); undefined when the shape of all it leaves is sound.
 */
export function shapeProblem(patch: Patch): string | undefined {
  for (const change of patch) {
    const { table, after } = change
    if (after === undefined && table !== 'song') continue
    const [issue] = schemaOf(change)?.safeParse(after).error?.issues ?? []
    if (issue) return `${placeWords(after)}${issueWords(issue)}`
  }
  return undefined
}

/** The entity by the name a person gave it. */
function placeWords(entity: unknown): string {
  const { name } = (entity ?? {}) as { name?: unknown }
  return typeof name === 'string' && name ? `in “${name.slice(0, 80)}”, ` : ''
}
