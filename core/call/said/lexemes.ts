// What was typed, as words the reader knows: numbers, ordinals, letters, chord names, phrases.
import { readChordSymbol } from '../../music/chord-name'
import { numberOf, ordinalOf } from '../vocabulary'
import { phraseAt } from './lexicon'

export type LexemeKind = 'number' | 'ordinal' | 'letter' | 'chord' | 'grip' | 'count' | 'stop' | 'word'
export interface Lexeme {
  kind: LexemeKind
  /** The reader's word; a letter or a chord as typed. */
  text: string
  /** Of a number or an ordinal. */
  value: number
  /** "fives", "Ds". */
  plural: boolean
  /** "the" stood before it. */
  the: boolean
  /** Written against the lexeme before by a dash: "7-9-11", "down-up". */
  dash: boolean
  at: number
  end: number
}

interface Piece {
  text: string
  at: number
  dash: boolean
}

const PIECE = /\n|[,;:.!?|()“”"–—]|[^\s,;:!?|()“”"–—.]+(?:\.\d+)?/g
/** Words that are one with their dash. */
const KEPT_DASH = new Set(
  (
    'hammer-on hammer-ons pull-off pull-offs palm-mute palm-muted palm-muting pre-bend pre-bends pre-bent ' +
    'half-step whole-step full-step half-tone quarter-tone quarter-step double-stop double-stops down-picked'
  ).split(' '),
)
const GRIP = /^[x\d]{4,8}$|^(x|\d{1,2})(-(x|\d{1,2})){3,7}$/i
const LETTER = /^[A-Ga-g][#b♯♭]?$/

/** One typed word cut where a dash or a slash joins two. */
function cut(text: string, at: number, strings: number): Piece[] {
  const whole = [{ text, at, dash: false }]
  if (
    KEPT_DASH.has(text.toLowerCase()) ||
    /^twenty-\w+$/i.test(text) ||
    !/[-/]/.test(text) ||
    /^-/.test(text)
  )
    return whole
  if (isGrip(text, strings) || /^[A-G].*\/[A-G6]/.test(text) || /^\d+\/\d+$/.test(text)) return whole
  let from = 0
  return text.split(/[-/]/).flatMap((part, index) => {
    const here = from
    from += part.length + 1
    return part ? [{ text: part, at: at + here, dash: index > 0 }] : []
  })
}

/** "x 3 2 0 1 0": a grip with its strings apart, an x among them. */
function apartGrip(lower: readonly string[], index: number, strings: number): string | undefined {
  const signs = lower.slice(index, index + strings)
  const whole = signs.length === strings && signs.every((sign) => /^(x|\d{1,2})$/.test(sign))
  return whole && signs.includes('x') && !/^\d+$/.test(lower[index + strings] ?? '')
    ? signs.join('-')
    : undefined
}

const isGrip = (text: string, strings: number): boolean => {
  if (!GRIP.test(text)) return false
  const parts = text.includes('-') ? text.split('-') : [...text]
  if (parts.length !== strings) return false
  // "7-9-11-12" on four strings is a run of frets as well: an x, or all in one hand, makes it a grip.
  return !/^\d+(-\d+)+$/.test(text) || strings > 4
}

function pieces(call: string, strings: number): Piece[] {
  return [...call.matchAll(PIECE)].flatMap((match) => cut(match[0], match.index, strings))
}

const PLURAL_NUMBER = /^(\d{1,2})'?s$/
const PLURAL_WORDS: Readonly<Record<string, number>> = {
  zeros: 0,
  ones: 1,
  twos: 2,
  threes: 3,
  fours: 4,
  fives: 5,
  sixes: 6,
  sevens: 7,
  eights: 8,
  nines: 9,
  tens: 10,
  elevens: 11,
  twelves: 12,
  thirteens: 13,
  fourteens: 14,
  fifteens: 15,
}
const LONG_ORDINALS: Readonly<Record<string, number>> = {
  thirteenth: 13,
  fourteenth: 14,
  fifteenth: 15,
  sixteenth: 16,
  seventeenth: 17,
  eighteenth: 18,
  nineteenth: 19,
  twentieth: 20,
}
const STOPS: Readonly<Record<string, string>> = {
  ',': ',',
  ';': ';',
  '.': '.',
  '\n': '\n',
  '|': '|',
  '(': '(',
  ')': ')',
  '–': ',',
  '—': ',',
  '!': '.',
  '?': '.',
  ':': ':',
}

type Found = Pick<Lexeme, 'kind' | 'text' | 'value' | 'plural'>
const found = (kind: LexemeKind, text: string, value = 0, plural = false): Found => ({
  kind,
  text,
  value,
  plural,
})

function numeral(text: string): Found | undefined {
  const lower = text.toLowerCase()
  const plural = PLURAL_NUMBER.exec(lower)
  if (plural) return found('number', lower, Number(plural[1]), true)
  if (Object.hasOwn(PLURAL_WORDS, lower)) return found('number', lower, PLURAL_WORDS[lower], true)
  const number = numberOf(lower)
  if (number !== undefined) return found('number', lower, number)
  const ordinal = ordinalOf(lower) ?? (Object.hasOwn(LONG_ORDINALS, lower) ? LONG_ORDINALS[lower] : undefined)
  return ordinal === undefined ? undefined : found('ordinal', lower, ordinal)
}

function named(text: string, strings: number): Found | undefined {
  if (isGrip(text, strings)) return found('grip', text)
  if (LETTER.test(text)) return found('letter', text)
  const plural = /^([A-G][#b♯♭]?)'?s$/.exec(text)
  if (plural) return found('letter', plural[1]!, 0, true)
  if (/^[A-G]/.test(text) && readChordSymbol(text)) return found('chord', text)
  const times = /^[x×](\d{1,2})$/i.exec(text)
  return times ? found('count', 'x', Number(times[1])) : undefined
}

/** The lexemes of a call for a part with so many strings; "the" is a property of what follows it. */
export function lexemes(call: string, strings: number): Lexeme[] {
  const list = pieces(call, strings)
  const lower = list.map((piece) => piece.text.toLowerCase())
  const result: Lexeme[] = []
  let the = false
  for (let index = 0; index < list.length;) {
    const { text, at, dash } = list[index]!
    const put = (one: Found, taken: number): void => {
      const last = list[index + taken - 1]!
      result.push({ ...one, the, dash, at, end: last.at + last.text.length })
      the = false
      index += taken
    }
    const phrase = phraseAt(lower.slice(index, index + 8))
    const stop = STOPS[text]
    const apart = apartGrip(lower, index, strings)
    if (stop !== undefined) put(found('stop', stop), 1)
    else if (apart) put(found('grip', apart), strings)
    else if (phrase && (phrase.taken > 1 || !LETTER.test(text)))
      put(found('word', phrase.word, 0, /s$/.test(lower[index + phrase.taken - 1] ?? '')), phrase.taken)
    else if (lower[index] === 'the') {
      the = true
      index++
    } else
      put(
        numeral(text) ??
          named(text, strings) ??
          found('word', lower[index] === 'strings' ? 'string' : lower[index]!, 0, lower[index] === 'strings'),
        1,
      )
  }
  return result
}
