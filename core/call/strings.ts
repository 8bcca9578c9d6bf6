// Which string is meant: by letter as the part's strings are called ("G", "low E", "b flat"), or by number,
// 1 the highest.
import { pitchClassOf } from '../music/pitch'
import { stringName, type Naming } from '../document/part-pitch'
import type { Part, Song } from '../document/schema'

export type StringSchool = 'numbers' | 'letters'

/**
 * Letters of a part's strings, string 1 first, without telling twins apart: ["E", "B", "G", "D", "A", "E"].
 */
export const stringLetters = (song: Pick<Song, 'key'>, part: Part, naming: Naming = 'shape'): string[] =>
  part.tuning.openMidi.map((_, index) => {
    const name = stringName(song, part, index + 1, { strings: 'letters', naming })
    return name[0]!.toUpperCase() + name.slice(1)
  })

/** What a string is called so that it is understood back: "low E", "G", "string 3". */
export function callString(letters: readonly string[], string: number, school: StringSchool): string {
  if (school === 'numbers') return `string ${string}`
  const letter = letters[string - 1]!
  const twins = twinsOf(letters, letter)
  if (twins.length === 1) return letter
  if (twins.length > 3) return `string ${string}`
  if (string === twins[0]) return `high ${letter}`
  return `${string === twins.at(-1) ? 'low' : 'middle'} ${letter}`
}

/** All strings of one letter, highest first; F sharp and G flat are one. */
const twinsOf = (letters: readonly string[], letter: string): number[] =>
  letters.flatMap((other, index) => (sameLetter(other, letter) ? [index + 1] : []))

function sameLetter(a: string, b: string): boolean {
  const capital = (name: string): string => name.slice(0, 1).toUpperCase() + name.slice(1)
  return capital(a) === capital(b) || pitchClassOf(capital(a)) === pitchClassOf(capital(b))
}

/**
 * The string a letter stands for; undefined when none is called so. Of twins, a small letter is the highest
 * and a capital the lowest, unless `which` says. @example findString(['E', 'B', 'G', 'D', 'A', 'E'], 'e')
 * // 1
 */
export function findString(
  letters: readonly string[],
  typed: string,
  which?: 'low' | 'high' | 'middle',
): number | undefined {
  const name = typed.replaceAll('♭', 'b').replaceAll('♯', '#')
  const twins = twinsOf(letters, name)
  if (twins.length === 0) return undefined
  if (twins.length === 1) return twins[0]
  const end = which ?? (name[0] === name[0]!.toLowerCase() ? 'high' : 'low')
  if (end === 'high') return twins[0]
  return end === 'low' ? twins.at(-1) : twins[Math.floor(twins.length / 2)]
}
