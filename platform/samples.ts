// Work over every sample of a recording, in slices, so that the page goes on painting between them.
import { pause } from './pause'

/** Frames at a time: some milliseconds. */
const SLICE = 400_000
/** Louder than any sound a file means: such a sample is damage. */
const LOUDEST = 8

async function inSlices(frames: number, work: (from: number, to: number) => void): Promise<void> {
  for (let from = 0; from < frames; from += SLICE) {
    work(from, Math.min(frames, from + SLICE))
    if (from + SLICE < frames) await pause()
  }
}

/** What mending found. */
export interface Mended {
  /** Share of the samples that were no sound. */
  brokenShare: number
  /** The loudest sample left, 0 to `LOUDEST`. */
  peak: number
}

/**
 * Silences samples that are no sound (not a number, infinite, absurdly large), in place: one of them played
 * would silence everything after it.
 */
export async function mendSamples(channels: readonly Float32Array[]): Promise<Mended> {
  let [broken, all, peak] = [0, 0, 0]
  for (const channel of channels) {
    all += channel.length
    await inSlices(channel.length, (from, to) => {
      for (let frame = from; frame < to; frame++) {
        const size = Math.abs(channel[frame]!)
        if (!(size <= LOUDEST)) {
          channel[frame] = 0
          broken++
        } else if (size > peak) peak = size
      }
    })
  }
  return { brokenShare: all ? broken / all : 0, peak }
}

/** More than two channels: fronts keep their side, everything else is heard on both. */
export async function foldDown(channels: readonly Float32Array[]): Promise<Float32Array[]> {
  const [left, right, ...others] = channels as [Float32Array, Float32Array, ...Float32Array[]]
  const folded = [new Float32Array(left.length), new Float32Array(left.length)] as const
  await inSlices(left.length, (from, to) => {
    for (let frame = from; frame < to; frame++) {
      let around = 0
      for (const channel of others) around += channel[frame]!
      folded[0][frame] = (left[frame]! + 0.7 * around) / 1.7
      folded[1][frame] = (right[frame]! + 0.7 * around) / 1.7
    }
  })
  return [...folded]
}

/** Memory that a page and its workers read together; not every page may have it. */
const sharedSamples = (frames: number): Float32Array =>
  globalThis.crossOriginIsolated
    ? new Float32Array(new SharedArrayBuffer(frames * Float32Array.BYTES_PER_ELEMENT))
    : new Float32Array(frames)

/** A copy of each channel that can be lent without being copied again, where the page may share memory. */
export const lendable = (channels: readonly Float32Array[]): Promise<Float32Array[]> =>
  copied(channels, sharedSamples)

export interface HandedOver {
  channels: Float32Array[]
  transfer: Transferable[]
}

/** The channels as a message can take them: shared as they are, else a copy that is given away. */
export async function handedOver(channels: readonly Float32Array[]): Promise<HandedOver> {
  if (globalThis.crossOriginIsolated && channels.every(({ buffer }) => buffer instanceof SharedArrayBuffer))
    return { channels: [...channels], transfer: [] }
  const own = await copied(channels)
  return { channels: own, transfer: own.map(({ buffer }) => buffer as ArrayBuffer) }
}

/** A copy of each channel, made piece by piece. */
export async function copied(
  channels: readonly Float32Array[],
  allocate = (frames: number): Float32Array => new Float32Array(frames),
): Promise<Float32Array[]> {
  const copies = channels.map((channel) => allocate(channel.length))
  await inSlices(channels[0]?.length ?? 0, (from, to) => {
    channels.forEach((channel, index) => copies[index]?.set(channel.subarray(from, to), from))
  })
  return copies
}

/** One channel for analysis. */
export async function monoOf(channels: readonly Float32Array[]): Promise<Float32Array> {
  if (channels.length === 1) return channels[0]!.slice()
  const [left, right] = channels as [Float32Array, Float32Array]
  const mono = new Float32Array(left.length)
  await inSlices(mono.length, (from, to) => {
    for (let frame = from; frame < to; frame++) mono[frame] = 0.5 * (left[frame]! + right[frame]!)
  })
  return mono
}
