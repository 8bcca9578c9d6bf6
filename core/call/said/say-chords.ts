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
