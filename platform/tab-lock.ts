// Two windows on one song: the first writes, the others follow.

/** Tries to become the writer of a song. `onPromoted` is called if the writer closes later. Returns a release. */
export async function lockSong(songId: string, onPromoted: () => void): Promise<{ writer: boolean; release: () => void }> {
  if (!navigator.locks) return { writer: true, release: () => undefined }
  let release: () => void = () => undefined
  const held = new Promise<void>((resolve) => { release = resolve })
  const name = `synchorda-song-${songId}`
  const abort = new AbortController()
  const writer = await new Promise<boolean>((resolve) => {
    void navigator.locks.request(name, { ifAvailable: true }, (lock) => { resolve(lock !== null); return lock ? held : undefined })
  })
  if (!writer) navigator.locks.request(name, { signal: abort.signal }, () => { onPromoted(); return held }).catch(() => undefined)
  return { writer, release: () => { abort.abort(); release() } }
}
