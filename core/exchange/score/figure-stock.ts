// What is played several times alike is charted once.
import type { Figure } from '../../document/schema'
import { same } from '../../same'

/** Figures made so far, each with what it plays. */
export type Stock = { of: unknown; figure: Figure }[]
/** The figure that plays this already, else the one made for it. */
export function stocked(figures: Stock, of: unknown, make: (number: number) => Figure): Figure {
  const known = figures.find((before) => same(before.of, of))
  if (known) return known.figure
  const figure = make(figures.length + 1)
  figures.push({ of, figure })
  return figure
}
