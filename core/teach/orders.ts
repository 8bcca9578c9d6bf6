// In which order figures are taught: by four schools, or as the teacher drags them. Each place has a reason.
import { timesWords } from '../words/words'
import { sectionPlaces } from '../document/form'
import type { Song } from '../document/schema'
import type { Difficulty } from './difficulty'
import type { Teachable } from './teachables'

export const ORDERS = ['song', 'used', 'rhythm', 'easy'] as const
export type Order = (typeof ORDERS)[number]

/** A figure with what its place in an order hangs on. */
export interface Ranked {
  teachable: Teachable
  difficulty: Difficulty
}
export interface Placed extends Ranked {
  reason: string
}

const percent = (share: number): string => `${Math.round(100 * share)} %`
const firstThen = (one: number, other: number): number => one - other
type Compare = (a: Ranked, b: Ranked) => number

const bySong: Compare = (a, b) => firstThen(a.teachable.firstTicks, b.teachable.firstTicks)
const byUse: Compare = (a, b) => firstThen(b.teachable.share, a.teachable.share) || bySong(a, b)
const COMPARE: Record<Order, Compare> = {
  song: bySong,
  used: byUse,
  rhythm: (a, b) => Number(b.teachable.isRhythm) - Number(a.teachable.isRhythm) || byUse(a, b),
  easy: (a, b) => firstThen(a.difficulty.points, b.difficulty.points) || byUse(a, b),
}

function reasonOf(song: Song, order: Order, { teachable, difficulty }: Ranked): string {
  switch (order) {
    case 'song': {
      const place = sectionPlaces(song).findLast(({ startTicks }) => startTicks <= teachable.firstTicks)
      return `comes first in ${place?.section.name ?? 'the pickup'}`
    }
    case 'used':
      return `opens ${percent(teachable.share)} of the part, played ${timesWords(teachable.times)}`
    case 'rhythm': {
      const what = teachable.isRhythm ? 'chords and strokes' : 'a line over them'
      return `${what}, ${percent(teachable.share)} of the part`
    }
    case 'easy':
      return `${difficulty.word}, ${difficulty.points.toFixed(1)} of 10`
  }
}

/**
 * Figures in an order. A variation never comes before what it varies, except in the order of the song, which
 * is the song's.
 */
export function ordered(song: Song, figures: readonly Ranked[], order: Order): Placed[] {
  const sorted = [...figures].sort(COMPARE[order])
  const list = order === 'song' ? sorted : basesFirst(sorted)
  return list.map((one) => ({ ...one, reason: reasonOf(song, order, one) }))
}

/** As a teacher has dragged them; what is new since then comes at the end, in the order of the song. */
export function asDragged(figures: readonly Ranked[], ids: readonly string[]): Placed[] {
  const place = new Map(ids.map((id, index) => [id, index]))
  const rank = ({ teachable }: Ranked): number => place.get(teachable.figure.id) ?? ids.length
  return [...figures]
    .sort((a, b) => rank(a) - rank(b) || bySong(a, b))
    .map((one) => ({
      ...one,
      reason: place.has(one.teachable.figure.id) ? 'as you placed it' : 'new since you made the plan',
    }))
}

function basesFirst(sorted: readonly Ranked[]): Ranked[] {
  const byId = new Map(sorted.map((one) => [one.teachable.figure.id, one]))
  const list: Ranked[] = []
  const taken = new Set<string>()
  const take = (one: Ranked): void => {
    const { figure, baseId } = one.teachable
    if (taken.has(figure.id)) return
    taken.add(figure.id)
    const base = baseId === undefined ? undefined : byId.get(baseId)
    if (base) take(base)
    list.push(one)
  }
  for (const one of sorted) take(one)
  return list
}
