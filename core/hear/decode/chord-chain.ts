// A hidden Markov model decides which changes of chord are worth believing: changes on the one are common, on
// other beats rarer, between beats (anticipations) rarest; chords of the key are likelier.
import { QUALITIES, TONES, type Quality } from './chord-labels'
import { normalise } from './normalise'

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

/** Every quality on every root, and no chord at all. */
export const STATES = 12 * QUALITIES.length + 1
export const NONE = STATES - 1

export interface SpanEvidence {
  logs: Float64Array
  /** How strongly each pitch class is the guitars' lowest note, the strongest 1, where that is known. */
  low: Float32Array | undefined
  notes: Float32Array
  chroma: Float32Array
  loud: number
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

/** A chord for each span (an index of the states), and how likely each is there. */
export interface Decoded {
  path: number[]
  posterior: Float64Array[]
}
/** The most likely succession of chords, with each span's posterior. */
export function decodeChords(
  spans: readonly Span[],
  evidence: readonly SpanEvidence[],
  key?: { tonic: number; mode: 'major' | 'minor' },
): Decoded {
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
