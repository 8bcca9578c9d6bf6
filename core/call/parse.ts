// The call line read: what a teacher says, in the order it is said, as a figure's content. A cursor moves
// through time by the present step; notes and strokes stand at the cursor, grips hold from it, marks go to
// what was said last. Nothing is applied by half: the result is all of it, or the first error with its
// place, a sentence and what may have been meant. The grammar, with examples, is docs/call-line.md.
import { contentProblem } from '../document/invariants/content'
import { finishCall } from './finish'
import { bareGrip, chordToken } from './grip-words'
import { addMark, bendShape, readAmount } from './marks'
import { stepToken } from './places'
import { readPunctuation } from './punctuation'
import {
  CallProblem,
  LONGEST_CALL,
  MOST_EVENTS,
  checkNamed,
  fail,
  failWords,
  peek,
  settleMarks,
  startReading,
  wordHere,
  type CallContext,
  type CallError,
  type CallResult,
  type ParsedCall,
  type Reading,
} from './reading'
import { readCount, restFor, saidWord } from './said-words'
import { fretToken, stringToken } from './string-words'
import type { Token } from './tokens'
import { nearWords } from './near-words'
import { FILLERS, NUMBER_WORDS, WORDS, noteValue, noteValueName, wordOf } from './vocabulary'

export type { CallContext, CallError, CallResult, ParsedCall }

/** Reads a call. Never throws for what is typed. */
export function parseCall(call: string, context: CallContext): CallResult {
  if (call.length > LONGEST_CALL)
    return {
      ok: false,
      error: {
        at: LONGEST_CALL,
        end: call.length,
        message: `A call may have ${LONGEST_CALL} characters: enter it in pieces.`,
        suggestions: [],
      },
    }
  const result = read(call, context)
  return result.ok ? playable(result, call, context) : quoted(result)
}

function read(call: string, context: CallContext): CallResult {
  try {
    return { ok: true, value: readAll(startReading(call, context, readToken)) }
  } catch (error) {
    if (error instanceof CallProblem) return { ok: false, error: error.problem }
    throw error
  }
}

type Refused = Extract<CallResult, { ok: false }>

/** Nothing that cannot be played is understood as a call, whatever the words were. */
function playable(result: CallResult & { ok: true }, call: string, context: CallContext): CallResult {
  const problem = contentProblem(result.value.content, context.part, Number.POSITIVE_INFINITY)
  if (!problem) return result
  return {
    ok: false,
    error: { at: 0, end: call.length, message: `That cannot be played: ${problem}.`, suggestions: [] },
  }
}

const LONGEST_QUOTED = 40

/** The refusal with no endless word quoted back. */
function quoted({ error }: Refused): Refused {
  const message = error.message.replaceAll(/\S{41,}/g, (word) => `${word.slice(0, LONGEST_QUOTED)}…`)
  return { ok: false, error: { ...error, message } }
}

function readAll(r: Reading): ParsedCall {
  while (r.i < r.list.length) {
    readToken(r)
    if (r.events.length + r.holds.length > MOST_EVENTS)
      fail(r, r.list[r.i - 1]!, `More than ${MOST_EVENTS} notes and strokes in one call: enter it in pieces.`)
  }
  if (r.open.length) fail(r, r.list.at(-1)!, 'A bracket is not closed.', [')'])
  const span = r.spans[0]
  if (span) fail(r, span.token, 'The muting that begins here does not end.', [']'])
  settleMarks(r)
  checkNamed(r)
  if (r.nextMove || r.nextMarks.length || r.together)
    fail(r, r.list.at(-1)!, 'Something is missing after this: which fret?', ['7', 'open'])
  return finishCall(r)
}

function readToken(r: Reading): void {
  const token = r.list[r.i]!
  const { text } = token
  if (readPunctuation(r, token)) return
  const word = wordOf(text)
  if (
    bareGrip(r, token) ||
    stringToken(r, token, word) ||
    readCount(r, token) ||
    fretToken(r, token, word) ||
    stepToken(r, token)
  )
    return
  if (word && saidWord(r, word, token)) return
  if (valueWord(r, token)) return
  if (FILLERS.has(text.toLowerCase())) {
    r.i++
    return
  }
  if (chordToken(r, token)) return
  refuseUnknown(r, token)
}

/** "triplets G 5 7 9" sets the step like "in triplets"; "eighth note rest" is a rest of that length. */
function valueWord(r: Reading, token: Token): boolean {
  // "15 full bend", "9 half step bend": the amount said before the word.
  const steps = /^(steps?|tones?)$/i.test(peek(r, 1)) ? 1 : 0
  if (/^(full|whole|half|quarter)$/i.test(token.text) && wordHere(r, 1 + steps) === 'bend') {
    const semitones = readAmount(r, token, 0.25, 5)
    r.i++
    addMark(r, { kind: 'bend', semitones, shape: bendShape(r) }, token)
    return true
  }
  const value = noteValue(token.text)
  if (value === undefined) return false
  const noted = /^notes?$/i.test(peek(r, 1))
  const after = noted ? 2 : 1
  if (wordHere(r, after) === 'rest') {
    r.i += after + 1
    restFor(r, value, token)
    return true
  }
  if (
    !/s$/i.test(token.text) &&
    token.text.toLowerCase() !== 'triplet' &&
    peek(r, 1).toLowerCase() !== 'notes'
  )
    failWords(token, `“${token.text}” is a length: for this note, or from here on?`, [
      `for ${/^[aeiou]/i.test(token.text) ? 'an' : 'a'} ${token.text}`,
      `in ${noteValueName(value) ?? `${token.text}s`}`,
    ])
  r.i += after
  r.step = value
  return true
}

function refuseUnknown(r: Reading, token: Token): never {
  const near = nearWords(token.text, [
    ...WORDS.map((entry) => entry.word),
    'eighths',
    'quarters',
    'sixteenths',
    'triplets',
    ...NUMBER_WORDS,
  ])
  const letter = /^[A-Ga-g](#|b)?\d*$/.test(token.text)
  failWords(
    token,
    letter
      ? `There is no string “${token.text.replace(/\d+$/, '')}” on ${r.context.part.name}: ` +
          `its strings are ${[...r.context.letters].reverse().join(' ')}.`
      : `“${token.text}” is not a word of the call line.`,
    letter ? [...new Set(r.context.letters), `hold ${token.text}`] : near,
  )
}
