// coverage, plan and ladder: what to learn first, in which steps, how fast.
import type { Part, Song } from '../core/document/schema'
import { ladderOf } from '../core/teach/ladder'
import { ORDERS, type Order } from '../core/teach/orders'
import { planOf, type PlanStep } from '../core/teach/plan'
import { clock } from '../core/time/beat-grid'
import { Complaint, type Answer, type Flags } from './answer'
import { whole } from './flag-values'

function partsOf(song: Song, flags: Flags): Part[] {
  const parts = song.partOrder.map((id) => song.parts[id]!)
  if (flags.part === undefined) return parts
  const found = parts.filter(({ name }) => name.toLowerCase() === flags.part!.toLowerCase())
  if (found.length) return found
  const names = parts.map(({ name }) => name).join(', ')
  throw new Complaint(`There is no part “${flags.part}”. This song has: ${names}.`)
}

const thousandth = (share: number): number => Math.round(share * 1000) / 1000
const percent = (share: number): string => `${Math.round(100 * share)} %`

/** How much of each part its figures open up, the most used first. */
export function coverageOf(song: Song, flags: Flags): Answer {
  const parts = partsOf(song, flags).map((part) => {
    const figures = planOf(song, part.id, { order: 'used' }).map(({ figureId, name, gain, after }) => ({
      figure: figureId,
      name,
      share: thousandth(gain),
      after: thousandth(after),
    }))
    return { part: part.name, figures }
  })
  return {
    data: { parts },
    words: parts
      .flatMap(({ part, figures }) => [
        part,
        ...figures.map(({ name, share, after }) => `  ${name}: ${percent(share)}, then ${percent(after)}`),
      ])
      .join('\n'),
  }
}

function orderFrom(flags: Flags): Order {
  const order = (flags.order ?? 'used') as Order
  if (!ORDERS.includes(order)) throw new Complaint(`--order is one of ${ORDERS.join(', ')}.`)
  return order
}

const toldStep = (step: PlanStep, index: number): object => ({
  step: index + 1,
  figure: step.figureId,
  name: step.name,
  form: step.form,
  reason: step.reason,
  share: thousandth(step.gain),
  after: thousandth(step.after),
  minutes: step.minutes,
  goalTempo: step.goalTempo,
  bars: step.bars,
  newBars: step.newBars,
  difficulty: {
    points: step.difficulty.points,
    word: step.difficulty.word,
    reasons: step.difficulty.reasons.map(({ kind, words }) => ({ kind, words })),
  },
  cautions: step.cautions,
})

const stepWords = ({ name, form, after, minutes, reason, difficulty }: PlanStep, index: number): string =>
  `${index + 1}. ${name}${form === 'eased' ? ', eased' : ''}: then ${percent(after)}, ` +
  `${minutes} minutes; ${reason}; ${difficulty.word}`

/** The steps of a plan for one part: the first, where none is named. */
export function plan(song: Song, flags: Flags): Answer {
  const order = orderFrom(flags)
  const part = partsOf(song, flags)[0]
  if (!part) throw new Complaint('This song has no parts yet.')
  const steps = planOf(song, part.id, { order })
  const minutes = steps.reduce((sum, step) => sum + step.minutes, 0)
  return {
    data: { part: part.name, order, minutes, steps: steps.map(toldStep) },
    words: [...steps.map(stepWords), `${clock(minutes * 60)} in all`].join('\n'),
  }
}

/** The rungs of a tempo ladder. */
export function ladder(flags: Flags): Answer {
  for (const name of ['from', 'to'])
    if (!(name in flags)) throw new Complaint(`ladder wants --${name} in beats a minute.`)
  const from = whole(flags, 'from', 60, [20, 400])
  const to = whole(flags, 'to', 120, [20, 400])
  const clean = whole(flags, 'clean', 3, [1, 50])
  if (to < from) throw new Complaint('A ladder goes up: --to is not slower than --from.')
  const { rungs } = ladderOf({ from, to, clean })
  return {
    data: { from, to, clean, rungs: rungs.map((tempo) => ({ tempo, cleanRounds: clean })) },
    words: `${rungs.join(' ')}: up after ${clean} clean ${clean === 1 ? 'round' : 'rounds'}`,
  }
}
