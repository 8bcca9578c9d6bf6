// The shapes every teacher teaches first: open ones where they lie, barres at any fret. They are known by
// sight, so they come before anything that is merely as easy. For strings tuned as a guitar's, however
// far the band is tuned down.
import type { Part } from '../../document/schema'

type Frets = readonly (number | null)[]

const read = (text: string): Frets =>
  [...text].reverse().map((sign) => (sign === 'x' ? null : Number.parseInt(sign, 36)))

/** Low string first, as they are spoken. */
const OPEN = [
  'x32010 xx0232 022100 320003 x02220 x02210 xx0231 022000 133211 x21202',
  'x02020 x32310 xx0212 020100 320001 x02010 xx0211 020000 022030',
  'x32000 xx0222 x02120 021100 xx3210 320002',
  'x02200 x02230 xx0230 xx0233 022200 x32030 020200 x02030',
  'x20003 200232 x00232 332010 302210 x04232 x30210',
]
  .flatMap((row) => row.split(' '))
  .map(read)
/** As offsets from the fret of the root; "a" is a fret below it. */
const MOVABLE = [
  // Root on the sixth string, then on the fifth.
  '022100 022000 020100 020000 022200 021100',
  'x02220 x02210 x02020 x02010 x02120 x02230',
]
  .flatMap((row) => row.split(' '))
  .map(read)
/** Lowest fretted string first, relative to their lowest fret: a sharp ninth, a half diminished chord. */
const COLOURED = ['x1012x', '1x110x', 'x0101x'].map(read)

const STANDARD_STEPS = [5, 4, 5, 5, 5].join()
const stepsOf = ({ tuning }: Part): string =>
  tuning.openMidi
    .slice(0, -1)
    .map((midi, index) => midi - (tuning.openMidi[index + 1] ?? midi))
    .join()

const lowestOf = (frets: Frets): number =>
  frets.reduce<number>((least, fret) => (fret === null ? least : Math.min(least, fret)), 99)
const same = (a: Frets, b: Frets, offset = 0): boolean =>
  a.length === b.length &&
  a.every((fret, index) => {
    const wanted = b[index] ?? null
    return fret === (wanted === null ? null : wanted + offset)
  })

/** What a shape gains by being one that is taught; 0 for all others. */
export function usualGain(frets: Frets, part: Part): number {
  if (stepsOf(part) !== STANDARD_STEPS) return 0
  if (OPEN.some((shape) => same(frets, shape))) return TAUGHT_OPEN
  const lowest = lowestOf(frets)
  if (lowest === 0) return 0
  const barre = MOVABLE.find((shape) => same(frets, shape, lowest - lowestOf(shape)))
  // A string fewer rings on the fifth; it is taught as early for that.
  if (barre) return barre.at(-1) === null ? TAUGHT_BARRE + A_STRING_LESS : TAUGHT_BARRE
  const coloured = COLOURED.some((shape) => same(frets, shape, lowest))
  return coloured ? TAUGHT_COLOUR / (lowest > HIGH_UP ? 2 : 1) : 0
}
const TAUGHT_OPEN = 3.6
const TAUGHT_BARRE = 1.4
const A_STRING_LESS = 1.3
const TAUGHT_COLOUR = 5
/** Beyond this fret the same chord is taught lower first. */
const HIGH_UP = 7
