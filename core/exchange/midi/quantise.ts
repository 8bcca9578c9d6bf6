// Notes as a hand played them, written on a grid: a chord rolled within 50 ms is a chord, and times go to the
// steps that most of them stand near.
import { pairs } from 'd3-array'
import { TICKS_PER_QUARTER } from '../../time/meter'
import type { Timing } from '../import-questions'
import type { HeardNote } from './midi-track'

const ROLLED_SECONDS = 0.05

/** The steps of a quarter, in shares of it. */
const STEPS: Record<Exclude<Timing, 'as played'>, readonly number[]> = {
  eighths: [0, 1 / 2, 1],
  triplets: [0, 1 / 3, 2 / 3, 1],
  sixteenths: [0, 1 / 4, 1 / 2, 3 / 4, 1],
  'sixteenths and triplets': [0, 1 / 4, 1 / 3, 1 / 2, 2 / 3, 3 / 4, 1],
}
/** Tried in this order: the first that most notes fit. */
const TRIED = ['eighths', 'triplets', 'sixteenths', 'sixteenths and triplets'] as const

/** So far from a step a hand may be, in quarters; of a fine grid no more than this share of a step. */
const HAND = 0.09
const SHARE_OF_STEP = 0.36
/** So many of the notes have to fit. */
const MOST = 0.92
/** Written to the grid already, as programs write: so near, in quarters, that nobody played it. */
const WRITTEN = 0.004
/** Steps that a program writes to: 32nds, triplets of sixteenths, fives and sevens. */
const WRITTEN_STEPS = [8, 12, 5, 7]

const quarterShare = (ticks: number): number => {
  const share = ticks / TICKS_PER_QUARTER
  return share - Math.floor(share)
}
const distance = (share: number, steps: readonly number[]): number =>
  Math.min(...steps.map((step) => Math.abs(step - share)))

/** How a file is timed: undefined when it is written to a grid, else the coarsest grid its notes fit. */
export function timingOf(notes: readonly HeardNote[]): Exclude<Timing, 'as played'> | undefined {
  const shares = notes.map(({ startTicks }) => quarterShare(startTicks))
  if (!shares.length) return undefined
  const fitting = (fits: (share: number) => boolean): number => shares.filter(fits).length / shares.length
  const written = (share: number): boolean =>
    WRITTEN_STEPS.some((steps) => Math.abs(share * steps - Math.round(share * steps)) / steps < WRITTEN)
  if (fitting(written) >= MOST) return undefined
  return (
    TRIED.find((timing) => {
      const steps = STEPS[timing]
      const near = Math.min(HAND, SHARE_OF_STEP / (steps.length - 1))
      return fitting((share) => distance(share, steps) <= near) >= MOST
    }) ?? 'sixteenths and triplets'
  )
}

/**
 * Notes that begin within 50 ms of each other and sound on together begin together, with the first of them.
 * `notes` in order of their starts; `seconds` of a tick.
 */
export function rolledTogether(notes: readonly HeardNote[], seconds: (tick: number) => number): HeardNote[] {
  let first: HeardNote | undefined
  let pitches = new Set<number>()
  return notes.map((note) => {
    const apart = first && seconds(note.startTicks) - seconds(first.startTicks)
    const rings =
      first && first.startTicks + first.lengthTicks - note.startTicks > note.startTicks - first.startTicks
    const joins = apart !== undefined && apart <= ROLLED_SECONDS && rings && !pitches.has(note.midi)
    if (!joins || !first) {
      first = note
      pitches = new Set([note.midi])
      return note
    }
    pitches.add(note.midi)
    const { startTicks } = first
    return { ...note, startTicks, lengthTicks: note.lengthTicks + note.startTicks - startTicks }
  })
}

/** Notes on a grid: starts and ends at its steps, none shorter than its shortest. */
export function quantised(notes: readonly HeardNote[], timing: Timing): HeardNote[] {
  if (timing === 'as played') return [...notes]
  const steps = STEPS[timing]
  const shortest = Math.min(...pairs(steps).map(([step, next]) => next - step))
  const onGrid = (ticks: number): number => {
    const share = quarterShare(ticks)
    const step = steps.reduce((best, one) => (Math.abs(one - share) < Math.abs(best - share) ? one : best))
    return Math.round((Math.floor(ticks / TICKS_PER_QUARTER) + step) * TICKS_PER_QUARTER)
  }
  const least = Math.round(Math.max(shortest, 1 / 8) * TICKS_PER_QUARTER)
  return notes.map((note) => {
    const startTicks = onGrid(note.startTicks)
    const endTicks = onGrid(note.startTicks + note.lengthTicks)
    return { ...note, startTicks, lengthTicks: Math.max(least, endTicks - startTicks) }
  })
}
