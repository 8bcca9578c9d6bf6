// One entry of a zip, unpacked no further than it may be long, whatever the zip says of it.
import { Unzip, UnzipInflate } from 'fflate'

/** Given to the library at a time: between two pieces it can be stopped. */
const PIECE = 1 << 15

type Unpacked = { bytes: Uint8Array } | 'missing' | 'too large'

/** The first entry that is wanted; `too large` without reading on. Throws where the zip is damaged. */
export function unpackEntry(
  zip: Uint8Array,
  isWanted: (name: string) => boolean,
  mostBytes: number,
): Unpacked {
  const pieces: Uint8Array[] = []
  let size = 0
  let state: 'looking' | 'taking' | 'done' = 'looking'
  const reader = new Unzip((file) => {
    if (state !== 'looking' || !isWanted(file.name)) return
    state = 'taking'
    file.ondata = (error, piece, final) => {
      if (error) throw error
      size += piece.length
      if (size <= mostBytes) pieces.push(piece)
      if (final) state = 'done'
    }
    file.start()
  })
  reader.register(UnzipInflate)
  for (let at = 0; at < zip.length && size <= mostBytes && !isDone(); at += PIECE)
    reader.push(zip.subarray(at, at + PIECE), at + PIECE >= zip.length)
  if (size > mostBytes) return 'too large'
  // Narrowing does not see what the library calls.
  function isDone(): boolean {
    return (state as string) === 'done'
  }
  if (!isDone()) return 'missing'
  const bytes = new Uint8Array(size)
  let at = 0
  for (const piece of pieces) {
    bytes.set(piece, at)
    at += piece.length
  }
  return { bytes }
}
