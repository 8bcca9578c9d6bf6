// When a figure is due again: after 1, 3, 7 … days as long as it goes well, soon again when it does not (the
// growing interval of Pimsleur, 1967).
import { group } from 'd3-array'
import type { Practice } from './student'

const INTERVALS = [1, 3, 7, 14, 30, 60]
/** A practice went well when it came so near to its goal, or got further than the last one. */
const NEAR = 0.9

export interface Due {
  figureId: string
  last: Practice
  /** The day it is due again, and how many days from today; 0 and less is now. */
  day: string
  inDays: number
}

const DAY_MS = 86_400_000
const numberOf = (day: string): number => Math.round(Date.parse(`${day}T00:00:00Z`) / DAY_MS)
const dayOf = (number: number): string => new Date(number * DAY_MS).toISOString().slice(0, 10)

/** The figures of one song that were practised, what is due first at the top. `today` as "2026-05-31". */
export function dueAgain(log: readonly Practice[], songId: string, today: string): Due[] {
  const byFigure = group(
    log.filter((one) => one.songId === songId),
    ({ figureId }) => figureId,
  )
  return [...byFigure]
    .map(([figureId, practices]) => dueOf(figureId, practices, today))
    .sort((a, b) => a.inDays - b.inDays || a.figureId.localeCompare(b.figureId))
}

function dueOf(figureId: string, practices: readonly Practice[], today: string): Due {
  const inOrder = [...practices].sort((a, b) => a.day.localeCompare(b.day))
  let [level, best] = [-1, 0]
  let dueDay = 0
  for (const { day, reached, goal, cleanRounds } of inOrder) {
    const wentWell = cleanRounds > 0 && (reached >= NEAR * goal || reached > best)
    // More on the same day, or before it is due, does not count again.
    if (!wentWell) level = 0
    else if (level < 0 || numberOf(day) >= dueDay) level = Math.min(INTERVALS.length - 1, level + 1)
    best = Math.max(best, reached)
    dueDay = numberOf(day) + INTERVALS[Math.max(0, level)]!
  }
  return { figureId, last: inOrder.at(-1)!, day: dayOf(dueDay), inDays: dueDay - numberOf(today) }
}
