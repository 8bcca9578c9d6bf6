// Beats by a bar-pointer model: hidden states are places within a beat at a tempo (state space of Krebs,
// Böck and Widmer 2015, after Whiteley 2006). The place advances one state a frame; only at the end of a
// beat may the tempo change, the more the less likely. Viterbi decoding.
import { checkpoint, type JobContext } from '../job'
import type { OnsetStrength } from '../features/onset-strength'

export interface TempoRange {
  slowest: number
  fastest: number
}
export interface BeatTrack {
  beatFrames: number[]
  framesPerSecond: number
  /**
   * Of a click: exact from end to end, and how much more or less likely this way to count it is, in
   * log odds.
   */
  click?: { prior: number; likenessOf: (from: number, to: number) => number }
}

const HALF_RATE = 2
/** Share at which a missed onset between beats counts against a beat missed: eighths are normal. */
const OFF_WEIGHT = 0.5
const WIDE: TempoRange = { slowest: 56, fastest: 205 }
/** Steepness of the tempo-change penalty (Krebs 2015 use 100 on a relative scale). */
const TEMPO_STEADINESS = 90
/** Beats are looked for in this first share of each interval. */
const BEAT_SHARE = 1 / 12

/** Preference for tempos near 118 a minute: log-normal, width 0.85 octaves (after Moelants 2002). */
const tempoPrior = (bpm: number): number => -0.5 * (Math.log2(bpm / 118) / 0.85) ** 2

const FACTORS = [1, 2, 1 / 2, 3, 1 / 3, 3 / 2, 2 / 3]
const SLOWEST_BEAT = 40
const FASTEST_BEAT = 230

/**
 * The faster half of the usual tempos: decoded by itself too, in case the first decoding settled on a
 * slower relative.
 */
const FAST: TempoRange = { slowest: 92, fastest: 215 }
/** Two tempos nearer than this are the same reading. */
const SAME_TEMPO = 0.05
/**
 * Beats may also be heard a half or a third of a beat off: in 6/8 and with heavy off-beats the strongest
 * attacks are not the beats.
 */
const OFFSETS = [1 / 2, 1 / 3, 2 / 3]

/**
 * Every plausible way to count: related tempos of the two likeliest decodings, each also half and a third
 * of a beat later.
 */
export async function readings(onsets: OnsetStrength, job: JobContext): Promise<BeatTrack[]> {
  const bases = [medianBpm(await decode(onsets, WIDE, job)), medianBpm(await decode(onsets, FAST, job))]
  const tempos: number[] = []
  for (const bpm of bases)
    for (const factor of FACTORS) {
      const wanted = bpm * factor
      if (
        wanted >= SLOWEST_BEAT &&
        wanted <= FASTEST_BEAT &&
        !tempos.some((known) => Math.abs(known / wanted - 1) < SAME_TEMPO)
      )
        tempos.push(wanted)
    }
  const tracks: BeatTrack[] = []
  for (const wanted of tempos) {
    const track = await decode(onsets, { slowest: wanted * 0.88, fastest: wanted * 1.13 }, job)
    if (track.beatFrames.length >= 8)
      tracks.push(track, ...OFFSETS.map((share) => later(track, share, onsets)))
  }
  return tracks
}

/** The same pulse a share of a beat later, each beat moved to the attack nearest to it. */
function later({ beatFrames, framesPerSecond }: BeatTrack, share: number, onsets: OnsetStrength): BeatTrack {
  return {
    beatFrames: refine(
      beatFrames
        .slice(0, -1)
        .map((frame, index) => Math.round(frame + share * (beatFrames[index + 1]! - frame))),
      onsets,
    ),
    framesPerSecond,
  }
}

export const medianBpm = ({ beatFrames, framesPerSecond }: BeatTrack): number => {
  const gaps = beatFrames
    .slice(1)
    .map((frame, index) => frame - beatFrames[index]!)
    .sort((a, b) => a - b)
  return (60 * framesPerSecond) / (gaps[gaps.length >> 1] ?? framesPerSecond)
}

/** How far the pointer's place within a beat has come, for every possible interval between beats. */
interface BeatStates {
  /** Frames between two beats, shortest first. */
  intervals: number[]
  /** The first state of each interval. */
  first: number[]
  count: number
  /** Log price of going from one interval to another at a beat. */
  change: number[][]
  prior: number[]
}

function beatStates(range: TempoRange, rate: number): BeatStates {
  const shortest = Math.floor((60 / range.fastest) * rate)
  const longest = Math.ceil((60 / range.slowest) * rate)
  const intervals = Array.from({ length: longest - shortest + 1 }, (_, index) => shortest + index)
  const first: number[] = []
  let count = 0
  for (const interval of intervals) {
    first.push(count)
    count += interval
  }
  return {
    intervals,
    first,
    count,
    change: intervals.map((from) => intervals.map((to) => -TEMPO_STEADINESS * Math.abs(to / from - 1))),
    prior: intervals.map((interval) => 0.9 * tempoPrior((60 * rate) / interval)),
  }
}

/** Onsets at half the rate, the low ones weighing on top, scaled so that strong ones are about 1. */
function beatActivation(onsets: OnsetStrength): Float32Array {
  const activation = new Float32Array(Math.floor(onsets.all.length / HALF_RATE))
  for (let t = 0; t < activation.length; t++)
    activation[t] = Math.max(
      onsets.all[2 * t]! + 0.6 * onsets.low[2 * t]!,
      onsets.all[2 * t + 1]! + 0.6 * onsets.low[2 * t + 1]!,
    )
  return activation
}

/** The interval a beat of interval `to` most likely comes from, at most four steps away. */
function likeliestBefore(
  { intervals, first, change }: BeatStates,
  score: Float32Array,
  to: number,
): { from: number; value: number } {
  let value = Number.NEGATIVE_INFINITY
  let from = 0
  const highest = Math.min(intervals.length - 1, to + 4)
  for (let candidate = Math.max(0, to - 4); candidate <= highest; candidate++) {
    const reached = score[first[candidate]! + intervals[candidate]! - 1]! + change[candidate]![to]!
    if (reached > value) {
      value = reached
      from = candidate
    }
  }
  return { from, value }
}

/** One frame on: within a beat the pointer only moves, at its end the interval may change. */
function stepFrame(
  states: BeatStates,
  strength: number,
  { score, next, cameFrom }: { score: Float32Array; next: Float32Array; cameFrom: Uint8Array },
): void {
  const { intervals, first, prior } = states
  const onBeat = Math.log(0.02 + 0.98 * strength)
  const offBeat = Math.log(0.02 + 0.98 * (1 - 0.75 * strength)) * OFF_WEIGHT
  for (let to = 0; to < intervals.length; to++) {
    const start = first[to]!
    const interval = intervals[to]!
    const onStates = Math.max(1, Math.round(interval * BEAT_SHARE))
    for (let k = interval - 1; k > 0; k--)
      next[start + k] = score[start + k - 1]! + (k < onStates ? onBeat / onStates : offBeat)
    const { from, value } = likeliestBefore(states, score, to)
    next[start] = value + onBeat + prior[to]! * 0.02
    cameFrom[to] = from
  }
}

/** The frames of beats on the best way to the end. */
function traceBeats(
  { intervals, first }: BeatStates,
  last: Float32Array,
  cameFrom: readonly Uint8Array[],
): number[] {
  let state = 0
  for (let k = 1; k < last.length; k++) if (last[k]! > last[state]!) state = k
  let at = intervals.findIndex((interval, index) => state < first[index]! + interval)
  let place = state - first[at]!
  const beats: number[] = []
  for (let t = cameFrom.length - 1; t >= 0; t--) {
    if (place > 0) {
      place--
      continue
    }
    beats.push(t)
    at = cameFrom[t]![at]!
    place = intervals[at]! - 1
  }
  return beats.reverse()
}

/**
 * Beat times of the whole recording. Frames are halved to 50 a second for speed; each beat is then moved to
 * the strongest onset within ±40 ms. Interval states beyond the recording's length are harmless. O(frames ×
 * states), about 1700 states.
 */
export async function decode(onsets: OnsetStrength, range: TempoRange, job: JobContext): Promise<BeatTrack> {
  const activation = beatActivation(onsets)
  const frames = activation.length
  const states = beatStates(range, onsets.framesPerSecond / HALF_RATE)
  const { intervals, first, count, prior } = states
  const scale = 1 / Math.max(1e-6, percentile(activation, 0.97))
  let score = new Float32Array(count)
  let next = new Float32Array(count)
  intervals.forEach((interval, index) => score.fill(prior[index]!, first[index]!, first[index]! + interval))
  const cameFrom = Array.from({ length: frames }, () => new Uint8Array(intervals.length))
  for (let t = 0; t < frames; t++) {
    if (t % 500 === 0) await checkpoint(job, 'beats', t / frames)
    stepFrame(states, Math.min(1, activation[t]! * scale), { score, next, cameFrom: cameFrom[t]! })
    ;[score, next] = [next, score]
  }
  const beats = traceBeats(states, score, cameFrom).map((frame) => frame * HALF_RATE)
  return { beatFrames: refine(beats, onsets), framesPerSecond: onsets.framesPerSecond }
}

/** Moves each beat to the centre of the strongest onset near it. */
function refine(beats: number[], onsets: OnsetStrength): number[] {
  return beats.map((frame) => {
    let best = frame
    let strongest = 0
    for (let t = Math.max(0, frame - 3); t <= Math.min(onsets.all.length - 1, frame + 5); t++)
      if (onsets.all[t]! > strongest) {
        strongest = onsets.all[t]!
        best = t
      }
    if (strongest < 0.5) return frame
    const [a, b, c] = [onsets.all[best - 1] ?? 0, onsets.all[best]!, onsets.all[best + 1] ?? 0]
    const curve = a - 2 * b + c
    return curve < 0 ? best + (0.5 * (a - c)) / curve : best
  })
}

function percentile(values: Float32Array, share: number): number {
  const sorted = Float32Array.from(values).sort()
  return sorted[Math.floor(share * (sorted.length - 1))] ?? 0
}
