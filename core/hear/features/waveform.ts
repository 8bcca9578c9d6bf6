// The outline of a recording for drawing: loudest sample of each short slice, whole band and low band, as
// bytes.

const OUTLINE_RATE = 100

export interface Outline {
  ratePerSecond: number
  peaks: Uint8Array
  lows: Uint8Array
}

/**
 * Peaks per slice of 1/100 s of a mono mix, scaled to the recording's own maximum; the low band (below
 * about 180 Hz) beside it.
 */
export function outlineOf(mono: Float32Array, sampleRate: number): Outline {
  const count = Math.ceil((mono.length / sampleRate) * OUTLINE_RATE)
  const peaks = new Float32Array(count)
  const lows = new Float32Array(count)
  const pole = Math.exp((-2 * Math.PI * 180) / sampleRate)
  let low1 = 0
  let low2 = 0
  for (let i = 0; i < mono.length; i++) {
    const value = mono[i]! || 0
    low1 = value + pole * (low1 - value)
    low2 = low1 + pole * (low2 - low1)
    const slice = Math.min(count - 1, Math.floor((i / sampleRate) * OUTLINE_RATE))
    if (Math.abs(value) > peaks[slice]!) peaks[slice] = Math.abs(value)
    if (Math.abs(low2) > lows[slice]!) lows[slice] = Math.abs(low2)
  }
  const top = peaks.reduce((max, value) => Math.max(max, value), 1e-6)
  const bytes = (values: Float32Array): Uint8Array =>
    Uint8Array.from(values, (value) => Math.round((Math.min(value, top) / top) * 255))
  return { ratePerSecond: OUTLINE_RATE, peaks: bytes(peaks), lows: bytes(lows) }
}
