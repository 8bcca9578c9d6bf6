// Chords as degrees of the key: I, ♭VII, vi7. The letter case says the third, as is usual; what is altered
// against the major scale of the tonic says so, so that ♭VII is the same in major and minor.
import { readChordSymbol } from './chord-name'
import { pitchClassOf, spellPitchClass, type Key } from './pitch'

const NUMERALS = ['I', '♭II', 'II', '♭III', 'III', 'IV', '♯IV', 'V', '♭VI', 'VI', '♭VII', 'VII']

/** "Em7" in G major → "vi7"; undefined for what is no chord. A bass that is no root is said as a degree. */
export function romanNumeral(symbol: string, key: Key): string | undefined {
  const chord = readChordSymbol(symbol)
  if (!chord) return undefined
  const tonic = pitchClassOf(key.tonic)
  const numeralOf = (pitchClass: number): string => NUMERALS[(pitchClass - tonic + 12) % 12] ?? ''
  const minor = chord.semitones.includes(3) && !chord.semitones.includes(4)
  const numeral = numeralOf(chord.root)
  const cased = minor ? numeral.toLowerCase() : numeral
  const quality = behindRoot(symbol).replace(/^m(?!aj)/, '')
  const bass = chord.bass === chord.root ? '' : `/${numeralOf(chord.bass)}`
  return `${cased}${quality.replaceAll('b', '♭').replaceAll('#', '♯')}${bass}`
}

/** What is written behind the root, without a slash bass: "m7" of "F#m7/E". "6/9" is no slash bass. */
const behindRoot = (symbol: string): string =>
  symbol.replace(/^[A-G](#{1,2}|b{1,2})?/, '').replace(/\/[A-G](#|b)*$/, '')

const DEGREES: Record<string, number> = { I: 0, II: 2, III: 4, IV: 5, V: 7, VI: 9, VII: 11 }
const NUMERAL =
  /^([b#♭♯]?)(VII|VI|IV|V|III|II|I|vii|vi|iv|v|iii|ii|i)(°|o|maj7|m7b5|7|sus4|sus2|add9|9|6|5)?$/
/** Degrees that are a half step lower where the third of the key is minor, unless they are altered. */
const LOWERED = new Set(['III', 'VI', 'VII'])

/**
 * "vi7" in G major → "Em7"; unaltered III, VI and VII of a minor key are its own. Undefined for no numeral.
 */
export function romanChord(text: string, key: Key): string | undefined {
  const [, sign = '', numeral = '', rest = ''] = NUMERAL.exec(text) ?? []
  const degree = DEGREES[numeral.toUpperCase()]
  if (degree === undefined) return undefined
  const minorKey = ['minor', 'dorian', 'phrygian', 'locrian'].includes(key.mode)
  const own = minorKey && !sign && LOWERED.has(numeral.toUpperCase()) ? -1 : 0
  const altered = { '': 0, b: -1, '♭': -1, '#': 1, '♯': 1 }[sign] ?? 0
  const root = spellPitchClass((pitchClassOf(key.tonic) + degree + own + altered + 12) % 12, key)
  if (rest === '°' || rest === 'o') return `${root}dim`
  const isMinor = numeral === numeral.toLowerCase()
  return `${root}${isMinor && !rest.startsWith('m7') ? 'm' : ''}${rest}`
}
