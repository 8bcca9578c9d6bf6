// Where there is a pulse at all.
import { mean, quantile } from 'd3-array'
import type { BeatTrack } from './beats'
import type { OnsetStrength } from '../features/onset-strength'

/**
 * First and one-past-last beat of the stretch that has a pulse: outside it onsets do not agree with the
 * beats or nothing sounds.
 */
export function pulsedRange(track: BeatTrack, onsets: OnsetStrength): [number, number] {
  const { beatFrames } = track
  const strength = beatFrames.map((frame) => {
    let best = 0
    for (
      let t = Math.max(0, Math.round(frame) - 2);
      t <= Math.min(onsets.all.length - 1, Math.round(frame) + 2);
      t++
    )
      best = Math.max(best, onsets.all[t]! + onsets.low[t]!)
    return best
  })
  const typical = [...strength].sort((a, b) => a - b)[strength.length >> 1] ?? 0
  const clear = (index: number): boolean => strength[index]! > 0.42 * typical
  const runOf = (from: number, step: 1 | -1): number => {
    for (let at = from; at >= 0 && at < strength.length; at += step) {
      const window = Array.from({ length: 6 }, (_, k) => at + k * step).filter(
        (index) => index >= 0 && index < strength.length,
      )
      if (clear(at) && window.filter(clear).length >= Math.min(window.length, 5)) return at
    }
    return from
  }
  const start = runOf(0, 1)
  const end = runOf(strength.length - 1, -1) + 1
  return start < end ? [start, end] : [0, strength.length]
}

/** Quieter than this share of the loudest frame there is nothing to count. */
const FAINT = 1e-4
/** An opening or an end whose attacks fold less like the whole than this is in free time. */
const OF_THE_CLICK = 0.05

/**
 * The beats of a click that are counted: all between the first and the last sound, over breaks and drumless
 * stretches too, but not an opening or an end that goes its own way.
 */
export function clickRange(track: BeatTrack, onsets: OnsetStrength): [number, number] {
  const { beatFrames, framesPerSecond, click } = track
  const loudest = onsets.loudness.reduce((top, value) => Math.max(top, value), 0)
  const sounds = (value: number): boolean => value > loudest * FAINT
  const [first, last] = [onsets.loudness.findIndex(sounds), onsets.loudness.findLastIndex(sounds)]
  const start = Math.max(
    0,
    beatFrames.findIndex((frame) => frame >= first - 8),
  )
  const end = beatFrames.findLastIndex((frame) => frame <= last + 8) + 1
  const [pulsedStart, pulsedEnd] = pulsedRange(track, onsets)
  const goesAlong = (from: number, to: number): boolean => {
    const seconds = (beat: number): number => (beatFrames[beat] ?? beatFrames.at(-1) ?? 0) / framesPerSecond
    return (click?.likenessOf(seconds(from), seconds(to)) ?? 0) >= OF_THE_CLICK
  }
  return [
    pulsedStart > start && !goesAlong(start, pulsedStart) ? pulsedStart : start,
    pulsedEnd < end && !goesAlong(pulsedEnd, end) ? pulsedEnd : end,
  ]
}

/** Beats in a row without drums that make a stretch. */
const DRUMLESS_BEATS = 8
/** Share of the song's usual bright onsets below which nobody drums. */
const DRUMLESS_SHARE = 0.34

/**
 * Stretches in which the pulse goes on but nobody drums: few bright and few low onsets over eight beats and
 * more. Beats in seconds.
 */
export function drumlessStretches(
  beats: readonly number[],
  onsets: OnsetStrength,
): { start: number; end: number; kind: 'drumless' }[] {
  const raw = beats.map((beat, index) => {
    const end = (beats[index + 1] ?? beat + 0.5) * onsets.framesPerSecond
    let sum = 0
    let frames = 0
    for (let t = Math.round(beat * onsets.framesPerSecond); t < end; t++, frames++) {
      const slow = onsets.bands[Math.floor((t / onsets.framesPerSecond) * onsets.bandsPerSecond)]
      if (slow) for (let band = slow.length - 12; band < slow.length; band++) sum += slow[band]!
    }
    return sum / Math.max(1, frames)
  })
  const loud = [...raw].sort((a, b) => a - b)[Math.floor(raw.length * 0.8)] ?? 0
  const stretches: { start: number; end: number; kind: 'drumless' }[] = []
  for (let at = 0; at < beats.length;) {
    let end = at
    while (end < beats.length && raw[end]! < DRUMLESS_SHARE * loud) end++
    if (end - at >= DRUMLESS_BEATS)
      stretches.push({ start: beats[at]!, end: beats[end] ?? beats.at(-1)!, kind: 'drumless' })
    at = Math.max(end, at + 1)
  }
  return stretches
}

/**
 * A steady sound has less growth than this; noise has attacks everywhere and hardly more on its "beats";
 * without a pulse neighbouring gaps differ by more.
 */
const LEAST_GROWTH = 0.25
const LEAST_CLARITY = 4
/** Where attacks fall on every sixteenth they stand out only when looked at exactly: by at least this. */
const LEAST_EXACT_CLARITY = 16
/** Fewer beats than this agree so exactly by chance. */
const FEWEST_EXACT_BEATS = 32
/** Frames around a place in which an attack belongs to it. */
const REACH = 2
const MOST_JITTER = 0.06
const PHASES = 16

/**
 * Is there a pulse at all? Attacks must stand out on the beats against most other places between them, and
 * the beats must come evenly.
 */
export function isPulse({ beatFrames }: BeatTrack, onsets: OnsetStrength): boolean {
  if (onsets.raw < LEAST_GROWTH) return false
  const gaps = beatFrames.slice(1).map((frame, index) => frame - beatFrames[index]!)
  const jitter = gaps
    .slice(1)
    .map((gap, index) => Math.abs(gap / gaps[index]! - 1))
    .sort((a, b) => a - b)
  if ((jitter[jitter.length >> 1] ?? 1) > MOST_JITTER) return false
  const near = strengthAt(beatFrames, gaps, onsets, REACH)
  if (over(near[0] ?? 0, near) > LEAST_CLARITY) return true
  const exact = strengthAt(beatFrames, gaps, onsets, 0)
  const onBeat = Math.max(exact[0] ?? 0, exact[1] ?? 0, exact.at(-1) ?? 0)
  return beatFrames.length >= FEWEST_EXACT_BEATS && over(onBeat, exact) > LEAST_EXACT_CLARITY
}

/** A strength against that of the quieter places. */
const over = (strength: number, places: readonly number[]): number =>
  strength / ((quantile(places, 0.25) ?? 0) + 0.05)

/** Mean strength of the attacks at PHASES places from beat to beat, within so many frames of each. */
function strengthAt(
  beatFrames: readonly number[],
  gaps: readonly number[],
  onsets: OnsetStrength,
  reach: number,
): number[] {
  const around = (frame: number): number => {
    let best = 0
    for (let t = Math.round(frame) - reach; t <= Math.round(frame) + reach; t++)
      best = Math.max(best, onsets.all[t] ?? 0)
    return best
  }
  return Array.from(
    { length: PHASES },
    (_, phase) => mean(gaps, (gap, beat) => around(beatFrames[beat]! + (gap * phase) / PHASES)) ?? 0,
  )
}
