// Lengths as they are written: whole notes down to 128ths, dotted, as triplets, quintuplets, septuplets. A
// length that is none of them is written as several, tied.
import { TICKS_PER_QUARTER } from './meter'

export interface NoteValue {
  type: string
  dots: number
  /** So many in the time of so many. */
  tuplet?: { actual: number; normal: number }
}

const TYPES = ['whole', 'half', 'quarter', 'eighth', '16th', '32nd', '64th', '128th'] as const
const WHOLE = TICKS_PER_QUARTER * 4
const TUPLETS = [
  { actual: 3, normal: 2 },
  { actual: 5, normal: 4 },
  { actual: 7, normal: 4 },
  { actual: 9, normal: 8 },
] as const

const VALUES = new Map<number, NoteValue>()
function remember(ticks: number, value: NoteValue): void {
  if (Number.isInteger(ticks) && !VALUES.has(ticks)) VALUES.set(ticks, value)
}
for (const [index, type] of TYPES.entries()) remember(WHOLE / 2 ** index, { type, dots: 0 })
for (const [index, type] of TYPES.entries()) remember((WHOLE / 2 ** index) * 1.5, { type, dots: 1 })
for (const [index, type] of TYPES.entries())
  for (const tuplet of TUPLETS)
    remember((WHOLE / 2 ** index) * (tuplet.normal / tuplet.actual), { type, dots: 0, tuplet })
for (const [index, type] of TYPES.entries()) remember((WHOLE / 2 ** index) * 1.75, { type, dots: 2 })

const LENGTHS = [...VALUES.keys()].sort((a, b) => b - a)

export interface ValuedPiece {
  lengthTicks: number
  value: NoteValue
}

/** A length as one written value, else as two or three; else the nearest value with its true length. */
export function writtenValues(lengthTicks: number): ValuedPiece[] {
  const exact = VALUES.get(lengthTicks)
  if (exact) return [{ lengthTicks, value: exact }]
  return inPieces(lengthTicks, 3) ?? [{ lengthTicks, value: nearest(lengthTicks) }]
}

function inPieces(lengthTicks: number, most: number): ValuedPiece[] | undefined {
  const exact = VALUES.get(lengthTicks)
  if (exact) return [{ lengthTicks, value: exact }]
  if (most < 2) return undefined
  for (const length of LENGTHS) {
    if (length >= lengthTicks) continue
    const rest = inPieces(lengthTicks - length, most - 1)
    if (rest) return [{ lengthTicks: length, value: VALUES.get(length)! }, ...rest]
  }
  return undefined
}

function nearest(lengthTicks: number): NoteValue {
  const length = LENGTHS.reduce((best, next) =>
    Math.abs(next - lengthTicks) < Math.abs(best - lengthTicks) ? next : best,
  )
  return VALUES.get(length)!
}
