// Which measures the bench takes for a figure in the room it has.
import { barTicks, countBar } from '../time/meter'
import {
  BENCH_METRICS,
  TIGHT_METRICS,
  WIDE_BENCH,
  WIDE_METRICS,
  type TabInput,
  type TabMetrics,
} from './tab-measures'

/** How many bars of so many steps have room beside each other. */
export const mostBars = (room: number, steps: number, bars: number, metrics: TabMetrics): number =>
  Math.max(1, Math.min(bars, Math.floor(room / (steps * metrics.leastStep))))

/**
 * The bench's measures for a figure in a column: larger where there is room, tighter where it needs
 * two lines.
 */
export function benchMetrics(figure: TabInput['figure'], width: number): TabMetrics {
  const steps = countBar(figure.meter, figure.feel.subdivision).length
  const bars = Math.max(1, Math.ceil(figure.lengthTicks / barTicks(figure.meter)))
  const fits = (metrics: TabMetrics): boolean => mostBars(width - metrics.left, steps, bars, metrics) >= bars
  // Over several systems, rows with nothing in them are left out.
  if (width >= WIDE_BENCH) return { ...WIDE_METRICS, compact: !fits(WIDE_METRICS) }
  return fits(BENCH_METRICS) ? BENCH_METRICS : { ...TIGHT_METRICS, compact: true }
}
