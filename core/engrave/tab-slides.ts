// Lines of slides: into a fret from beside it, out of it, and a whole grip from the frets before.
import type { Grip } from '../document/schema'
import type { StrokeMark } from '../marks'
import { line, type Primitive } from './primitives'
import type { TabMetrics } from './tab-measures'

type Way = Extract<StrokeMark, { kind: 'slide' }>['how']

/** A slide into a fret from beside it, or out of it; nothing for one that comes from another fret. */
export function looseSlide(
  how: Way,
  x: number,
  y: number,
  { fretSize, stringGap, hairline }: TabMetrics,
): Primitive[] {
  if (how === 'out')
    return [line(x + fretSize * 0.5, y, x + fretSize * 1.3, y + stringGap * 0.3, hairline * 1.2)]
  if (how === 'legato' || how === 'shift') return []
  const from = y + stringGap * (how === 'in from below' ? 0.3 : -0.3)
  return [line(x - fretSize * 1.2, from, x - fretSize * 0.5, y, hairline * 1.2)]
}

/** Where a grip stands and where the one before it on the paper did. */
interface SlidGrip {
  how: Way
  strings: Grip['strings']
  from: { x: number; strings: Grip['strings'] } | undefined
  x: number
  stringYs: readonly number[]
}

/** The lines of a slid grip, one on each string that sounds before and after. */
export function gripSlide({ how, strings, from, x, stringYs }: SlidGrip, metrics: TabMetrics): Primitive[] {
  const { fretSize, stringGap, hairline } = metrics
  return strings.flatMap(({ fret }, index): Primitive[] => {
    const y = stringYs[index]
    if (fret === null || fret === 0 || y === undefined) return []
    const before = from?.strings[index]?.fret ?? null
    if (how !== 'legato' && how !== 'shift') return looseSlide(how, x, y, metrics)
    if (!from || before === null || before === fret) return []
    const rise = stringGap * (before < fret ? 0.2 : -0.2)
    return [line(from.x + fretSize * 0.55, y + rise, x - fretSize * 0.55, y - rise, hairline * 1.2)]
  })
}
