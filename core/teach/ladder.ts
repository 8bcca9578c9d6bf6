// The tempo ladder: from slow to the song's own tempo, up after so many clean rounds, down after two that
// were not.
export interface LadderWishes {
  from: number
  to: number
  /** Clean rounds until the next rung. */
  clean: number
  /** Each rung is so much faster than the one before. */
  growth?: number
}
export interface Ladder extends Required<LadderWishes> {
  /** Beats a minute, slowest first; the last is `to`. */
  rungs: number[]
}

const USUAL_GROWTH = 0.08

/** Under this tempo a whole beat a minute is more than a rung may be. */
const SLOW = 13
const rounded = (tempo: number): number => (tempo < SLOW ? Math.round(tempo * 10) / 10 : Math.round(tempo))

/**
 * Rungs in whole beats a minute, evenly apart and none further from the one before than `growth`, rounding
 * included. A ladder that starts at its goal has one rung.
 */
export function ladderOf({ from, to, clean, growth = USUAL_GROWTH }: LadderWishes): Ladder {
  const least = Math.max(0, Math.ceil(Math.log(to / from) / Math.log(1 + growth) - 1e-9))
  const evenly = (count: number): number[] => {
    const rungs = Array.from({ length: count + 1 }, (_, index) =>
      rounded(from * (to / from) ** (count === 0 ? 0 : index / count)),
    )
    return [...new Set(rungs)]
  }
  const isGentle = (rungs: readonly number[]): boolean =>
    rungs.every((rung, index) => rung <= (rungs[index - 1] ?? rung) * (1 + growth) + 1e-9)
  let rungs = evenly(least)
  for (let count = least; !isGentle(rungs) && count < least + MOST_MORE; count++) rungs = evenly(count + 1)
  return { from, to, clean, growth, rungs: isGentle(rungs) ? rungs : climbed(from, to, growth) }
}
const MOST_MORE = 12

/** Each rung as far as it may be, where no even ladder in whole beats keeps to it. */
function climbed(from: number, to: number, growth: number): number[] {
  const rungs = [from]
  for (let at = from; at < to;) {
    const next = at * (1 + growth)
    const whole = at < SLOW ? Math.floor(next * 10) / 10 : Math.floor(next)
    at = Math.min(to, whole > at ? whole : next)
    rungs.push(at)
  }
  return rungs
}

/** Where somebody stands on a ladder. */
export interface Climb {
  rung: number
  /** Clean rounds in a row on this rung; of rounds that were not, how many in a row. */
  clean: number
  missed: number
  done: boolean
}
export const AT_THE_FOOT: Climb = { rung: 0, clean: 0, missed: 0, done: false }
/** So many rounds in a row that were not clean lead a rung down. */
const MISSES = 2

/** After one more round. */
export function afterRound({ rungs, clean }: Ladder, climb: Climb, wasClean: boolean): Climb {
  const top = rungs.length - 1
  if (!wasClean) {
    const missed = climb.missed + 1
    if (missed < MISSES) return { ...climb, clean: 0, missed }
    return { rung: Math.max(0, climb.rung - 1), clean: 0, missed: 0, done: climb.done }
  }
  const rounds = climb.clean + 1
  if (rounds < clean) return { ...climb, clean: rounds, missed: 0 }
  if (climb.rung >= top) return { rung: top, clean: rounds, missed: 0, done: true }
  return { rung: climb.rung + 1, clean: 0, missed: 0, done: climb.done }
}
