/** Seconds to a tenth of a millisecond. */
export const round = (value: number): number => Math.round(value * 1e4) / 1e4
/** Shares and confidences, kept within 0 and 1, to a hundredth. */
export const hundredth = (value: number): number => Math.round(Math.max(0, Math.min(1, value)) * 100) / 100

/** The gap between beats that is in the middle of all, seconds. */
export function medianGap(beats: readonly number[]): number {
  const gaps = beats
    .slice(1)
    .map((beat, index) => beat - beats[index]!)
    .sort((a, b) => a - b)
  return gaps[gaps.length >> 1] ?? 0.5
}
