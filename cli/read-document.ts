// A song for a command: a song file or a song document.
import { readFileSync } from 'node:fs'
import { readSong } from '../core/document/migrations'
import type { Song } from '../core/document/schema'
import { readSongFile } from '../core/exchange/song-file'
import { Complaint } from './answer'

/** Throws a `Complaint` that says what is wrong with the file. */
export function readDocument(path: string): Song {
  let bytes: Uint8Array
  try {
    bytes = readFileSync(path)
  } catch {
    throw new Complaint(`There is no readable file ${path}.`)
  }
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
    const file = readSongFile(bytes)
    if (!file.ok) throw new Complaint(file.refusal.message)
    return file.value.song
  }
  let data: unknown
  try {
    data = JSON.parse(new TextDecoder().decode(bytes))
  } catch {
    throw new Complaint(`${path} is neither a song file nor JSON.`)
  }
  const song = readSong(data)
  if (!song.ok) throw new Complaint(song.refusal.message)
  return song.value
}
