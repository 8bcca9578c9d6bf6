// Evidence on demand for one place of a recording, each a small question with a measured answer that may be
// "cannot tell".
import { frameSize, type MakeFft } from '../features/spectrum'

export interface Answer<Verdict extends string> {
  verdict: Verdict | 'cannot tell'
  /** What was measured. */ value: number
  unit: string
  why: string
}
/** A piece of a recording, one channel of it. */
export interface Listened {
  mono: Float32Array
  sampleRate: number
  tuningCents?: number
}

/** Of a MIDI number, on a recording that lies so many cents off. */
export const hzOf = (midi: number, tuningCents = 0): number =>
  440 * 2 ** ((midi - 69 + tuningCents / 100) / 12)
const slice = ({ mono, sampleRate }: Listened, from: number, to: number): Float32Array =>
  mono.subarray(
    Math.max(0, Math.round(from * sampleRate)),
    Math.max(0, Math.min(mono.length, Math.round(to * sampleRate))),
  )
const rms = (samples: Float32Array): number => {
  let sum = 0
  for (const value of samples) sum += value * value
  return Math.sqrt(sum / Math.max(1, samples.length))
}
const SILENT = 1e-4

/** Power of a recording at a frequency over a stretch, windowed (Goertzel 1958). */
function powerAt(samples: Float32Array, sampleRate: number, hz: number): number {
  const w = (2 * Math.PI * hz) / sampleRate
  const c = 2 * Math.cos(w)
  let a = 0
  let b = 0
  const n = samples.length
  for (let i = 0; i < n; i++) {
    const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / n)
    const next = samples[i]! * window + c * a - b
    b = a
    a = next
  }
  return (a * a + b * b - c * a * b) / Math.max(1, n * n)
}
/**
 * Power of a note: its first partials, each against what lies a quarter tone to either side, so that noise
 * counts for nothing.
 */
function notePower(samples: Float32Array, sampleRate: number, hz: number): number {
  let sum = 0
  for (let partial = 1; partial <= 4 && hz * partial < sampleRate / 2.2; partial++) {
    const beside = Math.max(
      powerAt(samples, sampleRate, hz * partial * 2 ** (-0.5 / 12)),
      powerAt(samples, sampleRate, hz * partial * 2 ** (0.5 / 12)),
    )
    sum += Math.max(0, powerAt(samples, sampleRate, hz * partial) - beside) / partial
  }
  return sum
}

/**
 * Is this pitch sounding in the stretch, and how strongly against the other eleven pitch classes around it?
 * `value` is its share of the strongest, 0–1.
 */
export function isPitchSounding(
  place: Listened,
  midi: number,
  span: { start: number; end: number },
): Answer<'sounding' | 'not heard'> {
  const samples = slice(place, span.start, span.end)
  const seconds = samples.length / place.sampleRate
  // A semitone is told from its neighbours once the stretch holds enough periods.
  const needed = 2.2 / (hzOf(midi + 1) - hzOf(midi))
  if (rms(samples) < SILENT || seconds < needed)
    return {
      verdict: 'cannot tell',
      value: 0,
      unit: 'of the strongest',
      why:
        rms(samples) < SILENT
          ? 'nothing sounds there'
          : `too short: ${Math.round(needed * 1000)} ms are needed for so low a note`,
    }
  const powers = Array.from({ length: 12 }, (_, step) =>
    Math.sqrt(notePower(samples, place.sampleRate, hzOf(midi - 5 + step, place.tuningCents))),
  )
  const own = powers[5]!
  const strongest = Math.max(...powers)
  const value = strongest > 0 ? own / strongest : 0
  // The neighbours a semitone away leak least: a real note stands out from them.
  const stands = own > 1.6 * Math.max(powers[4]!, powers[6]!)
  const absent = value < 0.12 ? 'not heard' : 'cannot tell'
  const verdict = value > 0.3 && stands ? 'sounding' : absent
  return {
    verdict,
    value,
    unit: 'of the strongest',
    why: `${Math.round(value * 100)} % of the strongest pitch within five semitones`,
  }
}

/** Of a pick: above the notes themselves, where only its scrape is. */
const PICK_LOW_HZ = 1500
const PICK_HIGH_HZ = 7000
const PICK_SECONDS = 0.023
/** How much more the spectrum grows at a pick than around it. */
const PICKED = 3.3

/**
 * Was the note at this time struck with the pick? How much the spectrum above the notes grows around its
 * onset, a logarithm over bins, over how much it grows around it. Most guitar sounds hide their pick: a
 * beginning without one may be a slur or not, and that cannot be told.
 */
export function wasAttacked(place: Listened, atSeconds: number, makeFft: MakeFft): Answer<'attacked'> {
  const unit = 'growth'
  const body = slice(place, atSeconds + 0.03, atSeconds + 0.12)
  if (rms(body) < SILENT * 5 || body.length < 0.04 * place.sampleRate)
    return { verdict: 'cannot tell', value: 0, unit, why: 'no note is heard there' }
  const growth = growthMeter(place, makeFft)
  const most = (from: number, to: number): number => {
    let top = 0
    for (let at = from; at <= to; at += 0.004) top = Math.max(top, growth(atSeconds + at))
    return top
  }
  const value = most(-0.01, 0.035) - Math.max(most(-0.09, -0.03), most(0.06, 0.12))
  return value > PICKED
    ? { verdict: 'attacked', value, unit, why: 'a pick is heard at its beginning' }
    : {
        verdict: 'cannot tell',
        value,
        unit,
        why: 'no pick stands out at its beginning, which may be the sound',
      }
}

/** How much the spectrum above the notes grows at a moment, over the twelve milliseconds before. */
function growthMeter({ mono, sampleRate }: Listened, makeFft: MakeFft): (at: number) => number {
  const size = frameSize(PICK_SECONDS, sampleRate)
  const fft = makeFft(size)
  const [now, before] = [new Float32Array(size / 2 + 1), new Float32Array(size / 2 + 1)]
  const [low, high] = [PICK_LOW_HZ, PICK_HIGH_HZ].map((hz) => Math.round((hz * size) / sampleRate))
  const look = (at: number, out: Float32Array): void => {
    fft.hannMagnitudes(mono, Math.round(at * sampleRate) - size / 2, out)
  }
  return (at) => {
    look(at, now)
    look(at - 0.012, before)
    let sum = 0
    for (let bin = low!; bin < high!; bin++)
      sum += Math.max(0, Math.log((now[bin]! + 1e-4) / (before[bin]! + 1e-4)))
    return sum / (high! - low!)
  }
}
