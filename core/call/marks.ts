// What is done to a note or stroke: bends, harmonics, muting, accents.
import { PRESSURES, type Mark, type Pressure } from '../document/schema'
import type { StrokeMark } from '../marks'
import { withMark } from '../marks/marks-of'
import { checkEnd, lastAsOne } from './events'
import { playsAhead } from './moves'
import { glideMark } from './glide-words'
import { noteWord, readDouble } from './note-words'
import { readLength } from './places'
import { elsewhere, fail, failWords, peek, skip, wordHere, type Reading, type TimedEvent } from './reading'
import type { Token } from './tokens'
import { numberOf } from './vocabulary'

export function addMark(r: Reading, mark: Mark, token: Token): void {
  if (r.asOne.length) for (const index of r.asOne) markNote(r, r.events[index], mark, token)
  else markNote(r, r.events.at(-1), mark, token)
}

function markNote(r: Reading, event: TimedEvent | undefined, mark: Mark, token: Token): void {
  if (event?.layer !== 'note') fail(r, token, 'This belongs to a note: say the fret first.')
  if (mark.kind === 'bend' && event.fret === 0)
    fail(
      r,
      token,
      'An open string cannot be bent: fret it first.',
      elsewhere(r, event.string, 0, r.context.part.instrument.fretCount),
    )
  if (mark.kind === 'vibrato' && event.fret === 0)
    fail(
      r,
      token,
      'An open string cannot be shaken with the finger: fret it first.',
      elsewhere(r, event.string, 0, r.context.part.instrument.fretCount),
    )
  if (event.marks.length >= 8) fail(r, token, 'That is more than one note can carry.')
  event.marks = [
    ...event.marks.filter(
      (other) =>
        other.kind !== mark.kind ||
        (mark.kind === 'slide' && other.kind === 'slide' && (other.how === 'out') !== (mark.how === 'out')),
    ),
    mark,
  ]
}

export function readAmount(r: Reading, token: Token, least: number, most: number): number {
  const text = peek(r).toLowerCase()
  if (/^(up|by)$/.test(text) && r.i + 1 < r.list.length) {
    r.i++
    return readAmount(r, token, least, most)
  }
  const named = { full: 2, whole: 2, half: 1, quarter: 0.5, step: 2, tone: 2, semitone: 1 }[text]
  const plain = /^-?\d{1,2}(\.\d{1,3})?$/.test(text) ? Number(text) : numberOf(text)
  if (/^(a|an)$/.test(text)) {
    r.i++
    return readAmount(r, token, least, most)
  }
  const amount = named ?? plain
  if (amount === undefined || amount < least || amount > most)
    failWords(
      token,
      `By how many semitones? Between ${least} and ${most}.`,
      least > 0 ? ['1', '2', 'half', 'full'] : ['2', '5'],
    )
  r.i++
  // "two semitones" is two; "a step", "two whole steps" count in whole tones.
  const unit = peek(r).toLowerCase()
  if (/^(semitones?|half-steps?)$/.test(unit)) {
    r.i++
    return amount
  }
  if (/^(steps?|tones?)$/.test(unit)) {
    r.i++
    return named === undefined && amount * 2 <= most ? amount * 2 : amount
  }
  return amount
}

export function readMark(r: Reading, word: string, token: Token): boolean {
  const apply = markSaid(r, word, token)
  if (!apply) return noteWord(r, word, token)
  // Said first in its clause, a mark goes through all of it: "palm mute low E open open three".
  if (r.events.length === r.clause.first && playsAhead(r)) r.clauseMarks.push(apply)
  else apply(token)
  return true
}

/** Puts a mark on what was said last. */
type Put = (at: Token) => void
type SaidMark = (r: Reading, token: Token, word: string) => Put

const put =
  (r: Reading, mark: Mark): Put =>
  (at) =>
    addMark(r, mark, at)

/** On the stroke or the note that was said last. */
const onEither =
  (r: Reading, mark: StrokeMark): Put =>
  (at) => {
    const event = r.events.at(-1)
    if (event?.layer === 'stroke' && r.last?.kind === 'stroke') event.marks = withMark(event.marks, mark)
    else addMark(r, mark, at)
  }
/** Harder, whether it is a note or a stroke. */
function accented(event: TimedEvent): void {
  if (event.layer === 'note') event.marks = withMark(event.marks, { kind: 'accent' })
  else event.marks = withMark(event.marks, { kind: 'accent' })
}
const passOver = (r: Reading, word: string): void => {
  if (wordHere(r) === word) r.i++
}
/** A stretch of muting that a bracket opens. */
function openSpan(r: Reading, span: Omit<Reading['spans'][number], 'startTicks'>): Put {
  r.i++
  r.spans.push({ ...span, startTicks: r.at })
  return () => {}
}

const bendMark: SaidMark = (r, token, word) => {
  const semitones = readAmount(r, token, 0.25, 5)
  if (word === 'bend') return put(r, { kind: 'bend', semitones, shape: bendShape(r) })
  const shape = word === 'releasing' ? 'release' : (word as 'pre-bend' | 're-bend')
  return put(r, { kind: 'bend', semitones, shape })
}
const barMark: SaidMark = (r, token, word) =>
  put(r, {
    kind: 'arm',
    semitones: -Math.abs(readAmount(r, token, -24, 24)),
    how: word as 'dip' | 'dive' | 'return',
  })
const scrapeMark: SaidMark = (r, token) => {
  const way = peek(r).toLowerCase()
  if (way !== 'up' && way !== 'down' && way !== 'round')
    failWords(token, 'Scraped which way?', ['scrape up', 'scrape down', 'scrape round'])
  r.i++
  return put(r, { kind: 'scrape', way: way === 'round' ? 'there and back' : way })
}
const plainMark: SaidMark = (r, _token, word) => put(r, { kind: word as 'rake' | 'ghost' })

/** Marks that any note (some: any stroke) can carry. */
const MARKS: Record<string, SaidMark> = {
  bend: bendMark,
  'pre-bend': bendMark,
  're-bend': bendMark,
  releasing: bendMark,
  dip: barMark,
  dive: barMark,
  return: barMark,
  rake: plainMark,
  ghost: plainMark,
  vibrato: (r) => put(r, { kind: 'vibrato', width: 'narrow' }),
  wide: (r) => {
    passOver(r, 'vibrato')
    return put(r, { kind: 'vibrato', width: 'wide' })
  },
  harmonic: (r) => put(r, { kind: 'natural harmonic' }),
  pinch: (r) => {
    passOver(r, 'harmonic')
    const said = numberOf(peek(r))
    const known = said === 12 || said === 19 || said === 24 ? said : undefined
    if (known) r.i++
    return put(r, { kind: 'pinched harmonic', semitones: known ?? 12 })
  },
  scrape: scrapeMark,
  glide: glideMark,
  tremolo: (r) => put(r, { kind: 'tremolo picking' }),
  ring: (r, token) =>
    peek(r) === '[' ? openSpan(r, { kind: 'let ring', token }) : put(r, { kind: 'let ring' }),
  staccato: (r) => onEither(r, { kind: 'staccato' }),
  choke: (r) => onEither(r, { kind: 'choke' }),
  palm: (r, token) => {
    if (/^(muted?|muting)$/i.test(peek(r))) r.i++
    const pressure = readPressure(r) ?? 'medium'
    return peek(r) === '['
      ? openSpan(r, { kind: 'palm mute', pressure, token })
      : onEither(r, { kind: 'palm mute', pressure })
  },
  accent: (r) => (at) => {
    for (const one of lastAsOne(r, at)) accented(one)
  },
  power: (r) => {
    passOver(r, 'chord')
    return (at) => readDouble(r, 1, 7, at)
  },
  octave: (r) => (at) => readDouble(r, 2, 12, at),
}

/** Reads a mark and gives what puts it on the last note or stroke; undefined when the word is none. */
function markSaid(r: Reading, word: string, token: Token): Put | undefined {
  const said = Object.hasOwn(MARKS, word) ? MARKS[word] : undefined
  if (!said) return undefined
  r.i++
  return said(r, token, word)
}

export function bendShape(r: Reading): 'plain' | 'bend and hold' | 'bend and release' {
  const [first, second] = [peek(r).toLowerCase(), peek(r, 1).toLowerCase()]
  if (first === 'and' && second === 'hold') {
    r.i += 2
    return 'bend and hold'
  }
  if (first === 'and' && (second === 'release' || second === 're')) {
    r.i += 2
    return 'bend and release'
  }
  return 'plain'
}

function readPressure(r: Reading): Pressure | undefined {
  const text = peek(r).toLowerCase()
  const found = PRESSURES.find((pressure) => pressure === text)
  if (found) r.i++
  return found
}

export function spanWord(r: Reading, word: 'palming' | 'letting', token: Token): void {
  const kind = word === 'palming' ? 'palm mute' : 'let ring'
  const pressure = word === 'palming' ? (readPressure(r) ?? 'medium') : undefined
  if (word === 'letting') {
    skip(r, 'it')
    skip(r, 'them')
    skip(r, 'ring')
  }
  const draft = { kind, startTicks: r.at, ...(pressure ? { pressure } : {}) } as const
  if (peek(r) === '[') {
    r.i++
    r.spans.push({ ...draft, token })
    return
  }
  if (wordHere(r) !== 'for') {
    const put = (at: Token): void =>
      addMark(r, kind === 'palm mute' ? { kind, pressure: pressure ?? 'medium' } : { kind }, at)
    if (r.events.length === r.clause.first && playsAhead(r)) {
      r.clauseMarks.push(put)
      return
    }
    // "…, let it ring": said after a note, it is that note's.
    if (word === 'letting' && r.events.at(-1)?.layer === 'note') {
      put(token)
      return
    }
  }
  if (wordHere(r) !== 'for')
    fail(r, token, `${word === 'palming' ? 'Palm muted' : 'Ringing'} for how long?`, [
      `${word}${word === 'letting' ? ' ring' : ' firm'} for 8`,
      `${word}${word === 'letting' ? ' ring' : ' firm'} for a bar`,
    ])
  r.i++
  const lengthTicks = readLength(r, token)
  checkEnd(r, r.at + lengthTicks, token)
  r.mutes.push({ ...draft, lengthTicks })
}
