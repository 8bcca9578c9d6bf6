// Lessons for the form networks: bar lines of drawn songs that are beginnings or not, and pairs of sections
// that are the same one or not.
import type { Truth } from '../demo/evaluation/perform'
import { describeBars, likenessMatrix } from '../core/hear/decode/bar-sound'
import { compareSections } from '../core/hear/decode/section-returns'
import { boundaryInput } from '../core/hear/decode/section-starts'
import type { OnsetStrength } from '../core/hear/features/onset-strength'
import { chromaOf, notesIn, spectrumOf, type PitchSpectrum } from '../core/hear/features/pitch-spectrum'

export interface YesNo {
  input: number[]
  yes: boolean
}
const short = (values: ArrayLike<number>): number[] =>
  Array.from(values, (value) => Number(value.toPrecision(4)))

export function formLessons(
  truth: Truth,
  onsets: OnsetStrength,
  pitches: PitchSpectrum,
): { boundaries: YesNo[]; returns: YesNo[] } {
  const bars = describeBars(truth.downbeats, truth.sections.at(-1)!.end, onsets, (from, to) =>
    chromaOf(notesIn(spectrumOf(pitches, from, to))),
  )
  const matrix = likenessMatrix(bars)
  const starts = bars.flatMap((bar, index) =>
    truth.sections.some((section) => Math.abs(section.start - bar.start) < 0.1) ? [index] : [],
  )
  const boundaries = bars.slice(1).map((_, index) => ({
    input: short(boundaryInput(bars, matrix, index + 1)),
    yes: starts.includes(index + 1),
  }))
  const spans = starts.map((start, index) => bars.slice(start, starts[index + 1] ?? bars.length))
  const labels = starts.map(
    (start) => truth.sections.find((section) => Math.abs(section.start - bars[start]!.start) < 0.1)!.label,
  )
  const returns = spans.flatMap((a, i) =>
    spans
      .slice(i + 1)
      .map((b, k) => ({ input: short(compareSections(a, b).input), yes: labels[i] === labels[i + 1 + k] })),
  )
  return { boundaries, returns }
}
