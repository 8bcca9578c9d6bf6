// Fingers chosen for each other: of the good fingerings of every grip those are taken whose fingers stay, or
// slide along their string, on the way to the next shape. Dynamic programming (Viterbi 1967) over the grips.
import type { Grip, Part } from '../../document/schema'
import { USUAL_HAND, type Finger, type Hand } from '../hand'
import { fingerings, type Fingering } from './fingering'
import { writeGrip } from './grip'

export interface FingeredStep {
  fingering: Fingering
  /** Why these fingers and not the easiest for this grip alone; undefined where they are those. */
  because: string | undefined
}

/** What a finger is worth that need not be set anew. */
const STAYS = 0.9
const SLIDES = 0.35
/** Fingerings worse than the best by more are not worth a finger that stays. */
const WORTH = 1.8

interface Kept {
  finger: Finger
  string: number
  stays: boolean
}

/** Fingers that stay where they are, and those that go along their string. */
function keptFingers(a: Grip, fa: Fingering, b: Grip, fb: Fingering): Kept[] {
  return fa.fingers.flatMap((finger, index): Kept[] => {
    if (!finger || fb.fingers[index] !== finger) return []
    return [{ finger, string: index + 1, stays: a.strings[index]?.fret === b.strings[index]?.fret }]
  })
}
const worthOf = (kept: readonly Kept[]): number =>
  kept.reduce((sum, { stays }) => sum + (stays ? STAYS : SLIDES), 0)

const FINGER: Record<Finger, string> = {
  T: 'the thumb',
  1: 'the first finger',
  2: 'the second finger',
  3: 'the third finger',
  4: 'the little finger',
}
function becauseOf(kept: readonly Kept[], whose: string): string | undefined {
  const best = kept.find(({ stays }) => stays) ?? kept[0]
  if (!best) return undefined
  const does = best.stays ? 'stays where it is' : 'slides along its string'
  return `${FINGER[best.finger]} (string ${best.string}) ${does} ${whose}`
}
const sameFingers = (a: Fingering, b: Fingering): boolean => a.fingers.join() === b.fingers.join()

interface State {
  fingering: Fingering
  cost: number
  back: number
}

/** Fingers for a row of grips, one a grip; undefined where a grip cannot be held. */
export function fingerProgression(
  grips: readonly Grip[],
  part: Pick<Part, 'instrument'>,
  hand: Hand = USUAL_HAND,
): (FingeredStep | undefined)[] {
  const all = grips.map((grip) => {
    const found = fingerings(grip, part, hand)
    return found.filter(({ difficulty }) => difficulty <= found[0]!.difficulty + WORTH)
  })
  const columns: State[][] = []
  all.forEach((choices, at) => {
    const before = columns[at - 1] ?? []
    columns.push(
      choices.map((fingering): State => {
        let [cost, back] = [before.length ? Number.POSITIVE_INFINITY : 0, -1]
        before.forEach((state, index) => {
          const kept = keptFingers(grips[at - 1]!, state.fingering, grips[at]!, fingering)
          const way = state.cost - worthOf(kept)
          if (way < cost) [cost, back] = [way, index]
        })
        return { fingering, cost: cost + fingering.difficulty, back }
      }),
    )
  })
  return likeTheirReturns(traced(columns), grips).map((fingering, at, chosen) => {
    const alone = all[at]?.[0]
    if (!fingering || !alone) return undefined
    if (sameFingers(fingering, alone)) return { fingering, because: undefined }
    const [prior, next] = [chosen[at - 1], chosen[at + 1]]
    const onward = next ? keptFingers(grips[at]!, fingering, grips[at + 1]!, next) : []
    const from = prior ? keptFingers(grips[at - 1]!, prior, grips[at]!, fingering) : []
    const because = becauseOf(onward, 'for the next shape') ?? becauseOf(from, 'from the shape before')
    return { fingering, because }
  })
}

/**
 * The first and the last grip have a neighbour on one side only: where they come again beside the same one,
 * they are fingered as there, so that a bar that returns is fingered alike.
 */
function likeTheirReturns(
  chosen: readonly (Fingering | undefined)[],
  grips: readonly Grip[],
): (Fingering | undefined)[] {
  const names = grips.map(writeGrip)
  const last = grips.length - 1
  const returns = (at: number, beside: number): number =>
    names.findIndex(
      (name, other) =>
        other > 0 && other < last && name === names[at] && names[other + beside] === names[at + beside],
    )
  const alike = [...chosen]
  for (const [at, beside] of [
    [0, 1],
    [last, -1],
  ] as const) {
    const other = grips.length > 2 ? returns(at, beside) : -1
    if (other >= 0) alike[at] = chosen[other]
  }
  return alike
}

/** The cheapest way back through the columns; a grip nobody can hold begins anew. */
function traced(columns: readonly State[][]): (Fingering | undefined)[] {
  const chosen: (Fingering | undefined)[] = columns.map(() => undefined)
  let index = -1
  for (let at = columns.length - 1; at >= 0; at--) {
    const column = columns[at]!
    if (column.length === 0) {
      index = -1
      continue
    }
    if (index === -1)
      index = column.reduce((best, state, here) => (state.cost < column[best]!.cost ? here : best), 0)
    chosen[at] = column[index]!.fingering
    index = column[index]!.back
  }
  return chosen
}
