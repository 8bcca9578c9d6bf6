// The plan for a part: steps in an order, what is known after each, how long it takes, what to warn about.
// Everything is computed from the song and the student; nothing of it is kept but the order and the forms.
import type { Song } from '../document/schema'
import { USUAL_HAND, type Hand } from '../neck/hand'
import type { Demands } from './demands'
import { difficultyOf, type Difficulty } from './difficulty'
import { TICKS_PER_QUARTER } from '../time/meter'
import { asDragged, ordered, type Order, type Placed, type Ranked } from './orders'
import { demandsOfForm, teachablesOf, type Form, type Teachable } from './teachables'

export interface PlanStep {
  figureId: string
  name: string
  form: Form
  reason: string
  /** Of what the part plays, 0 to 1: this figure's own, and all that is known after the step. */
  gain: number
  after: number
  difficulty: Difficulty
  minutes: number
  /** Beats a minute at which it is played in the song. */
  goalTempo: number
  /** What to take care of, a sentence each. */
  cautions: string[]
  /** Only these bars are new to who knows the base. */
  newBars: number
  bars: number
  baseName: string | undefined
}

export interface PlanWishes {
  order: Order | { figureIds: readonly string[] }
  hand?: Hand
  /** What was chosen for a figure; else exact, or eased where the hand would not reach. */
  forms?: Readonly<Record<string, Form>>
}

/** Learning a bar takes so many minutes at no difficulty, and so many more for each point of it. */
const MINUTES_A_BAR = 1.5
const MINUTES_A_POINT = 0.9
/** Putting a step together with what is known, at most. */
const MINUTES_TOGETHER = 2
/** A bar in which less begins takes less time. */
const STROKES_A_BAR = 4
/** So many strokes a second for so long tire a hand. */
const FAST_PACE = 6
const LONG_SECONDS = 20
const SECONDS_A_MINUTE = 60

export function planOf(
  song: Song,
  partId: string,
  { order, hand = USUAL_HAND, forms = {} }: PlanWishes,
): PlanStep[] {
  const figures = teachablesOf(song, partId).map((teachable) => {
    const form = formFor(song, teachable, hand, forms)
    const demands = demandsOfForm(song, teachable, { form })
    return { teachable, form, demands, difficulty: difficultyOf(demands, hand) }
  })
  const chosen = new Map(figures.map((one) => [one.teachable.figure.id, one]))
  const ranked: Ranked[] = figures
  const placed = typeof order === 'string' ? ordered(song, ranked, order) : asDragged(ranked, order.figureIds)
  let after = 0
  return placed.map((one) => {
    after = Math.min(1, after + one.teachable.share)
    const { form, demands } = chosen.get(one.teachable.figure.id)!
    return stepOf(song, one, { form, demands, hand, after })
  })
}

function formFor(song: Song, teachable: Teachable, hand: Hand, forms: PlanWishes['forms']): Form {
  const { figure } = teachable
  if (!figure.eased) return 'exact'
  const chosen = forms?.[figure.id]
  if (chosen) return chosen
  return demandsOfForm(song, teachable, { form: 'exact' }).stretchMm > hand.cautionMm ? 'eased' : 'exact'
}

function stepOf(
  song: Song,
  { teachable, difficulty, reason }: Placed,
  { form, demands, hand, after }: { form: Form; demands: Demands; hand: Hand; after: number },
): PlanStep {
  const { figure, share, bars, newBars, baseId, secondsPerTick } = teachable
  const strokes = (demands.strokes * newBars) / Math.max(1, bars)
  const learnt = Math.min(newBars, strokes / STROKES_A_BAR)
  const perBar = MINUTES_A_BAR + MINUTES_A_POINT * difficulty.points
  return {
    figureId: figure.id,
    name: figure.name,
    form,
    reason,
    gain: share,
    after: Math.min(1, Math.round(after * 1e6) / 1e6),
    difficulty,
    minutes: Math.max(1, Math.round(learnt * perBar + Math.min(MINUTES_TOGETHER, 2 * learnt))),
    goalTempo: Math.round(SECONDS_A_MINUTE / (secondsPerTick * TICKS_PER_QUARTER)),
    cautions: cautionsOf(demands, hand, {
      form,
      seconds: teachable.times * figure.lengthTicks * secondsPerTick,
    }),
    newBars,
    bars,
    baseName: baseId === undefined ? undefined : song.figures[baseId]?.name,
  }
}

function cautionsOf(
  { stretchMm, stretchFrets, pace }: Demands,
  hand: Hand,
  { form, seconds }: { form: Form; seconds: number },
): string[] {
  const cautions: string[] = []
  const easing = form === 'exact' ? 'ease the grip, ' : ''
  if (stretchMm > hand.cautionMm)
    cautions.push(
      `A stretch of ${Math.round(stretchMm)} mm (frets ${stretchFrets?.join(' to ')}) is more than the ` +
        `${Math.round(hand.cautionMm)} mm of this hand: stop at pain, ${easing}ask a qualified teacher.`,
    )
  if (pace >= FAST_PACE && seconds >= LONG_SECONDS)
    cautions.push(`${pace.toFixed(1)} strokes a second for long: start slowly, shake the hands out, rest.`)
  return cautions
}

/** The curve of what is known: 0 before anything, then after each step. */
export const coverageCurve = (steps: readonly PlanStep[]): number[] => [0, ...steps.map(({ after }) => after)]
