// Short-time spectra for listening. The FFT is a library (pffft, WebAssembly): the host hands in its
// instance, so the core fetches nothing.

/**
 * What the core needs of an FFT: the magnitudes of a real frame, size a power of two. `out` has size / 2 +
 * 1 entries, or fewer: then only the lowest are computed.
 */
export interface RealFft {
  size: number
  magnitudes: (frame: Float32Array, out: Float32Array) => void
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
    const fft: RealFft = {
      size,
      magnitudes(frame, out) {
        module.HEAPF32.set(frame, input >> 2)
        module._pffft_transform_ordered(setup, input, output, work, 0)
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
    }
    made.set(size, fft)
    return fft
  }
}

/** Hann window of a size. */
export const hann = (size: number): Float32Array =>
  Float32Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size))

/** The samples with so much silence before and after them that a frame may hang over the ends. */
export function padEnds(mono: Float32Array, silence: number): Float32Array {
  const padded = new Float32Array(mono.length + 2 * silence)
  padded.set(mono, silence)
  return padded
}

/**
 * Averages pairs of samples until the rate is at most `highestRate`: a cheap decimation, good enough below
 * a third of the new rate. NaN counts as silence.
 */
export function lowerRate(
  mono: Float32Array,
  sampleRate: number,
  highestRate = 24_000,
): { mono: Float32Array; sampleRate: number } {
  let current = mono
  let rate = sampleRate
  while (rate > highestRate) {
    const half = new Float32Array(current.length >> 1)
    for (let i = 0; i < half.length; i++)
      half[i] = 0.5 * ((current[2 * i]! || 0) + (current[2 * i + 1]! || 0))
    current = half
    rate /= 2
  }
  return { mono: current, sampleRate: rate }
}
