// The movable shapes a chord lies in: one for each string its root can stand on, nothing open, the easiest of
// each.
import { ok, type Result } from '../result'
import { readChordSymbol } from '../music/chord-name'
import { soundingMidi } from '../document/part-pitch'
import type { Grip, Part } from '../document/schema'
import { gripsFor, type RankedGrip } from './grips/grip-search'

export interface MovableShape {
  grip: Grip
  /** The lowest string that is struck; the root stands on it. */
  rootString: number
  rootFret: number
  words: string
}

const isMovable = ({ grip }: RankedGrip): boolean =>
  grip.strings.every(({ fret }) => fret === null || fret > 0)
const lowestString = ({ strings }: Grip): number => strings.findLastIndex(({ fret }) => fret !== null) + 1
/** So many windows of the neck are looked at, each as wide as a hand and half of the next. */
const WINDOWS = [1, 3, 5, 7, 9, 11]
const WINDOW_FRETS = 4
const EACH = 8

/** Refused when the symbol is not understood; empty when nothing movable lies within twelve frets. */
export function movableShapes(symbol: string, part: Part): Result<MovableShape[]> {
  const chord = readChordSymbol(symbol)
  const first = gripsFor(symbol, part, { count: EACH })
  if (!chord || !first.ok) return first.ok ? ok([]) : first
  const found = WINDOWS.flatMap((from) => {
    const window = gripsFor(symbol, part, { frets: { from, to: from + WINDOW_FRETS }, count: EACH })
    return window.ok ? window.value : []
  })
  const best = new Map<number, RankedGrip>()
  for (const ranked of found.filter(isMovable)) {
    const string = lowestString(ranked.grip)
    const fret = ranked.grip.strings[string - 1]!.fret!
    if (Math.round(soundingMidi(part, string, fret)) % 12 !== chord.root) continue
    const known = best.get(string)
    if (!known || ranked.cost < known.cost) best.set(string, ranked)
  }
  return ok(
    [...best.entries()]
      .sort(([a], [b]) => b - a)
      .map(([rootString, { grip }]) => {
        const rootFret = grip.strings[rootString - 1]!.fret!
        return { grip, rootString, rootFret, words: `root on string ${rootString}, fret ${rootFret}` }
      }),
  )
}
