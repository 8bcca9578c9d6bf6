// The order in which the measures of a score are played: repeats and their endings followed.
import { childrenOf, type XmlNode } from './xml'

const MOST_MEASURES = 5000
const MOST_TIMES = 16

interface Signs {
  forward: boolean
  /** Played so many times up to here. */
  times: number | undefined
  /** The passes in which the measure is played; all where none are named. */
  endings: ReadonlySet<number> | undefined
}

const endingNumbers = (text: string): number[] =>
  (text.match(/\d+/g) ?? []).map(Number).filter((number) => number >= 1 && number <= MOST_TIMES)

/** The repeat signs at each measure; an ending reaches from its start to its stop. */
function signsOf(measures: readonly XmlNode[]): Signs[] {
  let open: Set<number> | undefined
  return measures.map((measure): Signs => {
    const barlines = childrenOf(measure, 'barline')
    const endings = barlines.flatMap((barline) => childrenOf(barline, 'ending'))
    const start = endings.find(({ attributes }) => attributes.type === 'start')
    if (start) open = new Set(endingNumbers(start.attributes.number ?? ''))
    const here = open?.size ? open : undefined
    if (endings.some(({ attributes }) => attributes.type !== 'start')) open = undefined
    const repeats = barlines.flatMap((barline) => childrenOf(barline, 'repeat'))
    const back = repeats.find(({ attributes }) => attributes.direction === 'backward')
    const times = Math.min(MOST_TIMES, Math.max(2, Number(back?.attributes.times ?? 2) || 2))
    return {
      forward: repeats.some(({ attributes }) => attributes.direction === 'forward'),
      times: back ? times : undefined,
      endings: here,
    }
  })
}

/** Indices of measures as they are played, at most five thousand. */
export function playOrder(measures: readonly XmlNode[]): number[] {
  const signs = signsOf(measures)
  const highest = signs.map(({ endings }) => Math.max(0, ...(endings ?? [])))
  const runEnds = endingRuns(signs)
  const order: number[] = []
  let [index, from, pass] = [0, 0, 1]
  while (index < measures.length && order.length < MOST_MEASURES) {
    const { forward, times, endings } = signs[index]!
    if (forward && index !== from) [from, pass] = [index, 1]
    const played = !endings || endings.has(pass)
    if (played) order.push(index)
    const again =
      played &&
      times !== undefined &&
      pass < Math.max(times, highestIn(highest, from, runEnds[index] ?? index))
    if (again) [index, pass] = [from, pass + 1]
    else {
      // What follows the last pass begins anew.
      if (played && endsRepeat(signs, index)) [from, pass] = [index + 1, 1]
      index += 1
    }
  }
  return order
}

/** A sign back ends a repeat, and so does the last of its endings. */
const endsRepeat = (signs: readonly Signs[], index: number): boolean =>
  signs[index]!.times !== undefined ||
  (signs[index]!.endings !== undefined && signs[index + 1]?.endings === undefined)

/** For each measure the last of the measures with endings right behind it; itself where there is none. */
function endingRuns(signs: readonly Signs[]): number[] {
  const ends: number[] = []
  for (let at = signs.length - 1; at >= 0; at--) ends[at] = (signs[at + 1]?.endings && ends[at + 1]) || at
  return ends
}

/**
 * The highest pass named by the endings that belong to a repeat: those up to its sign and right behind it.
 */
function highestIn(highest: readonly number[], from: number, to: number): number {
  let most = 0
  for (let at = from; at <= to; at++) most = Math.max(most, highest[at] ?? 0)
  return most
}
