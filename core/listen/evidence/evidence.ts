// Evidence on demand for one place of a recording, each a small question with a measured answer that may be
// "cannot tell".
import { hann, type MakeFft } from '../features/spectrum'

export interface Answer<Verdict extends string> {
  verdict: Verdict | 'cannot tell'
  /** What was measured. */ value: number
  unit: string
  why: string
}
interface Place {
  mono: Float32Array
  sampleRate: number
  tuningCents?: number
}

const hzOf = (midi: number, tuningCents = 0): number => 440 * 2 ** ((midi - 69 + tuningCents / 100) / 12)
const slice = ({ mono, sampleRate }: Place, from: number, to: number): Float32Array =>
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
  place: Place,
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

/**
 * Was the note at this time struck with the pick, or slurred? Measures how much energy high above the note
 * appears in the 25 ms of its onset against just before.
 */
export function wasAttacked(place: Place, midi: number, atSeconds: number): Answer<'attacked' | 'slurred'> {
  const before = slice(place, atSeconds - 0.06, atSeconds - 0.015)
  const onset = slice(place, atSeconds - 0.01, atSeconds + 0.03)
  const body = slice(place, atSeconds + 0.03, atSeconds + 0.12)
  if (rms(body) < SILENT * 5 || body.length < 0.04 * place.sampleRate)
    return { verdict: 'cannot tell', value: 0, unit: 'dB', why: 'no note is heard there' }
  const sharp = (samples: Float32Array): number => {
    // Second difference: a cheap high-pass that only an attack excites.
    let sum = 0
    for (let i = 2; i < samples.length; i++) sum += (samples[i]! - 2 * samples[i - 1]! + samples[i - 2]!) ** 2
    return Math.sqrt(sum / Math.max(1, samples.length - 2))
  }
  const smooth = Math.max(sharp(before), sharp(body)) + 1e-9
  const value = 20 * Math.log10(sharp(onset) / smooth)
  const soft = value < 2.5 ? 'slurred' : 'cannot tell'
  const verdict = value > 6 ? 'attacked' : soft
  return {
    verdict,
    value,
    unit: 'dB',
    why: `the onset is ${value.toFixed(1)} dB sharper than what is around it`,
  }
}

/**
 * Is the note muted short? Measures the time in which it falls by 20 dB from its peak, up to
 * `untilSeconds`.
 */
export function isMutedShort(
  place: Place,
  midi: number,
  atSeconds: number,
  untilSeconds: number,
): Answer<'short' | 'rings'> {
  const hop = 0.01
  const width = Math.max(0.03, 3 / hzOf(midi, place.tuningCents))
  const levels: number[] = []
  for (
    let at = atSeconds;
    at + width < Math.min(untilSeconds, place.mono.length / place.sampleRate);
    at += hop
  )
    levels.push(
      10 *
        Math.log10(
          powerAt(slice(place, at, at + width), place.sampleRate, hzOf(midi, place.tuningCents)) +
            powerAt(slice(place, at, at + width), place.sampleRate, 2 * hzOf(midi, place.tuningCents)) +
            1e-14,
        ),
    )
  const peak = levels.slice(0, 12).reduce((best, level, index) => (level > levels[best]! ? index : best), 0)
  if (levels.length < 8 || levels[peak]! < -75)
    return {
      verdict: 'cannot tell',
      value: 0,
      unit: 's',
      why: levels.length < 8 ? 'the next note comes too soon' : 'no such note is heard there',
    }
  const fallen = levels.findIndex((level, index) => index > peak && level < levels[peak]! - 20)
  const observed = (levels.length - peak) * hop
  // Not fallen by the end: extrapolate from what was seen, and only say "rings" when that was long enough
  // to know.
  const slope = (levels[peak]! - levels.at(-1)!) / Math.max(hop, observed)
  const value = fallen === -1 ? 20 / Math.max(1, slope) : (fallen - peak) * hop
  const long = (fallen !== -1 || observed > 0.25) && value > 0.35 ? 'rings' : 'cannot tell'
  const verdict = value < 0.16 ? 'short' : long
  return { verdict, value, unit: 's', why: `it falls by 20 dB in ${value.toFixed(2)} s` }
}

/**
 * The strongest peak between two bins, between bins by a parabola through its logarithms; undefined when
 * faint.
 */
function steadyPeak(magnitudes: Float32Array, low: number, high: number): number | undefined {
  let best = low
  let floor = 0
  for (let bin = low; bin <= high; bin++) {
    floor += magnitudes[bin]! / (high - low + 1)
    if (magnitudes[bin]! > magnitudes[best]!) best = bin
  }
  if (magnitudes[best]! < 3 * floor || magnitudes[best]! < 0.05) return undefined
  const [a, b, c] = [magnitudes[best - 1]!, magnitudes[best]!, magnitudes[best + 1]!].map((value) =>
    Math.log(value + 1e-12),
  ) as [number, number, number]
  return best + (0.5 * (a - c)) / (a - 2 * b + c)
}

type Track = { seconds: number; cents: number }[]

/** The pitch of one partial over a span, in cents from the written pitch. */
function pitchTrack(
  place: Place,
  midi: number,
  span: { start: number; end: number },
  makeFft: MakeFft,
): Track {
  const size = 4096
  const fft = makeFft(size)
  const window = hann(size)
  const frame = new Float32Array(size)
  const magnitudes = new Float32Array(size / 2 + 1)
  const base = hzOf(midi, place.tuningCents)
  // The partial that lies where a quarter tone is more than one bin.
  const lowPartial = base * 2 < 900 ? 2 : 1
  const hertz = base * (base * 3 < 700 ? 3 : lowPartial)
  const binOf = (cents: number): number => (hertz * 2 ** (cents / 1200) * size) / place.sampleRate
  const track: Track = []
  for (let at = span.start; at < span.end; at += 0.02) {
    const centre = Math.round(at * place.sampleRate)
    for (let i = 0; i < size; i++) frame[i] = (place.mono[centre + i - size / 2] ?? 0) * window[i]!
    fft.magnitudes(frame, magnitudes)
    const peak = steadyPeak(magnitudes, Math.floor(binOf(-150)), Math.ceil(binOf(450)))
    if (peak === undefined) continue
    track.push({ seconds: at, cents: 1200 * Math.log2((peak * place.sampleRate) / size / hertz) })
  }
  return track
}

/** The furthest deviation that lasts: the median of five neighbours, so that a misread frame is no bend. */
function furthestSteady(track: Track): number {
  let value = 0
  for (let k = 2; k < track.length - 2; k++) {
    const local = median(track.slice(k - 2, k + 3).map((point) => point.cents))
    if (Math.abs(local) > Math.abs(value)) value = local
  }
  return value
}

/**
 * How far is a note bent? The pitch track in cents from the written pitch; `value` is the furthest steady
 * deviation. Follows the note's fundamental or its octave within ±450 cents.
 */
export function bendOf(
  place: Place,
  midi: number,
  span: { start: number; end: number },
  makeFft: MakeFft,
): Answer<'bent' | 'straight'> & { track: Track } {
  const track = pitchTrack(place, midi, span, makeFft)
  const unit = 'cents'
  if (track.length < 5)
    return { verdict: 'cannot tell', value: 0, unit, why: 'no steady pitch is heard there', track }
  const start = median(track.slice(0, 3).map((point) => point.cents))
  const value = furthestSteady(track)
  const jumps = track
    .slice(1)
    .filter((point, index) => Math.abs(point.cents - track[index]!.cents) > 150).length
  if (jumps > track.length / 4)
    return {
      verdict: 'cannot tell',
      value,
      unit,
      why: 'the pitch jumps about: other notes lie over it',
      track,
    }
  return {
    verdict: Math.abs(value) > 35 ? 'bent' : 'straight',
    value,
    unit,
    why: `from ${Math.round(start)} to ${Math.round(value)} cents off the written pitch`,
    track,
  }
}
const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1]!
