// Where on the neck somebody wants a line: on given strings, from or up to a fret, with nothing open. A wish
// is kept with a line that follows another, so that it holds whenever the line is made anew.
import { listed } from '../../words/words'
import { soundingMidi } from '../../document/part-pitch'
import type { NeckWish, Part } from '../../document/schema'
import { spellMidi, type Key } from '../../music/pitch'
import { ok, refuse, type Result } from '../../result'
import { findPaths, type LinePath, type PathNote, type PathWishes } from './path'

/** Above every fret there is. */
const NO_LIMIT = 99

/** The wish as a path takes it. A lowest fret leaves no open string. */
export const wishesFrom = ({ strings, fromFret, toFret, noOpen }: NeckWish): PathWishes => ({
  ...(strings?.length ? { allowedStrings: strings } : {}),
  ...(fromFret === undefined && toFret === undefined
    ? {}
    : { frets: { from: fromFret ?? 0, to: toFret ?? NO_LIMIT } }),
  ...(noOpen || (fromFret ?? 0) > 0 ? { noOpen: true } : {}),
})

/** True when anything is wished for. */
export const isWish = ({ strings, fromFret, toFret, noOpen }: NeckWish): boolean =>
  Boolean(strings?.length) || Boolean(fromFret) || toFret !== undefined || Boolean(noOpen)

function stringWords(strings: readonly number[], letters: readonly string[] | undefined): string {
  const names = [...strings].sort((a, b) => a - b).map((string) => letters?.[string - 1] ?? String(string))
  if (letters && names.length === 1) return `all on the ${names[0]} string`
  return `on ${names.length > 1 ? 'strings' : 'string'} ${listed(names)}`
}

/** "on strings 1 and 2, from fret 12 up, nothing open"; empty for no wish. Letters are by string, 1 first. */
export function neckWishWords(wish: NeckWish, letters?: readonly string[]): string {
  const { strings, fromFret, toFret, noOpen } = wish
  const words: string[] = []
  if (strings?.length) words.push(stringWords(strings, letters))
  if (fromFret && toFret !== undefined) words.push(`from fret ${fromFret} to ${toFret}`)
  else if (fromFret) words.push(`from fret ${fromFret} up`)
  else if (toFret !== undefined) words.push(`up to fret ${toFret}`)
  if (noOpen && !fromFret) words.push('nothing open')
  return words.join(', ')
}

/** Notes no string sounds where the line is wanted, each once, by pitch. */
function notThere(notes: readonly PathNote[], part: Part, wish: NeckWish): number[] {
  const { allowedStrings, frets, noOpen } = wishesFrom(wish)
  const from = Math.max(frets?.from ?? 0, noOpen ? 1 : 0)
  const to = Math.min(frets?.to ?? NO_LIMIT, part.instrument.fretCount - part.instrument.capo)
  const strings = allowedStrings ?? part.tuning.openMidi.map((_, index) => index + 1)
  const lies = (midi: number): boolean =>
    strings.some((string) => {
      const fret = midi - soundingMidi(part, string, 0)
      return fret >= from && fret <= to
    })
  return [...new Set(notes.map(({ midi }) => Math.round(midi)))].filter((midi) => !lies(midi))
}

/**
 * The best way to play a line where it is wanted. Refused with the notes that do not lie there, or when no
 * hand can play it so.
 */
export function pathWhere(
  notes: readonly PathNote[],
  part: Part,
  key: Key,
  wish: NeckWish,
): Result<LinePath> {
  const missing = isWish(wish) ? notThere(notes, part, wish) : []
  const words = neckWishWords(wish)
  if (missing.length)
    return refuse(
      'not-there',
      `${missing.map((midi) => spellMidi(midi, key)).join(', ')} cannot be played ${words} ` +
        `on ${part.name}: ` +
        'allow another string or more frets, or move the line by an octave first.',
    )
  const found = findPaths(notes, part, key, wishesFrom(wish), 1)
  if (found.ok) return ok(found.value[0]!)
  return found.refusal.code === 'no-path' && isWish(wish)
    ? refuse('not-there', `No hand can play this line ${words} on ${part.name}: allow another string.`)
    : found
}
