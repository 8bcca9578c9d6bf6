// Measures for recordings of which only the click is known: where it begins, how fast it is, and perhaps
// which of its ticks is the one.
import type { Analysis } from './analysis'
import { matchScore } from './metrics'

export interface ClickTruth {
  seconds: number
  bpm: number
  /** Seconds of a tick that falls on a beat. */
  firstBeat: number
  /** Seconds of the first one of a 4/4 bar; absent when nobody knows which level a listener counts. */
  firstOne?: number | undefined
}
export interface ClickScores {
  /** F of beats as the click counts, undefined when the level is not known. */
  beats: number | undefined
  /** The best F with half, double and off-beat counts taken as right. */
  anyLevel: number
  ones: number | undefined
  /** 1 when the tempo is within 4 % at any level. */
  tempo: number
  refused: number
}

/** People tap a few beats before they are in: the opening is not scored, seconds. */
const OPENING = 5
const TEMPO_TOLERANCE = 0.04
const LEVELS = [1 / 3, 1 / 2, 2 / 3, 1, 3 / 2, 2, 3]

/** Every tick of a click that is heard before `endSeconds`. */
export function clickTimes(periodSeconds: number, anySeconds: number, endSeconds: number): number[] {
  const first = ((anySeconds % periodSeconds) + periodSeconds) % periodSeconds
  const count = Math.max(0, Math.ceil((endSeconds - 0.05 - first) / periodSeconds))
  return Array.from({ length: count }, (_, tick) => first + tick * periodSeconds)
}

export function clickScores(
  truth: ClickTruth,
  found: Pick<Analysis, 'beats' | 'downbeats' | 'tempo'>,
): ClickScores {
  const period = 60 / truth.bpm
  const late = (times: readonly number[]): number[] => times.filter((time) => time >= OPENING)
  const score = (times: readonly number[], length: number, place: number): number =>
    matchScore(late(clickTimes(length, place, truth.seconds)), late(times)).f
  const { firstBeat, firstOne, bpm } = truth
  const counted = score(found.beats, period, firstBeat)
  const others = [
    score(found.beats, period, firstBeat + period / 2),
    score(found.beats, period / 2, firstBeat),
    score(found.beats, 2 * period, firstBeat),
    score(found.beats, 2 * period, firstBeat + period),
  ]
  const known = firstOne !== undefined
  return {
    beats: known ? counted : undefined,
    anyLevel: Math.max(counted, ...others),
    ones: known ? score(found.downbeats, 4 * period, firstOne) : undefined,
    tempo: LEVELS.some((level) => Math.abs((found.tempo ?? 0) / bpm / level - 1) < TEMPO_TOLERANCE) ? 1 : 0,
    refused: found.beats.length ? 0 : 1,
  }
}
