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

/** Every possible interval between beats. */
interface BeatStates {
  /** Frames between two beats, shortest first. */
  intervals: number[]
  /** How many of an interval's frames are its beat. */
  onFrames: number[]
  /** Log price of going from one interval to another at a beat. */
  change: number[][]
  prior: number[]
}

function beatStates(range: TempoRange, rate: number): BeatStates {
  const shortest = Math.floor((60 / range.fastest) * rate)
  const longest = Math.ceil((60 / range.slowest) * rate)
  const intervals = Array.from({ length: longest - shortest + 1 }, (_, index) => shortest + index)
  return {
    intervals,
    onFrames: intervals.map((interval) => Math.max(1, Math.round(interval * BEAT_SHARE))),
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

/** Log likelihoods of what is heard, frame by frame, summed up to each: as a beat and as none. */
interface Evidence {
  on: Float64Array
  off: Float64Array
}
function evidenceOf(activation: Float32Array): Evidence {
  const scale = 1 / Math.max(1e-6, percentile(activation, 0.97))
  const on = new Float64Array(activation.length + 1)
  const off = new Float64Array(activation.length + 1)
  for (let t = 0; t < activation.length; t++) {
    const strength = Math.min(1, activation[t]! * scale)
    on[t + 1] = on[t]! + Math.log(0.02 + 0.98 * strength)
    off[t + 1] = off[t]! + Math.log(0.02 + 0.98 * (1 - 0.75 * strength)) * OFF_WEIGHT
  }
  return { on, off }
}

/** The score of each beat: of each interval that begins with it, at each frame. */
type BeatScores = readonly Float64Array[]

/**
 * The score of an interval that began at frame `start` (before the recording when negative), once `end`
 * frames are heard. Within a beat the pointer only moves on, so sums tell what it has met.
 */
function scoreWithin(
  { onFrames, prior }: BeatStates,
  { beats, evidence }: { beats: BeatScores; evidence: Evidence },
  { interval, start, end }: { interval: number; start: number; end: number },
): number {
  const on = onFrames[interval]!
  const begun = start >= 0 ? beats[interval]![start]! : prior[interval]!
  const from = Math.max(0, Math.min(end, start + 1))
  const body = Math.max(from, Math.min(end, start + on))
  return begun + (evidence.on[body]! - evidence.on[from]!) / on + (evidence.off[end]! - evidence.off[body]!)
}

/** The interval a beat of interval `to` most likely comes from, at most four steps away. */
function likeliestBefore(
  change: BeatStates['change'],
  reached: Float64Array,
  to: number,
): { from: number; value: number } {
  let value = Number.NEGATIVE_INFINITY
  let from = 0
  const highest = Math.min(reached.length - 1, to + 4)
  for (let candidate = Math.max(0, to - 4); candidate <= highest; candidate++) {
    const own = reached[candidate]! + change[candidate]![to]!
    if (own > value) {
      value = own
      from = candidate
    }
  }
  return { from, value }
}

/** Where the best way through the recording is at its end: in which interval, begun at which frame. */
function bestEnd(
  states: BeatStates,
  known: { beats: BeatScores; evidence: Evidence },
  frames: number,
): { interval: number; start: number } {
  let best = { interval: 0, start: frames - 1 }
  let value = Number.NEGATIVE_INFINITY
  states.intervals.forEach((length, interval) => {
    for (let start = frames - 1; start > frames - 1 - length; start--) {
      const own = scoreWithin(states, known, { interval, start, end: frames })
      if (own <= value) continue
      value = own
      best = { interval, start }
    }
  })
  return best
}

/** The frames of beats on the best way to the end. */
function traceBeats(
  intervals: readonly number[],
  end: { interval: number; start: number },
  cameFrom: readonly Uint8Array[],
): number[] {
  const beats: number[] = []
  let { interval, start } = end
  while (start >= 0) {
    beats.push(start)
    interval = cameFrom[start]![interval]!
    start -= intervals[interval]!
  }
  return beats.reverse()
}

/**
 * Beat times of the whole recording. Frames are halved to 50 a second for speed; each beat is then moved to
 * the strongest onset within ±40 ms. O(frames × intervals): only beats are scored, not the places between.
 */
export async function decode(onsets: OnsetStrength, range: TempoRange, job: JobContext): Promise<BeatTrack> {
  const activation = beatActivation(onsets)
  const frames = activation.length
  const states = beatStates(range, onsets.framesPerSecond / HALF_RATE)
  const { intervals, change, prior } = states
  const beats = intervals.map(() => new Float64Array(frames))
  const known = { beats, evidence: evidenceOf(activation) }
  const { on } = known.evidence
  const reached = new Float64Array(intervals.length)
  const cameFrom = Array.from({ length: frames }, () => new Uint8Array(intervals.length))
  for (let t = 0; t < frames; t++) {
    if (t % 500 === 0) await checkpoint(job, 'beats', t / frames)
    for (let interval = 0; interval < intervals.length; interval++)
      reached[interval] = scoreWithin(states, known, { interval, start: t - intervals[interval]!, end: t })
    for (let to = 0; to < intervals.length; to++) {
      const { from, value } = likeliestBefore(change, reached, to)
      beats[to]![t] = value + on[t + 1]! - on[t]! + prior[to]! * 0.02
      cameFrom[t]![to] = from
    }
  }
  const found = traceBeats(intervals, bestEnd(states, known, frames), cameFrom)
  return {
    beatFrames: refine(
      found.map((frame) => frame * HALF_RATE),
      onsets,
    ),
    framesPerSecond: onsets.framesPerSecond,
  }
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
