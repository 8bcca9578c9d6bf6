// How hard a figure is, 0 to 10, and why. Each demand gives points that grow with it and never shrink, so
// that more of anything is never easier. The scale is explained in docs/teaching.md.
import { counted } from '../words/words'
import { USUAL_HAND, type Hand } from '../neck/hand'
import type { Demands } from './demands'

export const REASONS = [
  'stretch',
  'shift',
  'tempo',
  'slurs',
  'bends',
  'leaps',
  'mutes',
  'syncopation',
] as const
export type ReasonKind = (typeof REASONS)[number]
export interface Reason {
  kind: ReasonKind
  /** Of the ten. */
  points: number
  words: string
}
export interface Difficulty {
  /** 0 to 10. */
  points: number
  word: 'easy' | 'medium' | 'hard'
  /** What makes it so, the heaviest first. */
  reasons: Reason[]
}

/** Most points a demand can give, and at how much of it half of them are given. */
const SCALE: Record<ReasonKind, { most: number; half: number }> = {
  stretch: { most: 2, half: 0.75 },
  shift: { most: 2, half: 3 },
  tempo: { most: 2.5, half: 6 },
  slurs: { most: 1.5, half: 3 },
  bends: { most: 2, half: 1.5 },
  leaps: { most: 1.6, half: 4 },
  mutes: { most: 0.8, half: 3 },
  syncopation: { most: 1.2, half: 0.4 },
}
const MOST = 10
const MEDIUM = 2.2
const HARD = 3.6
/** A demand is named as a reason from so many of its points on. */
const NAMED = 0.4

/** Grows with the demand towards `most`, ever more slowly. */
function points(kind: ReasonKind, amount: number): number {
  const { most, half } = SCALE[kind]
  const demand = Math.max(0, amount)
  return (most * demand) / (demand + half)
}

export function difficultyOf(demands: Demands, hand: Hand = USUAL_HAND): Difficulty {
  const amounts: Record<ReasonKind, number> = {
    stretch: demands.stretchMm / hand.cautionMm,
    shift: demands.shiftPerSecond,
    tempo: demands.pace,
    slurs: demands.slursPerBar,
    bends: demands.bendsPerBar,
    leaps: demands.leapsPerBar,
    mutes: demands.muteChangesPerBar,
    syncopation: demands.syncopation,
  }
  const all = REASONS.map((kind): Reason => ({
    kind,
    points: points(kind, amounts[kind]),
    words: WORDS[kind](demands),
  }))
  // Everything at once is no harder than the hardest there is.
  const sum = Math.min(
    MOST,
    all.reduce((total, reason) => total + reason.points, 0),
  )
  return {
    points: Math.round(sum * 10) / 10,
    word: wordOf(sum),
    reasons: all
      .filter((reason) => reason.points >= NAMED * SCALE[reason.kind].most)
      .sort((a, b) => b.points - a.points),
  }
}

function wordOf(sum: number): Difficulty['word'] {
  if (sum < MEDIUM) return 'easy'
  return sum < HARD ? 'medium' : 'hard'
}

const WORDS: Record<ReasonKind, (demands: Demands) => string> = {
  stretch: ({ stretchMm, stretchFrets }) =>
    `stretch of ${Math.round(stretchMm)} mm${stretchFrets ? `, frets ${stretchFrets.join(' to ')}` : ''}`,
  shift: ({ widestShift }) => `the hand shifts, up to ${counted(widestShift, 'fret')}`,
  tempo: ({ pace }) => `${pace.toFixed(1)} strokes a second`,
  slurs: ({ slursPerBar }) => `${slursPerBar.toFixed(1)} slurs a bar`,
  bends: ({ bendsPerBar }) => `bends of ${bendsPerBar.toFixed(1)} semitones a bar, each to be in tune`,
  leaps: ({ leapsPerBar }) => `${leapsPerBar.toFixed(1)} strings leapt over a bar`,
  mutes: ({ muteChangesPerBar }) => `muting changes ${muteChangesPerBar.toFixed(1)} times a bar`,
  syncopation: ({ syncopation }) => `${Math.round(100 * syncopation)} % of the strokes push the beat`,
}
