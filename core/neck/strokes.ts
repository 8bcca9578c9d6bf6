// The striking hand's directions, by school: a pendulum (down on the beat, up between, struck or not), all
// down, strict alternation of what is struck, or economy (on to the next string in the direction the hand
// is going).
import { beatTicks, stepTicks, type Meter, type Subdivision } from '../time/meter'
import type { Note, PickSchool, Stroke } from '../document/schema'
import { isSlurred, hasMark } from '../marks/marks-of'
import { inTimeOrder } from './lines/line'

export type Way = 'down' | 'up'

/**
 * Direction of a hand that swings evenly through the steps whether it strikes or not. Odd steps go up; at
 * quarters and in triplets all go down on the beat.
 */
export function pendulumDirection(startTicks: number, meter: Meter, subdivision: Subdivision): Way {
  const step = stepTicks(meter, subdivision)
  const index = Math.round((startTicks % beatTicks(meter)) / step)
  return index % 2 === 0 ? 'down' : 'up'
}

/** The direction a stroke has when none is said. */
export const usualDirection = (
  startTicks: number,
  { meter, subdivision, school }: { meter: Meter; subdivision: Subdivision; school?: PickSchool | undefined },
): Way => (school === 'all down' ? 'down' : pendulumDirection(startTicks, meter, subdivision))

interface Feel {
  meter: Meter
  subdivision: Subdivision
}
/** Not struck by a pick: thumb and fingers, and a grip that is slid to. */
const unpicked = (stroke: Stroke): boolean =>
  stroke.direction === 'thumb' || stroke.direction === 'fingers' || isSlurred(stroke)

/**
 * Direction of each stroke under a school, in the order given (by time). Thumb and fingers keep theirs:
 * undefined.
 */
export function schoolDirections(
  strokes: readonly Stroke[],
  school: PickSchool,
  { meter, subdivision }: Feel,
): (Way | undefined)[] {
  let struck = 0
  return strokes.map((stroke) => {
    if (unpicked(stroke)) return undefined
    if (school === 'pendulum') return pendulumDirection(stroke.startTicks, meter, subdivision)
    return school === 'all down' || struck++ % 2 === 0 ? 'down' : 'up'
  })
}

/** Ids of strokes that go against the figure's school. */
export function wrongWays(strokes: readonly Stroke[], school: PickSchool, feel: Feel): Set<string> {
  const wanted = schoolDirections(strokes, school, feel)
  return new Set(
    strokes.flatMap((stroke, index) =>
      wanted[index] && wanted[index] !== stroke.direction ? [stroke.id] : [],
    ),
  )
}

const other = (way: Way): Way => (way === 'down' ? 'up' : 'down')

/** The way after the one before: to and fro, or in economy picking on in the direction of the next string. */
function nextWay(school: PickSchool, note: Note, before: { string: number; way: Way } | undefined): Way {
  if (school === 'all down' || !before) return 'down'
  if (school !== 'economy' || note.string === before.string) return other(before.way)
  return note.string < before.string ? 'down' : 'up'
}

/**
 * Proposed pick direction of each note, by id; slurred and tapped notes are not picked. Notes struck
 * together go one way.
 */
export function pickDirections(
  notes: readonly Note[],
  school: PickSchool,
  { meter, subdivision }: Feel,
): Map<string, Way> {
  const ways = new Map<string, Way>()
  let before: { startTicks: number; string: number; way: Way } | undefined
  for (const note of inTimeOrder(notes)) {
    if (isSlurred(note) || hasMark(note, 'tap')) continue
    if (before && before.startTicks === note.startTicks) {
      ways.set(note.id, before.way)
      continue
    }
    const way =
      school === 'pendulum'
        ? pendulumDirection(note.startTicks, meter, subdivision)
        : nextWay(school, note, before)
    ways.set(note.id, way)
    before = { startTicks: note.startTicks, string: note.string, way }
  }
  return ways
}

/** Notes whose charted direction goes against the school. */
export function wrongPicks(notes: readonly Note[], school: PickSchool, feel: Feel): Set<string> {
  const wanted = pickDirections(notes, school, feel)
  return new Set(
    notes.flatMap((note) =>
      note.pick && wanted.has(note.id) && wanted.get(note.id) !== note.pick ? [note.id] : [],
    ),
  )
}

/**
 * Upstrokes that catch the upper strings only, as a swinging hand does: on up strokes over a full grip the
 * lowest of four or more strings are left out.
 */
export function upstrokesOnUpper(
  strokes: readonly Stroke[],
  soundingAt: (tick: number) => number[],
): Stroke[] {
  return strokes.map((stroke) => {
    const sounding = soundingAt(stroke.startTicks)
    if (stroke.direction !== 'up' || hasMark(stroke, 'dead') || stroke.strings || sounding.length < 4)
      return stroke
    return { ...stroke, strings: sounding.toSorted((a, b) => a - b).slice(0, 3) }
  })
}

/** Strokes turned to go with a school; thumb and fingers stay. */
export function turnedTo(strokes: readonly Stroke[], school: PickSchool, feel: Feel): Stroke[] {
  const ways = schoolDirections(strokes, school, feel)
  return strokes.map((stroke, index) => ({ ...stroke, direction: ways[index] ?? stroke.direction }))
}

/** Notes with the school's pick directions written on them; what is not picked loses any. */
export function withPicks(notes: readonly Note[], school: PickSchool, feel: Feel): Note[] {
  const ways = pickDirections(notes, school, feel)
  return notes.map(({ pick: _old, ...note }) => {
    const pick = ways.get(note.id)
    return pick ? { ...note, pick } : note
  })
}
