// What a tablature is drawn from, and its measures: the time axis, the rows, sizes on the bench and on paper.
import type { Content, Figure } from '../document/schema'
import type { Primitive } from './primitives'

export interface TabMetrics {
  stringGap: number
  fretSize: number
  smallSize: number
  rowGap: number
  leastStep: number
  left: number
  gripRow: number
  outlineRow: number
  hairline: number
  /** Leave out rows that have nothing to show. */
  compact: boolean
  /** Keep the rows of marks and of the hand while nothing stands in them: the first mark moves nothing. */
  steady?: boolean
  /** Say how long everything sounds, in a row under the strings. */
  values?: boolean
}
export const BENCH_METRICS: TabMetrics = {
  steady: true,
  stringGap: 22,
  fretSize: 15,
  smallSize: 12.5,
  rowGap: 27,
  leastStep: 21,
  left: 44,
  gripRow: 26,
  outlineRow: 34,
  hairline: 1,
  compact: false,
}
/** From this width on the bench has room for larger strings. */
export const WIDE_BENCH = 1300
export const WIDE_METRICS: TabMetrics = {
  ...BENCH_METRICS,
  stringGap: 28,
  fretSize: 19,
  smallSize: 15,
  rowGap: 33,
  leastStep: 27,
  left: 54,
  gripRow: 33,
  outlineRow: 46,
}
/** A figure over several systems: the neck stays in view under them. */
export const TIGHT_METRICS: TabMetrics = {
  ...BENCH_METRICS,
  stringGap: 17,
  fretSize: 14,
  rowGap: 20,
  gripRow: 23,
  outlineRow: 22,
}
/** A second reading under the bench, to the same ruler, without what both share. */
export const BESIDE_METRICS: TabMetrics = {
  ...BENCH_METRICS,
  stringGap: 15,
  fretSize: 13,
  rowGap: 22,
  gripRow: 24,
  outlineRow: 0,
  compact: true,
  steady: false,
}
export const SHEET_METRICS: TabMetrics = {
  stringGap: 2.5,
  fretSize: 2.9,
  smallSize: 2.2,
  rowGap: 3.5,
  leastStep: 3.6,
  left: 9,
  gripRow: 4.6,
  outlineRow: 0,
  hairline: 0.12,
  compact: true,
  values: true,
}

export interface TabSystem {
  firstBar: number
  startTicks: number
  endTicks: number
  left: number
  right: number
  top: number
  stringYs: number[]
  /** Where the stems of the note values begin; undefined where none are drawn. */
  valuesY: number | undefined
  outlineY: number
  gripY: number
  mutingY: number
  handY: number
  countY: number
  bottom: number
}
export interface Tab {
  systems: TabSystem[]
  primitives: Primitive[]
  height: number
  width: number
}
export interface TabInput {
  figure: Pick<Figure, 'lengthTicks' | 'meter' | 'feel' | 'freeTime' | 'accentLines'>
  content: Content
  stringNames: string[]
  /** Symbol of each grip span by id, as named by the caller's choice of naming. */
  gripNames: Record<string, string>
  width: number
  metrics: TabMetrics
  /** So many ticks after the first bar line it begins: a pickup. What is before is not its own. */
  begins?: number
  /** Not entered yet: what the call line or a path would put there. */
  draft?: Partial<Content>
  /** Ids of draft notes that stand on an assumption: drawn with a dotted ring. */
  assumed?: ReadonlySet<string>
  /**
   * Ids of notes and strokes to point at: what differs, what goes against the school, what cannot be
   * played.
   */
  marked?: ReadonlySet<string>
}

export const tickToX = (system: TabSystem, tick: number): number =>
  system.left +
  ((tick - system.startTicks) / (system.endTicks - system.startTicks)) * (system.right - system.left)
export const xToTick = (system: TabSystem, x: number): number =>
  system.startTicks +
  ((x - system.left) / (system.right - system.left)) * (system.endTicks - system.startTicks)

/**
 * The row of a system at a height: a string by its number with all of its digits, the grips over the strings,
 * the hand under them.
 */
export function rowAt({ stringYs }: TabSystem, y: number): number | 'grips' | 'hand' {
  const [first = 0, second = first + 1] = stringYs
  const gap = second - first
  const string = Math.round((y - first) / gap)
  // Between two strings a digit belongs to the nearer one; outside it still has its whole height.
  if (y < first - DIGIT_SHARE * gap) return 'grips'
  if (y > first + (stringYs.length - 1 + DIGIT_SHARE) * gap) return 'hand'
  return Math.max(0, Math.min(stringYs.length - 1, string)) + 1
}
/** Half the height of a digit, as a share of the distance of two strings, with a little air. */
const DIGIT_SHARE = 0.6

/**
 * Notes sit a little after their step's left edge, so that the bar line does not strike through the first
 * of a bar.
 */
export const inset = (metrics: TabMetrics): number => metrics.leastStep * 0.45

export const inSystem = (system: TabSystem, event: { startTicks: number }): boolean =>
  event.startTicks >= system.startTicks && event.startTicks < system.endTicks
