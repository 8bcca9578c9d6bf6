// Chords along the beats: a fitted network says how well each chord explains each half beat, and a hidden
// Markov model decides which changes are worth believing: changes on the one are common, on other beats
// rarer, between beats (anticipations) rarest; chords of the key are likelier.
import { addLow, bassOf } from './chord-bass'
import { scaledChroma, turned } from './chord-input'
import { QUALITIES, TONES, writeLabel, type ChordLabel, type Quality } from './chord-labels'
import { network, type NetWeights } from '../models/net'
import { chromaOf } from '../features/pitch-spectrum'
import type { Key } from '../../music/pitch'
import type { Sound } from '../features/feature-extraction'
import weights from '../models/chords.json'

/**
 * A stretch that may be the start of a new chord. `bar` 0 = on the one, 0.5 = in the middle of the bar,
 * else another beat; between = not on a beat.
 */
export interface Span {
  start: number
  end: number
  at: 'one' | 'middle' | 'beat' | 'between'
  early: boolean
}
export interface HeardChord {
  start: number
  end: number
  chord: ChordLabel | undefined
  confidence: number
  rivals: { label: string; share: number }[]
}

const STATES = 12 * QUALITIES.length + 1
const NONE = STATES - 1
const net = network(weights as NetWeights)
const none = (weights as NetWeights & { none: number }).none

export interface SpanEvidence {
  logs: Float64Array
  /** How strongly each pitch class is the guitars' lowest note, the strongest 1, where that is known. */
  low: Float32Array | undefined
  notes: Float32Array
  chroma: Float32Array
  loud: number
}

/** Fainter than this, nobody plays. */
const SILENT = 1e-3

/** How well each chord explains a stretch, as log probabilities; the last entry is "no chord". */
export function chordEvidence(
  { notesAt, lowAt }: Pick<Sound, 'notesAt' | 'lowAt'>,
  spans: readonly Span[],
): SpanEvidence[] {
  const scores = new Float64Array(QUALITIES.length)
  return spans.map(({ start, end }) => {
    const notes = notesAt(start + 0.02, end)
    const chroma = chromaOf(notes)
    const logs = new Float64Array(STATES)
    const scaled = scaledChroma(chroma)
    for (let root = 0; root < 12; root++) {
      net(turned(scaled, root), scores)
      logs.set(scores, root * QUALITIES.length)
    }
    let loud = 0
    for (const value of notes) loud += value
    logs[NONE] = none
    const low = lowAt(start, end)
    if (low) addLow(logs, low)
    let top = Number.NEGATIVE_INFINITY
    for (const value of logs) top = Math.max(top, value)
    let sum = 0
    for (const value of logs) sum += Math.exp(value - top)
    const total = top + Math.log(sum)
    for (let state = 0; state < STATES; state++) logs[state]! -= total
    if (loud < SILENT) {
      logs.fill(-12)
      logs[NONE] = 0
    }
    return { logs, low, notes, chroma, loud }
  })
}

/** How much what other returns say counts beside what is heard here. */
const SUPPORT = 0.6

/**
 * Sections that return support each other: each span also hears what its counterparts (same place in the
 * section, moved by the shift) say.
 */
export function supportReturns(
  spans: readonly Span[],
  evidence: readonly SpanEvidence[],
  sections: readonly {
    start: number
    end: number
    bars: number
    returns?: { section: number; shift: number; perBar: readonly number[] } | undefined
  }[],
): SpanEvidence[] {
  const inside = sections.map((section) =>
    spans.flatMap((span, index) =>
      span.start >= section.start - 0.05 && span.start < section.end - 0.05 ? [index] : [],
    ),
  )
  const heard = evidence.map((entry) => ({ logs: entry.logs, weight: 1 }))
  const sums = evidence.map((entry) => entry.logs.slice())
  const add = (to: number, from: number, shift: number, likeness: number): void => {
    const weight = SUPPORT * Math.max(0, (likeness - 0.6) / 0.4)
    if (weight === 0 || !sums[to] || !evidence[from]) return
    const { logs } = evidence[from]!
    for (let root = 0; root < 12; root++)
      for (let k = 0; k < QUALITIES.length; k++)
        sums[to]![((root + shift + 12) % 12) * QUALITIES.length + k]! +=
          weight * logs[root * QUALITIES.length + k]!
    sums[to]![NONE]! += weight * logs[NONE]!
    heard[to]!.weight += weight
  }
  sections.forEach(({ returns }, index) => {
    if (!returns || !inside[returns.section]) return
    const [here, there] = [inside[index]!, inside[returns.section]!]
    const perBar = Math.max(1, here.length / Math.max(1, sections[index]!.bars))
    for (let k = 0; k < Math.min(here.length, there.length); k++) {
      const likeness = returns.perBar[Math.min(returns.perBar.length - 1, Math.floor(k / perBar))] ?? 0
      add(here[k]!, there[k]!, returns.shift, likeness)
      add(there[k]!, here[k]!, -returns.shift, likeness)
    }
  })
  // Counterparts add certainty, but not as if they were independent: the sum is brought part of the way
  // back to the scale of one hearing.
  return evidence.map((entry, index) => ({
    ...entry,
    logs: sums[index]!.map((value) => value / heard[index]!.weight ** 0.5),
  }))
}

/** Cost of changing the chord at a place. */
const CHANGE = { one: -1.1, middle: -2.2, beat: -3.4, between: -4.6 } as const
/** An anticipation: the half beat before the one, or before the middle of the bar. */
const EARLY = -3.2
/** Half beats of one chord are not independent witnesses. */
const WITNESS = 0.75

const MAJOR_SCALE = [0, 2, 4, 5, 7, 9, 11]
const MINOR_SCALE = [0, 2, 3, 5, 7, 8, 10]
/**
 * How at home a chord is in a key: tones outside its scale cost, the raised seventh of a minor dominant
 * less.
 */
function keyFit(state: number, tonic: number, mode: 'major' | 'minor'): number {
  if (state === NONE) return -1
  const root = (Math.floor(state / QUALITIES.length) - tonic + 12) % 12
  const quality = QUALITIES[state % QUALITIES.length]!
  const scale = mode === 'major' ? MAJOR_SCALE : MINOR_SCALE
  const foreign = TONES[quality].filter(
    (tone) => !scale.includes((root + tone) % 12) && !(mode === 'minor' && root === 7 && tone === 4),
  ).length
  return -0.9 * Math.min(3, foreign)
}
/** Plain chords are the rule: what the network was fitted on was richer than most songs are. */
const QUALITY_PRIOR: Record<Quality, number> = {
  maj: 0.5,
  min: 0.5,
  5: 0.2,
  7: 0,
  maj7: 0,
  min7: 0,
  sus2: -0.2,
  sus4: -0.2,
  '7sus4': -0.4,
  add9: -0.2,
  9: -0.4,
  min9: -0.5,
  '7#9': -1,
  dim: -0.8,
  aug: -0.8,
  6: -0.6,
  min6: -1,
}

type Row = Float64Array<ArrayBuffer>
const rows = (count: number): Row[] => Array.from({ length: count }, () => new Float64Array(STATES))

/** Log prior of every chord, in a key when it is known; they sum to one. */
function chordPrior(key?: { tonic: number; mode: 'major' | 'minor' }): Row {
  const prior = Float64Array.from(
    { length: STATES },
    (_, state) =>
      (state === NONE ? -1.5 : QUALITY_PRIOR[QUALITIES[state % QUALITIES.length]!]) +
      (key ? keyFit(state, key.tonic, key.mode) : 0),
  )
  const normal = Math.log(prior.reduce((sum, value) => sum + Math.exp(value), 0))
  return prior.map((value) => value - normal)
}

const bestState = (scores: Row): number => {
  let best = 0
  for (let state = 1; state < STATES; state++) if (scores[state]! > scores[best]!) best = state
  return best
}

interface Chain {
  /** What each span says of each chord, as logarithms, and as likelihoods. */
  logs: readonly Float64Array[]
  likelihoods: Row[]
  prior: Row
  /** Log chance that the chord changes at the beginning of each span. */
  change: number[]
}

function chainOf(
  spans: readonly Span[],
  evidence: readonly SpanEvidence[],
  key?: { tonic: number; mode: 'major' | 'minor' },
): Chain {
  const likelihoods = rows(evidence.length)
  likelihoods.forEach((row, t) => {
    const { logs } = evidence[t]!
    for (let state = 0; state < STATES; state++) row[state] = Math.exp(WITNESS * logs[state]!)
  })
  return {
    logs: evidence.map(({ logs }) => logs),
    likelihoods,
    prior: chordPrior(key),
    change: spans.map((span) => (span.early ? EARLY : CHANGE[span.at])),
  }
}

/** The best way through the chords (Viterbi 1967): a chord stays, or the best of all changes to it. */
function bestPath({ logs, prior, change }: Chain): number[] {
  const count = logs.length
  const from = Array.from({ length: count }, () => new Int16Array(STATES))
  let [score, before] = [prior.slice(), prior.slice()]
  logs.forEach((heard, t) => {
    ;[score, before] = [before, score]
    const best = bestState(before)
    const stay = Math.log1p(-Math.exp(change[t]!))
    const changed = before[best]! + change[t]!
    const came = from[t]!
    for (let state = 0; state < STATES; state++) {
      const kept = t === 0 ? prior[state]! : before[state]! + stay
      const other = t === 0 ? Number.NEGATIVE_INFINITY : changed + prior[state]!
      came[state] = kept >= other ? state : best
      score[state] = Math.max(kept, other) + WITNESS * heard[state]!
    }
  })
  const path = new Array<number>(count)
  let at = count ? bestState(score) : 0
  for (let t = count - 1; t >= 0; t--) {
    path[t] = at
    at = from[t]![at]!
  }
  return path
}

/** How likely each chord is by what was heard up to each span. */
function forwardPass({ likelihoods, prior, change }: Chain): Row[] {
  const forward = rows(likelihoods.length)
  const own = prior.map((value) => Math.exp(value))
  forward.forEach((row, t) => {
    const heard = likelihoods[t]!
    const before = forward[t - 1] ?? own
    // Nothing can stay where nothing was.
    const changes = t ? Math.exp(change[t]!) : 0
    for (let state = 0; state < STATES; state++)
      row[state] = (before[state]! * (1 - changes) + changes * own[state]!) * heard[state]!
    normalise(row)
  })
  return forward
}

/** How well each chord goes with what is heard after each span. */
function backwardPass({ likelihoods, prior, change }: Chain): Row[] {
  const count = likelihoods.length
  const own = prior.map((value) => Math.exp(value))
  const backward = rows(count).map((row) => row.fill(1))
  const carried = new Float64Array(STATES)
  for (let t = count - 2; t >= 0; t--) {
    const [row, after, heard] = [backward[t]!, backward[t + 1]!, likelihoods[t + 1]!]
    const changes = Math.exp(change[t + 1]!)
    let sum = 0
    for (let state = 0; state < STATES; state++) {
      carried[state] = after[state]! * heard[state]!
      sum += carried[state]! * own[state]!
    }
    for (let state = 0; state < STATES; state++) row[state] = carried[state]! * (1 - changes) + changes * sum
    normalise(row)
  }
  return backward
}

/** The most likely succession of chords, with each span's posterior. */
export function decodeChords(
  spans: readonly Span[],
  evidence: readonly SpanEvidence[],
  key?: { tonic: number; mode: 'major' | 'minor' },
): { path: number[]; posterior: Float64Array[] } {
  const chain = chainOf(spans, evidence, key)
  const backward = backwardPass(chain)
  const posterior = forwardPass(chain)
  posterior.forEach((row, t) => {
    const after = backward[t]!
    for (let state = 0; state < STATES; state++) row[state]! *= after[state]!
    normalise(row)
  })
  return { path: bestPath(chain), posterior }
}
function normalise(values: Float64Array): void {
  let sum = 0
  for (let i = 0; i < values.length; i++) sum += values[i]!
  if (sum > 0) for (let i = 0; i < values.length; i++) values[i]! /= sum
}

const chordOf = (state: number): { root: number; quality: Quality } | undefined =>
  state === NONE
    ? undefined
    : { root: Math.floor(state / QUALITIES.length), quality: QUALITIES[state % QUALITIES.length]! }

/**
 * Exponent that brings posteriors to what proved right: witnesses are not as independent as the model
 * believes (measured by npm run evaluate).
 */
const HUMILITY = 0.4

/** A doubtful chord has something to be taken instead, however little is said for it: itself and two more. */
const FEWEST_RIVALS = 3

/** Joins spans of one chord, finds its bass, and says how sure that is and what else it could be. */
export function joinChords(
  spans: readonly Span[],
  evidence: readonly SpanEvidence[],
  decoded: { path: number[]; posterior: Float64Array[] },
  key?: Key,
): HeardChord[] {
  const chords: HeardChord[] = []
  for (let t = 0; t < spans.length;) {
    let end = t + 1
    while (end < spans.length && decoded.path[end] === decoded.path[t]) end++
    const members = evidence.slice(t, end)
    const mean = new Float64Array(STATES)
    for (let k = t; k < end; k++)
      for (let state = 0; state < STATES; state++) mean[state]! += decoded.posterior[k]![state]! / (end - t)
    for (let state = 0; state < STATES; state++) mean[state] = mean[state]! ** HUMILITY
    normalise(mean)
    const found = chordOf(decoded.path[t]!)
    const chord = found && { ...found, bass: bassOf(found, members) }
    const rivals = [...mean.keys()]
      .sort((a, b) => mean[b]! - mean[a]!)
      .slice(0, 4)
      .map((state) => {
        const rival = chordOf(state)
        return {
          label: writeLabel(rival && { ...rival, bass: rival.root }, key),
          share: Math.round(mean[state]! * 100) / 100,
        }
      })
      .filter((rival, index) => index < FEWEST_RIVALS || rival.share >= 0.03)
    chords.push({
      start: spans[t]!.start,
      end: spans[end - 1]!.end,
      chord,
      confidence: mean[decoded.path[t]!]!,
      rivals,
    })
    t = end
  }
  return chords
}
