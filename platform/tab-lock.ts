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

const SONG_LOCK = 'synchorda-song-'
const lockName = (songId: string): string => `${SONG_LOCK}${songId}`
const ARRIVING = 'synchorda-recording-arrives'
/** Absent in old browsers, and where there is no page. */
const locks = (): LockManager | undefined => globalThis.navigator?.locks

/** Songs that any window has open, to write or to follow. None are known where there are no locks. */
export async function openSongIds(): Promise<ReadonlySet<string>> {
  const { held = [], pending = [] } = (await locks()?.query()) ?? {}
  const names = [...held, ...pending].flatMap(({ name }) => name ?? [])
  return new Set(
    names.filter((name) => name.startsWith(SONG_LOCK)).map((name) => name.slice(SONG_LOCK.length)),
  )
}

/** Does something to a song that no window has open, and holds it meanwhile; undefined when one has. */
export async function whileFree<T>(songId: string, work: () => Promise<T>): Promise<T | undefined> {
  const manager = locks()
  if (!manager) return work()
  return manager.request(lockName(songId), { ifAvailable: true }, (lock) => (lock ? work() : undefined))
}

/** While a recording is stored and its song is not there yet, no window clears recordings away. */
export async function whileArriving<T>(work: () => Promise<T>): Promise<T> {
  const manager = locks()
  return manager ? manager.request(ARRIVING, { mode: 'shared' }, work) : work()
}

/** Clears away when nothing is arriving in any window; undefined when something is. */
export async function whileNoneArrives<T>(work: () => Promise<T>): Promise<T | undefined> {
  const manager = locks()
  if (!manager) return work()
  return manager.request(ARRIVING, { ifAvailable: true }, (lock) => (lock ? work() : undefined))
}

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
