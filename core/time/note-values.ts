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

const PLAIN = new Map<number, NoteValue>()
const TUPLED = new Map<number, NoteValue>()
function remember(values: Map<number, NoteValue>, ticks: number, value: NoteValue): void {
  if (Number.isInteger(ticks) && !values.has(ticks)) values.set(ticks, value)
}
for (const dots of [0, 1, 2])
  for (const [index, type] of TYPES.entries())
    remember(PLAIN, (WHOLE / 2 ** index) * (2 - 1 / 2 ** dots), { type, dots })
for (const [index, type] of TYPES.entries())
  for (const tuplet of TUPLETS)
    remember(TUPLED, (WHOLE / 2 ** index) * (tuplet.normal / tuplet.actual), { type, dots: 0, tuplet })

export interface ValuedPiece {
  lengthTicks: number
  value: NoteValue
}
const longestFirst = (values: ReadonlyMap<number, NoteValue>): ValuedPiece[] =>
  [...values]
    .map(([lengthTicks, value]) => ({ lengthTicks, value }))
    // Between two of a length there is no choice; a double dot is read with more trouble than a tie.
    .filter(({ value }) => value.dots < 2)
    .sort((a, b) => b.lengthTicks - a.lengthTicks)
const PLAIN_PIECES = longestFirst(PLAIN)
const ALL_PIECES = longestFirst(new Map([...PLAIN, ...TUPLED]))
const MOST_PIECES = 3

/**
 * A length as one written value, else as up to three tied: plain ones wherever there are any that add up, of
 * a tuplet only what is none; else the nearest value with its true length.
 */
export function writtenValues(lengthTicks: number): ValuedPiece[] {
  const exact = PLAIN.get(lengthTicks)
  if (exact) return [{ lengthTicks, value: exact }]
  const plain = inPieces(lengthTicks, PLAIN_PIECES, MOST_PIECES)
  if (plain) return plain
  const tupled = TUPLED.get(lengthTicks)
  if (tupled) return [{ lengthTicks, value: tupled }]
  return inPieces(lengthTicks, ALL_PIECES, MOST_PIECES) ?? [{ lengthTicks, value: nearest(lengthTicks) }]
}

function inPieces(
  lengthTicks: number,
  pieces: readonly ValuedPiece[],
  most: number,
): ValuedPiece[] | undefined {
  const exact = pieces.find((piece) => piece.lengthTicks === lengthTicks)
  if (exact) return [exact]
  if (most < 2) return undefined
  for (const piece of pieces) {
    if (piece.lengthTicks >= lengthTicks) continue
    const rest = inPieces(lengthTicks - piece.lengthTicks, pieces, most - 1)
    if (rest) return [piece, ...rest]
  }
  return undefined
}

const nearest = (lengthTicks: number): NoteValue =>
  ALL_PIECES.reduce((best, next) =>
    Math.abs(next.lengthTicks - lengthTicks) < Math.abs(best.lengthTicks - lengthTicks) ? next : best,
  ).value
