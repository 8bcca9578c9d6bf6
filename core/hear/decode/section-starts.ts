// Where sections begin: a fitted network says how much each bar line sounds like a beginning; dynamic
// programming chooses the sections, preferring phrases of four and eight without forcing them, and stretches
// that return.
import { network, type NetWeights } from '../models/net'
import boundaryWeights from '../models/boundary.json'
import { distance, harmonyLikeness, meanOf, PLACES, type BarSound } from './bar-sound'
import { returnGains, type Beginning } from './section-returns'

const boundaryNet = network(boundaryWeights as NetWeights)

const meanLoudness = (bars: readonly BarSound[]): number =>
  bars.reduce((sum, bar) => sum + bar.loudness, 0) / bars.length

/** How colour, rhythm and loudness differ before and after a bar line, over one, two and four bars. */
function contrasts(bars: readonly BarSound[], at: number): number[] {
  return [1, 2, 4].flatMap((reach) => {
    const before = bars.slice(Math.max(0, at - reach), at)
    const after = bars.slice(at, at + reach)
    const differ = (pick: (bar: BarSound) => Float64Array): number => {
      const [a, b] = [meanOf(before, pick), meanOf(after, pick)]
      return a && b ? distance(a, b) : 1.5
    }
    const louder = before.length && after.length ? meanLoudness(after) - meanLoudness(before) : 0
    return [differ((bar) => bar.colour), differ((bar) => bar.rhythm), louder]
  })
}

/**
 * Mean likeness along a diagonal of the matrix, from a pair of bars on; undefined with fewer than
 * `least`.
 */
function alongDiagonal(
  matrix: readonly Float64Array[],
  pair: { row: number; column: number },
  length: number,
  least = 1,
): number | undefined {
  let sum = 0
  let n = 0
  for (let k = 0; k < length; k++) {
    const value = pair.column + k >= 0 ? matrix[pair.row + k]?.[pair.column + k] : undefined
    if (value === undefined) continue
    sum += value
    n++
  }
  return n >= least ? sum / n : undefined
}

/** Does something begin here that also began elsewhere, while what came before differed? */
function returnsAt(bars: readonly BarSound[], matrix: readonly Float64Array[], at: number): [number, number] {
  let returns = 0
  let continues = 0
  for (let other = 0; other < bars.length; other++) {
    const ahead = alongDiagonal(matrix, { row: at, column: other }, 4, 3)
    if (Math.abs(other - at) < 4 || ahead === undefined) continue
    const behind = at && other ? matrix[at - 1]![other - 1]! : 0
    const colour = 1 / (1 + distance(bars[at]!.colour, bars[other]!.colour))
    returns = Math.max(returns, ahead * colour - 0.5 * behind)
    continues = Math.max(continues, ahead * colour)
  }
  return [returns, continues]
}

/** What the drums do at the end of the bar before: a fill. */
const fillOf = (bar: BarSound): number =>
  bar.rhythm.reduce((sum, value, index) => sum + (index % PLACES >= 5 ? value : 0), 0) / 9

/** What speaks for a section beginning at a bar: see the names in the order of the list. */
export function boundaryInput(
  bars: readonly BarSound[],
  matrix: readonly Float64Array[],
  at: number,
): Float64Array {
  const here = bars[at]!
  const before = bars[at - 1]
  // Does the progression go on as the one before did (no beginning), at lags of two, four and eight bars?
  const goesOn = [2, 4, 8].flatMap((lag) =>
    [2, 4].map((length) => alongDiagonal(matrix, { row: at, column: at - lag }, length) ?? 0),
  )
  const crash = here.rhythm[2 * PLACES]!
  return Float64Array.from([
    ...contrasts(bars, at),
    ...goesOn,
    ...returnsAt(bars, matrix, at),
    before ? fillOf(before) : 0,
    crash,
    crash - (bars[at + 1]?.rhythm[2 * PLACES] ?? 0),
    before ? harmonyLikeness(before, here) : 0,
    at <= 2 || at >= bars.length - 2 ? 1 : 0,
  ])
}

/** Log prior of a section's length in bars: phrases of four and eight are common, one and two bars rare. */
function lengthPrior(length: number): number {
  const special: Record<number, number> = {
    1: -5,
    2: -3,
    3: -3.2,
    4: 0,
    5: -2.5,
    6: -1.6,
    7: -2.2,
    8: 0.6,
    9: -1.8,
    10: -1.6,
    12: -0.3,
    16: 0,
  }
  return special[length] ?? (length % 4 === 0 ? -0.4 : -2.4) - Math.max(0, length - 12) / 6
}
const LONGEST = 32
/** Weight of the network's log odds against the length prior. */
const TRUST = 0.5
/** What every beginning gains: phrases end, and a song of one section says nothing. */
const BEGIN = 0.2

/** What a section of eight bars gains when it surely returns elsewhere. */
const RETURN_GAIN = 1.5

/** What it costs that a section begins at a bar, from what is known and what the network says. */
function beginning(known: boolean | undefined, odds: number): number {
  if (known === true) return 0
  return known === false ? -50 : -TRUST * Math.log1p(Math.exp(-odds)) + BEGIN
}

/** How well it goes that one section is all of the bars from one to before another. */
type SectionScore = (start: number, end: number) => number

function sectionScore(
  bars: readonly BarSound[],
  matrix: readonly Float64Array[],
  fixed: ReadonlyMap<number, boolean>,
): SectionScore {
  const odds = bars.map((_, at) => (at === 0 ? 0 : boundaryNet(boundaryInput(bars, matrix, at))[0]!))
  const gains = returnGains(bars, matrix)
  // Inside a section every bar line says "no beginning".
  const inside = [0]
  odds.forEach((value, at) => {
    const known = fixed.get(at)
    inside.push(inside[at]! + (known === true ? -50 : -TRUST * Math.log1p(Math.exp(value))))
  })
  return (start, end) => {
    const length = end - start
    const begin = start === 0 ? 0 : beginning(fixed.get(start), odds[start]!)
    const gain = (RETURN_GAIN * (gains.get(length)?.[start] ?? 0) * length) / 8
    // The last section may be cut short by the end of the file.
    const prior = (end === bars.length ? 0.4 : 1) * lengthPrior(length)
    return begin + inside[end]! - inside[start + 1]! + prior + gain
  }
}

/** The beginnings of the best way to cut so many bars into sections. */
function bestCut(count: number, score: SectionScore): number[] {
  const best = new Float64Array(count + 1).fill(Number.NEGATIVE_INFINITY)
  const from = new Int32Array(count + 1)
  best[0] = 0
  for (let end = 1; end <= count; end++)
    for (let start = Math.max(0, end - LONGEST); start < end; start++) {
      const value = best[start]! + score(start, end)
      if (value <= best[end]!) continue
      best[end] = value
      from[end] = start
    }
  const starts: number[] = []
  for (let end = count; end > 0; end = from[end]!) starts.unshift(from[end]!)
  return starts
}

/**
 * How sure it is that a section begins at each bar: the share of all ways to cut the song that do, each
 * weighed by its score (forward and backward sums).
 */
function sureOfBeginnings(count: number, score: SectionScore): number[] {
  const forward = new Float64Array(count + 1)
  const backward = new Float64Array(count + 1)
  for (let end = 1; end <= count; end++)
    forward[end] = logSum(Math.max(0, end - LONGEST), end, (start) => forward[start]! + score(start, end))
  for (let start = count - 1; start >= 0; start--)
    backward[start] = logSum(
      start + 1,
      Math.min(count, start + LONGEST) + 1,
      (end) => backward[end]! + score(start, end),
    )
  return Array.from({ length: count }, (_, at) => Math.exp(forward[at]! + backward[at]! - forward[count]!))
}

/** The logarithm of the sum of powers, of values from one index to before another. */
function logSum(from: number, to: number, valueAt: (index: number) => number): number {
  let [sum, top] = [0, Number.NEGATIVE_INFINITY]
  for (let index = from; index < to; index++) {
    const value = valueAt(index)
    if (value > top) {
      sum = sum * Math.exp(top - value) + 1
      top = value
    } else sum += Math.exp(value - top)
  }
  return top + Math.log(sum)
}

/**
 * Bars at which sections begin, the first 0. `fixed` bars are beginnings (true) or are not (false).
 */
export function findBeginnings(
  bars: readonly BarSound[],
  matrix: readonly Float64Array[],
  fixed: ReadonlyMap<number, boolean> = new Map(),
): Beginning[] {
  if (!bars.length) return []
  const score = sectionScore(bars, matrix, fixed)
  const sure = sureOfBeginnings(bars.length, score)
  return bestCut(bars.length, score).map((bar) => ({ bar, sure: sure[bar] ?? 0 }))
}
