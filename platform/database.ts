// The browser's database: what its tables hold, and how an older one is brought up to date. A song is a small
// row for the shelf, one snapshot, and a journal of the changes before and since.
import Dexie, { type Table, type Transaction } from 'dexie'
import type { Patch } from '#core/document/patch'
import type { Song } from '#core/document/schema'
import type { Analysis } from '#core/hear/analysis'
import type { Alignment } from '#core/hear/alignment'
import type { Student } from '#core/teach/student'
import type { Outline } from '#core/hear/features/waveform'

export interface SongSummary {
  bars: number
  parts: number
  sections: number
  chartedShare: number
  durationSeconds: number
  form: { kind: string; bars: number }[]
  hasGrid: boolean
}

/** What the shelf shows and saving needs to know; the song itself is in its snapshot and journal. */
export interface SongRow {
  id: string
  title: string
  artist: string
  updatedAt: number
  snapshotSeq: number
  summary: SongSummary
  /** Hashes of every recording the song needs, also after an undo. */
  recordings: string[]
  /** The window that writes; a change from any other is refused. */
  writer?: string
  demo?: boolean
  readOnly?: string
}
export interface SnapshotRow {
  songId: string
  seq: number
  song: unknown
}
/** One change: done, taken back or done again. Entries stay after a snapshot, so that undo reaches back. */
export interface JournalRow {
  seq?: number
  songId: string
  label: string
  patch: Patch
  kind?: 'do' | 'undo' | 'redo'
}
export interface AudioRow {
  hash: string
  name: string
  type: string
  blob: Blob
  bytes: number
}

class SynchordaDatabase extends Dexie {
  songs!: Table<SongRow, string>
  snapshots!: Table<SnapshotRow, string>
  journal!: Table<JournalRow, number>
  audio!: Table<AudioRow, string>
  outlines!: Table<{ hash: string; outline: Outline }, string>
  analyses!: Table<{ hash: string; analysis: Analysis }, string>
  alignments!: Table<{ key: string; alignment: Alignment }, string>
  preferences!: Table<{ key: string; value: unknown }, string>
  students!: Table<Student, string>

  constructor() {
    super('synchorda')
    this.version(1).stores({
      songs: 'id, updatedAt',
      journal: '++seq, songId',
      audio: 'hash',
      outlines: 'hash',
      analyses: 'hash',
      preferences: 'key',
    })
    this.version(2).stores({ alignments: 'key' })
    this.version(3).stores({ snapshots: 'songId' }).upgrade(separateSnapshots)
    this.version(4).stores({ students: 'id' })
    this.version(5).stores({}).upgrade(withUndoneRecordings)
  }
}

/** Until version 2 a row held its whole song. */
async function separateSnapshots(upgrade: Transaction): Promise<void> {
  const rows = (await upgrade.table('songs').toArray()) as (SongRow & { snapshot?: unknown })[]
  for (const { snapshot, ...row } of rows) {
    if (snapshot === undefined) continue
    const journal = (await upgrade.table('journal').where('songId').equals(row.id).toArray()) as JournalRow[]
    const recordings = new Set([
      ...recordingsOf(snapshot),
      ...journal.flatMap(({ patch }) => patch.flatMap((change) => hashesIn(change.after))),
    ])
    await upgrade.table('snapshots').put({ songId: row.id, seq: row.snapshotSeq, song: snapshot })
    await upgrade.table('songs').put({ ...row, recordings: [...recordings] })
  }
}

/** Until version 4 a row listed what its song needs now, and not what undo may need again. */
async function withUndoneRecordings(upgrade: Transaction): Promise<void> {
  const rows = (await upgrade.table('songs').toArray()) as SongRow[]
  for (const row of rows) {
    const journal = (await upgrade.table('journal').where('songId').equals(row.id).toArray()) as JournalRow[]
    const recordings = [...new Set([...row.recordings, ...recordingsInJournal(journal)])]
    await upgrade.table('songs').put({ ...row, recordings })
  }
}

/** Hashes of the recordings that came or went in some changes. */
export const recordingsInJournal = (journal: readonly Pick<JournalRow, 'patch'>[]): string[] =>
  journal.flatMap(({ patch }) =>
    patch
      .filter(({ table }) => table === 'sources')
      .flatMap(({ before, after }) => [...hashesIn(before), ...hashesIn(after)]),
  )

const hashesIn = (source: unknown): string[] => {
  const hash = (source as { audioHash?: unknown } | undefined)?.audioHash
  return typeof hash === 'string' ? [hash] : []
}

/** Hashes of the recordings a song names, also of one that cannot be read as a song. */
export function recordingsOf(song: unknown): string[] {
  const sources = (song as Partial<Song> | undefined)?.sources
  return typeof sources === 'object' && sources !== null ? Object.values(sources).flatMap(hashesIn) : []
}

export const database = new SynchordaDatabase()

/** What went wrong with the storage, in a sentence that says what to do. */
export function storageRefusal(error: unknown): { code: string; message: string } {
  const name = error instanceof Error ? error.name : ''
  const inner = (error as { inner?: { name?: string } } | undefined)?.inner?.name ?? ''
  if (name === 'QuotaExceededError' || inner === 'QuotaExceededError')
    return {
      code: 'storage-full',
      message:
        'The browser’s storage is full: what you changed last is only in this window. ' +
        'Save the song as a file now, then free space on the shelf; it is stored as soon as there is room.',
    }
  return {
    code: 'storage',
    message:
      `The browser could not store this change (${name || 'unknown reason'}). ` +
      'It is kept in this window and tried again; save the song as a file to be sure.',
  }
}

/** Asks the browser not to clear the data, and says how much is used. */
export async function storageState(): Promise<{ persisted: boolean; usedBytes: number; quotaBytes: number }> {
  if (!navigator.storage) return { persisted: false, usedBytes: 0, quotaBytes: 0 }
  const [estimate, persisted] = await Promise.all([
    navigator.storage.estimate(),
    navigator.storage.persisted(),
  ])
  return { persisted, usedBytes: estimate.usage ?? 0, quotaBytes: estimate.quota ?? 0 }
}

export const askForPersistence = async (): Promise<boolean> => (await navigator.storage?.persist?.()) ?? false
