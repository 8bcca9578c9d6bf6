// The standard measures for beats: hits within a tolerance, one-to-one (Dixon 2007; Davies et al. 2009).

export interface Score { precision: number; recall: number; f: number }

/** F-measure of estimated against true times. Both empty scores 1. Times ascending. */
export function matchScore(truth: readonly number[], found: readonly number[], toleranceSeconds = 0.07): Score {
  let hits = 0
  for (let i = 0, j = 0; i < truth.length && j < found.length;) {
    const gap = found[j]! - truth[i]!
    if (Math.abs(gap) <= toleranceSeconds) { hits++; i++; j++ } else if (gap < 0) j++
    else i++
  }
  const precision = found.length ? hits / found.length : truth.length ? 0 : 1
  const recall = truth.length ? hits / truth.length : found.length ? 0 : 1
  return { precision, recall, f: precision + recall > 0 ? (2 * precision * recall) / (precision + recall) : 0 }
}

/** 1 when a tempo is within 4 % of the truth; `octave` also accepts half, double, third and triple. */
export function tempoScore(truth: number, found: number | undefined, octave: boolean): number {
  if (found === undefined) return 0
  return (octave ? [1, 2, 0.5, 3, 1 / 3] : [1]).some((factor) => Math.abs(found / (truth * factor) - 1) < 0.04) ? 1 : 0
}
