// What one call over the form changes, as one step to undo: figures that are new, cells,
// sections, returns, landmarks, rigs.
import { z } from 'zod'
import { ok, type Result } from '../../result'
import {
  figureSchema,
  idSchema as id,
  placementSchema,
  rigSchema,
  sectionSchema,
  spotSchema,
  type Song,
} from '../schema'
import { setRig } from './band'
import { setSpot } from './doubts'
import { addFigure } from './figures'
import { changeSection, setReturn } from './form'
import { replaceCells } from './placements'
import { define } from './transaction'

const cells = z
  .array(z.strictObject({ partId: id, sectionId: id, placements: z.array(placementSchema).max(200) }))
  .max(400)
const sections = z
  .array(
    z.strictObject({
      sectionId: id,
      set: sectionSchema.pick({ passes: true, harmony: true }).partial(),
    }),
  )
  .max(200)
const returns = z
  .array(z.strictObject({ sectionId: id, returns: sectionSchema.shape.returns.unwrap() }))
  .max(200)

/** All of it or nothing. */
export const enterFormCall = define(
  z.strictObject({
    what: z.string().min(1).max(160),
    figures: z.array(figureSchema).max(100),
    cells,
    sections,
    returns,
    spots: z.array(spotSchema).max(100).optional(),
    rigs: z
      .array(z.strictObject({ partId: id, sectionId: id.optional(), rig: rigSchema }))
      .max(100)
      .optional(),
  }),
  (args) => args.what,
  (song, args) => {
    const steps: ((song: Song) => Result<Song>)[] = [
      ...args.figures.map((figure) => (now: Song) => addFigure.apply(now, { figure })),
      (now) => replaceCells.apply(now, { cells: args.cells, what: args.what }),
      ...args.sections.map((change) => (now: Song) => changeSection.apply(now, change)),
      ...args.returns.map((change) => (now: Song) => setReturn.apply(now, change)),
      ...(args.spots ?? []).map((spot) => (now: Song) => setSpot.apply(now, { spot })),
      ...(args.rigs ?? []).map((change) => (now: Song) => setRig.apply(now, change)),
    ]
    return steps.reduce<Result<Song>>((now, step) => (now.ok ? step(now.value) : now), ok(song))
  },
)
