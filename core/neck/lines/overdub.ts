// A line that one player cannot join: what the first hand cannot reach in time, or would need a string
// twice for, was played by another, or by the same one again over the record. The notes are given to two
// hands, each as long as it can go on.
import { fingerPlaceMm } from '../../instrument/neck'
import type { Content, Note, Part } from '../../document/schema'
import { TICKS_PER_QUARTER } from '../../time/meter'
import { fingerSpanMm, USUAL_HAND, type Hand } from '../hand'
import { inTimeOrder } from './line'

/** Frets a hand goes between two notes that follow within an eighth. */
export const FARTHEST_SHIFT = 9
export const AT_ONCE_TICKS = TICKS_PER_QUARTER / 2

export interface Overdub {
  /** Ids of the notes for the second hand. */
  second: Set<string>
  /** The first place at which one hand cannot do both. */
  startTicks: number
  why: string
}

/** Why a hand that has just played these notes cannot play one more; undefined when it can. */
function cannot(played: readonly Note[], note: Note, part: Part, hand: Hand): string | undefined {
  const { capo, scaleLengthMm } = part.instrument
  const place = (fret: number): number => fingerPlaceMm(fret + capo, scaleLengthMm)
  for (const other of played.slice(-8)) {
    const rings = other.startTicks + other.lengthTicks > note.startTicks
    if (other.string === note.string && rings && other.startTicks === note.startTicks)
      return `string ${note.string} would have to sound frets ${other.fret} and ${note.fret} at once`
    if (other.fret === 0 || note.fret === 0) continue
    const together = other.startTicks === note.startTicks
    if (together && Math.abs(place(other.fret) - place(note.fret)) > fingerSpanMm('1', '4', hand) * 1.35)
      return `frets ${other.fret} and ${note.fret} together are out of reach`
    const soon = note.startTicks - other.startTicks <= AT_ONCE_TICKS
    const slid = note.marks.some(({ kind }) => kind === 'slide')
    if (soon && !together && !slid && Math.abs(other.fret - note.fret) > FARTHEST_SHIFT)
      return `from fret ${other.fret} to ${note.fret} within an eighth no hand is there in time`
  }
  return undefined
}

/** How the notes of a content fall to two players; undefined when one can play them all, or two cannot. */
export function overdubIn(content: Content, part: Part, hand: Hand = USUAL_HAND): Overdub | undefined {
  const [first, second]: [Note[], Note[]] = [[], []]
  let cut: { startTicks: number; why: string } | undefined
  for (const note of inTimeOrder(content.notes)) {
    const why = cannot(first, note, part, hand)
    if (why === undefined) {
      first.push(note)
      continue
    }
    if (cannot(second, note, part, hand) !== undefined) return undefined
    second.push(note)
    cut ??= { startTicks: note.startTicks, why }
  }
  return cut && { ...cut, second: new Set(second.map(({ id }) => id)) }
}
