// Stretches of a recording without a pulse, or in which nobody drums.
import type { Analysis } from './analysis'
import { drumlessStretches } from './decode/pulsed-range'
import type { OnsetStrength } from './features/onset-strength'
import { medianGap, round } from './rounding'

/** Longer than this before the pulse and not silent: an opening of its own, in free time. */
export const OPENING_SECONDS = 3.5
const FAINT = 1e-4
/** When something is heard first, seconds. */
export function firstSound(onsets: OnsetStrength): number {
  const loudest = onsets.loudness.reduce((top, value) => Math.max(top, value), 0)
  return (
    Math.max(
      0,
      onsets.loudness.findIndex((value) => value > loudest * FAINT),
    ) / onsets.framesPerSecond
  )
}

/** Where nothing is counted: before the first beat, in holes, after the last; and where nobody drums. */
export function stretchesOf(
  beats: readonly number[],
  onsets: OnsetStrength,
  durationSeconds: number,
): NonNullable<Analysis['stretches']> {
  const free: NonNullable<Analysis['stretches']> = []
  const sounds = firstSound(onsets)
  if (beats[0]! - sounds > OPENING_SECONDS) free.push({ start: round(sounds), end: beats[0]!, kind: 'free' })
  const usual = medianGap(beats)
  beats.forEach((beat, index) => {
    const next = beats[index + 1]
    if (next !== undefined && next - beat > 2.6 * usual) free.push({ start: beat, end: next, kind: 'free' })
  })
  if (durationSeconds - beats.at(-1)! > 6)
    free.push({ start: round(beats.at(-1)! + usual), end: round(durationSeconds), kind: 'free' })
  return [...free, ...drumlessStretches(beats, onsets)].sort((a, b) => a.start - b.start)
}
