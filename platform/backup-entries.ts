// What is in a backup's file, entry by entry: texts read no further than a text may be long, sound as a piece
// of the file.
import type { FileEntry } from '@zip.js/zip.js'

const MOST_JSON_BYTES = 40 * 1024 * 1024

export interface Entries {
  file: Blob
  files: ReadonlyMap<string, FileEntry>
}

/** The text of an entry, read no further than a text may be long, whatever the entry says of itself. */
export async function textOf({ files }: Entries, path: string): Promise<string | undefined> {
  const entry = files.get(path)
  if (!entry || entry.uncompressedSize > MOST_JSON_BYTES) return undefined
  const decoder = new TextDecoder()
  let bytes = 0
  let text = ''
  const bounded = new WritableStream<Uint8Array>({
    write(chunk) {
      bytes += chunk.length
      if (bytes > MOST_JSON_BYTES) throw new RangeError('longer than it says')
      text += decoder.decode(chunk, { stream: true })
    },
  })
  await entry.getData(bounded)
  return text + decoder.decode()
}

/** Sound is stored as it is: it is a piece of the file, and nothing of it is unfolded. */
export async function soundOf(
  { file, files }: Entries,
  path: string,
  type: string,
): Promise<Blob | undefined> {
  const entry = files.get(path)
  if (!entry || entry.compressionMethod !== 0) return undefined
  const { offset, compressedSize } = entry
  const header = new DataView(await file.slice(offset, offset + LOCAL_HEADER).arrayBuffer())
  // The names before the data, by their lengths (APPNOTE 6.3.10, 4.3.7).
  const start = offset + LOCAL_HEADER + header.getUint16(26, true) + header.getUint16(28, true)
  return file.slice(start, start + compressedSize, type)
}
const LOCAL_HEADER = 30

/** The data in an entry; undefined where there is none, or it cannot be read. */
export async function jsonOf(entries: Entries, path: string): Promise<unknown> {
  try {
    const text = await textOf(entries, path)
    return text === undefined ? undefined : JSON.parse(text)
  } catch {
    return undefined
  }
}
