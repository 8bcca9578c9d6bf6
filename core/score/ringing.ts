// How long notes sound: a string that is struck again ends what rang on it before.
import type { MuteSpan } from '../document/schema'
import { spanAt } from './mute-spans'
import type { PlayedNote } from './perform'

/** Cuts each note where its string is struck again; lets it ring on inside let-ring spans. */
export function ringing(played: PlayedNote[], mutes: readonly MuteSpan[], lengthTicks: number): PlayedNote[] {
  const struckNext = nextOnString(played)
  return played.map((note, index) => {
    const next = struckNext[index]
    const ring = spanAt(mutes, 'let ring', note.startTicks)
    const rung = ring ? Math.min(ring.startTicks + ring.lengthTicks, lengthTicks) : 0
    const wanted = note.letRing ? lengthTicks : Math.max(note.endTicks, rung)
    return { ...note, endTicks: Math.min(wanted, next ?? Number.POSITIVE_INFINITY) }
  })
}

/** For each note of a list in time order when its string is struck later, ticks. */
function nextOnString(played: readonly PlayedNote[]): (number | undefined)[] {
  // Of each string the last two different moments, seen from the end.
  const later = new Map<number, { at: number; after: number | undefined }>()
  const next: (number | undefined)[] = []
  for (const [back, { string, startTicks }] of played.toReversed().entries()) {
    const index = played.length - 1 - back
    const seen = later.get(string)
    const after = seen && seen.at > startTicks ? seen.at : seen?.after
    next[index] = after
    later.set(string, { at: startTicks, after })
  }
  return next
}
