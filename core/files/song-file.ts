// The song file: a zip with a manifest, the document as readable JSON and, if the user says so, the recording.
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { z } from 'zod'
import { ok, refuse, type Result } from '../result'
import { readSong, readNewerSong } from '../song/migrations'
import type { Song } from '../song/schema'

export const SONG_FILE_FORMAT = 'synchorda-song'
const manifestSchema = z.object({ format: z.literal(SONG_FILE_FORMAT), formatVersion: z.number().int().min(1), contains: z.array(z.string().max(300)).max(50), recording: z.object({ path: z.string().max(300), name: z.string().max(300), type: z.string().max(100), hash: z.string().regex(/^[0-9a-f]{64}$/) }).optional() })

export interface SongFile { song: Song; readOnly: string | undefined; recording: { name: string; type: string; hash: string; bytes: Uint8Array } | undefined }

const LARGEST_UNPACKED = 750 * 1024 * 1024
const LARGEST_JSON = 64 * 1024 * 1024
/** Honest zips of JSON rarely pack better than this; audio hardly packs at all. */
const STEEPEST_RATIO = 400

/** Packs a song. The recording is stored as it is: compressed sound does not shrink. */
export function writeSongFile(song: Song, recording?: { name: string; type: string; hash: string; bytes: Uint8Array }): Uint8Array {
  const extension = /\.([a-z0-9]{1,5})$/i.exec(recording?.name ?? '')?.[1]?.toLowerCase() ?? 'audio'
  const path = `recording.${extension}`
  const manifest = { format: SONG_FILE_FORMAT, formatVersion: 1, contains: ['the song document (song.json)', ...(recording ? [`the recording (${path})`] : [])], ...(recording ? { recording: { path, name: recording.name, type: recording.type, hash: recording.hash } } : {}) }
  return zipSync({
    'manifest.json': strToU8(`${JSON.stringify(manifest, null, 2)}\n`), 'song.json': strToU8(`${JSON.stringify(song, null, 1)}\n`),
    ...(recording ? { [path]: [recording.bytes, { level: 0 as const }] } : {}),
  })
}

/** Reads a song file from anywhere; refuses what is not ours, damaged, or dangerous, and says why. A newer song comes back read-only. */
export function readSongFile(bytes: Uint8Array): Result<SongFile> {
  let entries: Record<string, Uint8Array>
  let problem: string | undefined
  let total = 0
  try {
    entries = unzipSync(bytes, {
      filter: (entry) => {
        if (problem) return false
        total += entry.originalSize
        if (/(^|[\\/])\.\.([\\/]|$)|^[\\/]|\\|^[a-z]:/i.test(entry.name)) problem = 'it names files outside itself'
        else if (total > LARGEST_UNPACKED || (entry.name.endsWith('.json') && entry.originalSize > LARGEST_JSON) || entry.originalSize > STEEPEST_RATIO * Math.max(1024, entry.size)) problem = 'it would unpack to far more than a song'
        return !problem
      },
    })
  } catch { return refuse('damaged', 'This file is damaged or no song file: it cannot be unpacked. Copy it again from where you saved it.') }
  if (problem) return refuse('dangerous', `This file was refused: ${problem}.`)
  const json = (name: string): unknown => { try { return entries[name] ? JSON.parse(strFromU8(entries[name])) : undefined } catch { return undefined } }
  const manifest = manifestSchema.safeParse(json('manifest.json'))
  if (!manifest.success) return refuse('not-ours', 'This is a zip, but not a Synchorda song file.')
  const document = json('song.json')
  const read = readSong(document)
  const newer = !read.ok && read.refusal.code === 'newer' ? readNewerSong(document) : undefined
  const song = read.ok ? read : (newer ?? read)
  if (!song.ok) return song
  const about = manifest.data.recording
  const recordingBytes = about && entries[about.path]
  if (about && !recordingBytes) return refuse('damaged', 'The file says it contains the recording, but it is missing. Save it again with the recording.')
  return ok({ song: song.value, readOnly: newer?.ok ? 'saved by a newer Synchorda' : undefined, recording: about && recordingBytes ? { name: about.name, type: about.type, hash: about.hash, bytes: recordingBytes } : undefined })
}
