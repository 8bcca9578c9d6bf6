// Chords as they are named, and how long each is held: "an A minor", "two bars of G", "C with a G in the
// bass".
import { spokenChord } from '../chord-words'
import { here, is, isArticle, kind, skipArticle, takeOne, text, type Scan } from './scan'

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
const capital = (letter: string): string => (letter[0] ?? '').toUpperCase() + letter.slice(1)
/** "flat" or "sharp" at an offset. */
const signAt = (s: Scan, offset = 0): string | undefined =>
  kind(s, offset) === 'word' && Object.hasOwn(SIGNS, text(s, offset)) ? SIGNS[text(s, offset)] : undefined

/** Whether the words after a letter make it a chord: "minor", "seven sharp nine", "over F sharp". */
function saysQuality(s: Scan): boolean {
  if (QUALITY.has(text(s, 1))) return !is(s, 1, 'over') || kind(s, 2) === 'letter'
  if (kind(s, 1) !== 'number' || /\d/.test(text(s, 1))) return false
  return signAt(s, 2) !== undefined || s.chordRow || is(s, 2, 'sus', 'add', 'chord', 'over')
}

function writtenOrSpoken(s: Scan, lone: boolean): string | undefined {
  if (kind(s) === 'chord') {
    s.i++
    return here(s, -1).text
  }
  if (kind(s) !== 'letter') return undefined
  const quality = saysQuality(s)
  const words = s.list.slice(s.i, s.i + 8).map((one) => (one.kind === 'stop' ? '' : one.text))
  const said = quality ? spokenChord(words) : undefined
  if (said) {
    s.i += said.used
    return altered(s, said.symbol)
  }
  if (!is(s, 1, 'chord') && (!lone || (isArticle(s) && !quality))) return undefined
  s.i++
  return capital(here(s, -1).text)
}

/** "… sharp nine", "… flat five". */
function altered(s: Scan, symbol: string): string {
  const sign = signAt(s)
  if (sign === undefined || kind(s, 1) !== 'number') return symbol
  s.i += 2
  return `${symbol}${sign}${here(s, -1).value}`
}

/** A letter with its sign: "F sharp". */
export function takeLetter(s: Scan): string | undefined {
  if (kind(s) !== 'letter') return undefined
  s.i++
  const letter = capital(here(s, -1).text)
  const sign = signAt(s)
  if (sign === undefined) return letter
  s.i++
  return letter + sign
}

/** "with a G in the bass", "with F sharp underneath". */
function withBass(s: Scan, symbol: string): string {
  const start = s.i
  if (takeOne(s, 'with', 'over')) {
    skipArticle(s)
    const letter = takeLetter(s)
    if (letter !== undefined && takeOne(s, 'inbass', 'below', 'bass')) return `${symbol}/${letter}`
  }
  s.i = start
  return symbol
}
