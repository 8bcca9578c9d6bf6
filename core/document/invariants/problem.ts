// What breaks a rule of the document, with the entity that breaks it: enough to refuse a change, and to leave
// the entity out when a damaged song is to be shown as far as it can be read.
import type { Song } from '../schema'

export type TableName =
  'sources' | 'sections' | 'parts' | 'figures' | 'patterns' | 'placements' | 'doubts' | 'spots' | 'excuses'

export interface Problem {
  /** A sentence without its full stop. */
  message: string
  table: TableName | 'song'
  id: string
}

export const TABLES: readonly TableName[] = [
  'sources',
  'sections',
  'parts',
  'figures',
  'patterns',
  'placements',
  'doubts',
  'spots',
  'excuses',
]

/** Rows a song may have at most: far more than any song needs, few enough for every view. */
export const MOST_ROWS: Record<TableName, number> = {
  sources: 50,
  sections: 1000,
  parts: 40,
  figures: 2500,
  patterns: 500,
  placements: 25_000,
  doubts: 2000,
  spots: 2000,
  excuses: 5000,
}

/** The entity with this id, never something every object has from birth. */
export const own = <T>(table: Record<string, T>, id: string | undefined): T | undefined =>
  id !== undefined && Object.hasOwn(table, id) ? table[id] : undefined

export type Check = (song: Song) => Generator<Problem>
