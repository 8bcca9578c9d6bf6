// What can be done to what stands at the cursor: one list for the keys, the help and the palette.
import type { Bench, BenchRow } from './benchKeys'

/**
 * On which rows an action means something: a string's notes, the hand's strokes, both of them, or every
 * row.
 */
type ActionRows = 'string' | 'hand' | 'struck' | 'both'
export interface BenchAction {
  keys: string[]
  label: string
  run: () => void
  rows: ActionRows
}

/** Runs one thing on a string and another in the hand row. */
export const byRow = (bench: Bench, onString: () => void, onHand: () => void) => (): void => {
  if (typeof bench.row.value === 'number') onString()
  else onHand()
}

const legato = (bench: Bench, kind: 'hammer-on' | 'pull-off') => (): void => bench.articulate({ kind }, kind)

/** Marks and directions of single notes. */
const noteActions = (bench: Bench): BenchAction[] => [
  { keys: ['h'], label: 'hammer-on', run: legato(bench, 'hammer-on'), rows: 'string' },
  { keys: ['p'], label: 'pull-off', run: legato(bench, 'pull-off'), rows: 'string' },
  {
    keys: ['s'],
    label: 'slide: to a note; in the hand row the whole grip, struck or not, in, out, none',
    run: byRow(
      bench,
      () => bench.articulate({ kind: 'slide', how: 'legato' }, 'slide'),
      () => bench.slideGrip(),
    ),
    rows: 'struck',
  },
  { keys: ['b'], label: 'bend: 2, 1, ½, 3 semitones, none', run: () => bench.bend(), rows: 'string' },
  {
    keys: ['v'],
    label: 'vibrato',
    run: () => bench.articulate({ kind: 'vibrato', width: 'narrow' }, 'vibrato'),
    rows: 'string',
  },
]

const direction = (bench: Bench, way: 'down' | 'up'): (() => void) =>
  byRow(
    bench,
    () => bench.dress({ pick: way }, `picked ${way}`),
    () => bench.strike(way),
  )

const strokeActions = (bench: Bench): BenchAction[] => [
  { keys: ['d'], label: 'down', run: direction(bench, 'down'), rows: 'struck' },
  { keys: ['u'], label: 'up', run: direction(bench, 'up'), rows: 'struck' },
  { keys: ['y'], label: 'fill with strokes by pendulum', run: () => bench.fillStrokes(), rows: 'hand' },
  { keys: ['c'], label: 'choke', run: () => bench.choke(), rows: 'hand' },
  { keys: ['m'], label: 'palm mute: light, medium, firm', run: () => bench.palmMute(), rows: 'struck' },
  { keys: ['x'], label: 'dead', run: () => bench.dead(), rows: 'struck' },
  { keys: ['a'], label: 'accent', run: () => bench.accent(), rows: 'struck' },
]

/** Everything the keys do to what is at the cursor. */
export const benchActions = (bench: Bench): BenchAction[] => [
  ...noteActions(bench),
  ...strokeActions(bench),
  { keys: ['r'], label: 'let ring', run: () => bench.letRing(), rows: 'both' },
  { keys: ['.'], label: 'longer', run: () => bench.lengthen(1), rows: 'both' },
  { keys: [','], label: 'shorter', run: () => bench.lengthen(-1), rows: 'both' },
  { keys: ['Delete', 'Backspace'], label: 'remove', run: () => bench.remove(), rows: 'both' },
]

/** Whether an action means something on a row. */
export function meantFor(action: BenchAction, row: BenchRow): boolean {
  if (action.rows === 'both') return true
  if (action.rows === 'struck') return row !== 'grips'
  return typeof row === 'number' ? action.rows === 'string' : action.rows === 'hand' && row === 'hand'
}
