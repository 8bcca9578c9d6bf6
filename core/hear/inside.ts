// A stretch of a recording listened to again: what was found inside it takes the place of what was heard
// there before; outside everything stays as it was.
import type { Analysis } from './analysis'

type Heard = { start: number; end: number }
/** Two moments closer than this are the same border, seconds. */
const SAME = 0.15

/** The stretch of heard chords or sections outside [from, to): what reaches over a border ends there. */
function outside<T extends Heard>(heard: readonly T[], { start: from, end: to }: Heard): T[] {
  return heard.flatMap((one) => {
    const pieces: T[] = []
    if (one.start < from - SAME) pieces.push({ ...one, end: Math.min(one.end, from) })
    if (one.end > to + SAME) pieces.push({ ...one, start: Math.max(one.start, to) })
    return pieces
  })
}
const inside = <T extends Heard>(heard: readonly T[], { start: from, end: to }: Heard): T[] =>
  heard
    .filter((one) => one.end > from + SAME && one.start < to - SAME)
    .map((one) => ({ ...one, start: Math.max(from, one.start), end: Math.min(to, one.end) }))

/**
 * Before, with a stretch of `again` in it. Beats and what is counted along them are those of `again`: it was
 * heard on the beats as they are now.
 */
export function withInside(before: Analysis, again: Analysis, stretch: Heard): Analysis {
  const chords = [...outside(before.chords ?? [], stretch), ...inside(again.chords ?? [], stretch)]
  return {
    ...before,
    beats: again.beats,
    downbeats: again.downbeats,
    ...(again.chroma ? { chroma: again.chroma } : {}),
    ...(again.likeness ? { likeness: again.likeness } : {}),
    ...(again.activity ? { activity: again.activity } : {}),
    chords: chords.sort((a, b) => a.start - b.start),
    sections: sectionsWith(before.sections ?? [], again.sections ?? [], stretch),
  }
}

type Section = NonNullable<Analysis['sections']>[number]

/** Sections of before; the one that is the stretch takes over what it was now found to return. */
function sectionsWith(
  before: readonly Section[],
  again: readonly Section[],
  { start, end }: Heard,
): Section[] {
  const found = again.find((one) => Math.abs(one.start - start) < 1 && one.end > start)
  const target = found?.returns && again[found.returns.section]
  const place = target ? before.findIndex((one) => Math.abs(one.start - target.start) < 1) : -1
  return before.map((one) => {
    const same = Math.abs(one.start - start) < 1 && one.start < end
    if (!same || !found?.returns || place === -1) return one
    return { ...one, returns: { ...found.returns, section: place } }
  })
}
