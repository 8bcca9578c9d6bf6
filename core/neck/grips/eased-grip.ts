// A grip that is too wide for a hand: the nearest one of the same chord that is not, or the same notes with
// one finger moving in time instead of a held stretch.
import { hasMark } from '../../marks/marks-of'
import { fingerPlaceMm } from '../../instrument/neck'
import type { Key } from '../../music/pitch'
import type { Grip, GripSpan, Part, Stroke } from '../../document/schema'
import { fingerGrip } from './fingering'
import { gripsFor, symbolOf, type RankedGrip } from './grip-search'
import { USUAL_HAND, type Hand } from '../hand'

/** Distance in mm along the neck between the outermost held frets. */
export function reachMm(grip: Grip, part: Pick<Part, 'instrument'>): number {
  const places = grip.strings.flatMap((string) =>
    string.fret ? [fingerPlaceMm(string.fret + part.instrument.capo, part.instrument.scaleLengthMm)] : [],
  )
  return places.length ? Math.max(...places) - Math.min(...places) : 0
}

/** True when a hand holds it within its limit. */
export const isComfortable = (grip: Grip, part: Pick<Part, 'instrument'>, hand: Hand): boolean =>
  reachMm(grip, part) <= hand.cautionMm && fingerGrip(grip, part, hand) !== undefined

/**
 * The easiest near relatives of a grip that stay within the hand: same chord elsewhere, or the same frets
 * with a string left out.
 */
export function easedGrips(grip: Grip, part: Part, key: Key, hand: Hand = USUAL_HAND): RankedGrip[] {
  const symbol = symbolOf(grip, part, key)
  const others = symbol ? gripsFor(symbol, part, { hand, after: grip, count: 12 }) : undefined
  const same = grip.strings.flatMap((string, left): RankedGrip[] => {
    if (!string.fret) return []
    const thinner: Grip = {
      strings: grip.strings.map((other, index) => ({ fret: index === left ? null : other.fret })),
    }
    const fingering = fingerGrip(thinner, part, hand)
    return fingering && isComfortable(thinner, part, hand)
      ? [
          {
            grip: thinner,
            fingering,
            cost: fingering.difficulty + 1,
            reasons: [`without string ${left + 1}`],
          },
        ]
      : []
  })
  const near = others?.ok
    ? others.value
        .filter((candidate) => isComfortable(candidate.grip, part, hand))
        .map((candidate) => ({ ...candidate, reasons: ['the same chord', ...candidate.reasons] }))
    : []
  return [...same.sort((a, b) => a.cost - b.cost).slice(0, 2), ...near.slice(0, 3)]
}

export interface FingerMove {
  tick: number
  fromString: number
  toString: number
  fret: number
}
export interface MovingGrip {
  spans: { startTicks: number; lengthTicks: number; grip: Grip }[]
  moves: FingerMove[]
}

interface HeldSpan {
  startTicks: number
  strings: Set<number>
}

/** What is struck, string by string: a stroke, or a note by itself. */
export type Plucked = Pick<Stroke, 'startTicks' | 'marks' | 'strings'>

/** Strings struck by some of the strokes that a finger holds. */
const heldBy = (span: GripSpan, strokes: readonly Plucked[]): Set<number> =>
  new Set(
    strokes.flatMap((stroke) =>
      (stroke.strings ?? span.grip.strings.map((_, index) => index + 1)).filter(
        (string) => span.grip.strings[string - 1]?.fret,
      ),
    ),
  )

/**
 * Two shapes and one move between them: all that is struck before it is held first, all that is struck after
 * it from then on. Of several moments the one that asks the fewest fingers to move; undefined where there is
 * none.
 */
function heldWithOneMove(
  span: GripSpan,
  strokes: readonly Plucked[],
  fits: (strings: ReadonlySet<number>) => boolean,
): HeldSpan[] | undefined {
  let best: { spans: HeldSpan[]; moved: number } | undefined
  for (let cut = 1; cut < strokes.length; cut++) {
    const first = heldBy(span, strokes.slice(0, cut))
    const then = heldBy(span, strokes.slice(cut))
    if (!fits(first) || !fits(then)) continue
    const moved = [...then].filter((string) => !first.has(string)).length
    if (moved === 0 || (best && best.moved <= moved)) continue
    const spans = [
      { startTicks: span.startTicks, strings: first },
      { startTicks: strokes[cut]!.startTicks, strings: then },
    ]
    best = { spans, moved }
  }
  return best?.spans
}

/** Which strings are held from when, each as long as it serves; undefined when no hand can. */
function holdInTime(
  span: GripSpan,
  strokes: readonly Plucked[],
  fits: (strings: ReadonlySet<number>) => boolean,
): HeldSpan[] | undefined {
  const spans: HeldSpan[] = []
  for (const stroke of strokes) {
    const asked = stroke.strings ?? span.grip.strings.map((_, index) => index + 1)
    const wanted = asked.filter((string) => span.grip.strings[string - 1]?.fret)
    if (!fits(new Set(wanted))) return undefined
    const last = spans.at(-1)
    const joined = new Set([...(last?.strings ?? []), ...wanted])
    if (fits(joined)) {
      if (last) last.strings = joined
      else spans.push({ startTicks: span.startTicks, strings: joined })
      continue
    }
    // Keep of what is held whatever still fits beside what is needed now.
    const held = new Set(wanted)
    for (const string of last?.strings ?? []) if (fits(new Set([...held, string]))) held.add(string)
    spans.push({ startTicks: last ? stroke.startTicks : span.startTicks, strings: held })
  }
  return spans
}

/** Which finger goes where at the beginning of each span after the first. */
function fingerMoves(grip: Grip, spans: readonly HeldSpan[]): FingerMove[] {
  return spans.slice(1).flatMap((next, index): FingerMove[] => {
    const before = spans[index]!.strings
    const left = [...before].filter((string) => !next.strings.has(string))
    return [...next.strings]
      .filter((string) => !before.has(string))
      .map((toString, place) => ({
        tick: next.startTicks,
        fromString: left[place] ?? left[0] ?? toString,
        toString,
        fret: grip.strings[toString - 1]!.fret!,
      }))
  })
}

/**
 * Splits a grip that is plucked string by string into grips a hand can hold: with one move where that is
 * enough, else each kept as long as it serves, fingers moving on the count where the next string needs them.
 * What is plucked stays as it is. Undefined when the strings are struck
 * together (nothing can move in time), or when no split helps.
 */
export function movingGrip(
  span: GripSpan,
  strokes: readonly Plucked[],
  part: Part,
  hand: Hand = USUAL_HAND,
): MovingGrip | undefined {
  const end = span.startTicks + span.lengthTicks
  const inside = strokes
    .filter(
      (stroke) => !hasMark(stroke, 'dead') && stroke.startTicks >= span.startTicks && stroke.startTicks < end,
    )
    .sort((a, b) => a.startTicks - b.startTicks)
  if (inside.length < 2) return undefined
  const only = (strings: ReadonlySet<number>): Grip => ({
    strings: span.grip.strings.map((string, index) =>
      string.fret === 0 || strings.has(index + 1) ? string : { fret: null },
    ),
  })
  const fits = (strings: ReadonlySet<number>): boolean => isComfortable(only(strings), part, hand)
  const spans = heldWithOneMove(span, inside, fits) ?? holdInTime(span, inside, fits)
  if (!spans || spans.length < 2) return undefined
  return {
    spans: spans.map((entry, index) => ({
      startTicks: entry.startTicks,
      lengthTicks: (spans[index + 1]?.startTicks ?? end) - entry.startTicks,
      grip: only(entry.strings),
    })),
    moves: fingerMoves(span.grip, spans),
  }
}
