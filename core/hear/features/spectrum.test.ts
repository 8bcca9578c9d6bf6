import { describe, expect, it } from 'vitest'
import { nodeFft } from '../../../node/fft'
import { noise } from '../../../tests/support/tones'
import { hann, takeFrame } from './spectrum'

const makeFft = await nodeFft()
const SIZE = 256

/** The plain way: every sample under the window, then its spectrum. */
function plainly(samples: Float32Array, start: number, bins: number): Float32Array {
  const frame = new Float32Array(SIZE)
  takeFrame(samples, start, hann(SIZE), frame)
  const out = new Float32Array(bins)
  makeFft(SIZE).magnitudes(frame, out)
  return out
}

describe('the spectrum of a frame under a Hann window', () => {
  const random = noise(4)
  const samples = Float32Array.from({ length: 1000 }, (_, i) => random() + Math.sin(i / 3) + 0.5)
  it.each([
    ['inside the recording', 300, SIZE / 2 + 1],
    ['over its beginning', -100, SIZE / 2 + 1],
    ['over its end', 900, SIZE / 2 + 1],
    ['beyond it', 2000, SIZE / 2 + 1],
    ['before it', -600, SIZE / 2 + 1],
    ['as far as the last bin but one', 10, SIZE / 2],
    ['in its lowest bins alone', 10, 20],
  ])('is that of its samples under the window: %s', (_name, start, bins) => {
    const out = new Float32Array(bins)
    makeFft(SIZE).hannMagnitudes(samples, start, out)
    const wanted = plainly(samples, start, bins)
    const furthest = Math.max(...out.map((value, bin) => Math.abs(value - (wanted[bin] ?? 0))))
    expect(furthest).toBeLessThan(1e-4)
  })
})
