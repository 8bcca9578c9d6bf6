// Going through the words of a call: where the scan stands, and what it has made of them.
import type { Mark } from '../../document/schema'
import type { CallContext } from '../reading'
import type { Item, Move, NoteItem, Span } from './items'
import type { Lexeme } from './lexemes'

export interface Scan {
  readonly list: readonly Lexeme[]
  readonly context: CallContext
  i: number
  items: Item[]
  /** A grip is held: by what stands there, or said in this call. */
  gripHeld: boolean
  /** A string was named in this call, or played in what stands before it. */
  stringKnown: boolean
  /** "power chord" and "octave" go on over the frets that follow without a string. */
  double: NoteItem['double']
  finger: NoteItem['finger']
  /** Marks and movements waiting for their fret. */
  waiting: Mark[]
  moves: Move[]
  /** Movements announced for the frets that follow, and those announced before ("another quick one"). */
  announced: Move[]
  announcedBefore: Move[]
  announcedStarted: boolean
  dead: number
  join: boolean
  bothNext: boolean
  pick: NoteItem['pick']
  accent: boolean
  /** "two notes on the D": how many come was said. */
  counting: boolean
  /** The unit of length said last: "two bars of G, one of D". */
  unit: 'bar' | 'beat' | undefined
  /** "pick" was said: numbers and letters are strings of the grip held. */
  pickRow: boolean
  /** Letters by themselves are chords in this call. */
  chordRow: boolean
  /** Words that carry nothing, and words that were not understood. */
  empty: Span[]
  unknown: Span[]
}

const NOTHING: Lexeme = {
  kind: 'stop',
  text: '',
  value: 0,
  plural: false,
  the: false,
  dash: false,
  at: 0,
  end: 0,
}

export const startScan = (list: readonly Lexeme[], context: CallContext): Scan => ({
  list,
  context,
  i: 0,
  items: [],
  gripHeld: false,
  stringKnown: false,
  double: undefined,
  finger: undefined,
  waiting: [],
  moves: [],
  announced: [],
  announcedBefore: [],
  announcedStarted: false,
  accent: false,
  counting: false,
  unit: undefined,
  pickRow: false,
  chordRow: false,
  dead: 0,
  join: false,
  bothNext: false,
  pick: undefined,
  empty: [],
  unknown: [],
})

export const here = (s: Scan, offset = 0): Lexeme => s.list[s.i + offset] ?? NOTHING
export const text = (s: Scan, offset = 0): string => here(s, offset).text
export const kind = (s: Scan, offset = 0): string => (s.list[s.i + offset] ? here(s, offset).kind : 'stop')
export const is = (s: Scan, offset: number, ...words: readonly string[]): boolean => {
  const one = here(s, offset)
  return one !== NOTHING && one.kind === 'word' && words.includes(one.text)
}
/** Goes over the words if they come next, in this order. */
export function take(s: Scan, ...words: readonly string[]): boolean {
  if (!words.every((word, index) => text(s, index).toLowerCase() === word)) return false
  s.i += words.length
  return true
}
/** Goes over one of the words, if it comes next. */
export function takeOne(s: Scan, ...words: readonly string[]): string | undefined {
  const word = text(s).toLowerCase()
  if (kind(s) !== 'word' && kind(s) !== 'letter') return undefined
  if (!words.includes(word)) return undefined
  s.i++
  return word
}
/** "a", "an": an article, and no string. */
export const isArticle = (s: Scan, offset = 0): boolean => text(s, offset) === 'a' || text(s, offset) === 'an'
export function skipArticle(s: Scan): void {
  if (isArticle(s)) s.i++
}
export const spanFrom = (s: Scan, start: number): Span => ({
  at: s.list[start]?.at ?? 0,
  end: s.list[Math.max(start, s.i - 1)]?.end ?? 0,
})
export const isStop = (s: Scan, offset = 0): boolean => kind(s, offset) === 'stop'
export const atClauseStart = (s: Scan): boolean => {
  const last = s.items.at(-1)
  return !last || last.k === 'stop'
}
/** The items of the clause that is being said. */
export function clauseItems(s: Scan): Item[] {
  const from = s.items.findLastIndex((item) => item.k === 'stop')
  return s.items.slice(from + 1)
}
export const lastNote = (s: Scan): NoteItem | undefined =>
  s.items.findLast((item): item is NoteItem => item.k === 'note')

/** Adds a note with all that was said ahead of it. */
export function sayNote(s: Scan, start: number, note: Partial<NoteItem> & Pick<NoteItem, 'fret'>): NoteItem {
  const item: NoteItem = {
    k: 'note',
    dead: s.dead > 0,
    count: 1,
    marks: s.waiting,
    move: s.moves.shift() ?? announcedMove(s),
    double: s.double,
    finger: s.finger,
    pick: s.pick,
    ...(s.join ? { join: true } : {}),
    ...(s.bothNext ? { both: true } : {}),
    ...(s.accent ? { accent: true } : {}),
    ...note,
    ...spanFrom(s, start),
  }
  s.dead = 0
  s.waiting = []
  s.finger = undefined
  s.pick = undefined
  s.join = false
  s.bothNext = false
  s.accent = false
  s.items.push(item)
  return item
}

/** The next of the movements announced before; the first fret after the announcement is picked. */
function announcedMove(s: Scan): Move | undefined {
  if (s.announced.length === 0) return undefined
  if (!s.announcedStarted) {
    s.announcedStarted = true
    return undefined
  }
  return s.announced.shift()
}
