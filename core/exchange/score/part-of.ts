// A part of a file as a part of the band.
import { isBass } from '../../instrument/instruments'
import type { Part } from '../../document/schema'
import type { WrittenPart } from './written-score'

export const partOf = (
  { instrument, tuning, sound }: WrittenPart,
  facts: Pick<Part, 'id' | 'name'>,
): Part => ({
  ...facts,
  role: isBass(instrument.kind) ? 'bass' : 'rhythm',
  instrument,
  tuning,
  pan: 0,
  sound,
})

const LONGEST = 56
/** A name, or the same with a number where it is taken. */
export function ownName(wanted: string, taken: ReadonlySet<string>): string {
  let [name, number] = [wanted, 2]
  while (taken.has(name)) name = `${wanted.slice(0, LONGEST)} ${number++}`
  return name
}
