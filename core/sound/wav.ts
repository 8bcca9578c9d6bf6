// WAV bytes from float channels: 16-bit PCM, little endian.

/** Channels of equal length, values clipped to ±1. */
export function writeWav(channels: readonly Float32Array[], sampleRate: number): Uint8Array {
  const frames = channels[0]?.length ?? 0
  const bytes = new Uint8Array(44 + frames * channels.length * 2)
  const view = new DataView(bytes.buffer)
  const text = (at: number, value: string): void => {
    for (let i = 0; i < value.length; i++) bytes[at + i] = value.charCodeAt(i)
  }
  text(0, 'RIFF')
  view.setUint32(4, bytes.length - 8, true)
  text(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, channels.length, true)
  view.setUint32(24, sampleRate, true)
  view.setUint32(28, sampleRate * channels.length * 2, true)
  view.setUint16(32, channels.length * 2, true)
  view.setUint16(34, 16, true)
  text(36, 'data')
  view.setUint32(40, bytes.length - 44, true)
  let at = 44
  for (let frame = 0; frame < frames; frame++)
    for (const channel of channels) {
      view.setInt16(at, Math.round(Math.max(-1, Math.min(1, channel[frame]!)) * 32767), true)
      at += 2
    }
  return bytes
}

type SampleKind = 1 | 2 | 3 | 4 | 'float'

/** Reads one sample, ±1, from its place among the bytes: by its width in bytes, or as a 32-bit float. */
function sampleReader(bytes: Uint8Array, kind: SampleKind): (place: number) => number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const readers: Record<SampleKind, (place: number) => number> = {
    1: (place) => bytes[place]! / 128 - 1,
    2: (place) => view.getInt16(place, true) / 32_768,
    3: (place) => (view.getInt16(place + 1, true) * 256 + bytes[place]!) / 8_388_608,
    4: (place) => view.getInt32(place, true) / 2_147_483_648,
    float: (place) => view.getFloat32(place, true),
  }
  return readers[kind]
}

/** Where the samples of a WAV file lie, and how. */
export interface WavLayout {
  channels: number
  sampleRate: number
  kind: SampleKind
  bytesPerFrame: number
  dataAt: number
  frames: number
}

/**
 * The layout of PCM WAV of 8, 16, 24 or 32 bits or 32-bit float, from the head of a file of so many bytes;
 * undefined when it is none, or when its samples begin beyond the head.
 */
export function wavLayout(head: Uint8Array, fileBytes: number): WavLayout | undefined {
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength)
  const tag = (at: number): string => String.fromCharCode(...head.subarray(at, at + 4))
  if (head.length < 44 || tag(0) !== 'RIFF' || tag(8) !== 'WAVE') return undefined
  let format = { code: 1, channels: 1, rate: 44_100, bits: 16 }
  for (let at = 12; at + 8 <= head.length;) {
    const size = view.getUint32(at + 4, true)
    if (tag(at) === 'fmt ')
      format = {
        code: view.getUint16(at + 8, true),
        channels: view.getUint16(at + 10, true),
        rate: view.getUint32(at + 12, true),
        bits: view.getUint16(at + 22, true),
      }
    if (tag(at) === 'data') {
      const width = format.bits / 8
      if (![1, 2, 3, 4].includes(width) || format.channels < 1) return undefined
      const bytesPerFrame = width * format.channels
      return {
        channels: format.channels,
        sampleRate: format.rate,
        kind: width === 4 && isFloat(format.code, view, at) ? 'float' : (width as SampleKind),
        bytesPerFrame,
        dataAt: at + 8,
        frames: Math.floor(Math.min(size, fileBytes - at - 8) / bytesPerFrame),
      }
    }
    at += 8 + size + (size & 1)
  }
  return undefined
}

/** The whole frames among these bytes, which begin with one, channel by channel. */
function wavSamples(bytes: Uint8Array, { channels, kind, bytesPerFrame }: WavLayout): Float32Array[] {
  const read = sampleReader(bytes, kind)
  const frames = Math.floor(bytes.length / bytesPerFrame)
  const width = bytesPerFrame / channels
  return Array.from({ length: channels }, (_, channel) => {
    const samples = new Float32Array(frames)
    for (let frame = 0; frame < frames; frame++)
      samples[frame] = read(frame * bytesPerFrame + channel * width)
    return samples
  })
}

/**
 * Reads a whole WAV file, channel by channel; undefined when it is none. For scripts: the page decodes with
 * the browser.
 */
export function readWav(bytes: Uint8Array): { channels: Float32Array[]; sampleRate: number } | undefined {
  const layout = wavLayout(bytes, bytes.length)
  if (!layout) return undefined
  const { dataAt, frames, bytesPerFrame, sampleRate } = layout
  const data = bytes.subarray(dataAt, dataAt + frames * bytesPerFrame)
  return { channels: wavSamples(data, layout), sampleRate }
}

const PIECE_FRAMES = 1 << 17
/** The samples of a WAV file piece by piece; `read` gives bytes from a place in it, `length` of them. */
export function* wavPieces(
  layout: WavLayout,
  read: (at: number, length: number) => Uint8Array,
): Iterable<Float32Array[]> {
  const { dataAt, frames, bytesPerFrame } = layout
  for (let frame = 0; frame < frames; frame += PIECE_FRAMES) {
    const count = Math.min(PIECE_FRAMES, frames - frame)
    yield wavSamples(read(dataAt + frame * bytesPerFrame, count * bytesPerFrame), layout)
  }
}

const FLOAT = 3
const EXTENSIBLE = 0xfffe
/**
 * Are 32-bit samples floats? In the extensible format the answer stands in the chunk's sub-format, 24 bytes
 * into it (the "fmt " chunk is first in practice).
 */
const isFloat = (code: number, view: DataView, dataAt: number): boolean =>
  code === FLOAT || (code === EXTENSIBLE && dataAt > 46 && view.getUint16(44, true) === FLOAT)
