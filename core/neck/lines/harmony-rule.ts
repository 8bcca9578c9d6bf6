// The pitch of a second line at a note of the first: diatonic (a third above in the key) or parallel (every
// note by the same semitones).
import type { LineDerivation } from '../../document/schema'
import { pitchClass, pitchClassOf, type Key } from '../../music/pitch'
import { SCALE_KINDS } from '../../music/scale'

export type HarmonyRule = Pick<LineDerivation, 'interval' | 'kind' | 'key' | 'exceptions' | 'where'>
export interface ChordAt {
  startTicks: number
  lengthTicks: number
  symbol: string
}
const scaleOf = (key: Key): number[] => {
  const kind = SCALE_KINDS.find((candidate) => candidate.name === key.mode) ?? SCALE_KINDS[0]
  const semitones = kind?.semitones ?? []
  return semitones.map((step) => (pitchClassOf(key.tonic) + step) % 12).sort((a, b) => a - b)
}

/**
 * The pitch a diatonic interval away: 3 is a third above, −3 a third below, 8 an octave, 1 unison. A note
 * outside the key keeps its distance from the scale tone below it.
 */
export function diatonic(midi: number, interval: number, key: Key): number {
  // A string that a part does not have sounds nothing: no pitch is a third above it.
  if (!Number.isFinite(midi)) return midi
  const scale = scaleOf(key)
  const rounded = Math.round(midi)
  let altered = 0
  while (!scale.includes(pitchClass(rounded - altered))) altered++
  const plain = rounded - altered
  const steps = interval > 0 ? interval - 1 : interval + 1
  const from = scale.indexOf(pitchClass(plain))
  const octave = Math.floor((from + steps) / scale.length)
  const to = from + steps - octave * scale.length
  return plain + altered + 12 * octave + (scale[to] ?? 0) - (scale[from] ?? 0)
}

/** Pitch of the second line at a note of the first. */
export function harmonyPitch(midi: number, startTicks: number, rule: HarmonyRule): number {
  const exception = rule.exceptions.find((one) => one.startTicks === startTicks)
  if (exception) return midi + exception.semitones
  if (rule.kind === 'parallel')
    return midi + (PARALLEL_SEMITONES[Math.abs(rule.interval)] ?? 0) * Math.sign(rule.interval)
  return diatonic(midi, rule.interval, rule.key)
}
/** Parallel intervals are major or perfect. */
const PARALLEL_SEMITONES: Record<number, number> = {
  1: 0,
  2: 2,
  3: 4,
  4: 5,
  5: 7,
  6: 9,
  7: 11,
  8: 12,
  9: 14,
  10: 16,
  11: 17,
  12: 19,
  13: 21,
  14: 23,
  15: 24,
}
