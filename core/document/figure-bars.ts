// Whole bars of a figure: taken out, put in over others, inserted, removed. What reaches over a border is cut
// there; every copy has new ids.
import type { Content } from './schema'

/** A stretch of a figure in ticks. */
export interface BarSpan {
  from: number
  to: number
}

type Timed = { id: string; startTicks: number; lengthTicks: number }

/** Each layer of a content changed alike. */
const eachLayer = (content: Content, change: <T extends Timed>(events: readonly T[]) => T[]): Content => ({
  grips: change(content.grips),
  strokes: change(content.strokes),
  notes: change(content.notes),
  mutes: change(content.mutes),
})

/** Two contents as one, in the order of time. */
const joined = (one: Content, other: Content): Content => {
  const both = <T extends Timed>(a: readonly T[], b: readonly T[]): T[] =>
    [...a, ...b].sort((x, y) => x.startTicks - y.startTicks)
  return {
    grips: both(one.grips, other.grips),
    strokes: both(one.strokes, other.strokes),
    notes: both(one.notes, other.notes),
    mutes: both(one.mutes, other.mutes),
  }
}

/** What begins in a stretch, counted from its start; grips and muting also when they began before it. */
export const takeBars = (content: Content, { from, to }: BarSpan): Content => ({
  ...eachLayer(content, (events) => inside(events, from, to, false)),
  grips: inside(content.grips, from, to, true),
  mutes: inside(content.mutes, from, to, true),
})

function inside<T extends Timed>(events: readonly T[], from: number, to: number, held: boolean): T[] {
  return events.flatMap((event) => {
    const start = Math.max(from, event.startTicks)
    const end = Math.min(to, event.startTicks + event.lengthTicks)
    if (end <= start || event.startTicks >= to || (!held && event.startTicks < from)) return []
    return [{ ...event, startTicks: start - from, lengthTicks: end - start }]
  })
}

/** The content without what begins in a stretch; what reaches into it from before ends there. */
function cleared(content: Content, { from, to }: BarSpan, newId: () => string): Content {
  return eachLayer(content, (events) =>
    events.flatMap((event) => {
      const end = event.startTicks + event.lengthTicks
      if (end <= from || event.startTicks >= to) return [event]
      const before = event.startTicks < from ? [{ ...event, lengthTicks: from - event.startTicks }] : []
      return [...before, ...afterwards(event, to, newId)]
    }),
  )
}
/** A grip or a muting goes on behind what was put over its middle; a note was struck before. */
function afterwards<T extends Timed>(event: T, to: number, newId: () => string): T[] {
  const end = event.startTicks + event.lengthTicks
  const isHeld = 'grip' in event || 'kind' in event
  return isHeld && end > to ? [{ ...event, id: newId(), startTicks: to, lengthTicks: end - to }] : []
}

const moved = (content: Content, by: number, from = Number.NEGATIVE_INFINITY): Content =>
  eachLayer(content, (events) =>
    events.map((event) =>
      event.startTicks >= from ? { ...event, startTicks: event.startTicks + by } : event,
    ),
  )
const withNewIds = (content: Content, newId: () => string): Content =>
  eachLayer(content, (events) => events.map((event) => ({ ...event, id: newId() })))

/** Bars put in place of what is there from a tick on, as far as the figure goes. */
export function putBars(
  content: Content,
  taken: Content,
  {
    at,
    lengthTicks,
    figureTicks,
    newId,
  }: { at: number; lengthTicks: number; figureTicks: number; newId: () => string },
): Content {
  const to = Math.min(figureTicks, at + lengthTicks)
  const fitting = takeBars(taken, { from: 0, to: to - at })
  return joined(cleared(content, { from: at, to }, newId), moved(withNewIds(fitting, newId), at))
}

/** Room made before a tick: what begins there or later moves on, what reaches over it is cut. */
export function insertBars(content: Content, at: number, lengthTicks: number, newId: () => string): Content {
  const parted = eachLayer(content, (events) =>
    events.flatMap((event) => {
      const end = event.startTicks + event.lengthTicks
      if (event.startTicks >= at || end <= at) return [event]
      return [{ ...event, lengthTicks: at - event.startTicks }, ...afterwards(event, at, newId)]
    }),
  )
  return moved(parted, lengthTicks, at)
}

/** A stretch taken out; what comes after moves up. */
export function removeBars(content: Content, span: BarSpan, newId: () => string): Content {
  return moved(cleared(content, span, newId), span.from - span.to, span.to)
}
