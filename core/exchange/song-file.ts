// The song file: a zip with a manifest, the document as readable JSON and, if the user says so, the
// recording.
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import '../zod-plain'
import { z } from 'zod'
import { ok, refuse, type Result } from '../result'
import { readSong, readNewerSong } from '../document/migrations'
import type { Song } from '../document/schema'

const SONG_FILE_FORMAT = 'synchorda-song'
const manifestSchema = z.object({
  format: z.literal(SONG_FILE_FORMAT),
  formatVersion: z.number().int().min(1),
  contains: z.array(z.string().max(300)).max(50),
  recording: z
    .object({
      path: z.string().max(300),
      name: z.string().max(300),
      type: z.string().max(100),
      hash: z.string().regex(/^[0-9a-f]{64}$/),
    })
    .optional(),
})

export interface SongFile {
  song: Song
  readOnly: string | undefined
  recording: { name: string; type: string; hash: string; bytes: Uint8Array } | undefined
}

const LARGEST_UNPACKED = 750 * 1024 * 1024
const LARGEST_JSON = 40 * 1024 * 1024
/** Honest zips of JSON rarely pack better than this; audio hardly packs at all. */
const STEEPEST_RATIO = 400
/** A recording that packs better than this holds no sound worth keeping. */
const STEEPEST_RECORDING_RATIO = 20

/** Packs a song. The recording is stored as it is: compressed sound does not shrink. */
export function writeSongFile(
  song: Song,
  recording?: { name: string; type: string; hash: string; bytes: Uint8Array },
): Uint8Array {
  const extension = /\.([a-z0-9]{1,5})$/i.exec(recording?.name ?? '')?.[1]?.toLowerCase() ?? 'audio'
  const path = `recording.${extension}`
  const manifest = {
    format: SONG_FILE_FORMAT,
    formatVersion: 1,
    contains: ['the song document (song.json)', ...(recording ? [`the recording (${path})`] : [])],
    ...(recording
      ? { recording: { path, name: recording.name, type: recording.type, hash: recording.hash } }
      : {}),
  }
  return zipSync({
    'manifest.json': strToU8(`${JSON.stringify(manifest, null, 2)}\n`),
    'song.json': strToU8(`${JSON.stringify(song, null, 1)}\n`),
    ...(recording ? { [path]: [recording.bytes, { level: 0 as const }] } : {}),
  })
}

interface Entry {
  name: string
  size: number
  originalSize: number
}

/** Why an entry of the zip is not even unpacked; `total` counts it already. */
function entryProblem({ name, size, originalSize }: Entry, total: number): string | undefined {
  if (/(^|[\\/])\.\.([\\/]|$)|^[\\/]|\\|^[a-z]:/i.test(name)) return 'it names files outside itself'
  const json = name.endsWith('.json')
  const ratio = json ? STEEPEST_RATIO : STEEPEST_RECORDING_RATIO
  const large =
    total > LARGEST_UNPACKED ||
    (json && originalSize > LARGEST_JSON) ||
    originalSize > ratio * Math.max(1024, size)
  return large ? 'it would unpack to far more than a song' : undefined
}

/** The entries of a zip, unpacked only while all of them are harmless. */
function unpack(bytes: Uint8Array): Result<Record<string, Uint8Array>> {
  let problem: string | undefined
  let total = 0
  try {
    const entries = unzipSync(bytes, {
      filter: (entry) => {
        total += entry.originalSize
        problem ??= entryProblem(entry, total)
        return !problem
      },
    })
    return problem ? refuse('dangerous', `This file was refused: ${problem}.`) : ok(entries)
  } catch {
    return refuse(
      'damaged',
      'This file is damaged or no song file: it cannot be unpacked. Copy it again from where you saved it.',
    )
  }
}

function jsonOf(bytes: Uint8Array | undefined): unknown {
  try {
    return bytes && JSON.parse(strFromU8(bytes))
  } catch {
    return undefined
  }
}

/** The document of a song file; one from a newer version for reading only. */
function readDocument(document: unknown): Result<Pick<SongFile, 'song' | 'readOnly'>> {
  const read = readSong(document)
  if (read.ok) return ok({ song: read.value, readOnly: undefined })
  if (read.refusal.code !== 'newer') return read
  const newer = readNewerSong(document)
  return newer.ok ? ok({ song: newer.value, readOnly: 'saved by a newer Synchorda' }) : newer
}

/**
 * Reads a song file from anywhere; refuses what is not ours, damaged, or dangerous, and says why. A newer
 * song comes back read-only.
 */
export function readSongFile(bytes: Uint8Array): Result<SongFile> {
  const entries = unpack(bytes)
  if (!entries.ok) return entries
  const manifest = manifestSchema.safeParse(jsonOf(entries.value['manifest.json']))
  if (!manifest.success) return refuse('not-ours', 'This is a zip, but not a Synchorda song file.')
  const document = readDocument(jsonOf(entries.value['song.json']))
  if (!document.ok) return document
  const about = manifest.data.recording
  if (!about) return ok({ ...document.value, recording: undefined })
  const recording = Object.hasOwn(entries.value, about.path) ? entries.value[about.path] : undefined
  if (!recording)
    return refuse(
      'damaged',
      'The file says it contains the recording, but it is missing. Save it again with the recording.',
    )
  const named = Object.values(document.value.song.sources).some(({ audioHash }) => audioHash === about.hash)
  if (!named)
    return refuse('damaged', 'The file contains a recording that its song does not name. Save it again.')
  const { name, type, hash } = about
  return ok({ ...document.value, recording: { name, type, hash, bytes: recording } })
}
