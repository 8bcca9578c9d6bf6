// A second recording over the same bars: its grid from the first one's, through an alignment, and what is
// different about it in words.
import { firstToSecond, type Alignment } from '../hear/alignment'
import { clock, medianTempo, type BeatGrid } from '../time/beat-grid'
import { allBars, mainSource } from '../document/form'
import type { Song, Source } from '../document/schema'

/** Beats of one recording are at least so far apart in the other, also where it lacks them. */
const LEAST_GAP_SECONDS = 0.03

/**
 * A beat heard this near to where the alignment puts one is that beat: harmony tells the bar, attacks tell
 * the moment.
 */
const SNAP_SECONDS = 0.24

/**
 * The first recording's beats where they fall in the second: rising, inside it. `heardBeats` are the
 * second's own, ascending.
 */
export function gridThroughAlignment(
  grid: BeatGrid,
  alignment: Alignment,
  secondDuration: number,
  heardBeats: readonly number[] = [],
): BeatGrid {
  let last = -LEAST_GAP_SECONDS
  const count = grid.bars.reduce((sum, bar) => sum + bar.beatSeconds.length, 0) + 1
  let index = 0
  const next = (seconds: number): number => {
    // Room for those that follow is kept, so that nothing runs over the end.
    const most = secondDuration - (count - index++) * LEAST_GAP_SECONDS
    const wanted = firstToSecond(alignment.points, seconds)
    const heard = nearest(heardBeats, wanted)
    last = Math.max(
      last + LEAST_GAP_SECONDS,
      Math.min(
        most,
        heard !== undefined && Math.abs(heard - wanted) < SNAP_SECONDS && heard > last + 4 * LEAST_GAP_SECONDS
          ? heard
          : wanted,
      ),
    )
    return Math.round(last * 1e4) / 1e4
  }
  const bars = grid.bars.map((bar) => ({ beatSeconds: bar.beatSeconds.map(next) }))
  return { bars, endSeconds: Math.max(last + LEAST_GAP_SECONDS, next(grid.endSeconds)) }
}

function nearest(values: readonly number[], wanted: number): number | undefined {
  let [low, high] = [0, values.length - 1]
  if (high < 0) return undefined
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (values[middle]! <= wanted) low = middle
    else high = middle
  }
  return Math.abs(values[low]! - wanted) <= Math.abs(values[high]! - wanted) ? values[low] : values[high]
}

const STEPS = [
  '',
  'a half step',
  'a whole step',
  'three half steps',
  'two whole steps',
  'five half steps',
  'three whole steps',
]

/** What differs between the main recording and another, a sentence each. */
export function recordingDifferences(song: Song, other: Source, alignment: Alignment | undefined): string[] {
  const main = mainSource(song)
  if (!main?.grid || !other.grid) return []
  const words: string[] = []
  const semitones = other.offsetSemitones - main.offsetSemitones
  const cents = Math.round(other.offsetCents - main.offsetCents)
  words.push(
    semitones
      ? `sounds ${STEPS[Math.abs(semitones)] ?? `${Math.abs(semitones)} semitones`} ` +
          (semitones < 0 ? 'lower' : 'higher')
      : 'in the same key',
  )
  if (Math.abs(cents) > 3) words.push(`${Math.abs(cents)} cents ${cents < 0 ? 'flatter' : 'sharper'}`)
  const [own, theirs] = [medianTempo(allBars(song), main.grid), medianTempo(allBars(song), other.grid)]
  if (own && theirs)
    words.push(
      Math.abs(theirs / own - 1) < 0.012
        ? `as fast (${theirs.toFixed(0)})`
        : `${theirs > own ? 'faster' : 'slower'}: ${theirs.toFixed(0)} against ${own.toFixed(0)} a minute`,
    )
  for (const stretch of alignment?.only ?? [])
    words.push(
      stretch.which === 'first'
        ? `lacks ${clock(stretch.start)}–${clock(stretch.end)} of “${main.name}”`
        : `has ${clock(stretch.start)}–${clock(stretch.end)} of its own`,
    )
  if (alignment && alignment.likeness < 0.55) words.push('barely alike: is it the same song?')
  return words
}
