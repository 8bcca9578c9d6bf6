import { barTicks, countWords } from '#core/time/meter'
import type { Figure } from '#core/document/schema'

/** "bar 2, 3 and": where a tick of a figure lies, counted as it is counted aloud. */
export function placeWords(figure: Pick<Figure, 'meter'>, tick: number): string {
  const bar = barTicks(figure.meter)
  return `bar ${Math.floor(tick / bar) + 1}, ${countWords(figure.meter, tick % bar)}`
}
