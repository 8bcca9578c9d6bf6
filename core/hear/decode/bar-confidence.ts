// How sure the count of the bars is, one by one: the bar as it was placed against the same beats counted from
// elsewhere or in another meter, a little before it and after it.
import { sum } from 'd3-array'
import type { PlaceInBar } from './bars'

/** So many beats before and after a one are looked at. */
const REACH = 16
/** Bars that are thought of as rivals. */
const LENGTHS = [4, 3, 2] as const
/**
 * Beats beside each other say much the same, and even where nothing tells the bars apart most are right: set
 * so that what is said agrees with what proves right (on songs of all kinds that the network never saw).
 */
const TRUST = 0.16
const LEAST = 0.72

const logistic = (x: number): number => -Math.log1p(Math.exp(-x))

/** Of each beat that is a one (place 0), from 0 to 1; `scores` are the odds that a beat is the one. */
export function barConfidence(scores: readonly number[], places: readonly PlaceInBar[]): number[] {
  /** How well the beats around fit a count of so many with a one at a place. */
  const fit = (around: number, isOne: (beat: number) => boolean): number => {
    const from = Math.max(0, around - REACH)
    return sum(scores.slice(from, around + REACH + 1), (score, index) =>
      logistic(isOne(from + (index ?? 0)) ? score : -score),
    )
  }
  return places.flatMap((state, beat): number[] => {
    if (state.place !== 0) return []
    const own = fit(beat, (at) => places[at]?.place === 0)
    const rivals = LENGTHS.flatMap((length) =>
      Array.from({ length }, (_, start) => start)
        .filter((start) => !(length === state.length && start === 0))
        .map((start) => fit(beat, (at) => (((at - beat - start) % length) + length) % length === 0)),
    )
    const share = 1 / (1 + sum(rivals, (rival) => Math.exp(TRUST * (rival - own))))
    return [LEAST + (1 - LEAST) * share]
  })
}
