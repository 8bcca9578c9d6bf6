// Which of two strings of one name is meant: the hand decides. What is nearest to where it was, and to where
// it goes next.
import { findString } from '../strings'
import type { StringSpec } from './items'

/** Where the hand is: a string and a fret. */
export interface Place {
  string: number
  fret: number
}

/** All strings a name can mean, the highest first. */
export function stringsNamed(
  spec: StringSpec,
  letters: readonly string[],
  shapes: readonly string[],
): number[] {
  if (spec.number !== undefined) return spec.number >= 1 && spec.number <= letters.length ? [spec.number] : []
  const { letter = '', which } = spec
  const of = (names: readonly string[]): number[] =>
    names.flatMap((name, index) => (name.toLowerCase() === letter.toLowerCase() ? [index + 1] : []))
  if (which) {
    const one =
      findString(letters, letter.toUpperCase()[0] + letter.slice(1), which) ??
      findString(shapes, letter.toUpperCase()[0] + letter.slice(1), which)
    return one === undefined ? [] : [one]
  }
  const now = of(letters)
  return now.length ? now : of(shapes)
}

/** How far the hand has to go, in frets and strings; an open string asks nothing of the fretting hand. */
export function way(from: Place | undefined, to: Place): number {
  if (!from) return 0
  const frets = to.fret === 0 || from.fret === 0 ? 0 : Math.abs(to.fret - from.fret)
  return frets * 0.4 + Math.abs(to.string - from.string)
}

/** The one of these strings that lies best between where the hand was and where it goes. */
export function nearest(
  strings: readonly number[],
  fret: number,
  { from, next, low }: { from: Place | undefined; next: Place | undefined; low: boolean },
): number {
  const price = (string: number): number => {
    const to = { string, fret }
    const usual = low ? -string * 0.01 : string * 0.01
    return way(from, to) + (next ? way(to, next) * 0.6 : 0) + usual
  }
  return strings.reduce((best, string) => (price(string) < price(best) ? string : best), strings[0]!)
}
