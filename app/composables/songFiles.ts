// Bringing songs and recordings in and out: the steps between a file and the shelf, in an order in which a
// failure leaves nothing behind.
import { ok, refuse, type Result } from '#core/result'
import { readSongFile, writeSongFile } from '#core/exchange/song-file'
import { readSong } from '#core/document/migrations'
import { mainSource } from '#core/document/form'
import { newSong } from '#core/document/new-song'
import { transact } from '#core/editing/transact'
import type { Outline } from '#core/hear/features/waveform'
import type { Song } from '#core/document/schema'
import { askForPersistence, database, storageRefusal } from '#platform/database'
import { createSong, dropUnusedRecording } from '#platform/song-store'
import { whileArriving } from '#platform/tab-lock'
import { download, fileName, randomId } from '#platform/files'
import { decodeRecording, hashOf, importRecording, type Imported } from '#platform/recording'
import { monoOf } from '#platform/samples'
import { runJob } from '#platform/worker-job'
import { keepDecoded, WORKING_RATE } from '~/session/recording'
import { listeningWorker } from '~/session/workers'
import { useSong } from '~/stores/song'

export type Progress = (words: string, fraction: number) => void
async function outlineInWorker(imported: {
  channels: readonly Float32Array[]
  sampleRate: number
}): Promise<Result<Outline>> {
  const mono = await monoOf(imported.channels)
  return runJob<Outline>(
    listeningWorker,
    { mono, sampleRate: imported.sampleRate, want: 'outline' },
    { transfer: [mono.buffer] },
  ).result
}

export async function storeRecording(imported: Imported, onProgress: Progress): Promise<Result<void>> {
  onProgress('drawing the outline', 0.8)
  const outline = await outlineInWorker(imported)
  if (!outline.ok) return outline
  try {
    await database.transaction('rw', database.audio, database.outlines, async () => {
      await database.audio.put({
        hash: imported.hash,
        name: imported.name,
        type: imported.blob.type,
        blob: imported.blob,
        bytes: imported.blob.size,
      })
      await database.outlines.put({ hash: imported.hash, outline: outline.value })
    })
    return ok(undefined)
  } catch (error) {
    const refusal = storageRefusal(error)
    return refuse(
      refusal.code,
      refusal.code === 'storage-full'
        ? 'There is not enough room in the browser’s storage for this recording. ' +
            'Remove a song from the shelf, then try again.'
        : refusal.message,
    )
  }
}

/** A new song from a file: decodes, checks, outlines, stores; only then is there a song. */
export interface ImportWish {
  onProgress: Progress
  signal?: AbortSignal
  /** Also where a song on the shelf has the same recording. */
  again?: boolean
}
export const createFromRecording = (
  facts: { title: string; artist: string },
  file: File,
  wish: ImportWish,
): Promise<Result<string>> => whileArriving(() => madeFromRecording(facts, file, wish))

/** A song on the shelf that has a recording already. */
async function songWith(hash: string): Promise<string | undefined> {
  const rows = await database.songs.toArray().catch(() => [])
  return rows.find(({ recordings }) => recordings.includes(hash))?.title
}

async function madeFromRecording(
  facts: { title: string; artist: string },
  file: File,
  { onProgress, signal, again }: ImportWish,
): Promise<Result<string>> {
  const imported = await importRecording(file, WORKING_RATE, onProgress, signal)
  if (!imported.ok) return imported
  const known = again ? undefined : await songWith(imported.value.hash)
  if (known !== undefined)
    return refuse(
      'known',
      `This recording is on the shelf already: “${known}” has it. Open that song, or make another one of it.`,
    )
  const stored = await storeRecording(imported.value, onProgress)
  if (!stored.ok) return stored
  const id = randomId()
  const song = transact(newSong({ id, ...facts }), 'addSource', {
    source: {
      id: 'record',
      kind: 'recording',
      name: file.name.slice(0, 200),
      rank: 1,
      offsetSemitones: 0,
      offsetCents: 0,
      offsetSeconds: 0,
      audioHash: imported.value.hash,
      durationSeconds: imported.value.durationSeconds,
    },
  })
  if (!song.ok) return song
  const created = await createSong(song.value.song)
  if (!created.ok) {
    await dropUnusedRecording(imported.value.hash)
    return created
  }
  void askForPersistence()
  keepDecoded(imported.value)
  onProgress('done', 1)
  return ok(id)
}

/** Gives a song whose recording is not on this machine its file back. */
export async function attachRecording(file: File, onProgress: Progress): Promise<Result<void>> {
  const store = useSong()
  const imported = await importRecording(file, WORKING_RATE, onProgress)
  if (!imported.ok) return imported
  const stored = await storeRecording(imported.value, onProgress)
  if (!stored.ok) return stored
  keepDecoded(imported.value)
  const { source } = store
  if (source && source.audioHash !== imported.value.hash)
    store.run('changeSource', {
      source: { ...source, audioHash: imported.value.hash, durationSeconds: imported.value.durationSeconds },
    })
  return ok(undefined)
}

/**
 * The decoded recording of a song at a rate; undefined when it is not on this machine. Demo
 * recordings are fetched from their own server once.
 */
export async function loadRecording(
  hash: string,
  sampleRate: number,
): Promise<{ channels: Float32Array[] } | undefined> {
  let blob = (await database.audio.get(hash))?.blob
  if (!blob) {
    const named = await $fetch<{ name: string } | null>(`/api/demo/recording/${hash}`).catch(() => undefined)
    const answer = named?.name
      ? await fetch(`/demo/${encodeURIComponent(named.name)}`).catch(() => undefined)
      : undefined
    if (!answer?.ok) return undefined
    const bytes = await answer.arrayBuffer()
    if ((await hashOf(bytes)) !== hash) return undefined
    blob = new Blob([bytes], { type: 'audio/ogg' })
    await database.audio
      .put({ hash, name: named!.name, type: blob.type, blob, bytes: blob.size })
      .catch(() => undefined)
  }
  return decodeRecording(await blob.arrayBuffer(), sampleRate)
}

/** The outline as stored, or drawn again from the decoded sound. */
export async function outlineOf(
  hash: string,
  decoded?: { channels: readonly Float32Array[]; sampleRate: number },
): Promise<Outline | undefined> {
  const known = await database.outlines.get(hash)
  if (known) return known.outline
  if (!decoded) return undefined
  const made = await outlineInWorker(decoded)
  if (!made.ok) return undefined
  await database.outlines.put({ hash, outline: made.value }).catch(() => undefined)
  return made.value
}

/** Puts the shipped songs on an empty shelf; songs a user removed do not come back. Says why it could not. */
export async function shelveDemos(): Promise<Result<void>> {
  try {
    if ((await database.preferences.get('demosShelved'))?.value) return ok(undefined)
    const names = await $fetch<string[]>('/api/demo').catch(() => [])
    for (const name of names) {
      const song = readSong(await $fetch(`/api/demo/${name}`).catch(() => undefined))
      if (!song.ok || (await database.songs.get(song.value.id))) continue
      const created = await createSong(song.value, { demo: true })
      if (!created.ok) return refuse(created.refusal.code, DEMOS_LEFT_OUT[created.refusal.code] ?? NO_STORAGE)
    }
    if (names.length) await database.preferences.put({ key: 'demosShelved', value: true })
    return ok(undefined)
  } catch (error) {
    const { code } = storageRefusal(error)
    return refuse(code, DEMOS_LEFT_OUT[code] ?? NO_STORAGE)
  }
}
const NO_STORAGE =
  'The browser refuses to keep data for this page (a private window?). ' +
  'Songs can be opened and saved as files, but not kept on the shelf.'
const DEMOS_LEFT_OUT: Record<string, string> = {
  'storage-full':
    'The browser’s storage is full: the demo songs could not be put on the shelf, ' +
    'and a new song could not be ' +
    'kept. Free space on this machine or remove a song, then reload.',
}

/**
 * Opens a song file onto the shelf. A song already there is kept: the opened one gets an id of its own
 * unless it is the same.
 */
export const openSongFile = (file: File): Promise<Result<string>> => whileArriving(() => shelvedFile(file))

async function shelvedFile(file: File): Promise<Result<string>> {
  const read = readSongFile(new Uint8Array(await file.arrayBuffer()))
  if (!read.ok) return read
  const { recording, readOnly } = read.value
  let song: Song = read.value.song
  if (await database.songs.get(song.id)) song = { ...song, id: randomId() }
  if (recording) {
    const imported = await importRecording(
      new File([recording.bytes as Uint8Array<ArrayBuffer>], recording.name, { type: recording.type }),
      WORKING_RATE,
      () => undefined,
    )
    if (!imported.ok) return imported
    if (imported.value.hash !== recording.hash)
      return refuse('damaged', 'The recording in this file is not the one its song was charted from.')
    const stored = await storeRecording(imported.value, () => undefined)
    if (!stored.ok) return stored
  }
  const created = await createSong(song, { readOnly })
  if (!created.ok && recording) await dropUnusedRecording(recording.hash)
  return created.ok ? ok(song.id) : created
}

/** Saves the open song as a file, with or without the recording. */
export async function saveSongFile(withRecording: boolean): Promise<void> {
  const store = useSong()
  const song = store.song
  if (!song) return
  const hash = mainSource(song)?.audioHash
  const row = withRecording && hash ? await database.audio.get(hash) : undefined
  const bytes = writeSongFile(
    toRaw(song),
    row && {
      name: row.name,
      type: row.type,
      hash: row.hash,
      bytes: new Uint8Array(await row.blob.arrayBuffer()),
    },
  )
  download(bytes, `${fileName(song.title)}.synchorda.zip`, 'application/zip')
}
