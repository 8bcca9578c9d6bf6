// The whole shelf in one file and back: songs as readable JSON, recordings as they are, students. Nothing
// is held in memory whole: entries are read from and written to files piece by piece.
import { BlobReader, BlobWriter, TextReader, ZipReader, ZipWriter, configure } from '@zip.js/zip.js'
import { z } from 'zod'
import { readSong } from '#core/document/migrations'
import { studentSchema } from '#core/teach/student'
import { ok, refuse, type Result } from '#core/result'
import { database, storageRefusal, type AudioRow } from './database'
import { hashOf } from './recording'
import { jsonOf, soundOf, textOf, type Entries } from './backup-entries'
import { createSong, loadSong } from './song-store'
import { whileArriving, whileFree } from './tab-lock'

// Workers of the library would be fetched from addresses that the page forbids.
configure({ useWebWorkers: false })

const FORMAT = 'synchorda-shelf'
const MANIFEST = 'manifest.json'
const MOST_ENTRIES = 5000
const MOST_SONGS = 2000
const MOST_STUDENTS = 2000
/** Of all songs and students together: more than any shelf holds. */
const MOST_TEXT_BYTES = 400 * 1024 * 1024
const shortText = z.string().max(300)
/** An entry named twice would be read twice, and again for each further time. */
const eachOnce = (rows: readonly { path: string }[]): boolean =>
  new Set(rows.map(({ path }) => path)).size === rows.length
const manifestSchema = z.object({
  format: z.literal(FORMAT),
  version: z.int().min(1).max(1),
  made: shortText,
  songs: z
    .array(
      z.object({ id: shortText, title: shortText, path: shortText, recordings: z.array(shortText).max(200) }),
    )
    .max(MOST_SONGS)
    .refine(eachOnce),
  recordings: z
    .array(
      z.object({ hash: shortText, name: shortText, type: shortText, bytes: z.number(), path: shortText }),
    )
    .max(MOST_ENTRIES)
    .refine(eachOnce),
  students: z
    .array(z.object({ id: shortText, name: shortText, path: shortText }))
    .max(MOST_STUDENTS)
    .refine(eachOnce),
})
type Manifest = z.infer<typeof manifestSchema>

export interface ShelfSize {
  songs: number
  students: number
  recordings: number
  bytes: number
}
export type Progress = (words: string, share: number) => void
/** How a long task is told what to do: it reports, and stops between two entries. */
export interface BackupJob {
  onProgress: Progress
  signal?: AbortSignal
}

/** What a backup would hold now. */
export async function shelfSize(): Promise<ShelfSize> {
  const audio = await database.audio.toArray()
  return {
    songs: await database.songs.count(),
    students: await database.students.count(),
    recordings: audio.length,
    bytes: audio.reduce((sum, { bytes }) => sum + bytes, 0),
  }
}

export interface WrittenBackup {
  file: Blob
  /** Titles of songs that could not be read and are not in it. */
  leftOut: string[]
  /** Titles of songs with a recording that is not on this machine: a demo that was never opened. */
  withoutRecording: string[]
}

/** Writes everything on the shelf into one file. */
export async function writeBackup({ onProgress, signal }: BackupJob): Promise<Result<WrittenBackup>> {
  try {
    const zip = new ZipWriter(new BlobWriter('application/zip'), { bufferedWrite: false })
    const manifest: Manifest = {
      format: FORMAT,
      version: 1,
      made: new Date().toISOString(),
      songs: [],
      recordings: [],
      students: [],
    }
    const rows = await database.songs.toArray()
    const leftOut: string[] = []
    const stored = new Set(await database.audio.toCollection().primaryKeys())
    const withoutRecording = rows
      .filter(({ recordings }) => recordings.some((hash) => !stored.has(hash)))
      .map(({ title }) => title)
    for (const [index, row] of rows.entries()) {
      signal?.throwIfAborted()
      onProgress(row.title, (0.2 * index) / rows.length)
      const loaded = await loadSong(row.id)
      if (!('ok' in loaded) || !loaded.ok) {
        leftOut.push(row.title)
        continue
      }
      const path = `songs/${row.id}.json`
      await zip.add(path, new TextReader(`${JSON.stringify(loaded.value.song, null, 1)}\n`))
      manifest.songs.push({ id: row.id, title: row.title, path, recordings: row.recordings })
    }
    for (const student of await database.students.toArray()) {
      const path = `students/${student.id}.json`
      await zip.add(path, new TextReader(`${JSON.stringify(student, null, 1)}\n`))
      manifest.students.push({ id: student.id, name: student.name, path })
    }
    await addRecordings(zip, manifest, { onProgress, signal })
    await zip.add(MANIFEST, new TextReader(`${JSON.stringify(manifest, null, 1)}\n`))
    return ok({ file: await zip.close(), leftOut, withoutRecording })
  } catch (error) {
    if (signal?.aborted) return STOPPED
    return refuse(
      'backup',
      `The backup could not be written (${nameOf(error)}). Reload the page and try again.`,
    )
  }
}
const STOPPED = refuse('cancelled', 'Stopped.')
const nameOf = (error: unknown): string => (error instanceof Error ? error.name : 'unknown reason')

/** Compressed sound does not shrink: it is put in as it is. */
async function addRecordings(
  zip: ZipWriter<Blob>,
  manifest: Manifest,
  { onProgress, signal }: BackupJob,
): Promise<void> {
  const hashes = (await database.audio.toCollection().primaryKeys()) as string[]
  for (const [index, hash] of hashes.entries()) {
    const row = await database.audio.get(hash)
    if (!row) continue
    signal?.throwIfAborted()
    onProgress(row.name, 0.2 + (0.8 * index) / hashes.length)
    const path = `recordings/${hash}`
    await zip.add(path, new BlobReader(row.blob), { level: 0, ...(signal ? { signal } : {}) })
    manifest.recordings.push({ hash, name: row.name, type: row.blob.type, bytes: row.bytes, path })
  }
}

export interface OpenedBackup {
  made: string
  songs: { id: string; title: string; isHere: boolean }[]
  students: { id: string; name: string; isHere: boolean }[]
  recordings: number
  bytes: number
  /** Brings it back: everything, or only what is not here. */
  restore: (what: 'everything' | 'missing', job: BackupJob) => Promise<Result<Restored>>
}
export interface Restored {
  songs: number
  students: number
  /** What could not be brought back, and why. */
  problems: string[]
}

/** What is in a backup, and what of it is here already. Changes nothing. */
export async function openBackup(file: Blob): Promise<Result<OpenedBackup>> {
  const none = refuse('backup', 'This is not a backup of a shelf: choose the file that Synchorda wrote.')
  try {
    const entries = await new ZipReader(new BlobReader(file)).getEntries()
    if (entries.length > MOST_ENTRIES) return none
    const files = new Map(
      entries.flatMap((entry) => (entry.directory ? [] : [[entry.filename, entry] as const])),
    )
    const found: Entries = { file, files }
    const text = await textOf(found, MANIFEST)
    const manifest = manifestSchema.safeParse(text && JSON.parse(text))
    if (!manifest.success) return none
    const named = [...manifest.data.songs, ...manifest.data.students]
    const bytes = named.reduce((sum, { path }) => sum + (files.get(path)?.uncompressedSize ?? 0), 0)
    if (bytes > MOST_TEXT_BYTES)
      return refuse('backup', 'This backup holds more songs than a shelf can: nothing of it was read.')
    return ok(await opened(manifest.data, found))
  } catch {
    return none
  }
}

async function opened(manifest: Manifest, entries: Entries): Promise<OpenedBackup> {
  const songs = new Set(await database.songs.toCollection().primaryKeys())
  const students = new Set(await database.students.toCollection().primaryKeys())
  return {
    made: manifest.made,
    songs: manifest.songs.map(({ id, title }) => ({ id, title, isHere: songs.has(id) })),
    students: manifest.students.map(({ id, name }) => ({ id, name, isHere: students.has(id) })),
    recordings: manifest.recordings.length,
    bytes: manifest.recordings.reduce((sum, { bytes }) => sum + bytes, 0),
    restore: async (what, job) => {
      try {
        return ok(await whileArriving(() => restore(manifest, entries, { what, ...job })))
      } catch (error) {
        if (job.signal?.aborted) return STOPPED
        return refuse('backup', `It could not all be brought back: ${storageRefusal(error).message}`)
      }
    },
  }
}

async function restore(
  manifest: Manifest,
  entries: Entries,
  { what, onProgress, signal }: { what: 'everything' | 'missing' } & BackupJob,
): Promise<Restored> {
  const done: Restored = { songs: 0, students: 0, problems: [] }
  const isWanted = async (table: 'songs' | 'students', id: string): Promise<boolean> =>
    what === 'everything' || (await database.table(table).get(id)) === undefined
  for (const [index, { id, title, path, recordings }] of manifest.songs.entries()) {
    signal?.throwIfAborted()
    onProgress(title, index / (manifest.songs.length + 1))
    if (!(await isWanted('songs', id))) continue
    const say = (words: string): void => void done.problems.push(`“${title}”: ${words}`)
    const song = readSong(await jsonOf(entries, path))
    if (!song.ok || song.value.id !== id) {
      say(song.ok ? 'it is another song' : song.refusal.message)
      continue
    }
    const put = await whileFree(id, async () => {
      for (const hash of recordings) {
        const problem = await bringRecording(manifest, entries, hash)
        if (problem) say(problem)
      }
      // A window that had it open before and could not be seen may not write into it.
      return createSong(song.value, { writer: `restored ${manifest.made}` })
    })
    if (!put) say(OPEN_ELSEWHERE)
    else if (put.ok) done.songs += 1
    else say(put.refusal.message)
  }
  for (const { id, name, path } of manifest.students) {
    if (!(await isWanted('students', id))) continue
    const student = studentSchema.safeParse(await jsonOf(entries, path))
    if (student.success && student.data.id === id) {
      await database.students.put(student.data)
      done.students += 1
    } else done.problems.push(`${name}: this student cannot be read`)
  }
  return done
}

const OPEN_ELSEWHERE =
  'it is open in another window and was left as it is there. Close it there, then restore it.'

/** A recording that is not here yet, if it is the one it says it is. What is wrong with it otherwise. */
async function bringRecording(
  manifest: Manifest,
  entries: Entries,
  hash: string,
): Promise<string | undefined> {
  if (await database.audio.get(hash)) return undefined
  const listed = manifest.recordings.find((recording) => recording.hash === hash)
  if (!listed) return 'its recording is not in the backup (a demo song loads its own when it is opened)'
  const blob = await soundOf(entries, listed.path, listed.type)
  if (!blob || (await hashOf(await blob.arrayBuffer())) !== hash) return 'its recording is damaged'
  const row: AudioRow = { hash, name: listed.name, type: listed.type, blob, bytes: blob.size }
  await database.audio.put(row)
  return undefined
}
