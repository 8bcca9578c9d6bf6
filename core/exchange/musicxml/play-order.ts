// The order in which the measures of a score are played: repeats and their endings followed, then its jump.
import { jumpOfScore } from './jumps'
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

export interface PlayOrder {
  /** Indices of measures as they are played, at most five thousand. */
  order: number[]
  /** It jumps, but where to is not said. */
  unclearJump: boolean
}

export function playOrder(measures: readonly XmlNode[]): PlayOrder {
  const signs = signsOf(measures)
  const straight = withRepeats(signs)
  const jump = jumpOfScore(measures)
  if (jump === undefined || jump === 'unclear') return { order: straight, unclearJump: jump === 'unclear' }
  const { after, from, to, coda } = jump
  const last = straight.lastIndexOf(after)
  // It stands in an ending that is never played, or behind the last measure that is read.
  if (last < 0) return { order: straight, unclearJump: true }
  // Behind the jump stands only what it leads to.
  const before = straight.slice(0, last + 1)
  const again = lastTime(signs, from, to)
  const end = coda === undefined ? [] : lastTime(signs, coda, measures.length - 1)
  return { order: [...before, ...again, ...end].slice(0, MOST_MEASURES), unclearJump: false }
}

/** Measures played once more without their repeats, with the last of their endings. */
function lastTime(signs: readonly Signs[], from: number, to: number): number[] {
  const runEnds = endingRuns(signs)
  const own = Array.from({ length: Math.max(0, to - from + 1) }, (_, index) => from + index)
  return own.filter((index) => {
    const endings = signs[index]?.endings
    return !endings || signs[runEnds[index] ?? index]?.endings === endings
  })
}

function withRepeats(signs: readonly Signs[]): number[] {
  const highest = signs.map(({ endings }) => Math.max(0, ...(endings ?? [])))
  const runEnds = endingRuns(signs)
  const order: number[] = []
  let [index, from, pass] = [0, 0, 1]
  while (index < signs.length && order.length < MOST_MEASURES) {
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
