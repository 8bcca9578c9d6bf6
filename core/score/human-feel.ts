// Optional: a chart played a little unevenly, as a hand would. The same song sounds the same every time:
// chance is drawn from each event's own place.
import type { SoundingEvent } from './sounding-event'

/**
 * A number in [-1, 1) that depends on two others only (hash after Jarzynski and Olano, 2020, reduced to one
 * round).
 */
function chance(a: number, b: number): number {
  let h = (Math.imul(a | 0, 0x9e3779b1) ^ Math.imul(b | 0, 0x85ebca6b)) >>> 0
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d) >>> 0
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39) >>> 0
  return ((h ^ (h >>> 15)) >>> 0) / 2 ** 31 - 1
}

const TIMING_SECONDS = 0.009
const LOUDNESS = 0.1

/** Strings of one stroke move together: chance goes by the time they are struck at. `amount` 0 to 1. */
export function humanised(events: readonly SoundingEvent[], amount = 1): SoundingEvent[] {
  return events.map((event) => {
    const place = Math.round(event.startSeconds * 20)
    const shift = chance(place, 1) * TIMING_SECONDS * amount
    return {
      ...event,
      startSeconds: Math.max(0, event.startSeconds + shift),
      endSeconds: Math.max(event.startSeconds + shift + 0.03, event.endSeconds + shift),
      loudness: Math.min(1, event.loudness * (1 + chance(place, event.string) * LOUDNESS * amount)),
    }
  })
}
