// The bass held against the kick drum: where both strike, and where one is alone.
import { barTicks, countWords, type Meter } from '../time/meter'

export interface KickAndBass {
  /** Ticks of the figure. */
  together: number[]
  kickAlone: number[]
  bassAlone: number[]
}

/** Strokes nearer than this are one, as a share of a step. */
const SAME_STEP = 0.5

/** Kick accents and bass strokes, in ticks of a figure; `step` is what is told apart. */
export function kickAndBass(kick: readonly number[], bass: readonly number[], step: number): KickAndBass {
  const near = (list: readonly number[], tick: number): boolean =>
    list.some((other) => Math.abs(other - tick) < step * SAME_STEP)
  const strokes = [...new Set(bass)].sort((a, b) => a - b)
  return {
    together: strokes.filter((tick) => near(kick, tick)),
    bassAlone: strokes.filter((tick) => !near(kick, tick)),
    kickAlone: kick.filter((tick) => !near(strokes, tick)),
  }
}

/** "1, the and of 2": the counts strokes fall on, each said once whatever the bar. */
export function countsOf(ticks: readonly number[], meter: Meter): string {
  const bar = barTicks(meter)
  const inBar = [...new Set(ticks.map((tick) => ((tick % bar) + bar) % bar))].sort((a, b) => a - b)
  return inBar.map((tick) => countWords(meter, tick)).join(', ')
}

/** "12 of 16 bass strokes fall on the kick; alone on the and of 4; the kick alone on 3." */
export function kickAndBassWords({ together, kickAlone, bassAlone }: KickAndBass, meter: Meter): string {
  const all = together.length + bassAlone.length
  if (all === 0) return 'No bass is charted here yet.'
  const words = [`${together.length} of ${all} bass strokes fall on the kick`]
  if (bassAlone.length) words.push(`alone on ${countsOf(bassAlone, meter)}`)
  if (kickAlone.length) words.push(`the kick alone on ${countsOf(kickAlone, meter)}`)
  return `${words.join('; ')}.`
}
