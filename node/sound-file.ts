// A sound file opened to be heard piece by piece, so that a long one needs little memory. WAV is read as it
// lies; MP3, FLAC, Ogg Vorbis and Opus are decoded as they come; anything else is decoded whole.
import { closeSync, createReadStream, fstatSync, openSync, readFileSync, readSync } from 'node:fs'
import { decodeChunked } from 'audio-decode'
import audioType from 'audio-type'
import type { RecordingInPieces } from '../core/hear/features/recording'
import { wavLayout, wavPieces } from '../core/sound/wav'
import { decodeAudio } from './decode'

const HEAD_BYTES = 1 << 16
const READ_BYTES = 1 << 18
const IN_PIECES = ['mp3', 'flac', 'oga', 'opus'] as const
type InPieces = (typeof IN_PIECES)[number]

/** Bytes of an open file from a place; fewer where it ends. */
function bytesAt(file: number, at: number, length: number): Uint8Array {
  const bytes = new Uint8Array(length)
  return bytes.subarray(0, readSync(file, bytes, 0, length, at))
}

/** The pieces of an open file, which is closed after the last, or when no more are asked for. */
function* thenClosed<T>(file: number, pieces: Iterable<T>): Iterable<T> {
  try {
    yield* pieces
  } finally {
    closeSync(file)
  }
}

interface Piece {
  channelData: Float32Array[]
  sampleRate: number
}
/**
 * Room is made beforehand for a file coded with so many bits a second; what is not used of it costs nothing,
 * and one coded lower finds more room later.
 */
const LEAST_BITS_PER_SECOND = 64_000
/** A large file coded without loss is not as long as its size would say. */
const LONGEST_GUESS_SECONDS = 3600

/** What a decoder gives, with the rate that its first piece says. */
async function decoding(
  pieces: AsyncGenerator<Piece>,
  bytes: number,
): Promise<RecordingInPieces | undefined> {
  const first = await pieces.next()
  if (first.done) return undefined
  const all = async function* (): AsyncGenerator<Float32Array[]> {
    yield first.value.channelData
    for await (const { channelData } of pieces) yield channelData
  }
  const { sampleRate } = first.value
  const seconds = Math.min(LONGEST_GUESS_SECONDS, (8 * bytes) / LEAST_BITS_PER_SECOND)
  return { pieces: all(), sampleRate, frames: Math.ceil(seconds * sampleRate) }
}

/**
 * Opens a file; undefined when it holds no sound. Throws when it cannot be read, and while its pieces are
 * taken when they cannot be decoded.
 */
export async function openSoundFile(path: string): Promise<RecordingInPieces | undefined> {
  const file = openSync(path, 'r')
  const head = bytesAt(file, 0, HEAD_BYTES)
  const { size } = fstatSync(file)
  const layout = wavLayout(head, size)
  if (layout?.frames)
    return {
      pieces: thenClosed(
        file,
        wavPieces(layout, (at, length) => bytesAt(file, at, length)),
      ),
      sampleRate: layout.sampleRate,
      frames: layout.frames,
    }
  closeSync(file)
  const type = audioType(head)
  if (IN_PIECES.includes(type as InPieces))
    return decoding(
      decodeChunked(createReadStream(path, { highWaterMark: READ_BYTES }), type as InPieces),
      size,
    )
  const whole = await decodeAudio(readFileSync(path))
  return whole.channels[0]?.length
    ? { pieces: [whole.channels], sampleRate: whole.sampleRate, frames: whole.channels[0].length }
    : undefined
}
