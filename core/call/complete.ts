// What may come next while a call is typed: words that begin like the one under the cursor, or, after a
// space, what usually follows.
import { tokens } from './tokens'
import { callString } from './strings'
import { numberOf, WORDS, wordOf } from './vocabulary'

export interface Completion {
  text: string
  help: string
  /** The part of the call it replaces. */ at: number
  end: number
}
export interface CompletionContext {
  letters: readonly string[]
  /** Chord names at hand: the song's harmony, the figure's grips. */ chords?: readonly string[]
}

const STEPS = ['eighths', 'sixteenths', 'triplets', 'quarters', 'halves', 'sextuplets']
const AFTER_NOTE = ['hammer', 'pull', 'slide', 'bend', 'vibrato', 'palm', 'for', 'and', 'rest']
const AFTER_STROKE = ['down', 'up', 'dead', 'accent', 'choke', 'palm', 'on', 'for']
const FIRST = ['hold', 'in', 'at', 'pluck', 'down', 'palming', 'letting']

const AMOUNT_WORDS: Readonly<Record<string, string>> = {
  '1': 'semitone',
  half: '= 1 semitone',
  full: '= 2 semitones',
}

/** At most `count` completions for a call with the text cursor at its end, most likely first. */
export function complete(call: string, context: CompletionContext, count = 9): Completion[] {
  const list = tokens(call)
  const last = list.at(-1)
  const typing =
    last && last.end === call.length && /[\p{L}#-]$/u.test(call) && numberOf(last.text) === undefined
      ? last
      : undefined
  const before = list[list.length - (typing ? 2 : 1)]
  const at = typing?.at ?? call.length
  const offer = (texts: readonly string[], help: (text: string) => string): Completion[] =>
    texts.map((text) => ({ text, help: help(text), at, end: call.length }))
  const helpOf = (text: string): string => WORDS.find((word) => word.word === text)?.help ?? ''
  const previous = before && wordOf(before.text)
  let options: Completion[]
  if (previous === 'hold') options = offer(context.chords ?? [], () => 'a grip for this chord')
  else if (previous === 'in') options = offer(STEPS, (text) => `the step becomes ${text}`)
  else if (previous === 'palm' || previous === 'palming')
    options = offer(['light', 'medium', 'firm'], (text) => `${text} pressure`)
  else if (previous === 'bend' || previous === 'pre-bend' || previous === 're-bend')
    options = offer(['2', '1', 'half', 'full', '3'], (text) => `${text} ${AMOUNT_WORDS[text] ?? 'semitones'}`)
  else if (typing)
    options = [
      ...offer(
        WORDS.map((word) => word.word),
        helpOf,
      ),
      ...offer(
        context.letters.map((_, index) => callString(context.letters, index + 1, 'letters')),
        () => 'string',
      ),
    ]
  else if (!before || before.text === '\n')
    options = [
      ...offer(
        [
          ...new Set(context.letters.map((_, index) => callString(context.letters, index + 1, 'letters'))),
        ].reverse(),
        () => 'string',
      ),
      ...offer(FIRST, helpOf),
    ]
  else if (numberOf(before.text) !== undefined || previous === 'open') options = offer(AFTER_NOTE, helpOf)
  else if (previous === 'down' || previous === 'up' || previous === 'dead' || previous === 'strum')
    options = offer(AFTER_STROKE, helpOf)
  else options = []
  const begun = typing?.text.toLowerCase() ?? ''
  return options
    .filter((option) => option.text.toLowerCase().startsWith(begun) && option.text.toLowerCase() !== begun)
    .slice(0, count)
}
