// What a WAV header promises, read before the rest is taken in.

export interface WavHeader {
  rateHz: number
  channels: number
  bytesPerFrame: number
}

/** Enough bytes to hold the format of any usual file. */
export const HEADER_BYTES = 4096
const RATES_HZ = { least: 8000, most: 192_000 }
export const LONGEST_SECONDS = 15 * 60

/** The format of a WAV file from its first bytes; a sentence when it is none, or none to be listened to. */
export function readWavHeader(bytes: Uint8Array): WavHeader | string {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const tag = (at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4))
  if (bytes.length < 44 || tag(0) !== 'RIFF' || tag(8) !== 'WAVE') return 'Send a WAV file as the body'
  for (let at = 12; at + 24 <= bytes.length; at += 8 + view.getUint32(at + 4, true)) {
    if (tag(at) !== 'fmt ') continue
    const channels = view.getUint16(at + 10, true)
    const rateHz = view.getUint32(at + 12, true)
    const bits = view.getUint16(at + 22, true)
    if (rateHz < RATES_HZ.least || rateHz > RATES_HZ.most)
      return `Sample rates from ${RATES_HZ.least} to ${RATES_HZ.most} Hz can be listened to in a WAV file`
    if (channels < 1 || channels > 8) return 'One to eight channels can be listened to in a WAV file'
    if (![8, 16, 24, 32].includes(bits)) return 'Samples of 8, 16, 24 or 32 bits can be read from a WAV file'
    return { rateHz, channels, bytesPerFrame: (channels * bits) / 8 }
  }
  return 'Send a WAV file as the body'
}

/** The most bytes a file of this format may have. */
export const mostBytes = ({ rateHz, bytesPerFrame }: WavHeader): number =>
  Math.ceil((LONGEST_SECONDS + 1) * rateHz * bytesPerFrame) + HEADER_BYTES
