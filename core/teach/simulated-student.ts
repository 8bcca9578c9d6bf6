// A student who is not there: plays a figure at a tempo with stated mistakes and timing, so that ladder and
// log can be seen working without anyone playing.
import type { Difficulty } from './difficulty'
import { AT_THE_FOOT, afterRound, type Climb, type Ladder } from './ladder'

export interface Habits {
  /** Beats a minute that go well at a difficulty of 0. */
  comfort: number
  /** What each clean or missed round adds to it, as a share. */
  learning: number
  /** How far strokes lie from their place at a comfortable tempo, seconds (standard deviation). */
  timingSeconds: number
}
export interface Round {
  tempo: number
  /** Strokes that were wrong, and how late or early the rest lie on average, seconds. */
  mistakes: number
  timingSeconds: number
  clean: boolean
}

/** Points of difficulty that halve the tempo that goes well. */
const HALVES = 6
/** A round with fewer mistakes a hundred strokes, and timing under this, is clean. */
const CLEAN_SHARE = 0.02
const CLEAN_SECONDS = 0.035
/** At twice the comfortable tempo so many strokes of a hundred are wrong. */
const WORST_SHARE = 0.4
const LONGEST = 400

/** One round; `random` gives 0 to 1. */
export function playRound(
  habits: Habits,
  figure: { difficulty: Difficulty; strokes: number },
  tempo: number,
  random: () => number,
): Round {
  const comfortable = habits.comfort * 0.5 ** (figure.difficulty.points / HALVES)
  const over = Math.max(0, tempo / comfortable - 1)
  const share = Math.min(WORST_SHARE, WORST_SHARE * over ** 2)
  let mistakes = 0
  for (let stroke = 0; stroke < figure.strokes; stroke++) if (random() < share) mistakes++
  const timingSeconds = habits.timingSeconds * (0.7 + 0.6 * random()) * (1 + over)
  return {
    tempo,
    mistakes,
    timingSeconds,
    clean: mistakes <= CLEAN_SHARE * figure.strokes && timingSeconds < CLEAN_SECONDS,
  }
}

/** Rounds on a ladder until its top is reached or so many are played; the habits grow with each. */
export function climbLadder(
  habits: Habits,
  figure: { difficulty: Difficulty; strokes: number },
  ladder: Ladder,
  { rounds: most, random }: { rounds: number; random: () => number },
): { rounds: Round[]; climb: Climb; habits: Habits } {
  let climb = AT_THE_FOOT
  let now = habits
  const rounds: Round[] = []
  while (!climb.done && rounds.length < Math.min(most, LONGEST)) {
    const round = playRound(now, figure, ladder.rungs[climb.rung]!, random)
    rounds.push(round)
    climb = afterRound(ladder, climb, round.clean)
    now = { ...now, comfort: now.comfort * (1 + now.learning) }
  }
  return { rounds, climb, habits: now }
}
