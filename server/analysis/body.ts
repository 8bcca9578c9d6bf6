// A request body taken in piece by piece: what is too large is refused while it still comes.
import type { H3Event } from 'h3'
import { HEADER_BYTES, mostBytes, readWavHeader } from './wav-header'

const refused = (statusCode: number, statusMessage: string) => createError({ statusCode, statusMessage })

/** The bytes of a WAV file sent as the body. Throws an answer in words for anything else. */
export async function wavBody(event: H3Event): Promise<Uint8Array> {
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
  for await (const piece of event.node.req) {
    pieces.push(piece as Buffer)
    size += (piece as Buffer).length
    look(false)
    if (size > most) throw refused(413, 'At most fifteen minutes of sound')
  }
  look(true)
  return new Uint8Array(Buffer.concat(pieces))
}
