// Chords along the beats: what was heard in each half beat, decided by chord-chain.ts, joined to chords with
// their bass, how sure they are and what else they could be.
import { bassOf } from './chord-bass'
import { NONE, STATES, type Decoded, type Span, type SpanEvidence } from './chord-chain'
import { QUALITIES, writeLabel, type ChordLabel, type Quality } from './chord-labels'
import { normalise } from './normalise'
import type { Key } from '../../music/pitch'

export interface HeardChord {
  start: number
  end: number
  chord: ChordLabel | undefined
  confidence: number
  rivals: { label: string; share: number }[]
}

const chordOf = (state: number): { root: number; quality: Quality } | undefined =>
  state === NONE
    ? undefined
    : { root: Math.floor(state / QUALITIES.length), quality: QUALITIES[state % QUALITIES.length]! }

/**
 * Exponent that brings posteriors to what proved right: witnesses are not as independent as the model
 * believes (measured by npm run evaluate).
 */
const HUMILITY = 0.4

/** A doubtful chord has something to be taken instead, however little is said for it: itself and two more. */
const FEWEST_RIVALS = 3

/** Joins spans of one chord, finds its bass, and says how sure that is and what else it could be. */
export function joinChords(
  spans: readonly Span[],
  evidence: readonly SpanEvidence[],
  decoded: Decoded,
  key?: Key,
): HeardChord[] {
  const chords: HeardChord[] = []
  for (let t = 0; t < spans.length;) {
    let end = t + 1
    while (end < spans.length && decoded.path[end] === decoded.path[t]) end++
    const members = evidence.slice(t, end)
    const mean = new Float64Array(STATES)
    for (let k = t; k < end; k++)
      for (let state = 0; state < STATES; state++) mean[state]! += decoded.posterior[k]![state]! / (end - t)
    for (let state = 0; state < STATES; state++) mean[state] = mean[state]! ** HUMILITY
    normalise(mean)
    const found = chordOf(decoded.path[t]!)
    const chord = found && { ...found, bass: bassOf(found, members) }
    const rivals = [...mean.keys()]
      .sort((a, b) => mean[b]! - mean[a]!)
      .slice(0, 4)
      .map((state) => {
        const rival = chordOf(state)
        return {
          label: writeLabel(rival && { ...rival, bass: rival.root }, key),
          share: Math.round(mean[state]! * 100) / 100,
        }
      })
      .filter((rival, index) => index < FEWEST_RIVALS || rival.share >= 0.03)
    chords.push({
      start: spans[t]!.start,
      end: spans[end - 1]!.end,
      chord,
      confidence: mean[decoded.path[t]!]!,
      rivals,
    })
    t = end
  }
  return chords
}
