// Frets as they are said: "7", "ninth fret", "open G", "two fives", "power chord at 3", "barre the top two
// at 5".
import type { StringSpec } from './items'
import { namedChord } from './say-shapes'
import { isLetter, namesString, oneString, stringList, whichAt } from './say-strings'
import {
  clauseItems,
  here,
  is,
  isArticle,
  isStop,
  kind,
  sayNote,
  skipArticle,
  spanFrom,
  takeOne,
  text,
  type Scan,
} from './scan'

/** Words between what is done and the fret it is done to. */
const TO_A_FRET = ['on', 'at', 'to', 'of', 'from', 'into', 'it', 'up', 'down', 'over', 'fret']
function skipToFret(s: Scan): void {
  while (is(s, 0, ...TO_A_FRET) && !(is(s, 0, 'fret') && kind(s, 1) !== 'number')) s.i++
  skipArticle(s)
}

/** The fret that comes next, in numbers; a bare ordinal ("the ninth") only where a fret is awaited. */
export function takeFret(s: Scan, ordinal = false): number | undefined {
  const start = s.i
  if (is(s, 0, 'fret') && kind(s, 1) === 'number') s.i++
  if (kind(s) === 'number' && here(s).value <= 36 && !is(s, 1, 'times')) {
    s.i++
    takeOne(s, 'fret')
    return here(s, is(s, -1, 'fret') ? -2 : -1).value
  }
  if (kind(s) === 'ordinal' && (is(s, 1, 'fret') || (ordinal && !is(s, 1, 'string')))) {
    s.i++
    takeOne(s, 'fret')
    return here(s, is(s, -1, 'fret') ? -2 : -1).value
  }
  if (is(s, 0, 'open')) {
    s.i++
    takeOne(s, 'string')
    return 0
  }
  s.i = start
  return undefined
}

const COUNTED = ['dead', 'chuck', 'down', 'up', 'strum']
const COUNTED_PLURAL = ['power', 'octave', 'bend', 'prebend', 'palm', 'harmonic']
/** Whether what stands at an offset is several of something: "fives", "open Ds", "dead ones". */
function isSeveral(s: Scan, offset: number): boolean {
  if (here(s, offset).plural && (kind(s, offset) === 'number' || kind(s, offset) === 'letter')) return true
  // "8 bend 2" is a fret and its bend: what is counted of these is said in the plural.
  if (is(s, offset, ...COUNTED_PLURAL)) return here(s, offset).plural
  if (is(s, offset, ...COUNTED, 'openstrings')) return true
  if (!is(s, offset, 'open')) return false
  return here(s, offset + (whichAt(s, offset + 1) ? 2 : 1)).plural
}

/** "two fives", "three open Ds", "a couple of nines": how many. The cursor goes past the count. */
export function takeCount(s: Scan): number | undefined {
  const article = isArticle(s) && is(s, 1, 'couple') ? 1 : 0
  const couple = is(s, article, 'couple')
  const { value, plural } = here(s)
  if (!couple && (kind(s) !== 'number' || value < 1 || value > 16 || plural)) return undefined
  const after = article + 1
  const more = is(s, after, 'more') && here(s, after + 1).plural
  if (!more && !isSeveral(s, after)) return undefined
  s.i += after + (more ? 1 : 0)
  return couple ? 2 : value
}

/** "open G", "open D and A", "open third": a note on strings of its own. */
export function openStrings(s: Scan, count: number): boolean {
  if (is(s, 0, 'openstrings')) return severalOpen(s)
  if (!is(s, 0, 'open')) return false
  const start = s.i
  // "open E chord": the chord, and no string.
  if (isLetter(s, 1) && is(s, 2, 'chord')) {
    s.i++
    return namedChord(s, true)
  }
  s.i++
  takeOne(s, 'string')
  const specs = kind(s) === 'ordinal' && !is(s, 1, 'fret') ? oneString(s, true) : stringListFor(s)
  // "open A 5": the string is for the fret after it.
  if (specs && kind(s) === 'number' && !is(s, 1, 'times') && clauseItems(s).length > 0) {
    s.i = start + 1
    sayNote(s, start, { fret: 0, count })
    return true
  }
  sayNote(s, start, { fret: 0, count, ...(specs ? { strings: specs } : {}) })
  if (specs) s.stringKnown = true
  return true
}
/** "three open strings, the low D, the A and the D". */
function severalOpen(s: Scan): boolean {
  const start = s.i
  s.i++
  if (text(s) === ',' || is(s, 0, 'on')) s.i++
  const specs = stringListFor(s)
  if (!specs) s.i = start + 1
  sayNote(s, start, { fret: 0, ...(specs ? { strings: specs } : {}) })
  return true
}
const stringListFor = (s: Scan): StringSpec[] | undefined =>
  isLetter(s) || whichAt(s) ? stringList(s) : undefined

/** "D and G open", "the top two open": strings first, their openness after. */
export function stringsOpen(s: Scan): boolean {
  const start = s.i
  const specs = namesString(s) ? stringList(s) : undefined
  if (specs) takeOne(s, 'at', 'left', 'ringing', 'are', 'is', 'stay', 'stays')
  if (!specs || !is(s, 0, 'open') || kind(s, 1) === 'letter' || whichAt(s, 1)) {
    s.i = start
    return false
  }
  s.i++
  sayNote(s, start, { fret: 0, strings: specs })
  s.stringKnown = true
  return true
}

/** Two strings are named whose frets follow: "octave on the D and the B, 7 and 10". */
function pairOfStrings(s: Scan, start: number): boolean {
  const before = s.i
  const specs = takeOne(s, 'on') && kind(s) !== 'ordinal' && namesString(s) ? stringList(s) : undefined
  s.i = before
  if (text(s) !== ',' && (specs?.length ?? 0) < 2) return false
  s.double = undefined
  s.items.push({ k: 'together', pairs: true, ...spanFrom(s, start) })
  return true
}

/** "power chord", "octaves", or "one at …" that goes on with them; the cursor stands after it. */
function takeDouble(s: Scan): boolean {
  const said = takeOne(s, 'power', 'octave')
  if (said) {
    s.double = said === 'power' ? 'power' : 'octave'
    takeOne(s, 'chord')
    return true
  }
  if (!s.double || kind(s) !== 'number' || here(s).value !== 1 || !is(s, 1, 'at', 'on')) return false
  s.i++
  return true
}

/** "power chord at the fifth fret of the A"; "one at the tenth" goes on with it. */
export function powerChord(s: Scan, count: number): boolean {
  const start = s.i
  if (!takeDouble(s)) return false
  if (s.double === 'octave' && pairOfStrings(s, start)) return true
  const before = s.i
  skipToFret(s)
  const fret = takeFret(s, true)
  if (fret === undefined || (kind(s, -1) === 'number' && is(s, 0, 'string'))) s.i = before
  else sayNote(s, start, { fret, count })
  return true
}

/** "barre the top three at 10", "bar the low D and the A at the third fret", "barre at 2". */
export function barre(s: Scan): boolean {
  const start = s.i
  if (!is(s, 0, 'barre') && !(is(s, 0, 'bar') && !is(s, 1, 'of'))) return false
  s.i++
  takeOne(s, 'on', 'over')
  skipArticle(s)
  const specs = namesString(s) ? stringList(s) : undefined
  const after = s.i
  skipToFret(s)
  const fret = takeFret(s, true)
  if (fret === undefined) {
    s.i = specs ? after : start + 1
    if (!specs) return is(s, -1, 'barre')
    s.items.push({ k: 'strings', specs, after: false, ...spanFrom(s, start) })
    return true
  }
  takeOne(s, 'on', 'of')
  const late = specs ?? (namesString(s) ? stringList(s, true) : undefined)
  const all = s.context.part.tuning.openMidi.map((_, index) => ({ number: index + 1 })).reverse()
  if (late) s.stringKnown = true
  sayNote(s, start, { fret, strings: late ?? all, barre: true })
  return true
}

const FINGERS: Readonly<Record<string, '1' | '2' | '3' | '4'>> = {
  index: '1',
  middlefinger: '2',
  ringfinger: '3',
  pinky: '4',
}
export const fingerAt = (s: Scan, offset = 0): '1' | '2' | '3' | '4' | undefined =>
  kind(s, offset) === 'word' && Object.hasOwn(FINGERS, text(s, offset)) ? FINGERS[text(s, offset)] : undefined

const otherFingers = (s: Scan): boolean => s.list.some((_, index) => fingerAt(s, index - s.i))

/** The finger that is said here; "middle" and "ring" are fingers where something is put on a fret. */
function saidFinger(s: Scan): '1' | '2' | '3' | '4' | undefined {
  if (is(s, 0, 'middle') && is(s, 1, 'on', 'fret')) return '2'
  if (is(s, 0, 'ring') && is(s, 1, 'on') && otherFingers(s)) return '3'
  return fingerAt(s)
}

/** "back to the index": it goes where it was. */
const goesBack = (s: Scan, said: string): boolean =>
  is(s, -2, 'back') ||
  (is(s, -3, 'back') && is(s, -2, 'to')) ||
  (isStop(s) && s.items.some((one) => one.k === 'note' && one.finger === said))

/** "index on the second fret", "the pinky on the fifth", "back to the index". */
export function finger(s: Scan): boolean {
  const start = s.i
  const said = saidFinger(s)
  if (!said) return false
  s.i++
  s.finger = said
  const before = s.i
  skipToFret(s)
  const fret = takeFret(s, true)
  if (fret !== undefined) {
    sayNote(s, start, { fret })
    return true
  }
  s.i = before
  if (goesBack(s, said)) sayNote(s, start, { fret: 'finger', finger: said })
  return true
}

/** A plain fret: "7", "ninth fret", "frets 12, 11 and 9", "x5". */
export function plainFret(s: Scan, count: number): boolean {
  const start = s.i
  if (is(s, 0, 'fret') && kind(s, 1) === 'number') s.i++
  const deadFret = /^x(\d{1,2})$/i.exec(text(s))
  if (deadFret) {
    s.i++
    sayNote(s, start, { fret: Number(deadFret[1]), dead: true, count })
    return true
  }
  const fret = takeFret(s)
  if (fret === undefined) {
    s.i = start
    return false
  }
  const times = s.dead > 1 ? s.dead : count
  sayNote(s, start, { fret, count: times })
  return true
}
