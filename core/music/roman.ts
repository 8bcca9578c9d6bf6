// Chords as degrees of the key: I, ♭VII, vi7. The letter case says the third, as is usual; what is altered
// against the major scale of the tonic says so, so that ♭VII is the same in major and minor.
import { readChordSymbol } from './chord-name'
import { pitchClassOf, type Key } from './pitch'

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
