// Calls from the command line: one, or many in a row.
import { readCall, type CallReading, type CallUnderstood } from '../core/call/read-call'
import type { CallContext } from '../core/call/reading'
import { callSentence } from '../core/call/sentence'
import { stringLetters } from '../core/call/strings'
import { gripsFor } from '../core/neck/grips/grip-search'
import { writeGrip } from '../core/neck/grips/grip'
import { Complaint, type Answer, type Flags } from './answer'
import { keyFrom, partFrom } from './flag-values'

const STEP = /^1\/(\d{1,3})$/
function stepOf(text: string | undefined): number {
  const step = STEP.exec(text ?? '1/8')
  const ticks = step ? 40_320 / Number(step[1]) : Number.NaN
  if (!Number.isInteger(ticks))
    throw new Complaint('--step wants a share of a whole note: 1/8, 1/12 (triplets), 1/16.')
  return ticks
}

function contextOf(flags: Flags): CallContext {
  const part = partFrom(flags)
  const key = keyFrom(flags.key)
  return {
    part,
    letters: stringLetters({ key: key ?? { tonic: 'C', mode: 'major' } }, part),
    meter: { beats: 4, unit: 4 },
    subdivision: 'eighths',
    stepTicks: stepOf(flags.step),
    key,
    gripFor: (symbol, after) => {
      const found = gripsFor(symbol, part, { count: 1, ...(after ? { after } : {}) })
      return found.ok ? found.value[0]?.grip : undefined
    },
  }
}

/** The context after a call that was entered before. */
function afterSetup(context: CallContext, setup: string): CallContext {
  const before = readCall(setup, context)
  if (!before.ok) throw new Complaint(`The call before, “${setup}”: ${before.error.message}`)
  const { content, endTicks } = before.value
  const sounds = content.notes.length + content.strokes.length > 0
  return { ...context, content, before: content, startTicks: sounds ? endTicks : 0 }
}

const wordsAt = (call: string, spans: readonly { at: number; end: number }[]): string[] =>
  spans.map((span) => call.slice(span.at, span.end))

function understoodData(
  call: string,
  reading: CallUnderstood,
  context: CallContext,
): Record<string, unknown> {
  const { content, endTicks, startTicks } = reading.value
  return {
    notes: content.notes.map(({ id: _id, ...note }) => note),
    strokes: content.strokes.map(({ id: _id, ...stroke }) => stroke),
    grips: content.grips.map((span) => ({
      startTicks: span.startTicks,
      lengthTicks: span.lengthTicks,
      grip: writeGrip(span.grip),
    })),
    mutes: content.mutes.map(({ id: _id, ...mute }) => mute),
    startTicks,
    lengthTicks: endTicks,
    chords: reading.chords,
    says: callSentence(reading, { ...context, strings: 'letters', openMidi: context.part.tuning.openMidi }),
    assumed: reading.choices.map((choice) => ({
      what: choice.what,
      at: choice.at,
      said: call.slice(choice.at, choice.end),
      taken: choice.options[choice.taken]!.words,
      rivals: choice.options.filter((_, index) => index !== choice.taken).map((option) => option.words),
    })),
    slips: reading.slips.map((slip) => slip.message),
    leftOver: wordsAt(call, reading.unknown),
  }
}

function refusedData(reading: Extract<CallReading, { ok: false }>): Record<string, unknown> {
  const { at, message, suggestions } = reading.error
  return { error: { at, message, suggestions }, ...(reading.asks ? { asks: true } : {}) }
}

/** One call: what it says, or where it stopped being understood. */
export function call(text: string, flags: Flags): Answer {
  const context = contextOf(flags)
  const reading = readCall(text, context)
  if (!reading.ok) {
    const { at, message, suggestions } = reading.error
    const perhaps = suggestions.length ? ` Perhaps: ${suggestions.join(' · ')}` : ''
    return {
      data: refusedData(reading),
      words: `${text}\n${' '.repeat(at)}^ ${message}${perhaps}`,
      failed: true,
    }
  }
  const data = understoodData(text, reading, context)
  const assumed = reading.choices.map((choice) => `assumed: ${choice.options[choice.taken]!.words}`)
  const slips = reading.slips.map((slip) => slip.message)
  return { data, words: [String(data.says), ...assumed, ...slips].join('\n') }
}

const text = (value: unknown, name: string): string | undefined => {
  if (value === undefined || value === null) return undefined
  if (typeof value !== 'string') throw new Complaint(`“${name}” wants a text.`)
  return value
}

/** One line of a batch, answered; what is wrong with it is its answer. */
function batchLine(line: string, flags: Flags): unknown {
  try {
    let request: Record<string, unknown>
    try {
      request = JSON.parse(line) as Record<string, unknown>
    } catch {
      throw new Complaint('This line is no JSON.')
    }
    const said = text(request?.call, 'call')
    if (said === undefined) throw new Complaint('A line wants a “call”.')
    const given: Flags = { ...flags }
    for (const name of ['step', 'tuning', 'key']) {
      const value = text(request[name], name)
      if (value !== undefined) given[name] = value
    }
    const plain = contextOf(given)
    const setup = text(request.setup, 'setup')
    const context = setup === undefined ? plain : afterSetup(plain, setup)
    const reading = readCall(said, context)
    return reading.ok ? understoodData(said, reading, context) : refusedData(reading)
  } catch (error) {
    if (error instanceof Complaint) return { error: { message: error.message } }
    throw error
  }
}

/** Answers calls in a row, JSON lines in and out, in order; an error is an answer as well. */
export function callBatch(input: string, flags: Flags): string[] {
  return input
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) => JSON.stringify(batchLine(line, flags)))
}
