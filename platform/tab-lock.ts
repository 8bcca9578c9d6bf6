// Two windows on one song: the first writes, the others follow.

export interface SongLock {
  writer: boolean
  release: () => void
}
export interface LockEvents {
  /** The writer closed: this window writes now. */
  onPromoted: () => void
  /** Another window took the song over. */
  onLost: () => void
}

const lockName = (songId: string): string => `synchorda-song-${songId}`

/** Tries to become the writer of a song, and waits to become it when another window is. */
export async function lockSong(songId: string, events: LockEvents): Promise<SongLock> {
  if (!navigator.locks) return { writer: true, release: () => undefined }
  const name = lockName(songId)
  const held = holding()
  const abort = new AbortController()
  const writer = await new Promise<boolean>((resolve) => {
    navigator.locks
      .request(name, { ifAvailable: true }, (lock) => {
        resolve(lock !== null)
        return lock ? held.until : undefined
      })
      .catch(() => held.ifHeld(events.onLost))
  })
  if (!writer)
    navigator.locks
      .request(name, { signal: abort.signal }, () => {
        events.onPromoted()
        return held.until
      })
      .catch((error: unknown) => {
        if (!abort.signal.aborted && isTaken(error)) held.ifHeld(events.onLost)
      })
  return {
    writer,
    release: () => {
      abort.abort()
      held.end()
    },
  }
}

/** Takes the song from a window that no longer answers. That window is told as soon as it can be. */
export function takeOver(songId: string, events: Pick<LockEvents, 'onLost'>): Promise<SongLock> {
  const held = holding()
  return new Promise((resolve) => {
    navigator.locks
      .request(lockName(songId), { steal: true }, () => {
        resolve({ writer: true, release: held.end })
        return held.until
      })
      .catch(() => held.ifHeld(events.onLost))
  })
}

const isTaken = (error: unknown): boolean => error instanceof DOMException && error.name === 'AbortError'

function holding(): { until: Promise<void>; end: () => void; ifHeld: (then: () => void) => void } {
  let end: () => void = () => undefined
  let ended = false
  const until = new Promise<void>((resolve) => {
    end = () => {
      ended = true
      resolve()
    }
  })
  return {
    until,
    end: () => end(),
    ifHeld: (then) => {
      if (!ended) then()
    },
  }
}
