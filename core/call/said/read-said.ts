// A call as it is said, read: every reading is a content with a price (what had to be assumed, how far the
// hand has to go, what was left over); the cheapest is taken, the others are its rivals.
import { contentProblem } from '../../document/invariants/content'
import { EMPTY_CONTENT, type Content, type Note, type Stroke } from '../../document/schema'
import { spellPitchClass } from '../../music/pitch'
import { barTicks } from '../../time/meter'
import { nearWords, slipsOf } from '../near-words'
import { fraction, type CallContext, type CallError, type ParsedCall } from '../reading'
import { NUMBER_WORDS, WORDS, noteValueName } from '../vocabulary'
import type { Build, Choice, Slip } from './build'
import { way } from './hand'
import type { Span } from './items'
import { knownWords } from './lexicon'
import { perform } from './perform'
import { SaidProblem, SaidQuestion } from './problem'
import { readItems, type Said } from './read-items'
import { slipsOfAll } from './slips'

export interface SaidReading {
  value: ParsedCall
  price: number
  choices: Choice[]
  slips: Slip[]
  /** Words passed over that carry nothing, and words that were not understood. */
  empty: Span[]
  unknown: Span[]
  chords: { symbol: string; startTicks: number }[]
  /** Ids of what stands on an assumption. */
  assumed: string[]
}
export type SaidResult =
  | { ok: true; value: SaidReading }
  /** `asks`: nothing is wrong, but something has to be known first. */
  | { ok: false; error: CallError; asks?: boolean }

/** Names of the strings as their shapes are called in standard tuning, whatever they are tuned to. */
function shapeLetters(context: CallContext): string[] {
  const { openMidi } = context.part.tuning
  const usual = openMidi.length === 4 ? [43, 38, 33, 28] : [64, 59, 55, 50, 45, 40]
  return openMidi.map((midi, index) =>
    spellPitchClass((usual[index] ?? midi) % 12, { tonic: 'C', mode: 'major' }),
  )
}

function contentOf(b: Build): { content: Content; endTicks: number; assumed: string[] } {
  const notes: Note[] = []
  const assumed: string[] = []
  const strokes: Stroke[] = []
  for (const { startTicks, lengthTicks, notes: drafts, stroke } of b.moments) {
    for (const { at, end, ...note } of drafts) {
      const id = `n${notes.length}`
      if (
        b.choices.some(
          (choice) =>
            choice.options.length > 1 &&
            choice.at <= at &&
            end <= Math.max(choice.end, end) &&
            at <= choice.end,
        )
      )
        assumed.push(id)
      notes.push({ ...note, id, startTicks, lengthTicks })
    }
    if (!stroke) continue
    const { at: _at, end: _end, ...rest } = stroke
    strokes.push({ ...rest, id: `s${strokes.length}`, startTicks, lengthTicks })
  }
  const sounding = Math.max(b.at, ...b.moments.map((moment) => moment.startTicks + moment.lengthTicks))
  const last = b.grips.at(-1)
  const bar = barTicks(b.context.meter)
  const lone = last && !b.moments.some((moment) => moment.startTicks >= last.startTicks)
  const held = last ? last.startTicks + (last.lengthTicks ?? (lone ? (b.rowLengths?.ticks ?? bar) : 0)) : 0
  const endTicks = Math.max(sounding, held)
  const until = Math.max(endTicks, b.context.lengthTicks ?? 0)
  const grips = b.grips
    .filter((grip, index) => !b.grips.slice(index + 1).some((later) => later.startTicks <= grip.startTicks))
    .map(({ startTicks, lengthTicks, grip }, index, all) => {
      const next =
        all[index + 1]?.startTicks ?? (lengthTicks === undefined ? until : startTicks + lengthTicks)
      return { id: `g${index}`, startTicks, lengthTicks: Math.max(1, next - startTicks), grip }
    })
  return { content: { ...EMPTY_CONTENT, notes, strokes, grips }, endTicks, assumed }
}

const handWay = (b: Build): number => {
  let price = 0
  let from: { string: number; fret: number } | undefined
  for (const moment of b.moments) {
    const [to] = moment.notes
    if (!to) continue
    price += way(from, to) * 0.02
    from = to
  }
  return price
}

interface Tried {
  build: Build
  price: number
}
function tryWith(
  said: Said,
  context: CallContext,
  shapes: readonly string[],
  decided: Record<string, number>,
): Tried {
  const build = perform(said.items, context, shapes, decided)
  const assumed = build.choices.reduce((sum, choice) => sum + choice.options[choice.taken]!.price, 0)
  return { build, price: assumed + handWay(build) + build.slips.length }
}

/** How many assumptions are tried the other way before the cheapest reading is taken. */
const MOST_TRIED = 8

/** A reading with other decisions, where it can be performed at all. */
function tryOther(
  said: Said,
  context: CallContext,
  shapes: readonly string[],
  decided: Record<string, number>,
): Tried | undefined {
  try {
    return tryWith(said, context, shapes, decided)
  } catch (error) {
    if (error instanceof SaidProblem) return undefined
    throw error
  }
}

/** The cheapest of the readings that differ in one assumption after the other. */
function cheapest(
  said: Said,
  context: CallContext,
  shapes: readonly string[],
  given: Record<string, number>,
): Tried {
  const decided = { ...given }
  let best = tryWith(said, context, shapes, decided)
  const others = best.build.choices
    .slice(0, MOST_TRIED)
    .filter((choice) => !(choice.id in given))
    .flatMap((choice) => choice.options.map((_, taken) => ({ id: choice.id, taken, was: choice.taken })))
    .filter(({ taken, was }) => taken !== was)
  for (const { id, taken } of others) {
    const tried = tryOther(said, context, shapes, { ...decided, [id]: taken })
    if (!tried || tried.price >= best.price - 1e-6) continue
    best = tried
    decided[id] = taken
  }
  return best
}

const refuse = (
  span: Span,
  message: string,
  suggestions: readonly string[] = [],
  overTicks?: number,
): Extract<SaidResult, { ok: false }> => ({
  ok: false,
  error: {
    at: span.at,
    end: span.end,
    message,
    suggestions: [...suggestions],
    ...(overTicks === undefined ? {} : { overTicks }),
  },
})

const WORDS_KNOWN = [...new Set([...NUMBER_WORDS, ...WORDS.map((one) => one.word), ...knownWords()])]
/** What is offered for a slip: each word once, and not “hammered” beside “hammer”. */
const OFFERED = WORDS_KNOWN.filter(
  (word) => !WORDS_KNOWN.some((stem) => stem !== word && stem.length > 3 && word.startsWith(stem)),
)

/** A word nobody knows that is one letter away from one that is known. */
const isSlip = (typed: string): boolean =>
  !WORDS_KNOWN.includes(typed.toLowerCase()) && !typed.includes(' ') && slipsOf(typed, WORDS_KNOWN).length > 0

/** Words that were not understood are refused unless they are few among many that were. */
function unknownProblem(said: Said, call: string): SaidResult | undefined {
  const [first] = said.unknown
  if (!first) return undefined
  const slip = said.unknown.find((span) => isSlip(call.slice(span.at, span.end)))
  if (slip) {
    const typed = call.slice(slip.at, slip.end)
    return refuse(slip, `“${typed}” is not a word of the call line.`, nearWords(typed, OFFERED))
  }
  const understood = said.list.length - said.unknown.length - said.empty.length
  if (said.unknown.length <= Math.max(1, Math.floor(understood / 6)) && understood > 2) return undefined
  const word = call.slice(first.at, first.end)
  return refuse(first, `“${word.slice(0, 40)}” is not understood here.`, nearWords(word, OFFERED))
}

function overProblem(b: Build, context: CallContext, call: string): SaidResult | undefined {
  const end = context.lengthTicks
  const over = end === undefined ? 0 : b.at - end
  if (over <= 0) return undefined
  const name = noteValueName(b.step) ?? 'steps'
  return refuse(
    { at: 0, end: call.length },
    `That is ${fraction(over / b.step)} ${name} longer than what is left of the figure.`,
    [
      'tie over into a new bar',
      'squeeze into a tuplet',
      ...(end === barTicks(context.meter) ? ['a longer bar'] : []),
    ],
    over,
  )
}

/** A reading as it is given out. */
function finished(said: Said, { build, price }: Tried, made: ReturnType<typeof contentOf>): SaidReading {
  const begins = [...build.moments, ...build.grips].map((one) => one.startTicks)
  return {
    value: {
      content: made.content,
      startTicks: Math.min(build.context.startTicks ?? 0, ...begins),
      endTicks: made.endTicks,
      covered: build.covered.filter((span) => span.to > span.from),
      stepTicks: build.step,
      string: build.moments.at(-1)?.notes[0]?.string,
    },
    price: price + said.unknown.length,
    choices: build.choices.filter((choice) => choice.options.length > 1),
    assumed: made.assumed,
    slips: [...build.slips, ...slipsOfAll(build)],
    empty: said.empty,
    unknown: said.unknown,
    chords: build.grips.flatMap(({ symbol, startTicks }) =>
      symbol === undefined ? [] : [{ symbol, startTicks }],
    ),
  }
}

/** Reads a call as it is said. What is not decided, by the id of its choice, takes the likeliest. */
export function readSaid(
  call: string,
  context: CallContext,
  decided: Record<string, number> = {},
): SaidResult {
  const said = readItems(call, context)
  const whole = { at: 0, end: call.length }
  const strange = unknownProblem(said, call)
  if (strange) return strange
  let tried: Tried
  try {
    tried = cheapest(said, context, shapeLetters(context), decided)
  } catch (error) {
    if (!(error instanceof SaidProblem)) throw error
    const refused = refuse(error.span, error.message, error.suggestions)
    return error instanceof SaidQuestion ? { ...refused, asks: true } : refused
  }
  const { build } = tried
  if (build.moments.length + build.grips.length === 0)
    return refuse(whole, 'Nothing to play was understood: which string, which fret?', ['7 on the G'])
  const over = overProblem(build, context, call)
  if (over) return over
  const made = contentOf(build)
  const problem = contentProblem(made.content, context.part, Number.POSITIVE_INFINITY)
  if (problem) return refuse(whole, `That cannot be played: ${problem}.`)
  return { ok: true, value: finished(said, tried, made) }
}
