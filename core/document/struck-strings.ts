// Which strings a stroke takes, one rule for what sounds and for every drawing of it.
import { hasMark } from '../marks/marks-of'
import type { GripSpan, Stroke } from './schema'

/** A dead stroke over no grip clicks on so many of the lowest strings. */
const DEAD_STRINGS = 3

/** The numbers of the strings a stroke strikes, highest string first, of so many on the instrument. */
export function struckStrings(
  stroke: Pick<Stroke, 'strings' | 'marks'>,
  span: Pick<GripSpan, 'grip'> | undefined,
  strings: number,
): number[] {
  const all = Array.from({ length: strings }, (_, index) => index + 1)
  if (stroke.strings) return all.filter((string) => stroke.strings?.includes(string))
  if (span) return all.filter((string) => span.grip.strings[string - 1]?.fret !== null)
  return hasMark(stroke, 'dead') ? all.slice(-DEAD_STRINGS) : []
}
