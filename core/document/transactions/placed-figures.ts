// New figures with the places they are played at, as one step: lines that follow another, an overdub split
// off.
import { z } from 'zod'
import { ok } from '../../result'
import { figureSchema, idSchema as id, partSchema, placementSchema } from '../schema'
import { addPart } from './band'
import { addFigure, changeFigures } from './figures'
import { setPlacement } from './placements'
import { define } from './transaction'

export const addPlacedFigures = define(
  z.strictObject({
    what: z.string().min(1).max(120),
    /** A new player for them. */
    part: partSchema.optional(),
    figures: z.array(figureSchema).min(1).max(20),
    placements: z.array(placementSchema).max(500),
    /** What the figures were split off, changed with it. */
    changes: z
      .array(z.strictObject({ figureId: id, set: figureSchema.omit({ id: true, partId: true }).partial() }))
      .min(1)
      .max(20)
      .optional(),
  }),
  ({ what }) => what,
  (song, { what, part, figures, placements, changes }) => {
    let next = song
    const played = part ? addPart.apply(next, { part }) : ok(next)
    if (!played.ok) return played
    next = played.value
    const changed = changes ? changeFigures.apply(next, { what, changes }) : ok(next)
    if (!changed.ok) return changed
    next = changed.value
    for (const figure of figures) {
      const added = addFigure.apply(next, { figure })
      if (!added.ok) return added
      next = added.value
    }
    for (const placement of placements) {
      const placed = setPlacement.apply(next, { placement })
      if (!placed.ok) return placed
      next = placed.value
    }
    return ok(next)
  },
)
