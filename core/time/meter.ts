// Ticks, meters and how they are counted aloud. All musical positions and lengths are whole ticks.

/** 10080 = 2⁵·3²·5·7: exact for triplets, quintuplets, septuplets and ninths. */
export const TICKS_PER_QUARTER = 10080

export interface Meter {
  beats: number
  unit: 2 | 4 | 8 | 16
  grouping?: number[] | undefined
}
/** A bar has at most so many counts of its unit. */
export const MOST_COUNTS = 32
/** Bars of a whole song, and of one figure. */
export const MOST_BARS = 5000
export const MOST_FIGURE_BARS = 512
/** 512 bars of four quarters. */
export const MOST_FIGURE_TICKS = MOST_FIGURE_BARS * 4 * TICKS_PER_QUARTER
/** Farther than the longest song: its bars, each with as many half notes as a bar may have. */
export const FARTHEST_TICKS = 2 ** 32
export const SUBDIVISIONS = ['quarters', 'eighths', 'triplets', 'sixteenths', 'sextuplets'] as const
export type Subdivision = (typeof SUBDIVISIONS)[number]

export const unitTicks = (meter: Meter): number => (TICKS_PER_QUARTER * 4) / meter.unit
export const barTicks = (meter: Meter): number => meter.beats * unitTicks(meter)

/** The meters offered in lists; any other can come from a file. */
export const USUAL_METERS: readonly Meter[] = [
  { beats: 4, unit: 4 },
  { beats: 3, unit: 4 },
  { beats: 2, unit: 4 },
  { beats: 6, unit: 8 },
  { beats: 12, unit: 8 },
  { beats: 5, unit: 4 },
  { beats: 7, unit: 8 },
]

/** 6/8, 9/8, 12/8 are counted in dotted quarters. */
export const isCompound = (meter: Meter): boolean =>
  meter.unit === 8 && meter.beats % 3 === 0 && meter.beats > 3

/** Ticks of one counted beat: a dotted quarter in compound meters, else the beat unit. */
export const beatTicks = (meter: Meter): number => (isCompound(meter) ? 3 : 1) * unitTicks(meter)
export const countedBeats = (meter: Meter): number => barTicks(meter) / beatTicks(meter)
export const meterName = (meter: Meter): string =>
  `${meter.beats}/${meter.unit}` + (meter.grouping ? ` (${meter.grouping.join('+')})` : '')

/** The meter most bars of a stretch have, by name; free bars do not count. Empty when all are free. */
export function usualMeterName(bars: readonly { meter: Meter; free?: boolean | undefined }[]): string {
  const counts = new Map<string, number>()
  for (const bar of bars)
    if (!bar.free) counts.set(meterName(bar.meter), (counts.get(meterName(bar.meter)) ?? 0) + 1)
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? ''
}

const PER_BEAT: Record<Subdivision, number> = {
  quarters: 1,
  eighths: 2,
  triplets: 3,
  sixteenths: 4,
  sextuplets: 6,
}

/** Equal steps a counted beat is divided into. In compound meters eighths are three to the beat. */
function stepsPerBeat(meter: Meter, subdivision: Subdivision): number {
  if (!isCompound(meter)) return PER_BEAT[subdivision]
  if (subdivision === 'quarters') return 1
  return subdivision === 'sixteenths' || subdivision === 'sextuplets' ? 6 : 3
}

export const stepTicks = (meter: Meter, subdivision: Subdivision): number =>
  beatTicks(meter) / stepsPerBeat(meter, subdivision)

export interface Count {
  tick: number
  text: string
  strength: 'one' | 'beat' | 'between'
}

const SYLLABLES: Record<number, string[]> = {
  1: [''],
  2: ['', '&'],
  3: ['', 'trip', 'let'],
  4: ['', 'e', '&', 'a'],
  6: ['', 'ta', 'trip', 'ta', 'let', 'ta'],
}

/**
 * What is said on each step of one bar: "1 & 2 &", "1 e & a", "1 trip let"; 6/8 counts its eighths "1 2 3 4
 * 5 6"; a swung pair of eighths keeps its two syllables. A grouping (3+3+2 eighths) marks group starts as
 * beats.
 */
export function countBar(meter: Meter, subdivision: Subdivision): Count[] {
  const step = stepTicks(meter, subdivision)
  const total = barTicks(meter) / step
  const perBeat = stepsPerBeat(meter, subdivision)
  const groupStarts = new Set<number>()
  if (meter.grouping)
    meter.grouping.reduce((at, size) => {
      groupStarts.add(at * (TICKS_PER_QUARTER / 2))
      return at + size
    }, 0)
  return Array.from({ length: total }, (_, index): Count => {
    const tick = index * step
    const within = index % perBeat
    const beat = Math.floor(index / perBeat) + 1
    const strong = meter.grouping ? groupStarts.has(tick) : within === 0
    const other = strong ? 'beat' : 'between'
    const strength = index === 0 ? 'one' : other
    if (isCompound(meter) && perBeat >= 3) {
      const perEighth = perBeat / 3
      return { tick, text: index % perEighth === 0 ? String(index / perEighth + 1) : '&', strength }
    }
    return { tick, text: within === 0 ? String(beat) : SYLLABLES[perBeat]![within]!, strength }
  })
}

/**
 * Where a count that is said lies in its bar, in ticks: "3", or "the and of 3", half way to the next count.
 * Undefined when the bar has no such count.
 */
export function tickOfCount(meter: Meter, count: number, and: boolean): number | undefined {
  const counts = countBar({ ...meter, grouping: undefined }, 'eighths')
  const tickOf = (number: number): number | undefined =>
    counts.find(({ text }) => text === String(number))?.tick
  const tick = tickOf(count)
  if (tick === undefined) return undefined
  return tick + (and ? (tickOf(2) ?? barTicks(meter)) / 2 : 0)
}

/**
 * A place within a bar in words: "1", "the & of 4", "the e of 2", or "beat 2.37" when it lies between
 * syllables.
 */
export function countWords(meter: Meter, tickInBar: number): string {
  for (const subdivision of SUBDIVISIONS) {
    const counts = countBar({ ...meter, grouping: undefined }, subdivision)
    const index = counts.findIndex((count) => count.tick === tickInBar)
    if (index === -1) continue
    const count = counts[index]!
    if (/^\d/.test(count.text)) return count.text
    const beat = counts
      .slice(0, index)
      .reverse()
      .find((earlier) => /^\d/.test(earlier.text))
    return `the ${count.text === '&' ? 'and' : count.text} of ${beat?.text ?? '1'}`
  }
  return betweenCounts(tickInBar / beatTicks(meter))
}

/** Shares of a beat that are said in words. */
const SHARES: readonly (readonly [share: number, words: string])[] = [
  [0, ''],
  [1 / 8, ' and an eighth'],
  [1 / 6, ' and a sixth'],
  [1 / 4, ' and a quarter'],
  [1 / 3, ' and a third'],
  [1 / 2, ' and a half'],
  [2 / 3, ' and two thirds'],
  [3 / 4, ' and three quarters'],
]
const NEAR = 0.01
/** "beat 1 and a half"; what no share says is "a little after beat 1". */
function betweenCounts(beats: number): string {
  const beat = Math.floor(beats + NEAR)
  const said = SHARES.find(([share]) => Math.abs(beats - beat - share) <= NEAR)
  return said ? `beat ${beat + 1}${said[1]}` : `a little after beat ${(beats + 1).toFixed(1)}`
}

export type SwingLevel = 'eighths' | 'sixteenths'
export interface Swing {
  ratio: number
  level: SwingLevel
}
export const STRAIGHT: Swing = { ratio: 0.5, level: 'eighths' }

/**
 * Where a written tick is played under swing: the second of each pair starts at `ratio` of the pair (0.5
 * straight, 0.667 triplet swing). Monotone; identity on pair boundaries. Compound meters do not swing.
 */
export function swungTick(tick: number, swing: Swing, meter: Meter): number {
  if (swing.ratio === 0.5 || isCompound(meter)) return tick
  const pair = swing.level === 'eighths' ? TICKS_PER_QUARTER : TICKS_PER_QUARTER / 2
  const start = Math.floor(tick / pair) * pair
  const share = (tick - start) / pair
  const warped = share < 0.5 ? share * 2 * swing.ratio : swing.ratio + (share - 0.5) * 2 * (1 - swing.ratio)
  return start + warped * pair
}
