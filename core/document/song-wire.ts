// A song on its way to where it is worked on: whole the first time, afterwards what changed since. What did
// not change stays the same object over there, so that what was worked out of it is not worked out again.
import { invariant } from '../result'
import { applyPatch, diffSongs, type Patch } from './patch'
import type { Song } from './schema'

export type SentSong = { whole: Song } | { changed: Patch }

const isSongLike = (value: unknown): value is Song =>
  typeof value === 'object' && value !== null && 'schemaVersion' in value && 'placements' in value

/** Knows which song the other side has. */
export class SongSender {
  private there: Song | undefined

  /** Whether this very song is there already. */
  has(song: Song): boolean {
    return song === this.there
  }
  pack(song: Song): SentSong {
    const before = this.there
    this.there = song
    if (before?.id !== song.id) return { whole: song }
    return { changed: diffSongs(before, song).map(({ before: _known, ...change }) => change) }
  }
  /** A task as it is sent: its song, if it has one, packed. */
  packTask(task: unknown): unknown {
    if (typeof task !== 'object' || task === null || !('song' in task) || !isSongLike(task.song)) return task
    const { song, ...rest } = task
    return { ...rest, sentSong: this.pack(song) }
  }
  /** What was packed last did not arrive: the next one goes whole. */
  startAnew(): void {
    this.there = undefined
  }
}

/** The other side: what it holds is the song that was sent last. */
export class SongReceiver {
  private song: Song | undefined

  unpack(sent: SentSong): Song {
    if ('whole' in sent) this.song = sent.whole
    else {
      invariant(this.song, 'a change of a song that was never sent')
      if (sent.changed.length > 0) this.song = applyPatch(this.song, sent.changed)
    }
    return this.song
  }
  unpackTask(task: unknown): unknown {
    if (typeof task !== 'object' || task === null || !('sentSong' in task)) return task
    const { sentSong, ...rest } = task
    return { ...rest, song: this.unpack(sentSong as SentSong) }
  }
}
