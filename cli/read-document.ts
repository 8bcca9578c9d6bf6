// A song for a command: a song file or a song document.
import { readFileSync } from 'node:fs'
import { readSong } from '../core/document/migrations'
import { salvageSong } from '../core/document/salvage'
import type { Song } from '../core/document/schema'
import { readSongFile } from '../core/exchange/song-file'
import { Complaint } from './answer'

/** Throws a `Complaint` that says what is wrong with the file. */
export function readDocument(path: string): Song {
  const { song, damage } = readToCheck(path)
  if (damage.length) throw new Complaint(damage[0]!)
  return song
}

/**
 * A song as far as it can be read, with what breaks the rules of a song, a sentence each. Throws a
 * `Complaint` where it is no song.
 */
export function readToCheck(path: string): { song: Song; damage: string[] } {
  let bytes: Uint8Array
  try {
    bytes = readFileSync(path)
  } catch {
    throw new Complaint(`There is no readable file ${path}.`)
  }
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
    const file = readSongFile(bytes)
    if (!file.ok) throw new Complaint(file.refusal.message)
    return { song: file.value.song, damage: [] }
  }
  let data: unknown
  try {
    data = JSON.parse(new TextDecoder().decode(bytes))
  } catch {
    throw new Complaint(`${path} is neither a song file nor JSON.`)
  }
  const song = readSong(data)
  if (song.ok) return { song: song.value, damage: [] }
  const rest = song.refusal.code === 'damaged' ? salvageSong(data) : song
  if (!rest.ok) throw new Complaint(song.refusal.message)
  const leftOut = rest.value.leftOut.map((words) => `${words[0]!.toUpperCase()}${words.slice(1)}.`)
  return { song: rest.value.song, damage: [song.refusal.message, ...leftOut] }
}
