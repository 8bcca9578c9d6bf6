// Songs in the browser's database. A change counts as saved only when its journal entry is committed, and
// only the window that writes may commit.
import { historyOf, isDamaged, replay, type Damaged, type JournalEntry } from '#core/document/replay'
import type { History } from '#core/document/history'
import { allBars, mainSource } from '#core/document/form'
import type { Patch } from '#core/document/patch'
import type { Song } from '#core/document/schema'
import { ok, refuse, type Result } from '#core/result'
import { chartedShare } from '#core/timeline/coverage'
import {
  database,
  recordingsInJournal,
  recordingsOf,
  storageRefusal,
  type JournalRow,
  type SongRow,
  type SongSummary,
} from './database'
import { plain } from './plain'
import { openSongIds, whileNoneArrives } from './tab-lock'

/** Entries after which a new snapshot is taken. */
const SNAPSHOT_EVERY = 40
/** Entries kept before a snapshot: how far undo reaches back over a reload. */
const KEPT_BEFORE = 100

export interface Loaded {
  song: Song
  seq: number
  history: History
  readOnly: string | undefined
}
export interface Saving {
  song: Song
  label: string
  patch: Patch
  kind: 'do' | 'undo' | 'redo'
}

/** The numbers and the small picture on the shelf. */
export function summarise(song: Song): SongSummary {
  return {
    bars: allBars(song).length,
    parts: song.partOrder.length,
    sections: song.sectionOrder.length,
    chartedShare: chartedShare(song),
    durationSeconds: mainSource(song)?.durationSeconds ?? 0,
    form: song.sectionOrder.map((id) => ({
      kind: song.sections[id]!.kind,
      bars: song.sections[id]!.bars.length,
    })),
    hasGrid: Boolean(mainSource(song)?.grid),
  }
}

const facts = (song: Song): Pick<SongRow, 'title' | 'artist' | 'updatedAt' | 'summary' | 'recordings'> => ({
  title: song.title,
  artist: song.artist,
  updatedAt: Date.now(),
  summary: summarise(song),
  recordings: [...new Set(recordingsOf(song))],
})

const failed = (error: unknown): Result<never> => {
  const { code, message } = storageRefusal(error)
  return refuse(code, message)
}

/** Puts a song on the shelf, replacing one of the same id with all its history. */
export async function createSong(
  song: Song,
  options: { demo?: boolean; readOnly?: string | undefined; writer?: string } = {},
): Promise<Result<void>> {
  const { demo, readOnly, writer } = options
  try {
    await database.transaction('rw', database.songs, database.snapshots, database.journal, async () => {
      await database.journal.where('songId').equals(song.id).delete()
      await database.snapshots.put({ songId: song.id, seq: 0, song: plain(song) })
      await database.songs.put({
        id: song.id,
        snapshotSeq: 0,
        ...facts(song),
        ...(demo ? { demo: true } : {}),
        ...(readOnly ? { readOnly } : {}),
        ...(writer ? { writer } : {}),
      })
    })
    return ok(undefined)
  } catch (error) {
    return failed(error)
  }
}

const entryOf = (row: JournalRow): JournalEntry => ({
  seq: row.seq!,
  label: row.label,
  patch: row.patch,
  // Entries of the first database say it in their label.
  kind: row.kind ?? kindFromLabel(row.label),
})
function kindFromLabel(label: string): JournalEntry['kind'] {
  if (label.startsWith('Undo: ')) return 'undo'
  return label.startsWith('Redo: ') ? 'redo' : 'do'
}

/** The song as last committed, with what undo reaches. With `writer`, that window may write from now on. */
export async function loadSong(id: string, writer?: string): Promise<Result<Loaded> | Damaged> {
  try {
    const read = await database.transaction(
      writer ? 'rw' : 'r',
      [database.songs, database.snapshots, database.journal],
      async () => {
        const row = await database.songs.get(id)
        if (!row) return undefined
        if (writer) await database.songs.update(id, { writer })
        const snapshot = await database.snapshots.get(id)
        const journal = await database.journal.where('songId').equals(id).sortBy('seq')
        return { row, snapshot, journal: journal.map(entryOf) }
      },
    )
    if (!read) return refuse('no-song', 'This song is not on this machine’s shelf.')
    const { row, snapshot, journal } = read
    const result = replay(snapshot?.song, snapshot?.seq ?? 0, journal)
    if (isDamaged(result) || !result.ok) return result
    const { song, seq } = result.value
    return ok({ song, seq, history: historyOf(song, journal), readOnly: row.readOnly })
  } catch (error) {
    return refuse('storage', `The browser’s storage could not be read (${nameOf(error)}). Reload the page.`)
  }
}
const nameOf = (error: unknown): string => (error instanceof Error ? error.name : 'unknown reason')

/** Commits one change of the window `writer`. Resolves with its sequence number once it is on disk. */
export async function commitChange(saving: Saving, writer?: string): Promise<Result<number>> {
  const { song, label, patch, kind } = saving
  try {
    return await database.transaction(
      'rw',
      [database.songs, database.snapshots, database.journal],
      async (): Promise<Result<number>> => {
        const row = await database.songs.get(song.id)
        if (!row) return refuse('removed', 'This song was removed from the shelf in another window.')
        if (writer && row.writer && row.writer !== writer)
          return refuse('taken-over', 'Another window writes this song now.')
        const seq = await database.journal.add(plain({ songId: song.id, label, patch, kind }))
        const due = seq - row.snapshotSeq >= SNAPSHOT_EVERY
        if (due) await takeSnapshot(song, seq)
        const now = facts(song)
        const undone = due ? await recordingsOfUndo(song.id) : row.recordings
        const recordings = [...new Set([...now.recordings, ...undone, ...recordingsInJournal([{ patch }])])]
        await database.songs.update(song.id, { ...now, recordings, ...(due ? { snapshotSeq: seq } : {}) })
        return ok(seq)
      },
    )
  } catch (error) {
    return failed(error)
  }
}

/** Recordings that the changes still in the journal speak of. */
async function recordingsOfUndo(songId: string): Promise<string[]> {
  return recordingsInJournal(await database.journal.where('songId').equals(songId).toArray())
}

async function takeSnapshot(song: Song, seq: number): Promise<void> {
  await database.snapshots.put({ songId: song.id, seq, song: plain(song) })
  const keys = await database.journal.where('songId').equals(song.id).primaryKeys()
  await database.journal.bulkDelete(keys.filter((key) => key <= seq).slice(0, -KEPT_BEFORE))
}

/**
 * Removes a song, and its recordings with all that was heard in them where no other song needs them. A window
 * that has the song open may put it back: then they stay until the shelf is opened with no song open.
 */
export async function removeSong(id: string): Promise<void> {
  const isOpen = (await openSongIds()).has(id)
  await database.transaction('rw', database.tables, async () => {
    const own = (await database.songs.get(id))?.recordings ?? []
    await database.songs.delete(id)
    await database.snapshots.delete(id)
    await database.journal.where('songId').equals(id).delete()
    if (isOpen) return
    const needed = await neededRecordings()
    for (const hash of own) if (!needed.has(hash)) await removeRecording(hash)
  })
}

/** Hashes of the recordings that songs on the shelf need, undo included. */
const neededRecordings = async (): Promise<ReadonlySet<string>> =>
  new Set((await database.songs.toArray()).flatMap((row) => row.recordings))

/**
 * Frees what no song needs any more: recordings, and what was heard and drawn of them. Does nothing while a
 * song is open in any window or a recording is arriving. Resolves with how many were freed.
 */
export async function freeRecordings(): Promise<number> {
  const freed = await whileNoneArrives(async () => {
    if ((await openSongIds()).size > 0) return 0
    return database.transaction('rw', database.tables, async () => {
      const needed = await neededRecordings()
      const stored = (
        await Promise.all([
          database.audio.toCollection().primaryKeys(),
          database.outlines.toCollection().primaryKeys(),
          database.analyses.toCollection().primaryKeys(),
        ])
      ).flat()
      const hashes = new Set(stored.map((key) => key.slice(0, HASH_LENGTH)))
      const gone = [...hashes].filter((hash) => !needed.has(hash))
      for (const hash of gone) await removeRecording(hash)
      return gone.length
    })
  })
  return freed ?? 0
}
const HASH_LENGTH = 64

/** Takes a recording away again when no song came to need it: a new song whose second write failed. */
export async function dropUnusedRecording(hash: string): Promise<void> {
  try {
    await database.transaction('rw', database.tables, async () => {
      if (!(await neededRecordings()).has(hash)) await removeRecording(hash)
    })
  } catch {
    // The disk that is full now will be asked again when a song is removed.
  }
}

async function removeRecording(hash: string): Promise<void> {
  await database.audio.delete(hash)
  await database.outlines.delete(hash)
  await database.analyses.where('hash').startsWith(hash).delete()
  await database.alignments.filter(({ key }) => key.includes(hash)).delete()
}
