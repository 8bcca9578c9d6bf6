// The form: where sections begin, which return. Bars are described by their harmony beat by beat, their
// colour and their drums; a fitted network says how much each bar line sounds like a beginning; dynamic
// programming chooses the sections, preferring phrases of four and eight without forcing them; a second
// network says of two sections whether they are the same one returning, also moved by semitones; what
// returns shares a letter.
import { network, type NetWeights } from '../models/net'
import type { OnsetStrength } from '../features/onset-strength'
import boundaryWeights from '../models/boundary.json'
import returnWeights from '../models/return.json'

export interface BarSound {
  start: number
  end: number
  /** Chroma of four quarters of the bar, three registers of 12 each, every register scaled to length 1. */
  harmony: Float64Array[]
  /** Mean level in each band, logarithmic. */
  colour: Float64Array
  /** Onsets in low, middle and high bands over eight places of the bar. */
  rhythm: Float64Array
  loudness: number
}
const QUARTERS = 4
const PLACES = 8

const unit = (values: Float64Array): Float64Array => {
  let sum = 1e-9
  for (const value of values) sum += value * value
  const scale = 1 / Math.sqrt(sum)
  return values.map((value) => value * scale)
}
const cosine = (a: ArrayLike<number>, b: ArrayLike<number>): number => {
  let dot = 0
  let aa = 1e-9
  let bb = 1e-9
  for (let i = 0; i < a.length; i++) {
    dot += a[i]! * b[i]!
    aa += a[i]! ** 2
    bb += b[i]! ** 2
  }
  return dot / Math.sqrt(aa * bb)
}

/** Describes each bar. `chromaAt` gives the 36 pitch-class strengths of a stretch. */
export function describeBars(
  barStarts: readonly number[],
  endSeconds: number,
  onsets: OnsetStrength,
  chromaAt: (start: number, end: number) => Float32Array,
): BarSound[] {
  const rate = onsets.framesPerSecond
  const bars = barStarts.map((start, index): BarSound => {
    const end = barStarts[index + 1] ?? endSeconds
    const harmony = Array.from({ length: QUARTERS }, (_, quarter) => {
      const chroma = chromaAt(
        start + ((end - start) * quarter) / QUARTERS,
        start + ((end - start) * (quarter + 1)) / QUARTERS,
      )
      const out = new Float64Array(36)
      for (let register = 0; register < 3; register++)
        out.set(unit(Float64Array.from(chroma.subarray(register * 12, register * 12 + 12))), register * 12)
      return out
    })
    const bands = onsets.bands[0]?.length ?? 0
    const colour = new Float64Array(bands)
    const first = Math.max(0, Math.floor(start * onsets.bandsPerSecond))
    const last = Math.min(
      onsets.bands.length - 1,
      Math.max(first, Math.floor(end * onsets.bandsPerSecond) - 1),
    )
    for (let t = first; t <= last; t++)
      for (let band = 0; band < bands; band++) colour[band]! += onsets.bands[t]![band]! / (last - first + 1)
    const rhythm = new Float64Array(3 * PLACES)
    ;[onsets.low, onsets.mid, onsets.high].forEach((curve, row) => {
      for (let place = 0; place < PLACES; place++) {
        const from = (start + ((end - start) * (place - 0.5)) / PLACES) * rate
        for (
          let t = Math.max(0, Math.floor(from));
          t < Math.min(curve.length, from + ((end - start) * rate) / PLACES);
          t++
        )
          rhythm[row * PLACES + place] = Math.max(rhythm[row * PLACES + place]!, curve[t]!)
      }
    })
    let loudness = 0
    const [from, to] = [Math.floor(start * rate), Math.floor(end * rate)]
    for (let t = from; t < to; t++) loudness += onsets.loudness[t] ?? 0
    return {
      start,
      end,
      harmony,
      colour,
      rhythm,
      loudness: Math.log(1e-6 + loudness / Math.max(1, to - from)),
    }
  })
  scaleColumns(bars.map((bar) => bar.colour))
  scaleColumns(bars.map((bar) => bar.rhythm))
  return bars
}
/** Each column to mean 0 and deviation 1 over the song, in place. */
function scaleColumns(rows: Float64Array[]): void {
  for (let column = 0; column < (rows[0]?.length ?? 0); column++) {
    const mean = rows.reduce((sum, row) => sum + row[column]!, 0) / rows.length
    const deviation =
      Math.sqrt(rows.reduce((sum, row) => sum + (row[column]! - mean) ** 2, 0) / rows.length) + 0.15
    for (const row of rows) row[column] = (row[column]! - mean) / deviation
  }
}

/** Likeness of the harmony of two bars, the second moved up by semitones: 0–1. */
function harmonyLikeness(a: BarSound, b: BarSound, shift = 0): number {
  let sum = 0
  for (let quarter = 0; quarter < QUARTERS; quarter++)
    for (let register = 0; register < 3; register++)
      for (let k = 0; k < 12; k++)
        sum +=
          a.harmony[quarter]![register * 12 + k]! *
          b.harmony[quarter]![register * 12 + ((k + shift + 12) % 12)]!
  return sum / (QUARTERS * 3)
}
const distance = (a: Float64Array, b: Float64Array): number => {
  let sum = 0
  for (let i = 0; i < a.length; i++) sum += (a[i]! - b[i]!) ** 2
  return Math.sqrt(sum / Math.max(1, a.length))
}
const meanOf = (
  bars: readonly BarSound[],
  pick: (bar: BarSound) => Float64Array,
): Float64Array | undefined => {
  if (bars.length === 0) return undefined
  const out = new Float64Array(pick(bars[0]!).length)
  for (const bar of bars)
    pick(bar).forEach((value, index) => {
      out[index]! += value / bars.length
    })
  return out
}

/** Harmony likeness of every pair of bars; quadratic in bars. */
export function likenessMatrix(bars: readonly BarSound[]): Float64Array[] {
  const rows = bars.map(() => new Float64Array(bars.length))
  for (let a = 0; a < bars.length; a++)
    for (let b = a; b < bars.length; b++) {
      const value = harmonyLikeness(bars[a]!, bars[b]!)
      rows[a]![b] = value
      rows[b]![a] = value
    }
  return rows
}

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

const boundaryNet = network(boundaryWeights as NetWeights)
const returnNet = network(returnWeights as NetWeights)

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
/** Lengths of which returns are looked for. */
const RETURN_LENGTHS = [4, 6, 8, 10, 12, 16]
/** The network's odds beyond these say no more. */
const SURE = 4

/**
 * How much each stretch of bars sounds like one that is heard elsewhere too (not overlapping):
 * gain[length][start]. Likeness along the diagonals of the matrix and running sums of colour and drums keep
 * it quadratic in bars.
 */
function returnGains(bars: readonly BarSound[], matrix: readonly Float64Array[]): Map<number, Float64Array> {
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

/** What it costs that a section begins at a bar, from what is known and what the network says. */
function beginning(known: boolean | undefined, odds: number): number {
  if (known === true) return 0
  return known === false ? -50 : -TRUST * Math.log1p(Math.exp(-odds)) + BEGIN
}

/**
 * Bar indices at which sections begin, the first 0. `fixed` bars are beginnings (true) or are not (false).
 */
export function findBoundaries(
  bars: readonly BarSound[],
  matrix: readonly Float64Array[],
  fixed: ReadonlyMap<number, boolean> = new Map(),
): { starts: number[]; odds: number[] } {
  const odds = bars.map((_, at) => (at === 0 ? 0 : boundaryNet(boundaryInput(bars, matrix, at))[0]!))
  const gains = bars.length ? returnGains(bars, matrix) : new Map<number, Float64Array>()
  const best = new Float64Array(bars.length + 1).fill(Number.NEGATIVE_INFINITY)
  const from = new Int32Array(bars.length + 1)
  best[0] = 0
  // Inside a section every bar line says "no beginning".
  const inside = [0]
  odds.forEach((value, at) => {
    const known = fixed.get(at)
    inside.push(inside[at]! + (known === true ? -50 : -TRUST * Math.log1p(Math.exp(value))))
  })
  for (let end = 1; end <= bars.length; end++) {
    for (let start = Math.max(0, end - LONGEST); start < end; start++) {
      const known = fixed.get(start)
      const begin = start === 0 ? 0 : beginning(known, odds[start]!)
      const gain = (RETURN_GAIN * (gains.get(end - start)?.[start] ?? 0) * (end - start)) / 8
      const value =
        best[start]! +
        begin +
        inside[end]! -
        inside[start + 1]! +
        (end === bars.length ? 0.4 : 1) * lengthPrior(end - start) +
        gain
      if (value > best[end]!) {
        best[end] = value
        from[end] = start
      }
    }
  }
  const starts: number[] = []
  for (let end = bars.length; end > 0; end = from[end]!) starts.unshift(from[end]!)
  return { starts, odds }
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
  odds: number
}
/** A bar of a return differs when it is this much less like its counterpart than the others are. */
const DIFFERS = 0.14

/**
 * Sections with letters: the same letter for what returns. Groups grow by average linkage over the
 * network's odds.
 */
export function labelSections(
  bars: readonly BarSound[],
  boundaries: { starts: number[]; odds: number[] },
): FormSection[] {
  const { starts } = boundaries
  const spans = starts.map((start, index) => bars.slice(start, starts[index + 1] ?? bars.length))
  const likeness = spans.map((a) => spans.map((b) => compareSections(a, b)))
  const odds = likeness.map((row) => row.map((entry) => returnNet(entry.input)[0]!))
  let groups = spans.map((_, index) => [index])
  for (;;) {
    let best = 0
    let pair: [number, number] | undefined
    for (let a = 0; a < groups.length; a++)
      for (let b = a + 1; b < groups.length; b++) {
        let sum = 0
        for (const i of groups[a]!) for (const j of groups[b]!) sum += (odds[i]![j]! + odds[j]![i]!) / 2
        const mean = sum / (groups[a]!.length * groups[b]!.length)
        if (mean > best) {
          best = mean
          pair = [a, b]
        }
      }
    if (!pair) break
    const [a, b] = pair
    const joined = [...groups[a]!, ...groups[b]!]
    groups = groups.map((group, index) => (index === a ? joined : group)).filter((_, index) => index !== b)
  }
  groups = groups.map((group) => group.sort((a, b) => a - b)).sort((a, b) => a[0]! - b[0]!)
  return spans.map((span, index): FormSection => {
    const group = groups.findIndex((members) => members.includes(index))
    const first = groups[group]![0]!
    const base: FormSection = {
      firstBar: starts[index]!,
      barCount: span.length,
      letter: letterOf(group),
      odds: boundaries.odds[starts[index]!]!,
    }
    if (first === index) return base
    const { perBar, shift } = likeness[first]![index]!
    const typical = [...perBar].sort((a, b) => a - b)[perBar.length >> 1]!
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
