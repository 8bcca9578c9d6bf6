// What the schema cannot say. One check for files, the journal and every transaction: whatever it passes can
// be read again, whatever it finds names the entity at fault.
import type { Song } from '../schema'
import { figureProblems, patternProblems } from './figures'
import { noteProblems, partProblems, sectionProblems, sourceProblems } from './form'
import { orderProblems, tableProblems } from './orders'
import { placementProblems } from './placements'
import type { Check, Problem } from './problem'
import { soundingProblems } from './sounding'

/** In an order in which a later check may rely on what an earlier one has passed. */
const CHECKS: readonly Check[] = [
  tableProblems,
  orderProblems,
  partProblems,
  sectionProblems,
  sourceProblems,
  patternProblems,
  figureProblems,
  placementProblems,
  soundingProblems,
  noteProblems,
]

/** The first thing that is broken in a song whose shape is valid; undefined when it is sound. */
export function songProblem(song: Song): Problem | undefined {
  for (const check of CHECKS) for (const problem of check(song)) return problem
  return undefined
}
