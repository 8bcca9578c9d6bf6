// Under the counts: accents somebody else in the band gives, a row for each, to be played with.
import type { AccentLine } from '../document/schema'
import { text, type Primitive } from './primitives'
import { inset, tickToX, type TabInput, type TabMetrics, type TabSystem } from './tab-measures'

/** The first row stands close under the counts, the others under it. */
const rowHeight = ({ smallSize }: TabMetrics): number => smallSize * 1.1

/** How much the rows take. */
export const accentRowsHeight = ({ figure, metrics }: TabInput): number => {
  const rows = figure.accentLines?.length ?? 0
  return rows === 0 ? 0 : (rows - 1) * rowHeight(metrics) + metrics.smallSize * 0.3
}

/** The accents of a stretch, counted from its beginning; lines that have none there keep their row. */
export const accentsWithin = (
  lines: readonly AccentLine[] | undefined,
  from: number,
  until: number,
): AccentLine[] | undefined =>
  lines?.map((one) => ({
    ...one,
    at: one.at.filter((tick) => tick >= from && tick < until).map((tick) => tick - from),
  }))

/** A wedge that points up at the count. */
function wedge(x: number, top: number, size: number): Primitive {
  return { kind: 'polygon', points: [x - size, top + size, x + size, top + size, x, top], fill: 'ink' }
}

export function accentRows(system: TabSystem, { figure, metrics }: TabInput): Primitive[] {
  const { smallSize } = metrics
  const end = Math.min(system.endTicks, figure.lengthTicks)
  return (figure.accentLines ?? []).flatMap((one, index): Primitive[] => {
    const top = system.countY + smallSize * 0.25 + index * rowHeight(metrics)
    const marks = one.at
      .filter((tick) => tick >= system.startTicks && tick < end)
      .map((tick) => wedge(tickToX(system, tick) + inset(metrics), top, smallSize * 0.42))
    const name = text(system.left - smallSize * 0.7, top + smallSize * 0.62, one.of, smallSize * 0.85, {
      anchor: 'end',
      role: 'quiet',
    })
    return [name, ...marks]
  })
}
