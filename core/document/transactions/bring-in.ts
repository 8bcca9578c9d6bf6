// A part from a file: the part if it is new, its figures, and what it plays in the sections they lie in, as
// one step to undo.
import { z } from 'zod'
import { figureSchema, idSchema as id, partSchema, placementSchema } from '../schema'
import { addPart } from './band'
import { addFigure } from './figures'
import { replaceCells } from './placements'
import { define } from './transaction'

export const bringInPart = define(
  z.strictObject({
    part: partSchema,
    figures: z.array(figureSchema).max(1000),
    cells: z
      .array(z.strictObject({ sectionId: id, placements: z.array(placementSchema).max(200) }))
      .max(1000),
  }),
  ({ part, figures }) => `bring in ${part.name} (${figures.length} figures)`,
  (song, { part, figures, cells }) => {
    const known = Object.hasOwn(song.parts, part.id)
    let next = known ? { ok: true as const, value: song } : addPart.apply(song, { part })
    for (const figure of figures) {
      if (!next.ok) return next
      next = addFigure.apply(next.value, { figure })
    }
    if (!next.ok) return next
    const placed = cells.map((cell) => ({ ...cell, partId: part.id }))
    return replaceCells.apply(next.value, { cells: placed, what: `bring in ${part.name}` })
  },
)
