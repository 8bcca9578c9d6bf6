// The strokes of a figure held against the accents somebody else gives: where both strike, and where one is
// alone.
import { bisectCenter } from 'd3-array'
import { barTicks, countWords, type Meter } from '../time/meter'

export interface AccentsAndStrokes {
  /** Ticks of the figure. */
  together: number[]
  accentsAlone: number[]
  strokesAlone: number[]
}

/** Strokes nearer than this are one, as a share of a step. */
const SAME_STEP = 0.5

/** Accents and strokes, in ticks of a figure; `step` is what is told apart. */
export function accentsAndStrokes(
  accents: readonly number[],
  struck: readonly number[],
  step: number,
): AccentsAndStrokes {
  const sorted = (ticks: readonly number[]): number[] => [...new Set(ticks)].sort((a, b) => a - b)
  const near = (list: readonly number[], tick: number): boolean => {
    const other = list[bisectCenter(list, tick)]
    return other !== undefined && Math.abs(other - tick) < step * SAME_STEP
  }
  const strokes = sorted(struck)
  const given = sorted(accents)
  return {
    together: strokes.filter((tick) => near(given, tick)),
    strokesAlone: strokes.filter((tick) => !near(given, tick)),
    accentsAlone: given.filter((tick) => !near(strokes, tick)),
  }
}

/** "1, the and of 2": the counts strokes fall on, each said once whatever the bar. */
export function countsOf(ticks: readonly number[], meter: Meter): string {
  const bar = barTicks(meter)
  const inBar = [...new Set(ticks.map((tick) => ((tick % bar) + bar) % bar))].sort((a, b) => a - b)
  return inBar.map((tick) => countWords(meter, tick)).join(', ')
}

/** "12 of 16 bass strokes fall on the kick; alone on the and of 4; the kick alone on 3." */
export function accentWords(
  { together, accentsAlone, strokesAlone }: AccentsAndStrokes,
  meter: Meter,
  { who, what }: { who: string; what: string },
): string {
  const all = together.length + strokesAlone.length
  if (all === 0) return 'Nothing is charted here yet.'
  const words = [`${together.length} of ${all} ${what} fall on ${who}`]
  if (strokesAlone.length) words.push(`alone on ${countsOf(strokesAlone, meter)}`)
  if (accentsAlone.length) words.push(`${who} alone on ${countsOf(accentsAlone, meter)}`)
  return `${words.join('; ')}.`
}
