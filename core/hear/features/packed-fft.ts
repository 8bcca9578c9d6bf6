// A spectrum that can be turned back into sound. The FFT is a library (pffft, WebAssembly), handed in.
import type { PffftModule } from './spectrum'

/**
 * Real frames to packed spectra and back: bins 0 and size/2 in the first pair, then real and imaginary part
 * of each bin.
 */
export interface PackedFft {
  size: number
  forward: (frame: Float32Array, packed: Float32Array) => void
  inverse: (packed: Float32Array, frame: Float32Array) => void
}

/** Wraps an instance of the pffft module for one size. */
export function packedFft(module: PffftModule, size: number): PackedFft {
  const setup = module._pffft_new_setup(size, 0)
  const room = (): number => module._pffft_aligned_malloc(size * 4)
  const [input, output, work] = [room(), room(), room()]
  const run = (from: Float32Array, to: Float32Array, direction: 0 | 1): void => {
    module.HEAPF32.set(from, input >> 2)
    module._pffft_transform_ordered(setup, input, output, work, direction)
    to.set(module.HEAPF32.subarray(output >> 2, (output >> 2) + size))
  }
  return {
    size,
    forward: (frame, packed) => run(frame, packed, 0),
    inverse: (packed, frame) => {
      run(packed, frame, 1)
      for (let i = 0; i < size; i++) frame[i] = (frame[i] ?? 0) / size
    },
  }
}
