// A transaction is a named change: arguments with a schema, a label for undo, and a pure function from song
// to song or a refusal.
import type { z } from 'zod'
import { refuse, type Result } from '../../result'
import type { Song } from '../schema'

export interface Transaction<Args> {
  schema: z.ZodType<Args>
  label: (args: Args, song: Song) => string
  apply: (song: Song, args: Args) => Result<Song>
}

export const define = <Args>(
  schema: z.ZodType<Args>,
  label: Transaction<Args>['label'],
  apply: Transaction<Args>['apply'],
): Transaction<Args> => ({ schema, label, apply })

/** A copy of a table with one entity replaced, added, or (undefined) removed. */
export function withEntity<T>(
  table: Record<string, T>,
  id: string,
  entity: T | undefined,
): Record<string, T> {
  if (entity !== undefined) return { ...table, [id]: entity }
  const { [id]: _removed, ...rest } = table
  return rest
}

export const missing = (what: string) => refuse('missing', `That ${what} is no longer there.`)
