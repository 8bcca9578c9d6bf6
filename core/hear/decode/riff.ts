// A stretch that stands on one root is a riff, not a progression: what changes over the root are its notes,
// and seven doubtful chords would say less than their root does.
import { greatest, rollup, sum } from 'd3-array'
import type { HeardChord } from './chords'

/** The share of the time that has to stand on the root. */
const MOST = 0.8
/** A chord that simply stays has this few names. */
const ONE_CHORD = 1

/** The root of a riff as a pitch class, undefined where chords change or one chord stays. */
export function riffRoot(chords: readonly HeardChord[]): number | undefined {
  const named = chords.flatMap(({ chord, start, end }) => (chord ? [{ chord, seconds: end - start }] : []))
  const all = sum(chords, ({ start, end }) => end - start)
  const byRoot = rollup(
    named,
    (alike) => sum(alike, ({ seconds }) => seconds),
    ({ chord }) => chord.root,
  )
  const [root, seconds] = greatest(byRoot, ([, length]) => length) ?? []
  if (root === undefined || seconds === undefined || seconds < MOST * all) return undefined
  const names = new Set(named.map(({ chord }) => `${chord.root} ${chord.quality}`))
  return names.size > ONE_CHORD ? root : undefined
}
