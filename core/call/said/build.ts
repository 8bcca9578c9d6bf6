// What has been made of a call so far: moments in time, grips, and what was assumed on the way.
import type { Mark, Grip, Note, Stroke } from '../../document/schema'
import type { CallContext } from '../reading'
import type { Place } from './hand'
import type { NoteItem, Span, StringSpec } from './items'

export type DraftNote = Omit<Note, 'id' | 'startTicks' | 'lengthTicks'> & Span
export type DraftStroke = Omit<Stroke, 'id' | 'startTicks' | 'lengthTicks'> & Span
/** What begins at one time. */
export interface Moment {
  startTicks: number
  lengthTicks: number
  notes: DraftNote[]
  stroke?: DraftStroke | undefined
}
export interface HeldGrip extends Span {
  startTicks: number
  lengthTicks: number | undefined
  /** Nobody said how long it is held. */
  assumed?: boolean
  grip: Grip
  symbol: string | undefined
}
export interface Option {
  words: string
  price: number
}
/** Something that was not said and had to be assumed: what, where, and what else it could be. */
export interface Choice extends Span {
  id: string
  what: 'string' | 'reach' | 'amount'
  taken: number
  options: Option[]
}
/** A slip: what does not go together, in a sentence. */
export interface Slip extends Span {
  message: string
}

export interface Build {
  readonly context: CallContext
  readonly shapes: readonly string[]
  readonly decided: Readonly<Record<string, number>>
  at: number
  step: number
  moments: Moment[]
  grips: HeldGrip[]
  choices: Choice[]
  slips: Slip[]
  /** Strings frets go to when none is said. */
  current: StringSpec[] | undefined
  /** The pair "both" means. */
  pair: StringSpec[] | undefined
  hand: Place | undefined
  /** Where each finger was put down last. */
  fingers: Partial<Record<NonNullable<NoteItem['finger']>, Place>>
  clauseFrom: number
  clauseBefore: number
  stretchFrom: number
  stretchBefore: number
  /** "then" was said since the grip that is held was named. */
  newThought: boolean
  pairs: boolean
  /** Marks that go on every note that follows, or on those of this clause. */
  following: Mark[]
  clauseMarks: Mark[]
  allButLast: Mark[]
  rowLengths: { ticks: number; each: boolean } | undefined
  covered: { from: number; to: number }[]
}

export function startBuild(
  context: CallContext,
  shapes: readonly string[],
  decided: Readonly<Record<string, number>>,
): Build {
  const at = context.startTicks ?? 0
  return {
    context,
    shapes,
    decided,
    at,
    step: context.stepTicks,
    moments: [],
    grips: [],
    choices: [],
    slips: [],
    current: undefined,
    pair: undefined,
    hand: undefined,
    fingers: {},
    clauseFrom: 0,
    clauseBefore: 0,
    stretchFrom: 0,
    stretchBefore: 0,
    newThought: false,
    pairs: false,
    following: [],
    clauseMarks: [],
    allButLast: [],
    rowLengths: undefined,
    covered: [],
  }
}

/** Takes one of several options: the cheapest, unless it was decided otherwise. */
export function choose(b: Build, what: Choice['what'], span: Span, options: readonly Option[]): number {
  const id = `${what}@${span.at}`
  const cheapest = options.reduce(
    (best, option, index) => (option.price < options[best]!.price ? index : best),
    0,
  )
  const decided = b.decided[id]
  const taken = decided !== undefined && decided < options.length ? decided : cheapest
  if (!b.choices.some((choice) => choice.id === id))
    b.choices.push({ id, what, taken, options: [...options], at: span.at, end: span.end })
  return taken
}

export function advance(b: Build, ticks: number): void {
  const last = b.covered.at(-1)
  if (last?.to === b.at) last.to += ticks
  else b.covered.push({ from: b.at, to: b.at + ticks })
  b.at += ticks
}

export function addMoment(b: Build, moment: Pick<Moment, 'notes'> & Partial<Moment>): Moment {
  const added: Moment = { startTicks: b.at, lengthTicks: b.step, ...moment }
  b.moments.push(added)
  advance(b, added.lengthTicks)
  return added
}

/** The grip held at a time: said in this call, or standing there. */
export function gripAt(b: Build, tick: number): Grip | undefined {
  const said = b.grips.findLast((held) => held.startTicks <= tick)
  if (said) return said.grip
  const { content, before } = b.context
  const standing = content?.grips.findLast(
    (span) => span.startTicks <= tick && tick < span.startTicks + span.lengthTicks,
  )
  return standing?.grip ?? (before ?? content)?.grips.at(-1)?.grip
}
