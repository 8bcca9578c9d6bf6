// New figures with the places they are played at, as one step: lines that follow another, an overdub split
// off.
import { z } from 'zod'
import { ok } from '../../result'
import { figureSchema, placementSchema } from '../schema'
import { addFigure } from './figures'
import { setPlacement } from './placements'
import { define } from './transaction'

export const addPlacedFigures = define(
  z.strictObject({
    what: z.string().min(1).max(120),
    figures: z.array(figureSchema).min(1).max(20),
    placements: z.array(placementSchema).max(500),
  }),
  ({ what }) => what,
  (song, { figures, placements }) => {
    let next = song
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
