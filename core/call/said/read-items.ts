// The words of a call, gone through once: what is said, piece by piece.
import { readGrip } from '../../neck/grips/grip'
import type { CallContext } from '../reading'
import { corrected, fix } from './corrections'
import { degreeItems } from './degrees'
import type { Item, Span } from './items'
import { lexemes, type Lexeme } from './lexemes'
import { EMPTY_WORDS } from './lexicon'
import { again, notesAgain, times } from './say-again'
import { amountAfter, pickAgain, release } from './say-bends'
import { gripChange, slidGrip } from './say-changes'
import { barre, finger, plainFret } from './say-frets'
import { countedRhythm, place, rest, steps, strokeWay } from './say-hand'
import { length } from './say-lengths'
import { allOnString, bothOrAlone, fretAhead, letterOrString, onStrings, speaksOfChords } from './say-letters'
import { accentOrSound, mark } from './say-marks'
import { announcedAgain, movement, sideAfter } from './say-moves'
import { bassNote, countAhead, counted, everyBeat, pickWord, pluckedRow, withFinger } from './say-rows'
import { chordFor, chordToChord, namedChord, shapeChord, strokesOnChord, struckChord } from './say-shapes'
import { isLetter, whichAt } from './say-strings'
import { asMove, fretToFret, trill, wayTo } from './say-ways-along'
import { here, is, isArticle, isStop, kind, spanFrom, startScan, text, type Scan } from './scan'

export interface Said {
  items: Item[]
  empty: Span[]
  unknown: Span[]
  list: readonly Lexeme[]
}

function stop(s: Scan): boolean {
  const then = is(s, 0, 'then')
  if (!then && (!isStop(s) || s.i >= s.list.length)) return false
  const and = is(s, 0, 'and') && is(s, 1, 'then')
  const said = then || and ? 'then' : text(s)
  s.i++
  s.pickRow = false
  s.items.push({ k: 'stop', text: said, ...spanFrom(s, s.i - 1) })
  return true
}

function conjunction(s: Scan): boolean {
  if (is(s, 0, 'and')) {
    s.i++
    if (is(s, 0, 'then')) return stop(s)
    s.items.push({ k: 'and', ...spanFrom(s, s.i - 1) })
    return true
  }
  if (is(s, 0, 'with')) {
    if (withFinger(s)) return true
    s.i++
    s.join = s.items.some((item) => item.k === 'note') && withNote(s)
    return true
  }
  if (is(s, 0, 'together', 'dyads')) {
    const pairs = is(s, 0, 'dyads')
    s.i++
    s.items.push({ k: 'together', pairs, ...spanFrom(s, s.i - 1) })
    return true
  }
  return false
}

/** "with the high D open", "with 7 on the D": a note that sounds with the one before. */
function withNote(s: Scan): boolean {
  for (let offset = 0; !isStop(s, offset) && offset < 4; offset++)
    if (fretAhead(s, offset) || isLetter(s, offset) || whichAt(s, offset)) return true
  return false
}

function gripText(s: Scan): boolean {
  if (kind(s) !== 'grip') return false
  const grip = readGrip(text(s), s.context.part.tuning.openMidi.length)
  if (!grip) return false
  s.i++
  s.items.push({ k: 'grip', grip, ...spanFrom(s, s.i - 1) })
  s.gripHeld = true
  return true
}

function emptyWord(s: Scan): boolean {
  if (kind(s) !== 'word' || !EMPTY_WORDS.has(text(s))) {
    if (!isArticle(s)) return false
  }
  s.empty.push({ at: here(s).at, end: here(s).end })
  s.i++
  return true
}

/** What may come next in a call, in the order it is tried. */
const READERS: readonly ((s: Scan) => boolean)[] = [
  stop,
  fix,
  countAhead,
  allOnString,
  everyBeat,
  shapeChord,
  strokesOnChord,
  slidGrip,
  notesAgain,
  gripText,
  again,
  times,
  chordToChord,
  chordFor,
  struckChord,
  length,
  steps,
  rest,
  strokeWay,
  (s) => namedChord(s, false),
  gripChange,
  countedRhythm,
  bassNote,
  pluckedRow,
  place,
  barre,
  counted,
  announcedAgain,
  amountAfter,
  pickAgain,
  movement,
  asMove,
  sideAfter,
  wayTo,
  release,
  trill,
  accentOrSound,
  mark,
  finger,
  pickWord,
  fretToFret,
  bothOrAlone,
  onStrings,
  letterOrString,
  conjunction,
  (s) => plainFret(s, 1),
  emptyWord,
]

/** Everything said in a call, with the words that carry nothing and those that were not understood. */
export function readItems(call: string, context: CallContext): Said {
  const list = lexemes(call, context.part.tuning.openMidi.length)
  const degrees = degreeItems(list, context)
  if (degrees) return { items: degrees, empty: [], unknown: [], list }
  const s = startScan(list, context)
  const standing = context.before ?? context.content
  s.gripHeld = Boolean(standing?.grips.length && !standing.notes.length)
  s.stringKnown = false
  s.chordRow = speaksOfChords(s)
  while (s.i < list.length) {
    const before = s.i
    if (READERS.some((reader) => reader(s))) {
      if (s.i === before) s.i++
      continue
    }
    s.i = before + 1
    s.unknown.push({ at: list[before]!.at, end: list[before]!.end })
  }
  return { items: corrected(s.items), empty: s.empty, unknown: s.unknown, list }
}
