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
/** Where attacks are dense a band that drifts a little folds too, less sharply and not alike throughout. */
const SURE_SHARPNESS = 30
const LEAST_STEADINESS_WHERE_FAINT = 0.85
const LEAST_AGREEMENT = 0.86
const LEAST_COHERENCE = 0.5
const SLOWEST_BEAT = 40
const FASTEST_BEAT = 230

/**
 * So many beats to so many sharpest periods, and how likely, in log odds. The sharpest one nearly always is;
 * the network that compares what happens within the beats may still prefer its half or double.
 */
const RATIOS: readonly { beats: number; clicks: number; prior: number }[] = [
  { beats: 1, clicks: 1, prior: 0 },
  { beats: 2, clicks: 1, prior: -4 },
  { beats: 1, clicks: 2, prior: -4 },
  { beats: 3, clicks: 1, prior: -5 },
  { beats: 1, clicks: 3, prior: -5 },
  { beats: 3, clicks: 2, prior: -7 },
  { beats: 2, clicks: 3, prior: -7 },
]
/** Beats lie where attacks fall, the sharper the likelier, or half way between. */
const OTHER_PLACE = -6
const BETWEEN = -2

/** The click a recording was played to; undefined when it drifts or has no pulse. */
export function believed(sharpest: SteadyClick | undefined): SteadyClick | undefined {
  if (!sharpest) return undefined
  const { sharpness, steadiness, agreement, coherence } = sharpest
  const sure = sharpness >= SURE_SHARPNESS ? LEAST_STEADINESS : LEAST_STEADINESS_WHERE_FAINT
  const clear = sharpness >= LEAST_SHARPNESS && steadiness >= sure
  return clear && agreement >= LEAST_AGREEMENT && coherence >= LEAST_COHERENCE ? sharpest : undefined
}

/**
 * Where the first beat may lie, each place once and as likely as the likeliest way to it: a beat of several
 * clicks may begin on any of them.
 */
function startsOf(
  phases: readonly number[],
  period: number,
  clicks: number,
): { first: number; prior: number }[] {
  const ways = phases.flatMap((seconds, index) => {
    const prior = index ? OTHER_PLACE : 0
    const onClicks = Array.from({ length: clicks }, (_, click) => ({
      seconds: seconds + (click * period) / clicks,
      prior,
    }))
    return [...onClicks, { seconds: seconds + period / 2, prior: prior + BETWEEN }]
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
  return RATIOS.flatMap(({ beats, clicks, prior: ofRatio }) => {
    const period = (periodSeconds * clicks) / beats
    const bpm = 60 / period
    if (bpm < SLOWEST_BEAT || bpm > FASTEST_BEAT) return []
    return startsOf(phasesSeconds, period, clicks).map(({ first, prior }): BeatTrack => {
      const count = Math.max(0, Math.floor((durationSeconds - first) / period))
      const beatFrames = Array.from({ length: count }, (_, beat) => (first + beat * period) * framesPerSecond)
      return { beatFrames, framesPerSecond, click: { prior: ofRatio + prior, likenessOf } }
    })
  })
}
