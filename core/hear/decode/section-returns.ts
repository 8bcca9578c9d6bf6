// What returns: a fitted network says of two stretches of bars whether they are the same one returning, also
// moved by semitones; what returns shares a letter.
import { sum } from 'd3-array'
import { network, type NetWeights } from '../models/net'
import returnWeights from '../models/return.json'
import { cosine, distance, harmonyLikeness, meanOf, type BarSound } from './bar-sound'

/** The bar a section begins with, by index, and how sure that is, 0 to 1. */
export interface Beginning {
  bar: number
  sure: number
}

const returnNet = network(returnWeights as NetWeights)

/** Lengths of which returns are looked for. */
const RETURN_LENGTHS = [4, 6, 8, 10, 12, 16]
/** The network's odds beyond these say no more. */
const SURE = 4

/**
 * How much each stretch of bars sounds like one that is heard elsewhere too (not overlapping):
 * gain[length][start]. Likeness along the diagonals of the matrix and running sums of colour and drums keep
 * it quadratic in bars.
 */
export function returnGains(
  bars: readonly BarSound[],
  matrix: readonly Float64Array[],
): Map<number, Float64Array> {
  const sums = (pick: (bar: BarSound) => Float64Array): Float64Array[] => {
    const out = [new Float64Array(pick(bars[0]!).length)]
    for (const bar of bars) {
      const row = pick(bar)
      out.push(out.at(-1)!.map((value, index) => value + row[index]!))
    }
    return out
  }
  const [colour, rhythm] = [sums((bar) => bar.colour), sums((bar) => bar.rhythm)]
  const loud = [0]
  for (const bar of bars) loud.push(loud.at(-1)! + bar.loudness)
  const meanBetween = (table: Float64Array[], from: number, to: number): Float64Array =>
    table[to]!.map((value, index) => (value - table[from]![index]!) / (to - from))
  return new Map(
    RETURN_LENGTHS.filter((length) => length * 2 <= bars.length).map((length) => {
      const count = bars.length - length + 1
      const [colours, rhythms] = [colour, rhythm].map((table) =>
        Array.from({ length: count }, (_, at) => meanBetween(table, at, at + length)),
      ) as [Float64Array[], Float64Array[]]
      const gain = new Float64Array(count)
      for (let a = 0; a < count; a++)
        for (let b = a + length; b < count; b++) {
          let harmony = 0
          for (let k = 0; k < length; k++) harmony += matrix[a + k]![b + k]! / length
          if (harmony < 0.55) continue
          const odds = returnNet(
            Float64Array.of(
              harmony,
              distance(colours[a]!, colours[b]!),
              cosine(colours[a]!, colours[b]!),
              distance(rhythms[a]!, rhythms[b]!),
              Math.abs(loud[a + length]! - loud[a]! - loud[b + length]! + loud[b]!) / length,
              0,
              0,
              harmony * harmony,
            ),
          )[0]!
          const value = Math.max(0, Math.min(SURE, odds)) / SURE
          gain[a] = Math.max(gain[a]!, value)
          gain[b] = Math.max(gain[b]!, value)
        }
      return [length, gain]
    }),
  )
}

export interface Likeness {
  input: Float64Array
  shift: number
  perBar: number[]
}
/**
 * How two stretches of bars compare, from their first bars on: best shift in semitones and what the network
 * needs.
 */
export function compareSections(a: readonly BarSound[], b: readonly BarSound[]): Likeness {
  const length = Math.min(a.length, b.length)
  const at = (shift: number): number => {
    let sum = 0
    for (let k = 0; k < length; k++) sum += harmonyLikeness(a[k]!, b[k]!, shift)
    return sum / Math.max(1, length)
  }
  const plain = at(0)
  let shift = 0
  let best = plain + 0.06
  for (let candidate = 1; candidate < 12; candidate++) {
    const value = at(candidate)
    if (value > best) {
      best = value
      shift = candidate
    }
  }
  const perBar = Array.from({ length }, (_, k) => harmonyLikeness(a[k]!, b[k]!, shift))
  const [colourA, colourB] = [meanOf(a, (bar) => bar.colour)!, meanOf(b, (bar) => bar.colour)!]
  const [rhythmA, rhythmB] = [meanOf(a, (bar) => bar.rhythm)!, meanOf(b, (bar) => bar.rhythm)!]
  const loud = (bars: readonly BarSound[]): number =>
    bars.reduce((sum, bar) => sum + bar.loudness, 0) / bars.length
  const harmony = shift ? best : plain
  return {
    shift: shift > 6 ? shift - 12 : shift,
    perBar,
    input: Float64Array.of(
      harmony,
      distance(colourA, colourB),
      cosine(colourA, colourB),
      distance(rhythmA, rhythmB),
      Math.abs(loud(a) - loud(b)),
      Math.abs(Math.log2(a.length / b.length)),
      shift ? 1 : 0,
      harmony * harmony,
    ),
  }
}

export interface FormSection {
  firstBar: number
  barCount: number
  letter: string
  returns?: { section: number; shift: number; likeness: number; perBar: number[]; differs: number[] }
  /** How sure its beginning is, 0 to 1. */ sure: number
}
/** A bar of a return differs when it is this much less like its counterpart than the others are. */
const DIFFERS = 0.14

/** Which two groups are likeliest the same, where any are: the mean of the odds between their members. */
function likeliestPair(groups: readonly number[][], odds: readonly number[][]): [number, number] | undefined {
  const oddsOf = (i: number, j: number): number => odds[i]?.[j] ?? 0
  const between = (a: number[], b: number[]): number =>
    sum(a, (i) => sum(b, (j) => (oddsOf(i, j) + oddsOf(j, i)) / 2)) / (a.length * b.length)
  let best = 0
  let pair: [number, number] | undefined
  groups.forEach((group, a) => {
    for (let b = a + 1; b < groups.length; b++) {
      const mean = between(group, groups[b]!)
      if (mean <= best) continue
      best = mean
      pair = [a, b]
    }
  })
  return pair
}

/** Sections that are the same, by the odds of each two, in the order of their first. */
function groupsOf(odds: readonly number[][]): number[][] {
  let groups = odds.map((_, index) => [index])
  for (let pair = likeliestPair(groups, odds); pair; pair = likeliestPair(groups, odds)) {
    const [a, b] = pair
    const joined = [...(groups[a] ?? []), ...(groups[b] ?? [])]
    groups = groups.map((group, index) => (index === a ? joined : group)).filter((_, index) => index !== b)
  }
  return groups.map((group) => group.sort((a, b) => a - b)).sort(([a = 0], [b = 0]) => a - b)
}

/**
 * Sections with letters: the same letter for what returns. Groups grow by average linkage over the
 * network's odds.
 */
export function labelSections(bars: readonly BarSound[], beginnings: readonly Beginning[]): FormSection[] {
  const spans = beginnings.map(({ bar }, index) => bars.slice(bar, beginnings[index + 1]?.bar))
  const likeness = spans.map((a) => spans.map((b) => compareSections(a, b)))
  const odds = likeness.map((row) => row.map((entry) => returnNet(entry.input)[0]!))
  const groups = groupsOf(odds)
  return beginnings.map(({ bar, sure }, index): FormSection => {
    const group = groups.findIndex((members) => members.includes(index))
    const first = groups[group]?.[0] ?? index
    const base: FormSection = {
      firstBar: bar,
      barCount: spans[index]?.length ?? 0,
      letter: letterOf(group),
      sure,
    }
    const like = likeness[first]?.[index]
    if (first === index || !like) return base
    const { perBar, shift } = like
    const typical = [...perBar].sort((a, b) => a - b)[perBar.length >> 1] ?? 0
    return {
      ...base,
      returns: {
        section: first,
        shift,
        likeness: perBar.reduce((sum, value) => sum + value, 0) / perBar.length,
        perBar,
        differs: perBar.flatMap((value, bar) => (value < typical - DIFFERS ? [bar] : [])),
      },
    }
  })
}
/** Times of a pattern are the same when their bars are at least this like. */
const SAME = 0.8
/**
 * A riff that repeats inside a section: the shortest length in bars (1, 2 or 4) whose times are alike, how
 * many times, and which of them differ (from 0).
 */
export function repetitionIn(
  bars: readonly BarSound[],
): { bars: number; times: number; differs: number[] } | undefined {
  for (const length of [1, 2, 4]) {
    const times = Math.floor(bars.length / length)
    if (times < 2 || bars.length % length !== 0) continue
    const like = Array.from({ length: times - 1 }, (_, time) => {
      let sum = 0
      for (let k = 0; k < length; k++) sum += harmonyLikeness(bars[k]!, bars[(time + 1) * length + k]!)
      return sum / length
    })
    const typical = [...like].sort((a, b) => a - b)[like.length >> 1]!
    if (typical < SAME) continue
    const differs = like.flatMap((value, index) => (value < typical - DIFFERS ? [index + 1] : []))
    if (differs.length <= times / 3) return { bars: length, times, differs }
  }
  return undefined
}

const letterOf = (index: number): string =>
  index < 26
    ? String.fromCharCode(65 + index)
    : `${String.fromCharCode(64 + Math.floor(index / 26))}${String.fromCharCode(65 + (index % 26))}`
