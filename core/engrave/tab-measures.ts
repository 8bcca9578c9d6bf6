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
  /** Say how long everything sounds, in a row under the strings. */
  values?: boolean
}
export const BENCH_METRICS: TabMetrics = {
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

/** The row of a system nearest to a height: a string by its number, the grips, the hand. */
export function rowAt(system: TabSystem, y: number): number | 'grips' | 'hand' {
  const rows: [row: number | 'grips' | 'hand', distance: number][] = [
    ['grips', Math.abs(system.gripY - 4 - y)],
    ...system.stringYs.map((stringY, index): [number, number] => [index + 1, Math.abs(stringY - y)]),
    ['hand', Math.abs(system.handY - 4 - y)],
  ]
  return rows.reduce((best, next) => (next[1] < best[1] ? next : best))[0]
}

/**
 * Notes sit a little after their step's left edge, so that the bar line does not strike through the first
 * of a bar.
 */
export const inset = (metrics: TabMetrics): number => metrics.leastStep * 0.45

export const inSystem = (system: TabSystem, event: { startTicks: number }): boolean =>
  event.startTicks >= system.startTicks && event.startTicks < system.endTicks
