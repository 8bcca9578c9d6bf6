// The text of a score file: plain, or packed as `.mxl`.
import { strFromU8 } from 'fflate'
import { ok, refuse, type Result } from '../../result'
import { unpackEntry } from '../unpack'
import { CONTAINER_PATH } from './write-musicxml'
import { childOf, readXml } from './xml'

const MOST_UNPACKED = 40_000_000
/** It names one file. */
const MOST_CONTAINER = 100_000
const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b

/** Refused where a packed score is damaged or too large. */
export const scoreText = (bytes: Uint8Array, what: string): Result<string> =>
  isZip(bytes) ? unpacked(bytes, what) : ok(decoded(bytes))

/** Text in the encoding its first bytes say: UTF-16 with a mark, else UTF-8. */
function decoded(bytes: Uint8Array): string {
  const [first, second] = bytes
  if (first === 0xff && second === 0xfe) return fromUtf16(bytes, true)
  return first === 0xfe && second === 0xff ? fromUtf16(bytes, false) : strFromU8(bytes)
}

function fromUtf16(bytes: Uint8Array, littleEndian: boolean): string {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let text = ''
  for (let at = 2; at + 1 < bytes.length; at += 2)
    text += String.fromCharCode(view.getUint16(at, littleEndian))
  return text
}

/** The score in a `.mxl`: the one its container names, else the first that looks like one. */
function unpacked(bytes: Uint8Array, what: string): Result<string> {
  const damaged = refuse('musicxml', 'This packed score is damaged: export it anew.')
  try {
    const container = unpackEntry(bytes, (name) => name === CONTAINER_PATH, MOST_CONTAINER)
    if (container === 'too large') return damaged
    const named = container === 'missing' ? undefined : rootfileOf(strFromU8(container.bytes), what)
    const byName = named ? unpackEntry(bytes, (name) => name === named, MOST_UNPACKED) : 'missing'
    const score = byName === 'missing' ? unpackEntry(bytes, looksLikeScore, MOST_UNPACKED) : byName
    if (score === 'too large') return refuse('musicxml', 'This packed score is too large when unpacked.')
    return score === 'missing' ? damaged : ok(decoded(score.bytes))
  } catch {
    return damaged
  }
}

const looksLikeScore = (name: string): boolean =>
  /\.(musicxml|xml)$/i.test(name) && !name.startsWith('META-INF/')
function rootfileOf(text: string, what: string): string | undefined {
  const read = readXml(text, what)
  const files = read.ok ? childOf(read.value, 'rootfiles') : undefined
  return childOf(files, 'rootfile')?.attributes['full-path']
}
