// A request body taken in piece by piece: what is too large is refused while it still comes.
import type { IncomingMessage } from 'node:http'
import { HEADER_BYTES, mostBytes, readWavHeader } from './wav-header'

/**
 * What a sender who was refused may still send, unheld, before the line is cut: long enough that a
 * recording of the size allowed gets its answer instead of a broken connection.
 */
const MOST_BYTES_LET_GO = 512 * 1024 * 1024

const refused = (statusCode: number, statusMessage: string) => createError({ statusCode, statusMessage })

/** The bytes of a WAV file sent as the body. Throws an answer in words for anything else. */
export async function wavBody(request: IncomingMessage): Promise<Uint8Array> {
  const pieces: Buffer[] = []
  let size = 0
  let most = Number.POSITIVE_INFINITY
  let known = false
  const look = (whole: boolean): void => {
    if (known || (!whole && size < HEADER_BYTES)) return
    const header = readWavHeader(new Uint8Array(Buffer.concat(pieces)))
    if (typeof header === 'string') throw refused(400, header)
    most = mostBytes(header)
    known = true
  }
  await eachPiece(request, (piece) => {
    pieces.push(piece)
    size += piece.length
    look(false)
    if (size > most) throw refused(413, 'At most fifteen minutes of sound')
  })
  look(true)
  return new Uint8Array(Buffer.concat(pieces))
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
