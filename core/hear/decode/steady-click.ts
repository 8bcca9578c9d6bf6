// Most records are played to a click: their tempo is exactly steady from end to end, over breaks and
// drumless stretches too. All attacks are folded over each candidate period over the whole length; a period
// whose fold stays sharp, with the same phase in every third of the recording, is the click. It settles
// tempo and grid to a hundredth of a percent; which multiple of it is the beat is decided elsewhere.
import { greatest, sum as sumOf } from 'd3-array'
import { ATTACK_RATE } from '../features/attacks'
import type { MakeFft } from '../features/spectrum'
import { checkpoint, type JobContext } from '../job'

const BINS = 48
/** The coarse search halves both: it only has to come near. */
const COARSE = 2
/** Periods searched, seconds: from a sixteenth of a fast song to two beats of a slow one. */
const SHORTEST = 0.25
const LONGEST = 1.25
/** The coarse search looks at stretches of this length, each for itself: they need not agree in phase. */
const STRETCH_SECONDS = 30
/** So many coarse candidates are looked at over the whole length. */
const CANDIDATES = 12

interface Folded {
  /** Mean value of each bin. */
  levels: Float64Array
  counts: Float64Array
}
/** What is folded: so many values a second, into so many bins. */
interface Curve {
  values: Float32Array
  rate: number
  bins: number
}
function fold({ values, rate, bins: size }: Curve, period: number, from: number, to: number): Folded {
  const bins = new Float64Array(size)
  const counts = new Float64Array(size)
  const step = size / (period * rate)
  let place = (from * step) % size
  for (let t = from; t < to; t++) {
    const bin = place | 0
    bins[bin]! += values[t]!
    counts[bin]!++
    place += step
    if (place >= size) place -= size
  }
  // A period in a simple ratio to the rate visits its bins unevenly: each is levelled by its own count.
  for (let bin = 0; bin < size; bin++) bins[bin]! /= Math.max(1, counts[bin]!)
  return { levels: bins, counts }
}

interface Moments {
  mean: number
  variance: number
}
function momentsOf(values: Float32Array, from: number, to: number): Moments {
  let [sum, squares] = [0, 0]
  for (let t = from; t < to; t++) {
    sum += values[t] ?? 0
    squares += (values[t] ?? 0) ** 2
  }
  const mean = sum / Math.max(1, to - from)
  return { mean, variance: squares / Math.max(1, to - from) - mean * mean }
}

/** How sharp a fold is: the variance of its bins against what chance would give. */
function sharpness({ levels, counts }: Folded, { mean, variance }: Moments): number {
  let sum = 0
  for (let bin = 0; bin < levels.length; bin++) sum += (levels[bin]! - mean) ** 2 * counts[bin]!
  return sum / (levels.length * variance + 1e-12)
}

/** Periods so close to each other that a stretch of so many seconds cannot tell neighbours apart. */
function periods(from: number, to: number, seconds: number, bins = BINS): number[] {
  const list: number[] = []
  for (let period = from; period <= to; period += (period * period) / (bins * seconds)) list.push(period)
  return list
}

export interface SteadyClick {
  periodSeconds: number
  /** Where the sharp places of the fold lie, seconds from the start, the sharpest first; at most three. */
  phasesSeconds: number[]
  /** Against chance, which is about 1. */
  sharpness: number
  /** The least likeness of the fold of a third of the recording to that of the whole, 0 to 1. */
  steadiness: number
  /** The share of short stretches whose own fold lies where the whole one does, 0 to 1. */
  agreement: number
  /** Sharpness of the whole against that of its stretches each for itself: 1 is a click, less a drift. */
  coherence: number
  /** Whether the attacks of a stretch, seconds, fold as those of the whole do: −1 to 1. */
  likenessOf: (from: number, to: number) => number
}

/** Sharp places closer than this share of a period are one. */
const APART = 0.1
/** A place this much weaker than the sharpest is none. */
const WEAKEST = 0.35

/** The sharp places of a fold, as shares of the period, between its bins. */
function peakPhases({ levels }: Folded): number[] {
  const level = (bin: number): number => levels[(bin + BINS) % BINS] ?? 0
  const mean = levels.reduce((sum, value) => sum + value, 0) / BINS
  const peaks = Array.from({ length: BINS }, (_, bin) => bin)
    .filter((bin) => level(bin) >= level(bin - 1) && level(bin) > level(bin + 1))
    .sort((a, b) => level(b) - level(a))
  const [first] = peaks
  const chosen: number[] = []
  for (const bin of peaks) {
    const near = chosen.some(
      (other) => Math.min(Math.abs(bin - other), BINS - Math.abs(bin - other)) < APART * BINS,
    )
    const weak = level(bin) - mean < WEAKEST * (level(first ?? bin) - mean)
    if (!near && !weak && chosen.length < 3) chosen.push(bin)
  }
  return chosen.map((bin) => {
    const [a, b, c] = [level(bin - 1), level(bin), level(bin + 1)]
    const lean = a + c - 2 * b === 0 ? 0 : (0.5 * (a - c)) / (a + c - 2 * b)
    return (bin + 0.5 + Math.max(-0.5, Math.min(0.5, lean))) / BINS
  })
}

/** What the stretches of a recording fold to, each in a phase of its own, over chance. */
function sharpnessOfStretches(curve: Curve, period: number): number {
  const length = STRETCH_SECONDS * curve.rate
  let sum = 0
  for (let from = 0; from + length / 2 <= curve.values.length; from += length) {
    const to = Math.min(curve.values.length, from + length)
    sum += sharpness(fold(curve, period, from, to), momentsOf(curve.values, from, to)) - 1
  }
  return sum
}

/** The fold of a stretch of so many seconds is compared with the whole. */
const SHORT_SECONDS = 10
/** Nearer than this a stretch lies where the whole does, seconds. */
const SAME_PLACE = 0.022

/** The shares of short stretches that, moved against the whole fold, fit best unmoved. */
function agreementOf(curve: Curve, period: number, whole: Folded): number {
  const length = SHORT_SECONDS * curve.rate
  const nearest = Math.max(1, Math.round((SAME_PLACE / period) * BINS))
  let [agree, all] = [0, 0]
  for (let from = 0; from + length / 2 <= curve.values.length; from += length) {
    const own = fold(curve, period, from, Math.min(curve.values.length, from + length))
    const shifts = Array.from({ length: BINS }, (_, shift) => likeness(whole, turned(own, shift)))
    const best = shifts.reduce((top, value, shift) => (value > (shifts[top] ?? 0) ? shift : top), 0)
    // A break has no fold of its own to speak of.
    if ((shifts[best] ?? 0) < 0.35) continue
    all++
    // A riff in other accents may fit a little better elsewhere: what counts is that it fits here.
    const here = Math.max(...shifts.filter((_, shift) => Math.min(shift, BINS - shift) <= nearest))
    if (here > 0.8 * (shifts[best] ?? 0)) agree++
  }
  return all ? agree / all : 0
}
const turned = ({ levels, counts }: Folded, by: number): Folded => ({
  levels: levels.map((_, bin) => levels[(bin + by) % BINS] ?? 0),
  counts,
})

/** How alike two folds are, −1 to 1. */
function likeness(a: Folded, b: Folded): number {
  const centred = ({ levels }: Folded): number[] => {
    const mean = levels.reduce((sum, value) => sum + value, 0) / BINS
    return Array.from(levels, (value) => value - mean)
  }
  const [x, y] = [centred(a), centred(b)]
  const dot = (p: number[], q: number[]): number =>
    p.reduce((sum, value, bin) => sum + value * (q[bin] ?? 0), 0)
  return dot(x, y) / Math.sqrt(dot(x, x) * dot(y, y) + 1e-12)
}

/** The curve at half its rate, the sum of each pair. */
function halved(rises: Float32Array): Float32Array {
  const half = new Float32Array(rises.length >> 1)
  for (let t = 0; t < half.length; t++) half[t] = (rises[2 * t] ?? 0) + (rises[2 * t + 1] ?? 0)
  return half
}

/** Padded to this length, a stretch's spectrum is fine enough to be read at the nearest bin. */
const SPECTRUM_SIZE = 1 << 15

/**
 * The power of the curve's stretches over frequency, each of them over what chance would give. Their phases
 * fall out: stretches need not agree in them.
 */
async function powerOfStretches(curve: Curve, makeFft: MakeFft, job: JobContext): Promise<Float64Array> {
  const fft = makeFft(SPECTRUM_SIZE)
  const frame = new Float32Array(SPECTRUM_SIZE)
  const magnitudes = new Float32Array(SPECTRUM_SIZE / 2 + 1)
  const power = new Float64Array(magnitudes.length)
  const { length } = curve.values
  const stretch = STRETCH_SECONDS * curve.rate
  for (let from = 0; from + stretch / 2 <= length; from += stretch) {
    await checkpoint(job, 'beats', (0.5 * from) / length)
    const to = Math.min(length, from + stretch)
    const { mean, variance } = momentsOf(curve.values, from, to)
    frame.fill(0)
    frame.set(curve.values.subarray(from, to).map((value) => value - mean))
    fft.magnitudes(frame, magnitudes)
    const chance = (to - from) * variance + 1e-12
    for (let bin = 0; bin < power.length; bin++) power[bin]! += magnitudes[bin]! ** 2 / chance
  }
  return power
}

/**
 * Periods at which stretches of the recording fold sharply, each stretch for itself; the sharpest first. The
 * variance of a fold is the power at the period's harmonics (Parseval's theorem), as far as bins tell them.
 */
async function candidates(rises: Float32Array, makeFft: MakeFft, job: JobContext): Promise<number[]> {
  const curve: Curve = { values: halved(rises), rate: ATTACK_RATE / COARSE, bins: BINS / COARSE }
  const power = await powerOfStretches(curve, makeFft, job)
  const harmonics = Array.from({ length: curve.bins / 2 }, (_, index) => {
    const turn = (Math.PI * (index + 1)) / curve.bins
    return { times: index + 1, weight: (Math.sin(turn) / turn) ** 2 }
  })
  const levelAt = (hertz: number): number => power[Math.round((hertz * SPECTRUM_SIZE) / curve.rate)] ?? 0
  const scored = periods(SHORTEST, LONGEST, STRETCH_SECONDS, curve.bins).map((period) => ({
    period,
    sum: sumOf(harmonics, ({ times, weight }) => weight * levelAt(times / period)),
  }))
  return scored
    .filter(({ sum }, index) => sum >= (scored[index - 1]?.sum ?? 0) && sum > (scored[index + 1]?.sum ?? 0))
    .sort((a, b) => b.sum - a.sum)
    .slice(0, CANDIDATES)
    .map(({ period }) => period)
}

/**
 * The sharpest period of a recording; none of a recording too short to tell. Throws `Cancelled` when the job
 * is.
 */
export async function steadyClick(
  rises: Float32Array,
  makeFft: MakeFft,
  job: JobContext,
): Promise<SteadyClick | undefined> {
  const seconds = rises.length / ATTACK_RATE
  if (seconds < STRETCH_SECONDS / 2) return undefined
  const curve: Curve = { values: rises, rate: ATTACK_RATE, bins: BINS }
  const near = await candidates(rises, makeFft, job)
  const found: Sharp[] = []
  for (const [index, period] of near.entries()) {
    await checkpoint(job, 'beats', 0.5 + (0.5 * index) / near.length)
    found.push(fine(curve, period, seconds))
  }
  const sharpest = greatest(found, ({ sharp }) => sharp)
  return sharpest && described(curve, sharpest)
}

interface Sharp {
  period: number
  sharp: number
}

/** The period near a candidate at which the whole recording folds sharpest. */
function fine(curve: Curve, near: number, seconds: number): Sharp {
  const { length } = curve.values
  const moments = momentsOf(curve.values, 0, length)
  const reach = (1.2 * near * near * COARSE) / (BINS * STRETCH_SECONDS)
  let best = { period: near, sharp: 0 }
  const look = (period: number): void => {
    const sharp = sharpness(fold(curve, period, 0, length), moments)
    if (sharp > best.sharp) best = { period, sharp }
  }
  periods(near - reach, near + reach, seconds).forEach(look)
  const step = (near * near) / (BINS * seconds)
  const { period } = best
  for (let part = -3; part <= 3; part++) look(period + (part * step) / 4)
  return best
}

/** How a period folds: where its sharp places lie, and how far it is to be believed. */
function described(curve: Curve, { period, sharp }: Sharp): SteadyClick {
  const { length } = curve.values
  const whole = fold(curve, period, 0, length)
  const third = Math.floor(length / 3)
  const likenessTo = (from: number, to: number): number => likeness(whole, fold(curve, period, from, to))
  const alike = [0, 1, 2].map((part) => likenessTo(part * third, (part + 1) * third))
  return {
    periodSeconds: period,
    phasesSeconds: peakPhases(whole).map((phase) => phase * period),
    sharpness: sharp,
    steadiness: Math.max(0, Math.min(...alike)),
    agreement: agreementOf(curve, period, whole),
    likenessOf: (from, to) =>
      likenessTo(Math.max(0, Math.round(from * curve.rate)), Math.min(length, Math.round(to * curve.rate))),
    coherence: (sharp - 1) / Math.max(1, sharpnessOfStretches(curve, period)),
  }
}
