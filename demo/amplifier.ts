// A guitar through an amplifier and its loudspeaker: the signal is bent until it is nearly square, which adds
// what two notes make together, and the loudspeaker keeps what lies between 80 Hz and 5 kHz.

/** Coefficients of a second-order section, a0 = 1. */
interface Section {
  b: readonly [number, number, number]
  a: readonly [number, number]
}
interface Shape {
  hertz: number
  q: number
  decibels?: number
}
/** Low-pass, high-pass and peak sections (Bristow-Johnson, audio equaliser cookbook, 1994). */
function section(kind: 'low' | 'high' | 'peak', rate: number, shape: Shape): Section {
  const { hertz, q, decibels = 0 } = shape
  const w = (2 * Math.PI * hertz) / rate
  const alpha = Math.sin(w) / (2 * q)
  const cos = Math.cos(w)
  if (kind === 'peak') {
    const a = 10 ** (decibels / 40)
    const a0 = 1 + alpha / a
    return {
      b: [(1 + alpha * a) / a0, (-2 * cos) / a0, (1 - alpha * a) / a0],
      a: [(-2 * cos) / a0, (1 - alpha / a) / a0],
    }
  }
  const a0 = 1 + alpha
  const side = kind === 'low' ? 1 - cos : 1 + cos
  return {
    b: [side / 2 / a0, ((kind === 'low' ? 1 : -1) * side) / a0, side / 2 / a0],
    a: [(-2 * cos) / a0, (1 - alpha) / a0],
  }
}
function filtered(input: Float32Array, { b, a }: Section): Float32Array {
  let [x1, x2, y1, y2] = [0, 0, 0, 0]
  return input.map((x) => {
    const y = b[0] * x + b[1] * x1 + b[2] * x2 - a[0] * y1 - a[1] * y2
    ;[x2, x1, y2, y1] = [x1, x, y1, y]
    return y
  })
}

const OVERSAMPLING = 4
/** Bends each sample; between two of them three more are bent, so that less folds back from above. */
function bent(input: Float32Array, drive: number): Float32Array {
  let before = 0
  return input.map((value) => {
    let sum = 0
    for (let k = 1; k <= OVERSAMPLING; k++) {
      const between = before + ((value - before) * k) / OVERSAMPLING
      // A little off the middle: even overtones too, as valves make them.
      sum += Math.tanh(drive * between + 0.15) - Math.tanh(0.15)
    }
    before = value
    return sum / OVERSAMPLING
  })
}
const rmsOf = (signal: Float32Array): number =>
  Math.sqrt(signal.reduce((sum, value) => sum + value * value, 0) / Math.max(1, signal.length)) + 1e-9

/** As loud as it came in. drive: 5 rough, 60 a wall. */
export function amplified(input: Float32Array, drive: number, sampleRate: number): Float32Array {
  const tight = filtered(input, section('high', sampleRate, { hertz: 90, q: 0.7 }))
  const shaped = bent(tight, drive / (4 * rmsOf(tight)))
  const speaker = [
    section('high', sampleRate, { hertz: 75, q: 0.8 }),
    section('peak', sampleRate, { hertz: 110, q: 1, decibels: 4 }),
    section('peak', sampleRate, { hertz: 2600, q: 1.2, decibels: 5 }),
    section('low', sampleRate, { hertz: 4800, q: 0.8 }),
    section('low', sampleRate, { hertz: 5200, q: 0.7 }),
  ].reduce(filtered, shaped)
  const gain = rmsOf(input) / rmsOf(speaker)
  return speaker.map((value) => value * gain)
}
