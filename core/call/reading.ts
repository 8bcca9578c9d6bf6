// Reading a call: where the reader stands and what has been said so far. The files beside it read lengths and
// places (places.ts), strings and grips (string-words.ts, grip-words.ts), marks and movements (marks.ts,
// note-words.ts, moves.ts), repeats (repeats.ts), and the rest (said-words.ts, parse.ts).
import type { Content, Grip, Note, Part, PickSchool, Pressure, Stroke } from '../document/schema'
import type { Key } from '../music/pitch'
import { barTicks, countWords, type Meter, type Subdivision } from '../time/meter'
import { tokens, type Token } from './tokens'
import { noteValueName, numberOf, wordOf } from './vocabulary'

export interface CallContext {
  part: Part
  /** Letters of the strings, string 1 first. */
  letters: readonly string[]
  meter: Meter
  subdivision: Subdivision
  school?: PickSchool | undefined
  stepTicks: number
  /** Where the call starts within the figure. */
  startTicks?: number
  /** The figure's end; a call may not reach past it. Left out: no end. */
  lengthTicks?: number
  /** What is there already: its grips say what "bass" and "chord" are. */
  content?: Content
  /** What was entered just before: "again", "same thing on the B" mean it. */
  before?: Content | undefined
  /** The key as it sounds: how far a bend goes, what a third above is. */
  key?: Key | undefined
  /** The string the cursor is on: where frets go when no string is said. */
  string?: number | undefined
  /** A grip for a chord name, near the grip before; at a fret where one was said. */
  gripFor?: (symbol: string, after: Grip | undefined, position?: number) => Grip | undefined
}
export interface CallError {
  at: number
  end: number
  message: string
  suggestions: string[]
  /** Set when the only fault is that it does not fit: by how much. */
  overTicks?: number
  /** The fault lies in the words, not in what cannot be played: another reading may know them. */
  wording?: boolean
}
/** `covered`: the stretches the call spoke of, in the order said; what stands there is replaced. */
export interface ParsedCall {
  content: Content
  startTicks: number
  endTicks: number
  covered: { from: number; to: number }[]
  stepTicks: number
  /** The string frets go to next. */ string: number | undefined
}
export type CallResult = { ok: true; value: ParsedCall } | { ok: false; error: CallError }

/**
 * Longest call that is read, in characters, and most events it may make: a pasted book is refused, not
 * chewed.
 */
export const LONGEST_CALL = 6000
export const MOST_EVENTS = 4000
export const FINGER = /^[t1-4]$/i
/** Words whose next number is theirs and no fret. */
export const TAKES_NUMBER = new Set([
  'for',
  'bend',
  'pre-bend',
  're-bend',
  'releasing',
  'dip',
  'dive',
  'return',
  'trill',
  'pinch',
  'finger',
  'out',
  'string',
  'grace',
])
/** Stands for a string that is named after its frets. */
export const NAMELESS = 0
/** Words that go between two steps of the same thought and end nothing. */
export const MOVES: Record<string, 'hammer-on' | 'pull-off' | 'legato' | 'shift'> = {
  hammer: 'hammer-on',
  pull: 'pull-off',
  slide: 'legato',
  shift: 'shift',
}

export type Draft<T> = Omit<T, 'id'>
/** `rings`: its sounding length was said by itself and stays when the step it takes is set. */
export type NoteEvent = Draft<Note> & { layer: 'note'; token: Token; rings?: boolean }
export type StrokeEvent = Draft<Stroke> & {
  layer: 'stroke'
  token: Token
  rings?: boolean
  on?: 'bass' | 'chord'
}
export type TimedEvent = NoteEvent | StrokeEvent
export interface Hold {
  startTicks: number
  lengthTicks: number | undefined
  grip: Grip
  token: Token
}
export interface MuteDraft {
  startTicks: number
  lengthTicks: number
  kind: 'palm mute' | 'let ring'
  pressure?: Pressure
}
/** Where a clause, a line or a bracket begins: in time, and among what has been said so far. */
export interface Group {
  startTicks: number
  first: number
  firstHold: number
  firstMute: number
}

export class CallProblem extends Error {
  constructor(readonly problem: CallError) {
    super(problem.message)
  }
}

const callExample = (letters: readonly string[]): string =>
  `${letters[Math.min(2, letters.length - 1)]} seven`
/** 1.5 → "3/2", whole numbers plain. */
export function fraction(value: number): string {
  if (Number.isInteger(value)) return String(value)
  for (const bottom of [2, 3, 4, 5, 6, 7, 8, 12, 16])
    if (Math.abs(value * bottom - Math.round(value * bottom)) < 1e-9)
      return `${Math.round(value * bottom)}/${bottom}`
  return value.toFixed(2)
}

export interface Reading {
  list: Token[]
  i: number
  at: number
  step: number
  string: number | undefined
  events: TimedEvent[]
  holds: Hold[]
  mutes: MuteDraft[]
  /** Where the next grip with a length of its own begins, when grips are said one after the other. */
  gripEnd: number
  last: { kind: 'notes' | 'stroke' | 'rest' | 'hold'; startTicks: number; first: number } | undefined
  clause: Group
  clauseBefore: Group | undefined
  barStart: number
  line: Group
  lineBefore: (Group & { endTicks: number; end: number }) | undefined
  open: Group[]
  closed: Group | undefined
  spans: { kind: MuteDraft['kind']; pressure?: Pressure; startTicks: number; token: Token }[]
  together: boolean
  nextMove: (typeof MOVES)[string] | undefined
  nextMarks: { kind: 'tap' | 'dead' | 'grace'; fret?: number }[]
  /** Marks said first in their clause: they go on every note and stroke of it. */
  clauseMarks: ((token: Token) => void)[]
  /** Notes that were said as one, a root and its fifth: marks go on both. */
  asOne: number[]
  run: { move: (typeof MOVES)[string]; started: boolean } | undefined
  replacing: number[]
  clauseFrets: { index: number }[]
  covered: { from: number; to: number }[]
  readonly context: CallContext
  /** Reads one token; for words that read on by themselves, as "but last note 9". */
  readonly readToken: (r: Reading) => void
}

/** A reading that stands before the first word of a call. */
export function startReading(call: string, context: CallContext, readToken: (r: Reading) => void): Reading {
  const at = context.startTicks ?? 0
  const start: Group = { startTicks: at, first: 0, firstHold: 0, firstMute: 0 }
  return {
    list: tokens(call),
    context,
    readToken,
    at,
    step: context.stepTicks,
    barStart: at,
    clause: start,
    line: { ...start },
    i: 0,
    string: undefined,
    events: [],
    holds: [],
    mutes: [],
    gripEnd: -1,
    last: undefined,
    clauseBefore: undefined,
    lineBefore: undefined,
    open: [],
    closed: undefined,
    spans: [],
    together: false,
    nextMove: undefined,
    nextMarks: [],
    clauseMarks: [],
    asOne: [],
    run: undefined,
    replacing: [],
    clauseFrets: [],
    covered: [],
  }
}

export function groupHere(r: Reading): Group {
  return {
    startTicks: r.at,
    first: r.events.length,
    firstHold: r.holds.length,
    firstMute: r.mutes.length,
  }
}

export function hereToken(r: Reading): Token | undefined {
  return r.list[r.i]
}

export function peek(r: Reading, offset = 0): string {
  return r.list[r.i + offset]?.text ?? ''
}

export function wordHere(r: Reading, offset = 0): string | undefined {
  return wordOf(peek(r, offset))
}

/** Refuses a call whose only fault is that it does not fit, by so many ticks. */
export function failOver(
  token: Token,
  message: string,
  by: { overTicks: number; suggestions: string[] },
): never {
  throw new CallProblem({ at: token.at, end: token.end, message, ...by })
}

/** Refuses words that are not known, or not known so: they may be meant as people say them. */
export function failWords(token: Token, message: string, suggestions: string[] = []): never {
  throw new CallProblem({ at: token.at, end: token.end, message, suggestions, wording: true })
}

/** Refuses the call at a token: why, and what may have been meant. */
export function fail(_r: Reading, token: Token, message: string, suggestions: string[] = []): never {
  throw new CallProblem({ at: token.at, end: token.end, message, suggestions })
}

export function skip(r: Reading, text: string): void {
  if (peek(r).toLowerCase() === text) r.i++
}

export function isFret(r: Reading, offset = 0): boolean {
  const text = peek(r, offset)
  return (
    (numberOf(text) !== undefined && Number(numberOf(text)) <= 36) ||
    wordOf(text) === 'open' ||
    /^x\d{1,2}$/i.test(text)
  )
}

export function setString(r: Reading, number: number, token: Token): void {
  const count = r.context.part.tuning.openMidi.length
  if (number < 1 || number > count)
    fail(r, token, `There is no string ${number}: ${r.context.part.name} has ${count}.`, [
      `string ${Math.max(1, Math.min(count, number))}`,
    ])
  r.string = number
}

export function placeOf(r: Reading, tick: number): string {
  const bar = barTicks(r.context.meter)
  return `bar ${Math.floor(tick / bar) + 1}, ${countWords(r.context.meter, tick % bar)}`
}

/** The same pitch where it can be played. */
export function elsewhere(r: Reading, string: number, fret: number, highest: number): string[] {
  if (string === NAMELESS) return []
  const { openMidi } = r.context.part.tuning
  const midi = openMidi[string - 1]! + fret
  return openMidi
    .flatMap((open, index) =>
      index + 1 !== string && midi - open >= 0 && midi - open <= highest
        ? [`${index + 1}:${midi - open}`]
        : [],
    )
    .slice(0, 2)
}

export function advance(r: Reading, ticks: number, token: Token): void {
  const before = r.covered.at(-1)
  if (before?.to === r.at) before.to = r.at + ticks
  else r.covered.push({ from: r.at, to: r.at + ticks })
  r.at += ticks
  const end = r.context.lengthTicks
  if (end === undefined || r.at <= end) return
  const bar = barTicks(r.context.meter)
  const name = noteValueName(r.step) ?? 'steps'
  const lastBar = Math.floor((end - 1) / bar) * bar
  const held = fraction((r.at - lastBar) / r.step)
  const room = fraction((end - lastBar) / r.step)
  const message = `Bar ${Math.ceil(end / bar)} would hold ${held} of ${room} ${name}.`
  failOver(token, message, {
    overTicks: r.at - end,
    suggestions: ['tie over into a new bar', 'squeeze into a tuplet', 'a longer bar'],
  })
}

/**
 * Frets may be said before their string ("seven nine on G"), but by the end of the clause it has to be
 * known.
 */
export function checkNamed(r: Reading): void {
  const event = r.events
    .slice(r.clause.first)
    .find((one): one is NoteEvent => one.layer === 'note' && one.string === NAMELESS)
  if (event)
    throw new CallProblem({
      at: event.token.at,
      end: event.token.end,
      message: `Fret ${event.fret} on which string? Say it first: ${callExample(r.context.letters)}.`,
      suggestions: [...new Set(r.context.letters)].map((letter) => `${letter} ${event.fret}`),
      wording: true,
    })
}

export function endClause(r: Reading): void {
  r.run = undefined
  settleMarks(r)
  r.closed = undefined
  checkNamed(r)
  if (r.events.length > r.clause.first) r.clauseBefore = r.clause
  r.clause = groupHere(r)
  r.clauseFrets = []
}

/** Nothing came that marks said first could go through: they are meant for what was said before. */
export function settleMarks(r: Reading): void {
  if (r.events.length === r.clause.first)
    for (const mark of r.clauseMarks) mark(r.list[Math.max(0, r.i - 2)]!)
  r.clauseMarks = []
}
