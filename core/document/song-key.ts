// The key of a song: what stands there until somebody decides is only a place to start from.
import type { Key } from '../music/pitch'
import type { Song } from './schema'

/** The song in a key somebody has decided on. */
export function withKey(song: Song, key: Key): Song {
  const { keyUnknown: _open, ...rest } = song
  return { ...rest, key }
}
