// What a chord stands on: the lowest note of a wall of guitars where there is one, else what the low register
// holds besides the root.
import { greatestIndex } from 'd3-array'
import { QUALITIES, TONES, type Quality } from './chord-labels'
import type { SpanEvidence } from './chord-chain'

/**
 * How much the guitars' lowest note counts, the strength below which it tells nothing, and how much a fifth
 * in the bass counts beside a root. Set on recordings; anything from 10 to 20 gives the same within 2 %.
 */
const LOW_WEIGHT = 12
const LOW_FLOOR = 0.7
const FIFTH_SHARE = 0.3
/** A chord stands on the guitars' lowest note, or, less often, has its fifth there. */
export function addLow(logs: Float64Array, low: Float32Array): void {
  const above = (pitchClass: number): number => Math.max(0, (low[pitchClass % 12] ?? 0) - LOW_FLOOR)
  for (let root = 0; root < 12; root++) {
    const gain = LOW_WEIGHT * Math.max(above(root), FIFTH_SHARE * above(root + 7))
    for (let k = 0; k < QUALITIES.length; k++) logs[root * QUALITIES.length + k]! += gain
  }
}

/**
 * Another bass than the root is said when it is this much stronger there, and by how much less when it is a
 * tone of the chord.
 */
const SLASH_RATIO = 2.2
const SLASH_RATIO_CHORD_TONE = 1.6

/** The guitars' lowest note over a chord, where it is known for most of it. */
function lowestOf(members: readonly SpanEvidence[]): number | undefined {
  const lows = members.flatMap(({ low }) => (low ? [low] : []))
  if (lows.length * 2 <= members.length) return undefined
  return greatestIndex(Array.from({ length: 12 }, (_, k) => lows.reduce((sum, low) => sum + low[k]!, 0)))
}

/** The pitch class in the bass of a chord. */
export function bassOf(chord: { root: number; quality: Quality }, members: readonly SpanEvidence[]): number {
  const tones: readonly number[] = TONES[chord.quality]
  const lowest = lowestOf(members)
  if (lowest !== undefined && tones.includes((lowest - chord.root + 12) % 12)) return lowest
  const strength = new Float64Array(12)
  for (const { chroma } of members) {
    let top = 1e-6
    for (let k = 0; k < 12; k++) top = Math.max(top, chroma[k]!)
    for (let k = 0; k < 12; k++) strength[k]! += chroma[k]! / top
  }
  let bass = chord.root
  let best = strength[chord.root]!
  for (let k = 0; k < 12; k++) {
    if (k === chord.root) continue
    const need = tones.includes((k - chord.root + 12) % 12) ? SLASH_RATIO_CHORD_TONE : SLASH_RATIO
    if (strength[k]! / need > best) {
      best = strength[k]! / need
      bass = k
    }
  }
  return bass
}
