// A chord's name as it is said after "hold": "E minor seven", "B flat major seven", "D over F sharp", "A
// sus four", "G power". What is written ("F#m7/E") is one word and read as a symbol.
import { numberOf } from './vocabulary'

const SIGNS: Readonly<Record<string, string>> = { sharp: '#', flat: 'b' }
const LETTER = /^[A-Ga-g](#|b|♯|♭)?$/
const QUALITIES: Record<string, string> = {
  minor: 'm',
  min: 'm',
  major: 'maj',
  maj: 'maj',
  diminished: 'dim',
  dim: 'dim',
  augmented: 'aug',
  aug: 'aug',
  power: '5',
  dominant: '',
}
const EXTENSIONS = new Set([5, 6, 7, 9, 11, 13])

/**
 * The symbol said by the words from the first on, and how many of them it took; undefined when they begin
 * with no letter and one word more.
 */
export function spokenChord(words: readonly string[]): { symbol: string; used: number } | undefined {
  let at = 0
  const next = (): string => words[at]?.toLowerCase() ?? ''
  const letter = (): string | undefined => {
    if (!LETTER.test(words[at] ?? '')) return undefined
    const text = words[at]!
    at++
    const sign = SIGNS[next() ?? ''] ?? ''
    if (sign) at++
    return text[0]!.toUpperCase() + text.slice(1).replace('♯', '#').replace('♭', 'b') + sign
  }
  const extension = (): number | undefined => {
    const number = numberOf(words[at] ?? '')
    return number !== undefined && EXTENSIONS.has(number) ? number : undefined
  }
  const root = letter()
  if (root === undefined) return undefined
  let suffix = ''
  if (Object.hasOwn(QUALITIES, next())) {
    suffix = QUALITIES[next()]!
    at++
  }
  const number = extension()
  if (number !== undefined) {
    suffix += String(number)
    at++
  } else if (suffix === 'maj') suffix = ''
  if ((next() === 'sus' || next() === 'suspended') && [2, 4].includes(numberOf(words[at + 1] ?? '') ?? 0)) {
    suffix += `sus${numberOf(words[at + 1]!)}`
    at += 2
  }
  if ((next() === 'add' || next() === 'added') && [9, 11].includes(numberOf(words[at + 1] ?? '') ?? 0)) {
    suffix = suffix === 'm' ? `m(add${numberOf(words[at + 1]!)})` : `${suffix}add${numberOf(words[at + 1]!)}`
    at += 2
  }
  let bass = ''
  if (next() === 'over' || next() === 'slash') {
    const start = at
    at++
    const low = letter()
    if (low === undefined) at = start
    else bass = `/${low}`
  }
  return at > 1 ? { symbol: `${root}${suffix}${bass}`, used: at } : undefined
}
