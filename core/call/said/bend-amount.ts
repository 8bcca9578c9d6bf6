// How far a bend goes when nobody says it: to the next note of the key, a half or a whole step above.
import { diatonic } from '../../neck/lines/harmony-rule'
import type { CallContext } from '../reading'
import type { Place } from './hand'

const WORDS: Readonly<Record<number, string>> = {
  0.5: 'a quarter tone',
  1: 'a half step',
  2: 'a whole step',
  3: 'a step and a half',
}
export const bendWords = (semitones: number): string => WORDS[semitones] ?? `${semitones} semitones`

/** Amounts a bend may have there, the likeliest first, in semitones. */
export function bendAmounts(context: CallContext, { string, fret }: Place): number[] {
  if (!context.key) return [2, 1, 0.5]
  const midi = context.part.tuning.openMidi[string - 1]! + fret
  const step = diatonic(midi, 2, context.key) - midi
  return step === 1 ? [1, 2, 0.5] : [2, 1, 0.5]
}
