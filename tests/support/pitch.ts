// Measuring sound in tests: level, onset, and pitch by the normalised difference function (de Cheveigné and
// Kawahara, 2002), refined by parabola.

/** Frequency in Hz around `atSeconds`; undefined when there is no clear period. */
export function measurePitch(
  audio: Float32Array,
  sampleRate: number,
  atSeconds: number,
  options: { lowHz?: number; highHz?: number; windowSeconds?: number } = {},
): number | undefined {
  const { lowHz = 35, highHz = 1500, windowSeconds = 0.08 } = options
  const start = Math.round(atSeconds * sampleRate)
  const window = Math.round(windowSeconds * sampleRate)
  const longest = Math.ceil(sampleRate / lowHz)
  const shortest = Math.floor(sampleRate / highHz)
  const difference = new Float64Array(longest + 2)
  let sum = 0
  const normal = new Float64Array(longest + 2).fill(1)
  for (let lag = 1; lag <= longest + 1; lag++) {
    let d = 0
    for (let i = 0; i < window; i++) {
      const delta = (audio[start + i] ?? 0) - (audio[start + i + lag] ?? 0)
      d += delta * delta
    }
    difference[lag] = d
    sum += d
    normal[lag] = sum > 0 ? (d * lag) / sum : 1
  }
  for (let lag = shortest; lag <= longest; lag++) {
    if (normal[lag]! > 0.15 || normal[lag + 1]! < normal[lag]!) continue
    const [a, b, c] = [normal[lag - 1]!, normal[lag]!, normal[lag + 1]!]
    return sampleRate / (lag + (a - c) / (2 * (a - 2 * b + c)))
  }
  return undefined
}

export const centsBetween = (hz: number, midi: number): number =>
  1200 * Math.log2(hz / (440 * 2 ** ((midi - 69) / 12)))

export function level(
  audio: Float32Array,
  sampleRate: number,
  fromSeconds: number,
  toSeconds: number,
): number {
  const slice = audio.subarray(Math.round(fromSeconds * sampleRate), Math.round(toSeconds * sampleRate))
  return Math.sqrt(slice.reduce((sum, value) => sum + value * value, 0) / Math.max(1, slice.length))
}

/** First time the sound exceeds a share of its peak. */
export function firstOnset(audio: Float32Array, sampleRate: number, share = 0.05): number {
  const peak = audio.reduce((max, value) => Math.max(max, Math.abs(value)), 0)
  return audio.findIndex((value) => Math.abs(value) > peak * share) / sampleRate
}
