// Chords as they are named, and how long each is held: "an A minor", "two bars of G", "C with a G in the
// bass".
import { barTicks, beatTicks } from '../../time/meter'
import { readGrip } from '../../fretboard/grips/grip'
import { spokenChord } from '../chord-words'
import { noteValue } from '../vocabulary'
import type { Length } from './items'
import {
  here,
  is,
  isArticle,
  isStop,
  kind,
  skipArticle,
  spanFrom,
  take,
  takeOne,
  text,
  type Scan,
} from './scan'

const QUALITY = new Set([
  'minor',
  'min',
  'major',
  'maj',
  'diminished',
  'dim',
  'augmented',
  'aug',
  'power',
  'dominant',
  'sus',
  'suspended',
  'add',
  'added',
  'over',
  'slash',
  'flat',
  'sharp',
  'chord',
])

/** The chord's name that comes next, with its bass; the cursor stands after it. */
export function takeChordName(s: Scan, lone: boolean): string | undefined {
  const start = s.i
  skipArticle(s)
  const base = writtenOrSpoken(s, lone)
  if (base === undefined) {
    s.i = start
    return undefined
  }
  takeOne(s, 'chord')
  return withBass(s, base)
}

const SIGNS: Readonly<Record<string, string>> = { flat: 'b', sharp: '#' }

function writtenOrSpoken(s: Scan, lone: boolean): string | undefined {
  if (kind(s) === 'chord') {
    s.i++
    return here(s, -1).text
  }
  if (kind(s) !== 'letter') return undefined
  const words = s.list.slice(s.i, s.i + 8).map((one) => (one.kind === 'stop' ? '' : one.text))
  const numberNext = kind(s, 1) === 'number'
  const wordNumber = numberNext && !/\d/.test(text(s, 1))
  const signNext = kind(s, 2) === 'word' && Object.hasOwn(SIGNS, text(s, 2))
  const quality = QUALITY.has(text(s, 1)) && !(is(s, 1, 'over') && kind(s, 2) !== 'letter')
  if (quality || (wordNumber && (signNext || s.chordRow || is(s, 2, 'sus', 'add', 'chord', 'over')))) {
    const said = spokenChord(words)
    if (said) {
      s.i += said.used
      return altered(s, said.symbol)
    }
  }
  if (is(s, 1, 'chord')) {
    s.i++
    return here(s, -1).text.toUpperCase()
  }
  if (!lone || (isArticle(s) && !quality)) return undefined
  s.i++
  const letter = here(s, -1).text
  return letter[0]!.toUpperCase() + letter.slice(1)
}

/** "… sharp nine", "… flat five". */
function altered(s: Scan, symbol: string): string {
  if (kind(s) !== 'word' || !Object.hasOwn(SIGNS, text(s)) || kind(s, 1) !== 'number') return symbol
  s.i += 2
  return `${symbol}${SIGNS[here(s, -2).text]}${here(s, -1).value}`
}

/** "with a G in the bass", "with F sharp underneath". */
function withBass(s: Scan, symbol: string): string {
  const start = s.i
  if (takeOne(s, 'with', 'over')) {
    skipArticle(s)
    if (kind(s) === 'letter') {
      let letter = here(s).text.toUpperCase()[0]! + here(s).text.slice(1)
      s.i++
      if (kind(s) === 'word' && Object.hasOwn(SIGNS, text(s))) {
        letter += SIGNS[text(s)]
        s.i++
      }
      if (takeOne(s, 'inbass', 'below', 'bass')) return `${symbol}/${letter}`
    }
  }
  s.i = start
  return symbol
}

/** "two bars", "a bar and three beats", "half a bar", "four beats", "a quarter": in ticks. */
export function takeLength(s: Scan): number | undefined {
  const start = s.i
  const first = oneLength(s)
  if (first === undefined) {
    s.i = start
    return undefined
  }
  const after = s.i
  if (takeOne(s, 'and')) {
    const more = oneLength(s)
    if (more !== undefined) return first + more
  }
  s.i = after
  return first
}

function oneLength(s: Scan): number | undefined {
  const bar = barTicks(s.context.meter)
  const start = s.i
  let amount = 1
  if (is(s, 0, 'half') && isArticle(s, 1)) {
    amount = 0.5
    s.i += 2
  } else if (kind(s) === 'number') {
    amount = here(s).value
    s.i++
  } else if (isArticle(s)) {
    s.i++
    if (takeOne(s, 'full', 'whole', 'half')) amount = here(s, -1).text === 'half' ? 0.5 : 1
  } else if (is(s, 0, 'half', 'full') && is(s, 1, 'bar', 'measure')) {
    amount = is(s, 0, 'half') ? 0.5 : 1
    s.i++
  } else if (!is(s, 0, 'beat', 'bar')) return undefined
  if (takeOne(s, 'bar', 'measure')) {
    s.unit = 'bar'
    return amount * bar
  }
  if (takeOne(s, 'beat')) {
    s.unit = 'beat'
    return amount * beatTicks(s.context.meter)
  }
  const value = kind(s) === 'word' ? noteValue(text(s)) : undefined
  if (value !== undefined && start !== s.i) {
    s.i++
    takeOne(s, 'note', 'notes')
    return amount * value
  }
  s.i = start
  return undefined
}

/** "for two bars", "for four" (beats of a chord, steps of a note), "two beats each". */
export function length(s: Scan): boolean {
  const start = s.i
  const forWord = takeOne(s, 'for')
  const ticks = takeLength(s)
  if (ticks !== undefined) {
    const each = Boolean(takeOne(s, 'each'))
    if (each) {
      s.chordRow = true
      takeOne(s, 'of')
    }
    if (is(s, 0, 'rest') && !forWord) {
      s.i++
      s.items.push({ k: 'rest', length: { ticks }, ...spanFrom(s, start) })
      return true
    }
    if (s.items.at(-1)?.k === 'chord') s.chordRow = true
    if (forWord || each) {
      s.items.push({ k: 'length', length: { ticks }, each, ...spanFrom(s, start) })
      return true
    }
  } else if (kind(s) === 'number' && (forWord || is(s, 1, 'each')) && here(s).value > 0 && saysLength(s)) {
    const chord = s.items.at(-1)?.k === 'chord' || s.chordRow
    const { value } = here(s)
    s.i++
    const each = Boolean(takeOne(s, 'each'))
    const unit = s.unit === 'bar' ? barTicks(s.context.meter) : beatTicks(s.context.meter)
    const said: Length = chord ? { ticks: value * unit } : { steps: value }
    s.items.push({ k: 'length', length: said, each, ...spanFrom(s, start) })
    return true
  }
  s.i = start
  return false
}

/** "cross to the G for 7 and 5": frets, where a string was just named. */
const saysLength = (s: Scan): boolean => s.items.at(-1)?.k !== 'strings'

const LOW_SHAPES: Readonly<Record<string, string>> = {
  E: '022100',
  A: 'x02220',
  D: 'xx0232',
  C: 'x32010',
  G: '320003',
  Em: '022000',
  Am: 'x02210',
  Dm: 'xx0231',
}
/** "E shape barre at the fifth fret", "barre chord at 3, A minor shape". */
export function shapeChord(s: Scan): boolean {
  if (kind(s) !== 'letter' && kind(s) !== 'chord') return false
  const start = s.i
  const symbol = takeChordName(s, true)
  const shape = symbol !== undefined && Object.hasOwn(LOW_SHAPES, symbol) ? LOW_SHAPES[symbol] : undefined
  const open =
    shape && takeOne(s, 'shape') ? readGrip(shape, s.context.part.tuning.openMidi.length) : undefined
  const fret = open ? shapeFret(s) : undefined
  if (!open || fret === undefined) {
    s.i = start
    return false
  }
  const grip = { strings: open.strings.map((one) => (one.fret === null ? one : { fret: one.fret + fret })) }
  s.items.push({ k: 'grip', grip, ...spanFrom(s, start) })
  s.gripHeld = true
  return true
}
/** Where a shape is barred: said after it, or just before. */
function shapeFret(s: Scan): number | undefined {
  const start = s.i
  while (takeOne(s, 'barre', 'bar', 'chord', 'at', 'on', 'up')) continue
  skipArticle(s)
  const numbered = kind(s) === 'number' || (kind(s) === 'ordinal' && is(s, 1, 'fret'))
  if (numbered) {
    s.i++
    takeOne(s, 'fret')
    return s.list[s.i - 1]!.text === 'fret' ? here(s, -2).value : here(s, -1).value
  }
  s.i = start
  const before = s.items.findLastIndex((item) => item.k === 'note' && item.barre)
  const note = s.items[before]
  if (note?.k !== 'note' || typeof note.fret !== 'number') return undefined
  s.items.splice(before, 1)
  return note.fret
}

/** "down, down, up on a G": the chord that strokes said before are struck on. */
export function strokesOnChord(s: Scan): boolean {
  if (!is(s, 0, 'on', 'over') || !isArticle(s, 1)) return false
  const start = s.i
  s.i++
  const symbol = takeChordName(s, true)
  if (symbol === undefined) {
    s.i = start
    return false
  }
  s.items.push({ k: 'chord', symbol, hit: false, ...spanFrom(s, start) })
  s.gripHeld = true
  return true
}

/** "from C to A minor", "G7 to C": from one chord to the next. */
export function chordToChord(s: Scan): boolean {
  const start = s.i
  const from = takeOne(s, 'from')
  const last = s.items.findLast((item) => item.k !== 'stop')
  const to = !from && last?.k === 'chord' && takeOne(s, 'to', 'into', 'change')
  const lettered = kind(s) === 'letter' || (isArticle(s) && kind(s, 1) === 'letter')
  if ((!from && !to) || !(lettered || kind(s) === 'chord')) {
    s.i = start
    return false
  }
  const symbol = takeChordName(s, true)
  if (symbol === undefined || is(s, 0, 'string') || (from && !is(s, 0, 'to', 'into'))) {
    s.i = start
    return false
  }
  s.items.push({ k: 'chord', symbol, hit: false, ...spanFrom(s, start) })
  s.gripHeld = true
  return true
}

/** "two bars of G", "a bar and three beats of C", "one of D" after it. */
export function chordFor(s: Scan): boolean {
  const start = s.i
  const ticks = takeLength(s) ?? barsAsBefore(s)
  if (ticks !== undefined && takeOne(s, 'of', 'on')) {
    const symbol = takeChordName(s, true)
    if (symbol !== undefined && kind(s) !== 'number') {
      s.items.push({ k: 'chord', symbol, hit: false, length: { ticks }, ...spanFrom(s, start) })
      s.gripHeld = true
      s.chordRow = true
      return true
    }
  }
  s.i = start
  return false
}
/** "two bars of G, one of D": the unit said before. */
function barsAsBefore(s: Scan): number | undefined {
  if (!s.chordRow || kind(s) !== 'number' || !is(s, 1, 'of')) return undefined
  s.i++
  const unit = s.unit === 'beat' ? beatTicks(s.context.meter) : barTicks(s.context.meter)
  return here(s, -1).value * unit
}

/** "strum an A minor", "hit an E": the chord is struck once. */
export function struckChord(s: Scan): boolean {
  if (!is(s, 0, 'strum', 'hit')) return false
  const start = s.i
  s.i++
  const symbol = takeChordName(s, kind(s, 1) !== 'number')
  if (symbol === undefined) {
    s.i = start
    return false
  }
  s.items.push({ k: 'chord', symbol, hit: !is(s, 0, 'down', 'up'), ...spanFrom(s, start) })
  s.gripHeld = true
  return true
}

export function namedChord(s: Scan, lone: boolean): boolean {
  const start = s.i
  const stays = is(s, 0, 'stay', 'sit', 'hang') && is(s, 1, 'on')
  if (stays) {
    s.i += 2
    lone = true
  }
  takeOne(s, 'hold', 'grab', 'make', 'change', 'strum', 'finger')
  const symbol = takeChordName(s, lone)
  if (symbol === undefined || is(s, 0, 'string')) {
    s.i = start
    return false
  }
  s.items.push({ k: 'chord', symbol, hit: false, ...spanFrom(s, start) })
  s.gripHeld = true
  return true
}
export { isStop, take }
