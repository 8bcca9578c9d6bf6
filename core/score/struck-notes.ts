// The strings a stroke strikes with what is stopped on them: one rule for sound and for what is written out.
import type { Content, Grip, Stroke } from '../document/schema'
import { struckStrings } from '../document/struck-strings'
import { hasMark } from '../marks/marks-of'

export interface StruckNote {
  string: number
  /** Null where the string is only damped: a dead stroke. */
  fret: number | null
  finger?: Grip['strings'][number]['finger']
}

/** Highest string first, of so many on the instrument; nothing for a stroke that strikes air. */
export function struckNotes(stroke: Stroke, { grips }: Content, strings: number): StruckNote[] {
  const span = grips.findLast(
    ({ startTicks, lengthTicks }) =>
      startTicks <= stroke.startTicks && stroke.startTicks < startTicks + lengthTicks,
  )
  const dead = hasMark(stroke, 'dead')
  if (!span && !dead) return []
  return struckStrings(stroke, span, strings)
    .map((string): StruckNote => ({ string, ...(span?.grip.strings[string - 1] ?? { fret: null }) }))
    .filter(({ fret }) => dead || fret !== null)
}
