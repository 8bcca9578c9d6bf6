// Who plays in which bar, from the levels of the places of a stereo recording.
import { pairs, quantile, median, ascending } from 'd3-array'
import { PLACES, type Place, type Side, type Sides } from './stereo-field'

export type BarActivity = Record<Place, boolean>

/** A side whose loud level is this far under the loudest place's holds nobody, only the others' room. */
const NOBODY_DB: Record<Place, number> = { left: 15, right: 15, centre: 40, low: 40 }
/** Below a place's own loud level (its 90th percentile) by this much, nobody plays there. */
const QUIET_DB = 18
/** Where playing and resting are clearly apart, the border lies between them: from so far under the loud … */
const NEAREST_DB = 6
const FARTHEST_DB = 26
/** … and at least this far apart. */
const APART_DB = 6
const LOUD_SHARE = 0.9

/** Frames of each bar. */
function framesOf(sides: Sides, barStarts: readonly number[], endSeconds: number): [number, number][] {
  return barStarts.map((start, index) => {
    const from = Math.floor(start * sides.framesPerSecond)
    const end = barStarts[index + 1] ?? endSeconds
    return [from, Math.max(from + 1, Math.floor(end * sides.framesPerSecond))]
  })
}

/** The mean level of a place over some frames, in decibels. */
function levelOver(levels: Float32Array, [from, to]: [number, number]): number {
  let sum = 0
  for (let t = from; t < to; t++) sum += 10 ** ((levels[t] ?? -90) / 10)
  return 10 * Math.log10(sum / (to - from))
}

/** Above this level somebody plays: the middle of the widest gap between the levels of the bars. */
function borderOf(bars: readonly number[], loud: number): number {
  const ordered = [...bars].sort(ascending)
  let border = loud - QUIET_DB
  let widest = APART_DB
  for (const [below, above] of pairs(ordered)) {
    const from = Math.max(below, loud - FARTHEST_DB)
    if (above > loud - NEAREST_DB || above - from < widest) continue
    widest = above - from
    border = (above + from) / 2
  }
  return border
}

/** Which places are played in, bar by bar. */
export function barActivity(sides: Sides, barStarts: readonly number[], endSeconds: number): BarActivity[] {
  const frames = framesOf(sides, barStarts, endSeconds)
  const loudOf = (place: Place): number => quantile(sides.levels[place], LOUD_SHARE) ?? -90
  const loudest = Math.max(...PLACES.map(loudOf))
  const activity = frames.map(() => ({ left: false, centre: false, right: false, low: false }))
  for (const place of PLACES) {
    const loud = loudOf(place)
    if (loud <= loudest - NOBODY_DB[place]) continue
    const bars = frames.map((span) => levelOver(sides.levels[place], span))
    const border = borderOf(bars, loud)
    bars.forEach((level, bar) => (activity[bar]![place] = level > border))
  }
  return activity
}

/** The note that a side stands on in each bar: the middle of its strongest notes, as a MIDI number. */
export function barNotes(
  sides: Sides,
  side: Side,
  span: { downbeats: readonly number[]; end: number },
): number[] {
  return framesOf(sides, span.downbeats, span.end).map((frames) => {
    return Math.round(median(sides.notes[side].subarray(...frames)) ?? 0)
  })
}

/** First and last bars of each stretch in which a place is played in, stretches of at least two bars. */
export function entrances(
  activity: readonly BarActivity[],
  place: Place,
): { firstBar: number; lastBar: number }[] {
  const stretches: { firstBar: number; lastBar: number }[] = []
  activity.forEach((bar, index) => {
    if (!bar[place]) return
    const last = stretches.at(-1)
    // One quiet bar does not end a stretch: a stop, a breath.
    if (last && index - last.lastBar <= 2) last.lastBar = index
    else stretches.push({ firstBar: index, lastBar: index })
  })
  return stretches.filter((stretch) => stretch.lastBar > stretch.firstBar)
}
