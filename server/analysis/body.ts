// A request body taken in piece by piece: what is too large is refused while it still comes.
import type { IncomingMessage } from 'node:http'
import { HEADER_BYTES, mostBytes, readWavHeader } from './wav-header'

/**
 * What a sender who was refused may still send, unheld, before the line is cut: long enough that a
 * recording of the size allowed gets its answer instead of a broken connection.
 */
const MOST_BYTES_LET_GO = 512 * 1024 * 1024

const refused = (statusCode: number, statusMessage: string) => createError({ statusCode, statusMessage })

/** Whatever a header promises, no more is held: fifteen minutes of two channels as a desk has them. */
const MOST_BYTES_HELD = 352 * 1024 * 1024
const TOO_LARGE = 'At most fifteen minutes of sound, and 350 MB: send two channels of 16 or 24 bits'

/** The bytes of a WAV file sent as the body. Throws an answer in words for anything else. */
export async function wavBody(request: IncomingMessage): Promise<Uint8Array> {
  const promised = Number(request.headers?.['content-length'] ?? 0)
  if (promised > MOST_BYTES_HELD) throw refused(413, TOO_LARGE)
  // Taken in where it stays: sound held twice is held for nothing.
  let held = new Uint8Array(Math.max(HEADER_BYTES, promised || 0))
  let size = 0
  let most = MOST_BYTES_HELD
  let known = false
  const look = (whole: boolean): void => {
    if (known || (!whole && size < HEADER_BYTES)) return
    const header = readWavHeader(held.subarray(0, size))
    if (typeof header === 'string') throw refused(400, header)
    most = Math.min(MOST_BYTES_HELD, mostBytes(header))
    known = true
  }
  await eachPiece(request, (piece) => {
    if (size + piece.length > most) throw refused(413, TOO_LARGE)
    if (size + piece.length > held.length) {
      const larger = new Uint8Array(Math.min(most, Math.max(2 * held.length, size + piece.length)))
      larger.set(held.subarray(0, size))
      held = larger
    }
    held.set(piece, size)
    size += piece.length
    look(false)
  })
  look(true)
  return size === held.length ? held : held.slice(0, size)
}

/** Lets the rest of a body pass, so that the sender is there to read why it was refused. */
export async function letGo(request: IncomingMessage): Promise<void> {
  let size = 0
  await eachPiece(request, (piece) => {
    size += piece.length
    if (size > MOST_BYTES_LET_GO) request.destroy()
  })
}

/** Unlike iterating over the request, this leaves it open when a piece is refused. */
function eachPiece(request: IncomingMessage, take: (piece: Buffer) => void): Promise<void> {
  if (request.readableEnded || request.destroyed) return Promise.resolve()
  return new Promise((resolve, reject) => {
    const done = (error?: unknown): void => {
      request.off('data', onData).off('end', done).off('close', done).off('error', done)
      if (error) reject(error)
      else resolve()
    }
    const onData = (piece: Buffer): void => {
      try {
        take(piece)
      } catch (error) {
        done(error as Error)
      }
    }
    request.on('data', onData).on('end', done).on('close', done).on('error', done)
  })
}
