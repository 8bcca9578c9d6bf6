// The ways to count a recording that was played to a click: multiples of its period, on the place where most
// attacks fall or between.
import type { BeatTrack } from './beats'
import type { SteadyClick } from './steady-click'

/**
 * A click is believed when its fold is so much sharper than chance, the same in every third, and does
 * not drift.
 */
const LEAST_SHARPNESS = 9
const LEAST_STEADINESS = 0.5
const LEAST_AGREEMENT = 0.86
const LEAST_COHERENCE = 0.5
const SLOWEST_BEAT = 40
const FASTEST_BEAT = 230

/**
 * How likely a multiple of the sharpest period is the beat, in log odds. The sharpest one nearly always is;
 * the network that compares what happens within the beats may still prefer its half or double.
 */
const FACTORS: readonly (readonly [factor: number, prior: number])[] = [
  [1, 0],
  [2, -4],
  [1 / 2, -4],
  [3, -7],
  [1 / 3, -7],
  [3 / 2, -7],
  [2 / 3, -7],
]
/** Beats lie where attacks fall, the sharper the likelier, or half way between. */
const OTHER_PLACE = -6
const BETWEEN = -2

/** The click a recording was played to; undefined when it drifts or has no pulse. */
export function believed(sharpest: SteadyClick | undefined): SteadyClick | undefined {
  if (!sharpest) return undefined
  const { sharpness, steadiness, agreement, coherence } = sharpest
  const clear = sharpness >= LEAST_SHARPNESS && steadiness >= LEAST_STEADINESS
  return clear && agreement >= LEAST_AGREEMENT && coherence >= LEAST_COHERENCE ? sharpest : undefined
}

/** Where the first beat may lie, each place once and as likely as the likeliest way to it. */
function startsOf(phases: readonly number[], period: number): { first: number; prior: number }[] {
  const ways = phases.flatMap((seconds, index) => {
    const prior = index ? OTHER_PLACE : 0
    return [
      { seconds, prior },
      { seconds: seconds + period / 2, prior: prior + BETWEEN },
    ]
  })
  const starts: { first: number; prior: number }[] = []
  for (const { seconds, prior } of ways.sort((a, b) => b.prior - a.prior)) {
    const first = ((seconds % period) + period) % period
    const apart = (other: number): number =>
      Math.min(Math.abs(first - other), period - Math.abs(first - other))
    if (!starts.some((known) => apart(known.first) < 0.05 * period)) starts.push({ first, prior })
  }
  return starts
}

/** Every reading of a click over the whole recording. */
export function clickReadings(
  { periodSeconds, phasesSeconds, likenessOf }: SteadyClick,
  durationSeconds: number,
  framesPerSecond: number,
): BeatTrack[] {
  return FACTORS.flatMap(([factor, ofFactor]) => {
    const period = periodSeconds / factor
    const bpm = 60 / period
    if (bpm < SLOWEST_BEAT || bpm > FASTEST_BEAT) return []
    return startsOf(phasesSeconds, period).map(({ first, prior }): BeatTrack => {
      const count = Math.max(0, Math.floor((durationSeconds - first) / period))
      const beatFrames = Array.from({ length: count }, (_, beat) => (first + beat * period) * framesPerSecond)
      return { beatFrames, framesPerSecond, click: { prior: ofFactor + prior, likenessOf } }
    })
  })
}
