// Short-time spectra for listening. The FFT is a library (pffft, WebAssembly): the host hands in its
// instance, so the core fetches nothing.

import { sum as sumOf } from 'd3-array'

/**
 * What the core needs of an FFT: the magnitudes of a real frame, size a power of two. `out` has size / 2 +
 * 1 entries, or fewer: then only the lowest are computed.
 */
export interface RealFft {
  size: number
  /** Of a frame as it stands. */
  magnitudes: (frame: Float32Array, out: Float32Array) => void
  /** Of the samples from `start`, under a Hann window; silence beyond their ends. */
  hannMagnitudes: (samples: Float32Array, start: number, out: Float32Array) => void
}
export type MakeFft = (size: number) => RealFft

/** The part of the library's module that is used. */
export interface PffftModule {
  HEAPF32: Float32Array
  _pffft_new_setup: (size: number, transform: number) => number
  _pffft_aligned_malloc: (bytes: number) => number
  _pffft_transform_ordered: (
    setup: number,
    input: number,
    output: number,
    work: number,
    direction: number,
  ) => void
}

/**
 * `out` = the magnitudes of a packed spectrum (bins 0 and size / 2 in the first pair, then real and imaginary
 * parts) as if its frame had been under a Hann window: in the spectrum that is half of each bin less a
 * quarter of its neighbours, which is quicker than every sample where few bins are asked for.
 */
function windowedMagnitudes(packed: Float32Array, out: Float32Array): void {
  const half = packed.length / 2
  const highest = packed[1]!
  // The lowest bin has no imaginary part; the highest shares its place.
  packed[1] = 0
  out[0] = 0.5 * Math.abs(packed[0]! - packed[2]!)
  const end = Math.min(half - 1, out.length)
  let [lastRe, lastIm, re, im] = [packed[0]!, 0, packed[2]!, packed[3]!]
  for (let bin = 1, next = 4; bin < end; bin++, next += 2) {
    const [nextRe, nextIm] = [packed[next]!, packed[next + 1]!]
    const a = 0.5 * re - 0.25 * (lastRe + nextRe)
    const b = 0.5 * im - 0.25 * (lastIm + nextIm)
    out[bin] = Math.sqrt(a * a + b * b)
    lastRe = re
    lastIm = im
    re = nextRe
    im = nextIm
  }
  if (out.length < half) return
  out[half - 1] = Math.hypot(0.5 * re - 0.25 * (lastRe + highest), 0.5 * im - 0.25 * lastIm)
  if (out.length > half) out[half] = 0.5 * Math.abs(highest - re)
}

/** Wraps an instance of the pffft module. */
export function pffft(module: PffftModule): MakeFft {
  const made = new Map<number, RealFft>()
  return (size) => {
    const known = made.get(size)
    if (known) return known
    const setup = module._pffft_new_setup(size, 0)
    const [input, output, work] = [0, 0, 0].map(() => module._pffft_aligned_malloc(size * 4)) as [
      number,
      number,
      number,
    ]
    const transform = (): void => module._pffft_transform_ordered(setup, input, output, work, 0)
    const fft: RealFft = {
      size,
      magnitudes(frame, out) {
        module.HEAPF32.set(frame, input >> 2)
        transform()
        const heap = module.HEAPF32
        const base = output >> 2
        // The library packs the real bins 0 and size/2 into the first pair.
        out[0] = Math.abs(heap[base]!)
        if (out.length > size / 2) out[size / 2] = Math.abs(heap[base + 1]!)
        const end = Math.min(size / 2, out.length)
        for (let bin = 1; bin < end; bin++) {
          const re = heap[base + 2 * bin]!
          const im = heap[base + 2 * bin + 1]!
          out[bin] = Math.sqrt(re * re + im * im)
        }
      },
      hannMagnitudes(samples, start, out) {
        const [first, last] = [Math.max(0, start), Math.min(samples.length, start + size)]
        const frame = module.HEAPF32.subarray(input >> 2, (input >> 2) + size)
        if (last - first < size) frame.fill(0)
        if (last > first) frame.set(samples.subarray(first, last), first - start)
        transform()
        windowedMagnitudes(module.HEAPF32.subarray(output >> 2, (output >> 2) + size), out)
      },
    }
    made.set(size, fft)
    return fft
  }
}

/** The power of two nearest to so many seconds of samples. */
export const frameSize = (seconds: number, sampleRate: number): number =>
  2 ** Math.round(Math.log2(seconds * sampleRate))

/** Hann window of a size. */
export const hann = (size: number): Float32Array =>
  Float32Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size))

/** `out` = a frame of samples from `start`, windowed; silence beyond the ends. */
export function takeFrame(
  samples: Float32Array,
  start: number,
  window: Float32Array,
  out: Float32Array,
): void {
  const size = window.length
  if (start >= 0 && start + size <= samples.length) {
    for (let i = 0; i < size; i++) out[i] = samples[start + i]! * window[i]!
    return
  }
  for (let i = 0; i < size; i++) {
    const place = start + i
    out[i] = place >= 0 && place < samples.length ? samples[place]! * window[i]! : 0
  }
}

/** Listening is quick at or under this rate. */
const HIGHEST_RATE = 24_000
const ROOM = 1 << 20

/** `out` = the means of each so many samples. Two and two is what nearly every recording needs. */
function averageGroups(samples: Float32Array, factor: number, out: Float32Array): void {
  const groups = samples.length / factor
  if (factor === 2) {
    for (let group = 0; group < groups; group++)
      out[group] = (samples[2 * group]! + samples[2 * group + 1]!) / 2
    return
  }
  for (let group = 0, at = 0; group < groups; group++) {
    let sum = 0
    for (let k = 0; k < factor; k++) sum += samples[at++]!
    out[group] = sum / factor
  }
}

export interface Lowering {
  sampleRate: number
  take: (samples: Float32Array) => void
  samples: () => Float32Array
}
/**
 * Averages two, four … samples until the rate is at most HIGHEST_RATE: a cheap decimation, good enough below
 * a third of the new rate. Where it is known how many will come, they are kept in one piece.
 */
export function lowering(sampleRate: number, expected?: number): Lowering {
  let factor = 1
  while (sampleRate / factor > HIGHEST_RATE) factor *= 2
  const blocks: Float32Array[] = []
  let block = new Float32Array(expected === undefined ? ROOM : Math.ceil(expected / factor))
  let [length, sum, summed] = [0, 0, 0]
  const room = (): void => {
    blocks.push(block)
    block = new Float32Array(ROOM)
    length = 0
  }
  const add = (value: number): void => {
    sum += value
    if (++summed < factor) return
    if (length === block.length) room()
    block[length++] = sum / factor
    sum = 0
    summed = 0
  }
  return {
    sampleRate: sampleRate / factor,
    take(samples) {
      let at = 0
      // What is left of the group begun in the piece before, then whole groups, then what is begun here.
      for (; summed > 0 && at < samples.length; at++) add(samples[at]!)
      while (at + factor <= samples.length) {
        if (length === block.length) room()
        const groups = Math.min(block.length - length, Math.floor((samples.length - at) / factor))
        averageGroups(samples.subarray(at, at + groups * factor), factor, block.subarray(length))
        length += groups
        at += groups * factor
      }
      for (; at < samples.length; at++) add(samples[at]!)
    },
    samples() {
      const last = block.subarray(0, length)
      if (!blocks.length) return last
      const all = new Float32Array(sumOf(blocks, ({ length }) => length) + length)
      let at = 0
      for (const part of [...blocks, last]) {
        all.set(part, at)
        at += part.length
      }
      return all
    },
  }
}
