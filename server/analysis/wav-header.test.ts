import { describe, expect, it } from 'vitest'
import { writeWav } from '../../core/sound/wav'
import { LONGEST_SECONDS, mostBytes, readWavHeader } from './wav-header'

const wav = (rateHz = 44_100): Uint8Array => writeWav([new Float32Array(100), new Float32Array(100)], rateHz)
/** The header with some fields of its format changed. */
function changed(fields: { rateHz?: number; channels?: number; bits?: number }): Uint8Array {
  const bytes = wav()
  const view = new DataView(bytes.buffer)
  if (fields.channels !== undefined) view.setUint16(22, fields.channels, true)
  if (fields.rateHz !== undefined) view.setUint32(24, fields.rateHz, true)
  if (fields.bits !== undefined) view.setUint16(34, fields.bits, true)
  return bytes
}

describe('the header of a WAV file', () => {
  it('says the format, and how much may follow', () => {
    const header = readWavHeader(wav())
    expect(header).toEqual({ rateHz: 44_100, channels: 2, bytesPerFrame: 4 })
    if (typeof header === 'string') throw new Error(header)
    expect(mostBytes(header)).toBeGreaterThan(LONGEST_SECONDS * 44_100 * 4)
    expect(mostBytes(header)).toBeLessThan((LONGEST_SECONDS + 2) * 44_100 * 4)
  })
  it.each([
    ['one hertz', changed({ rateHz: 1 }), /Sample rates from 8000/],
    ['four billion hertz', changed({ rateHz: 0xffffffff }), /Sample rates/],
    ['no channel', changed({ channels: 0 }), /One to eight channels/],
    ['sixty thousand channels', changed({ channels: 60_000 }), /One to eight channels/],
    ['samples of three bits', changed({ bits: 3 }), /Samples of 8, 16, 24 or 32 bits/],
    ['nothing', new Uint8Array(0), /Send a WAV file/],
    [
      'a text',
      new TextEncoder().encode('RIFF but nothing of what should follow, only words'),
      /Send a WAV file/,
    ],
    ['a header cut off', wav().slice(0, 30), /Send a WAV file/],
    ['no format', changed({}).fill(0x20, 12, 16), /Send a WAV file/],
  ])('with %s is refused in words', (_, bytes, words) => expect(readWavHeader(bytes)).toMatch(words))
})
