// The standard measures for beats: hits within a tolerance, one-to-one (Dixon 2007; Davies et al. 2009).
import { pitchClassOf } from '../music/pitch'
import { readLabel, TONES } from './decode/chord-labels'

export interface Score {
  precision: number
  recall: number
  f: number
}

/** F-measure of estimated against true times. Both empty scores 1. Times ascending. */
export function matchScore(
  truth: readonly number[],
  found: readonly number[],
  toleranceSeconds = 0.07,
): Score {
  let hits = 0
  for (let i = 0, j = 0; i < truth.length && j < found.length;) {
    const gap = found[j]! - truth[i]!
    if (Math.abs(gap) <= toleranceSeconds) {
      hits++
      i++
      j++
    } else if (gap < 0) j++
    else i++
  }
  // Nothing found where there is nothing to find is all of it.
  const nothing = truth.length || found.length ? 0 : 1
  const precision = found.length ? hits / found.length : nothing
  const recall = truth.length ? hits / truth.length : nothing
  return {
    precision,
    recall,
    f: precision + recall > 0 ? (2 * precision * recall) / (precision + recall) : 0,
  }
}

/** 1 when a tempo is within 4 % of the truth; `octave` also accepts half, double, third and triple. */
export function tempoScore(truth: number, found: number | undefined, octave: boolean): number {
  if (found === undefined) return 0
  return (octave ? [1, 2, 0.5, 3, 1 / 3] : [1]).some(
    (factor) => Math.abs(found / (truth * factor) - 1) < 0.04,
  )
    ? 1
    : 0
}

interface Labelled {
  start: number
  end: number
  label: string
}

/**
 * Walks two lists of labelled spans together: each stretch with what both say (undefined outside). Spans
 * ascending, not overlapping.
 */
function* together(
  truth: readonly Labelled[],
  found: readonly Labelled[],
): Generator<{ seconds: number; truth: string; found: string | undefined }> {
  for (let i = 0, j = 0; i < truth.length; i++) {
    let at = truth[i]!.start
    while (at < truth[i]!.end) {
      while (j < found.length && found[j]!.end <= at) j++
      const other = found[j]
      const change = other && (other.start > at ? other.start : other.end)
      const until = Math.min(truth[i]!.end, change ?? Number.POSITIVE_INFINITY)
      yield {
        seconds: until - at,
        truth: truth[i]!.label,
        found: other && other.start <= at ? other.label : undefined,
      }
      at = until
    }
  }
}

export interface ChordScores {
  root: number
  majmin: number
  sevenths: number
  exact: number
}
const triad = (label: string): string | undefined => {
  const chord = readLabel(label)
  if (!chord) return label === 'N' ? 'N' : undefined
  const tones: readonly number[] = TONES[chord.quality]
  const fifth = tones.includes(7)
  if (!fifth || chord.quality === '7#9') return undefined
  if (tones.includes(4)) return `${chord.root}M`
  return tones.includes(3) ? `${chord.root}m` : undefined
}
const SEVENTHS = new Set(['maj', 'min', '7', 'maj7', 'min7'])

/**
 * Weighted chord symbol recall (Pauwels and Peeters 2013; Raffel et al. 2014): root; major and minor
 * triads; seventh vocabulary; exact quality and bass. Truths outside a vocabulary are left out of it; NaN
 * when none is inside.
 */
export function chordScores(truth: readonly Labelled[], found: readonly Labelled[]): ChordScores {
  const hit = { root: 0, majmin: 0, sevenths: 0, exact: 0 }
  const all = { root: 0, majmin: 0, sevenths: 0, exact: 0 }
  const count = (name: keyof ChordScores, seconds: number, right: boolean): void => {
    all[name] += seconds
    if (right) hit[name] += seconds
  }
  for (const { seconds, truth: wanted, found: got } of together(truth, found)) {
    const a = readLabel(wanted)
    const b = got === undefined ? undefined : readLabel(got)
    count('root', seconds, a ? b?.root === a.root : got === 'N' || got === undefined)
    const family = triad(wanted)
    if (family) count('majmin', seconds, got !== undefined && triad(got) === family)
    if (!a || SEVENTHS.has(a.quality))
      count('sevenths', seconds, a ? b?.root === a.root && b.quality === a.quality : got === 'N')
    count(
      'exact',
      seconds,
      a ? b?.root === a.root && b.quality === a.quality && b.bass === a.bass : got === 'N',
    )
  }
  return {
    root: hit.root / all.root,
    majmin: hit.majmin / all.majmin,
    sevenths: hit.sevenths / all.sevenths,
    exact: hit.exact / all.exact,
  }
}

/** Boundaries within a tolerance; the file's ends are not counted (Turnbull et al. 2007). */
export const boundaryScore = (
  truth: readonly Labelled[],
  found: readonly Labelled[],
  toleranceSeconds: number,
): number =>
  matchScore(
    truth.slice(1).map((section) => section.start),
    found.slice(1).map((section) => section.start),
    toleranceSeconds,
  ).f

/** Pairwise agreement of labels over frames of 0.5 s (Levy and Sandler 2008). */
export function pairwiseScore(truth: readonly Labelled[], found: readonly Labelled[]): number {
  const frames: [string, string][] = []
  const at = (list: readonly Labelled[], time: number): string =>
    list.find((entry) => entry.start <= time && time < entry.end)?.label ?? '-'
  for (let time = truth[0]?.start ?? 0; time < (truth.at(-1)?.end ?? 0); time += 0.5)
    frames.push([at(truth, time), at(found, time)])
  const pairs = (values: string[]): number => {
    const counts = new Map<string, number>()
    for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1)
    return [...counts.values()].reduce((sum, n) => sum + (n * (n - 1)) / 2, 0)
  }
  const both = pairs(frames.map(([a, b]) => `${a}|${b}`))
  const precision = both / Math.max(1, pairs(frames.map(([, b]) => b)))
  const recall = both / Math.max(1, pairs(frames.map(([a]) => a)))
  return precision + recall > 0 ? (2 * precision * recall) / (precision + recall) : 0
}

interface PlainKey {
  tonic: string
  mode: string
}
/**
 * 1 for the key, 0.5 a fifth off, 0.3 the relative, 0.2 the parallel (the usual weighting of key finding
 * contests).
 */
export function keyScore(truth: PlainKey, found: PlainKey | undefined): { exact: number; weighted: number } {
  if (!found) return { exact: 0, weighted: 0 }
  const [a, b] = [pitchClassOf(truth.tonic), pitchClassOf(found.tonic)]
  const step = (b - a + 12) % 12
  if (step === 0 && truth.mode === found.mode) return { exact: 1, weighted: 1 }
  if (truth.mode === found.mode) return { exact: 0, weighted: step === 7 || step === 5 ? 0.5 : 0 }
  const relative = truth.mode === 'major' ? 9 : 3
  if (step === relative) return { exact: 0, weighted: 0.3 }
  return { exact: 0, weighted: step === 0 ? 0.2 : 0 }
}

/** Error of a tuning in cents, around the circle of a semitone. */
export const tuningError = (truth: number, found: number | undefined): number =>
  found === undefined ? 50 : Math.abs(((found - truth + 150) % 100) - 50)
