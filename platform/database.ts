// The browser's database. Songs are a snapshot plus a journal of patches since; a change counts as saved only when its journal entry is committed.
import Dexie, { type Table } from 'dexie'
import { readSong } from '#core/song/migrations'
import { applyPatch, type Patch } from '#core/song/patch'
import { coverage } from '#core/song/unroll'
import { allBars, mainSource } from '#core/song/form'
import { ok, refuse, type Result } from '#core/result'
import type { Song } from '#core/song/schema'
import type { Analysis } from '#core/listen/analysis'
import type { Alignment } from '#core/listen/align'
import type { Outline } from '#core/listen/outline'

export interface SongSummary { bars: number; parts: number; sections: number; chartedShare: number; durationSeconds: number; form: { kind: string; bars: number }[]; hasGrid: boolean }
export interface SongRow { id: string; title: string; artist: string; updatedAt: number; snapshot: unknown; snapshotSeq: number; summary: SongSummary; demo?: boolean; readOnly?: string }
export interface JournalRow { seq?: number; songId: string; label: string; patch: Patch }
export interface AudioRow { hash: string; name: string; type: string; blob: Blob; bytes: number }

class SynchordaDatabase extends Dexie {
  songs!: Table<SongRow, string>
  journal!: Table<JournalRow, number>
  audio!: Table<AudioRow, string>
  outlines!: Table<{ hash: string; outline: Outline }, string>
  analyses!: Table<{ hash: string; analysis: Analysis }, string>
  alignments!: Table<{ key: string; alignment: Alignment }, string>
  preferences!: Table<{ key: string; value: unknown }, string>

  constructor() {
    super('synchorda')
    this.version(1).stores({ songs: 'id, updatedAt', journal: '++seq, songId', audio: 'hash', outlines: 'hash', analyses: 'hash', preferences: 'key' })
    this.version(2).stores({ alignments: 'key' })
  }
}

export const database = new SynchordaDatabase()

/** Entries kept beside a snapshot before a new one is taken. */
const JOURNAL_LENGTH = 40

export function summarise(song: Song): SongSummary {
  const shares = coverage(song)
  const total = shares.reduce((sum, part) => sum + part.totalTicks, 0)
  return {
    bars: allBars(song).length, parts: song.partOrder.length, sections: song.sectionOrder.length, chartedShare: total ? shares.reduce((sum, part) => sum + part.chartedTicks, 0) / total : 0,
    durationSeconds: mainSource(song)?.durationSeconds ?? 0, form: song.sectionOrder.map((id) => ({ kind: song.sections[id]!.kind, bars: song.sections[id]!.bars.length })), hasGrid: Boolean(mainSource(song)?.grid),
  }
}

/** What went wrong with the storage, in a sentence that says what to do. */
export function storageRefusal(error: unknown): { code: string; message: string } {
  const name = error instanceof Error ? error.name : ''
  const inner = (error as { inner?: { name?: string } } | undefined)?.inner?.name ?? ''
  if (name === 'QuotaExceededError' || inner === 'QuotaExceededError') return { code: 'storage-full', message: 'The browser’s storage is full: this change is only in this window. Save the song as a file now, then free space on the shelf.' }
  return { code: 'storage', message: `The browser could not store this change (${name || 'unknown reason'}). Save the song as a file and reload.` }
}

export async function createSong(song: Song, options: { demo?: boolean; readOnly?: string | undefined } = {}): Promise<Result<void>> {
  try {
    await database.songs.put({ id: song.id, title: song.title, artist: song.artist, updatedAt: Date.now(), snapshot: song, snapshotSeq: 0, summary: summarise(song), ...(options.demo ? { demo: true } : {}), ...(options.readOnly ? { readOnly: options.readOnly } : {}) })
    return ok(undefined)
  } catch (error) { const { code, message } = storageRefusal(error); return refuse(code, message) }
}

/** The song as last committed: snapshot and journal. `seq` is the last entry seen. */
export async function loadSong(id: string): Promise<Result<{ song: Song; seq: number; readOnly: string | undefined }>> {
  const row = await database.songs.get(id)
  if (!row) return refuse('no-song', 'This song is not on this machine’s shelf.')
  const entries = await database.journal.where('songId').equals(id).sortBy('seq')
  let data = row.snapshot as Song
  let seq = row.snapshotSeq
  for (const entry of entries) if (entry.seq! > row.snapshotSeq) { data = applyPatch(data, entry.patch); seq = entry.seq! }
  const song = readSong(data)
  return song.ok ? ok({ song: song.value, seq, readOnly: row.readOnly }) : song
}

/** Commits one change. Resolves with its sequence number once it is on disk. */
export async function commitChange(song: Song, label: string, patch: Patch): Promise<Result<number>> {
  try {
    return await database.transaction('rw', database.songs, database.journal, async () => {
      const seq = await database.journal.add({ songId: song.id, label, patch })
      const row = await database.songs.get(song.id)
      const due = !row || seq - row.snapshotSeq >= JOURNAL_LENGTH
      await database.songs.update(song.id, { title: song.title, artist: song.artist, updatedAt: Date.now(), summary: summarise(song), ...(due ? { snapshot: song, snapshotSeq: seq } : {}) })
      if (due) await database.journal.where('songId').equals(song.id).and((entry) => entry.seq! <= seq).delete()
      return ok(seq)
    })
  } catch (error) { const { code, message } = storageRefusal(error); return refuse(code, message) }
}

/** Removes a song, and its recording when no other song uses it. */
export async function removeSong(id: string): Promise<void> {
  const loaded = await loadSong(id)
  await database.transaction('rw', [database.songs, database.journal, database.audio, database.outlines, database.analyses], async () => {
    await database.songs.delete(id)
    await database.journal.where('songId').equals(id).delete()
    if (!loaded.ok) return
    const others = new Set((await database.songs.toArray()).flatMap((row) => Object.values((row.snapshot as Song).sources).map((source) => source.audioHash)))
    for (const { audioHash } of Object.values(loaded.value.song.sources)) {
      if (!audioHash || others.has(audioHash)) continue
      await Promise.all([database.audio.delete(audioHash), database.outlines.delete(audioHash), database.analyses.where('hash').startsWith(audioHash).delete()])
    }
  })
}

/** Asks the browser not to clear the data, and says how much is used. */
export async function storageState(): Promise<{ persisted: boolean; usedBytes: number; quotaBytes: number }> {
  if (!navigator.storage) return { persisted: false, usedBytes: 0, quotaBytes: 0 }
  const [estimate, persisted] = await Promise.all([navigator.storage.estimate(), navigator.storage.persisted()])
  return { persisted, usedBytes: estimate.usage ?? 0, quotaBytes: estimate.quota ?? 0 }
}

export const askForPersistence = async (): Promise<boolean> => (await navigator.storage?.persist?.()) ?? false
