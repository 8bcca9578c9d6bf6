// Strokes, and where things are struck.
import { hasMark } from '../../marks/marks-of'
import { usualDirection } from '../../neck/strokes'
import { barTicks } from '../../time/meter'
import { addMoment, advance, gripAt, type Build, type Moment } from './build'
import type { Item, ItemOf } from './items'

/** Strokes over a grip, or, where none is held, the notes before struck that way. */
export function performStroke(b: Build, item: ItemOf<'stroke'>, first: boolean): void {
  const held = gripAt(b, b.at)
  const standing = b.moments.at(-1)
  for (let time = 0; time < item.count; time++) {
    const direction = item.direction ?? usualDirection(b.at, b.context)
    if (!held && standing?.notes.length && direction !== 'thumb' && direction !== 'fingers') {
      const picked = standing.notes.map((note) => ({
        ...note,
        pick: direction,
        ...(item.dead ? { marks: [{ kind: 'dead' as const }] } : {}),
      }))
      if (first && time === 0) standing.notes = picked
      else addMoment(b, { notes: picked })
    } else
      addMoment(b, {
        notes: [],
        stroke: {
          direction,
          marks: item.dead ? [{ kind: 'dead' }] : [],
          at: item.at,
          end: item.end,
        },
      })
  }
}

/** The next time a count comes, from a place on. */
function nextCount(b: Build, item: ItemOf<'place'>, from: number): number {
  const bar = barTicks(b.context.meter)
  const tick = Math.floor(from / bar) * bar + item.ticks
  return tick < from ? tick + bar : tick
}

const SOUNDS: readonly (Item['k'] | undefined)[] = ['note', 'stroke', 'strings', 'mark']
const BEGINS: readonly (Item['k'] | undefined)[] = ['note', 'chord', 'stroke']

/** What was just said goes to its count, and what is said next goes on from there. */
function moveLast(b: Build, item: ItemOf<'place'>, last: Moment): void {
  const from = b.moments.at(-2)
  last.startTicks = nextCount(b, item, from ? from.startTicks + 1 : (b.context.startTicks ?? 0))
  b.at = last.startTicks + last.lengthTicks
}

/** Where a grip that was just named may begin: where the one before ends, if that was said. */
function gripFrom(b: Build): number {
  const held = b.grips.at(-2)
  const since = held && !held.assumed ? b.at : (held?.startTicks ?? 0)
  return Math.max(b.context.startTicks ?? 0, since, b.moments.at(-1)?.startTicks ?? 0)
}

/** A count that was said: the sound before it goes there, or what is held is struck there. */
export function performPlace(
  b: Build,
  item: ItemOf<'place'>,
  before: Item | undefined,
  next: Item | undefined,
): void {
  const last = b.moments.at(-1)
  if (item.rest) {
    b.at = nextCount(b, item, b.at)
    advance(b, b.step)
  } else if (before?.k === 'chord' || before?.k === 'grip')
    placeGrip(b, nextCount(b, item, gripFrom(b)), next)
  else if (last && SOUNDS.includes(before?.k) && b.moments.length > b.clauseFrom) moveLast(b, item, last)
  else {
    b.at = nextCount(b, item, b.at)
    if (!BEGINS.includes(next?.k)) hitHere(b, item)
  }
}

function placeGrip(b: Build, tick: number, next: Item | undefined): void {
  const held = b.grips.at(-1)!
  const first = b.grips.length === 1
  if (first || next?.k === 'place' || next === undefined || next.k === 'stop') {
    const lone = first && b.moments.length === 0
    if (!lone) {
      held.startTicks = tick
      const before = b.grips.at(-2)
      if (before && before.startTicks + (before.lengthTicks ?? 0) > tick)
        before.lengthTicks = tick - before.startTicks
      b.at = tick
      return
    }
  }
  b.at = tick
  hitHere(b, held)
}

function hitHere(b: Build, span: { at: number; end: number }): void {
  const last = b.moments.at(-1)
  const dead = Boolean(last?.stroke && hasMark(last.stroke, 'dead'))
  if (gripAt(b, b.at)) performStroke(b, { k: 'stroke', direction: undefined, dead, count: 1, ...span }, false)
  else if (last) addMoment(b, { notes: last.notes })
}
