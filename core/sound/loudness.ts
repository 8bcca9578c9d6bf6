// How loud something is to an ear: mean square after the weighting of ITU-R BS.1770 (a shelf for the head, a
// high pass for the low end), quiet passages left out. In decibels; silence is −∞.

interface Biquad {
  b: readonly [number, number, number]
  a: readonly [number, number]
}

/** A high shelf of 4 dB from 1.7 kHz on. */
function headShelf(sampleRate: number): Biquad {
  const gain = 10 ** (3.999843853973347 / 20)
  const k = Math.tan((Math.PI * 1681.974450955533) / sampleRate)
  const q = 0.7071752369554196
  const root = gain ** 0.4996667741545416
  const a0 = 1 + k / q + k * k
  return {
    b: [
      (gain + (root * k) / q + k * k) / a0,
      (2 * (k * k - gain)) / a0,
      (gain - (root * k) / q + k * k) / a0,
    ],
    a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0],
  }
}
/** A high pass at 38 Hz. */
function lowEnd(sampleRate: number): Biquad {
  const k = Math.tan((Math.PI * 38.13547087602444) / sampleRate)
  const q = 0.5003270373238773
  const a0 = 1 + k / q + k * k
  return { b: [1, -2, 1], a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0] }
}

function filtered(samples: Float32Array, { b, a }: Biquad): Float32Array {
  const out = new Float32Array(samples.length)
  let [x1, x2, y1, y2] = [0, 0, 0, 0]
  for (let i = 0; i < samples.length; i++) {
    const x = samples[i] ?? 0
    const y = b[0] * x + b[1] * x1 + b[2] * x2 - a[0] * y1 - a[1] * y2
    x2 = x1
    x1 = x
    y2 = y1
    y1 = y
    out[i] = y
  }
  return out
}

const BLOCK_SECONDS = 0.4
/** Blocks quieter than this, and those this far below the rest, are pauses. */
const SILENCE_DB = -70
const PAUSE_DB = -10

const decibels = (power: number): number =>
  power > 0 ? 10 * Math.log10(power) - 0.691 : Number.NEGATIVE_INFINITY

/** Loudness of some channels heard together, in decibels below full scale. */
export function loudnessOf(channels: readonly Float32Array[], sampleRate: number): number {
  const weighted = channels.map((channel) =>
    filtered(filtered(channel, headShelf(sampleRate)), lowEnd(sampleRate)),
  )
  const size = Math.round(BLOCK_SECONDS * sampleRate)
  const length = weighted[0]?.length ?? 0
  const powers: number[] = []
  for (let start = 0; start + size <= length; start += size) {
    let power = 0
    for (const channel of weighted)
      for (let i = start; i < start + size; i++) power += (channel[i] ?? 0) ** 2 / size
    powers.push(power)
  }
  const mean = (of: readonly number[]): number => of.reduce((sum, power) => sum + power, 0) / of.length
  const sounding = powers.filter((power) => decibels(power) > SILENCE_DB)
  if (sounding.length === 0) return Number.NEGATIVE_INFINITY
  const floor = decibels(mean(sounding)) + PAUSE_DB
  return decibels(mean(sounding.filter((power) => decibels(power) > floor)))
}

/** Neither is turned up by more than this: a near silent chart stays quiet rather than noisy. */
const MOST_DB = 18

/**
 * The gains at which two sounds of these loudnesses are equally loud, the louder one turned down; 1 and 1
 * when one of them is silent.
 */
export function matchedGains(recordDb: number, chartDb: number): { record: number; chart: number } {
  if (!Number.isFinite(recordDb) || !Number.isFinite(chartDb)) return { record: 1, chart: 1 }
  const off = Math.max(-MOST_DB, Math.min(MOST_DB, recordDb - chartDb))
  const down = 10 ** (-Math.abs(off) / 20)
  return off > 0 ? { record: down, chart: 1 } : { record: 1, chart: down }
}
