import { Readable } from 'node:stream'
import type { IncomingMessage } from 'node:http'
import { beforeAll, describe, expect, it } from 'vitest'
import { writeWav } from '../../core/sound/wav'
import { letGo, wavBody } from './body'

// The server gives this to every route by itself.
beforeAll(() => {
  const made = (answer: { statusCode: number; statusMessage: string }) =>
    Object.assign(new Error(answer.statusMessage), answer)
  Object.assign(globalThis, { createError: made })
})

/** A request whose body comes in pieces. */
function sending(bytes: Uint8Array, piece = 1000): IncomingMessage {
  const pieces = Array.from({ length: Math.ceil(bytes.length / piece) }, (_, index) =>
    Buffer.from(bytes.subarray(index * piece, (index + 1) * piece)),
  )
  return Readable.from(pieces, { objectMode: false }) as unknown as IncomingMessage
}
const tone = (seconds: number, rate = 8000): Uint8Array =>
  writeWav([Float32Array.from({ length: seconds * rate }, (_, i) => Math.sin(i / 9) / 2)], rate)

describe('a recording sent to be listened to', () => {
  it('is taken in whole, however it was cut up', async () => {
    const wav = tone(1)
    for (const piece of [7, 44, 1000, wav.length]) expect(await wavBody(sending(wav, piece))).toEqual(wav)
  })
  it('is refused in words when it is none', async () => {
    await expect(wavBody(sending(new Uint8Array(500)))).rejects.toMatchObject({ statusCode: 400 })
    await expect(wavBody(sending(new Uint8Array(0)))).rejects.toMatchObject({ statusCode: 400 })
  })
  it('is refused while it still comes when more comes than its header can mean', async () => {
    const wav = tone(1)
    const endless = new Uint8Array(wav.length + 40_000_000)
    endless.set(wav)
    // Nine hundred seconds of one channel at this rate are less than what is sent.
    const request = sending(endless, 1_000_000)
    await expect(wavBody(request)).rejects.toMatchObject({ statusCode: 413 })
    expect(request.errored).toBeNull()
  })
  it('is refused at once when its header allows more than is ever held', async () => {
    const wav = tone(1)
    const view = new DataView(wav.buffer)
    view.setUint16(22, 8, true)
    view.setUint32(24, 192_000, true)
    const request = Object.assign(sending(wav), { headers: { 'content-length': '1500000000' } })
    await expect(wavBody(request)).rejects.toMatchObject({ statusCode: 413 })
    expect(request.readableDidRead).toBe(false)
  })
})

describe('the rest of a refused recording', () => {
  it('passes, so that the sender hears why', async () => {
    const request = sending(new Uint8Array(3_000_000))
    await letGo(request)
    expect(request.readableEnded).toBe(true)
  })
  it('is not waited for when the line is cut', async () => {
    const request = sending(new Uint8Array(3_000_000))
    request.destroy()
    await letGo(request)
    expect(request.readableEnded).toBe(false)
  })
})
