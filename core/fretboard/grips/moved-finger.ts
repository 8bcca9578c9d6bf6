// A stretch that need not be held: where the strings of a grip are plucked one after the other, one finger
// can go from the one end of the stretch to the other in time. The move that is made once is proposed; the
// order in which the strings are plucked stays as it is.
import type { Content, Grip, GripSpan, Part } from '../../document/schema'
import { fingerPlaceMm } from '../../instrument/neck'
import { USUAL_HAND, type Hand } from '../hand'
import { fingerGrip } from './fingering'

export interface MovedFinger {
  spanId: string
  /** When the finger is there, in ticks of the figure. */
  atTicks: number
  from: { string: number; fret: number }
  to: { string: number; fret: number }
  /** The grips held before and after the move, with their spans. */
  grips: { startTicks: number; lengthTicks: number; grip: Grip }[]
}

interface Pluck {
  tick: number
  strings: readonly number[]
}

/** What is plucked within a span: strokes with their strings, and single notes. */
function plucksIn(content: Content, span: GripSpan): Pluck[] {
  const end = span.startTicks + span.lengthTicks
  const inside = ({ startTicks }: { startTicks: number }): boolean =>
    startTicks >= span.startTicks && startTicks < end
  const sounding = span.grip.strings.flatMap(({ fret }, index) => (fret === null ? [] : [index + 1]))
  return [
    ...content.strokes
      .filter((stroke) => inside(stroke) && !stroke.dead)
      .map(({ startTicks, strings }) => ({ tick: startTicks, strings: strings ?? sounding })),
    ...content.notes
      .filter(inside)
      .map(({ startTicks, string }) => ({ tick: startTicks, strings: [string] })),
  ].sort((a, b) => a.tick - b.tick)
}

const without = (grip: Grip, string: number): Grip => ({
  strings: grip.strings.map((one, index) => (index + 1 === string ? { fret: null } : { fret: one.fret })),
})

/** When the last pluck of one string lies before the first of the other. */
function onceBetween(plucks: readonly Pluck[], first: number, then: number): number | undefined {
  const ticksOf = (string: number): number[] =>
    plucks.filter(({ strings }) => strings.includes(string)).map(({ tick }) => tick)
  const [own, other] = [ticksOf(first), ticksOf(then)]
  const at = Math.min(...other)
  return own.length && other.length && Math.max(...own) < at ? at : undefined
}

function moveIn(content: Content, span: GripSpan, part: Part, hand: Hand): MovedFinger | undefined {
  const { capo, scaleLengthMm } = part.instrument
  const place = (fret: number): number => fingerPlaceMm(fret + capo, scaleLengthMm)
  const held = span.grip.strings.flatMap(({ fret }, index) => (fret ? [{ string: index + 1, fret }] : []))
  const [lowest, highest] = [
    Math.min(...held.map(({ fret }) => fret)),
    Math.max(...held.map(({ fret }) => fret)),
  ]
  if (held.length < 2 || place(highest) - place(lowest) <= hand.cautionMm) return undefined
  const plucks = plucksIn(content, span)
  const ends = {
    low: held.filter(({ fret }) => fret === lowest),
    high: held.filter(({ fret }) => fret === highest),
  }
  // One finger goes from one end to the other: each end is one string, else a hand is moved, not a finger.
  const [low, high] = [ends.low[0]!, ends.high[0]!]
  if (ends.low.length > 1 || ends.high.length > 1) return undefined
  for (const [from, to] of [
    [low, high],
    [high, low],
  ] as const) {
    const atTicks = onceBetween(plucks, from.string, to.string)
    if (atTicks === undefined) continue
    const [before, after] = [without(span.grip, to.string), without(span.grip, from.string)]
    const eased = [before, after].every((grip) => {
      const frets = grip.strings.flatMap(({ fret }) => (fret ? [fret] : []))
      const reach = frets.length ? place(Math.max(...frets)) - place(Math.min(...frets)) : 0
      return reach <= hand.cautionMm && fingerGrip(grip, part, hand) !== undefined
    })
    if (!eased) continue
    const end = span.startTicks + span.lengthTicks
    return {
      spanId: span.id,
      atTicks,
      from,
      to,
      grips: [
        { startTicks: span.startTicks, lengthTicks: atTicks - span.startTicks, grip: before },
        { startTicks: atTicks, lengthTicks: end - atTicks, grip: after },
      ],
    }
  }
  return undefined
}

/**
 * For every grip beyond the caution limit of a hand, the one move that spares the stretch, where there is
 * one.
 */
export const movedFingers = (content: Content, part: Part, hand: Hand = USUAL_HAND): MovedFinger[] =>
  content.grips.flatMap((span) => moveIn(content, span, part, hand) ?? [])

/** The content with a move made: two grips for one, everything plucked as before. */
export function withMove(content: Content, move: MovedFinger, newId: () => string): Content {
  const grips = content.grips.flatMap((span) =>
    span.id === move.spanId ? move.grips.map((grip) => ({ id: newId(), ...grip })) : [span],
  )
  return { ...content, grips }
}
