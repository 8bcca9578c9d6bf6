// Pitches as the strings are called: by shape a guitar tuned a half step down still has an E string, and its
// chords have the names their shapes have.
import { pitchClassOf } from '../../music/pitch'
import type { CallContext } from '../reading'

/** Open strings at the pitches their names say, string 1 first. */
export function namedMidi({ letters, part }: Pick<CallContext, 'letters' | 'part'>): number[] {
  const { openMidi } = part.tuning
  const [first] = letters
  const [open] = openMidi
  if (first === undefined || open === undefined) return [...openMidi]
  const named = pitchClassOf(first[0]?.toUpperCase() + first.slice(1))
  const up = (((named - open) % 12) + 12) % 12
  const by = up > 6 ? up - 12 : up
  return openMidi.map((midi) => midi + by)
}
