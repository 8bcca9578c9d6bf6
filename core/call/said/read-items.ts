// The words of a call, gone through once: what is said, piece by piece.
import { readGrip } from '../../fretboard/grips/grip'
import { beatTicks } from '../../time/meter'
import type { CallContext } from '../reading'
import { degreeItems } from './degrees'
import type { Item, Span, StringSpec } from './items'
import { lexemes, type Lexeme } from './lexemes'
import { EMPTY_WORDS } from './lexicon'
import { again, corrected, fix, notesAgain, times } from './say-again'
import { gripChange } from './say-changes'
import {
  shapeChord,
  strokesOnChord,
  chordFor,
  chordToChord,
  length,
  namedChord,
  struckChord,
} from './say-chords'
import {
  barre,
  finger,
  fingerAt,
  openStrings,
  plainFret,
  takeFret,
  powerChord,
  stringsOpen,
  takeCount,
} from './say-frets'
import { countedRhythm, place, rest, steps, stroke, strokeWay } from './say-hand'
import { accentOrSound, mark } from './say-marks'
import {
  announcedAgain,
  amountAfter,
  pickAgain,
  amountAfter,
  pickAgain,
  asMove,
  bend,
  fretToFret,
  movement,
  release,
  sideAfter,
  trill,
  wayTo,
} from './say-moves'
import { isLetter, sayStrings, stringList, whichAt } from './say-strings'
import {
  atClauseStart,
  clauseItems,
  here,
  is,
  isArticle,
  isStop,
  kind,
  lastNote,
  sayNote,
  spanFrom,
  startScan,
  takeOne,
  text,
  type Scan,
} from './scan'

export interface Said {
  items: Item[]
  empty: Span[]
  unknown: Span[]
  list: readonly Lexeme[]
}

/** "two notes on the D": how many are coming, which their frets say as well. */
function countAhead(s: Scan): boolean {
  const plural = is(s, 1, 'string') && here(s, 1).plural
  if (kind(s) === 'number' && (is(s, 1, 'notes', 'note') || plural) && here(s).value <= 12) {
    s.empty.push({ at: here(s).at, end: here(s, 1).end })
    s.i += 2
    s.counting = true
    s.stringKnown = s.stringKnown || plural
    return true
  }
  if (s.counting && text(s) === 'one' && is(s, 1, 'on') && atClauseStart(s)) {
    s.empty.push({ at: here(s).at, end: here(s).end })
    s.i++
    return true
  }
  return false
}

/** "5, 7, 5, all on the A": every fret before it. */
function allOnString(s: Scan): boolean {
  if (!is(s, 0, 'all') || !is(s, 1, 'on')) return false
  const start = s.i
  s.i += 2
  const specs = stringList(s, true)
  if (!specs || !isStop(s)) {
    s.i = start
    return false
  }
  s.items.push({ k: 'strings', specs, after: true, alone: true, ...spanFrom(s, start) })
  s.stringKnown = true
  return true
}

/** "strum down on every beat". */
function everyBeat(s: Scan): boolean {
  const offset = is(s, 0, 'on') ? 1 : 0
  if (!is(s, offset, 'every', 'each') || !is(s, offset + 1, 'beat')) return false
  const last = s.items.at(-1)
  if (last?.k !== 'stroke') return false
  const at = s.i
  s.i += offset + 2
  s.items.splice(-1, 0, { k: 'step', ticks: beatTicks(s.context.meter), ...spanFrom(s, at) })
  last.count = s.context.meter.beats
  return true
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

/** Frets of this clause that no string has been said for. */
const unbound = (s: Scan): boolean => {
  const clause = clauseItems(s)
  const bound = clause.findLastIndex((item) => item.k === 'strings')
  return clause.slice(bound + 1).some((item) => item.k === 'note' && !item.strings)
}
const fretAhead = (s: Scan, offset = 0): boolean =>
  kind(s, offset) === 'number' ||
  (kind(s, offset) === 'ordinal' && is(s, offset + 1, 'fret')) ||
  is(
    s,
    offset,
    'open',
    'dead',
    'hammer',
    'pull',
    'slide',
    'bend',
    'fret',
    'muted',
    'mute',
    'harmonic',
    'palm',
    'prebend',
  )

/** A string by itself while a grip is held is plucked; else it is where frets go. */
function stringsSaid(s: Scan, start: number, specs: StringSpec[], after: boolean): boolean {
  const frets = unbound(s)
  takeOne(s, 'together')
  const together = is(s, -1, 'together')
  const ahead =
    fretAhead(s) ||
    is(s, 0, 'at', 'on') ||
    (isStop(s) && s.i < s.list.length && fretAhead(s, 1) && kind(s, 1) === 'number')
  if (s.gripHeld && !frets && !ahead) {
    sayNote(s, start, { fret: 'grip', strings: specs })
    s.stringKnown = true
    return true
  }
  sayStrings(s, start, specs, after)
  if (together) s.items.push({ k: 'together', pairs: false, ...spanFrom(s, start) })
  return true
}

/** "on the G", "of the fourth string", "on both". */
function onStrings(s: Scan): boolean {
  if (!is(s, 0, 'on', 'of', 'over', 'for', 'across', 'from', 'to')) return false
  const start = s.i
  const to = is(s, 0, 'to')
  s.i++
  if (is(s, 0, 'both', 'samestring', 'it') && !to) {
    if (is(s, 0, 'both')) markBoth(s)
    s.i++
    s.empty.push(spanFrom(s, start))
    return true
  }
  const list = stringList(s, !to && (unbound(s) || is(s, -1, 'of')) && !s.finger)
  if (!list) {
    s.i = start
    return false
  }
  return stringsSaid(s, start, list, !to && clauseItems(s).some((item) => item.k === 'note'))
}

/** "7 on both strings": the note before goes on the pair. */
function markBoth(s: Scan): void {
  const note = clauseItems(s).findLast((item) => item.k === 'note')
  if (note?.k === 'note') note.both = true
  else s.bothNext = true
}

/** "both" ahead of its frets, "four on its own". */
function bothOrAlone(s: Scan): boolean {
  const start = s.i
  if (is(s, 0, 'both')) {
    s.i++
    if (isLetter(s) || whichAt(s) || kind(s) === 'ordinal') return false
    takeOne(s, 'on')
    if (clauseItems(s).some((item) => item.k === 'note') && !fretAhead(s) && !is(s, 0, 'at')) markBoth(s)
    else s.bothNext = true
    return true
  }
  if (kind(s) === 'number' && is(s, 1, 'alone') && here(s).value <= s.context.part.tuning.openMidi.length) {
    s.i += 2
    sayStrings(s, start, [{ number: here(s, -2).value }], false)
    return true
  }
  return false
}

/** A letter or an ordinal that is a string, or a chord by itself. */
function letterOrString(s: Scan): boolean {
  const start = s.i
  const letter = isLetter(s)
  if (!letter && !whichAt(s) && kind(s) !== 'ordinal' && !is(s, 0, 'string')) return false
  const lone = letter && !here(s).the && !is(s, 1, 'string', 'open') && !fretAhead(s, 1) && !unbound(s)
  if (lone && (s.chordRow || !is(s, 1, 'and')) && loneChord(s)) return namedChord(s, true)
  if (stringsOpen(s)) return true
  if (ordinalFret(s)) return true
  const list = stringList(s, unbound(s))
  if (!list) return false
  const clause = clauseItems(s)
  const noteFirst = clause.find((item) => item.k === 'note' || item.k === 'strings')?.k === 'note'
  return stringsSaid(s, start, list, unbound(s) && (noteFirst || !fretAhead(s)))
}

/** "the fifth fret, then the seventh": an ordinal by itself goes on as those before it did. */
function ordinalFret(s: Scan): boolean {
  if (kind(s) !== 'ordinal' || is(s, 1, 'string', 'and') || unbound(s) || !lastNote(s)) return false
  const before = s.list.slice(0, s.i)
  const frets = before.findLastIndex(
    (word, index) => word.kind === 'ordinal' && s.list[index + 1]?.text === 'fret',
  )
  const strings = before.findLastIndex(
    (word, index) => word.kind === 'ordinal' && s.list[index + 1]?.text === 'string',
  )
  if (frets === -1 || strings > frets) return false
  const start = s.i
  sayNote(s, start, { fret: takeFret(s, true)! })
  return true
}

/** Whether a letter by itself names a chord here: no string of this call was told by letters alone. */
function loneChord(s: Scan): boolean {
  if (s.chordRow) return true
  const first = !s.items.some((item) => item.k !== 'stop')
  return first && !s.stringKnown && !(isLetter(s, 1) || whichAt(s, 1))
}

/** Numbers in a row while a grip is held: strings to pluck, "5 3 2 3". */
function pluckedRow(s: Scan): boolean {
  if (!s.gripHeld || kind(s) !== 'number') return false
  if (!s.pickRow && clauseItems(s).some((item) => item.k === 'note' && item.fret !== 'grip')) return false
  const strings = s.context.part.tuning.openMidi.length
  let count = 0
  let offset = 0
  const row: number[] = []
  while (kind(s, offset) === 'number' || (text(s, offset) === ',' && kind(s, offset + 1) === 'number')) {
    if (kind(s, offset) === 'number') {
      if (here(s, offset).value < 1 || here(s, offset).value > strings || is(s, offset + 1, 'times')) break
      row.push(offset)
      count++
    }
    offset++
  }
  const named = s.list.some(
    (word, index) =>
      index > s.i && (word.kind === 'letter' || word.text === 'fret' || word.text === 'string'),
  )
  if (count < (s.pickRow ? 1 : 3) || (named && !s.pickRow) || is(s, offset, 'on', 'of')) return false
  const start = s.i
  for (const at of row) {
    s.i = start + at + 1
    sayNote(s, start + at, { fret: 'grip', strings: [{ number: here(s, -1).value }] })
  }
  return true
}

function pickWord(s: Scan): boolean {
  if (is(s, 0, 'pick') && is(s, 1, 'down', 'up') && lastNote(s)) {
    lastNote(s)!.pick = text(s, 1) as 'down' | 'up'
    s.i += 2
    return true
  }
  if (!is(s, 0, 'pick', 'thumb')) return false
  s.pickRow = s.gripHeld
  s.i++
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
/** "5 with the first finger": whose finger the note before has. */
function withFinger(s: Scan): boolean {
  const offset = is(s, 1, 'your') ? 2 : 1
  const said = fingerAt(s, offset)
  const note = clauseItems(s).findLast((item) => item.k === 'note')
  if (!said || note?.k !== 'note') return false
  note.finger = said
  s.i += offset + 1
  return true
}
/** The lowest string of the grip: "bass note". */
function bassNote(s: Scan): boolean {
  if (!is(s, 0, 'bass') || !s.gripHeld) return false
  const start = s.i
  s.i++
  takeOne(s, 'note', 'string', 'strings')
  sayNote(s, start, { fret: 'grip', strings: [{ bass: true }] })
  return true
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

/** "dead note on the A", "muted twice": a note that is dead, or two of them ahead of their string. */
function deadNotes(s: Scan, count: number): boolean {
  const hits = is(s, 0, 'chuck') && !s.gripHeld && (is(s, 1, 'on') || s.stringKnown)
  if ((!hits && !is(s, 0, 'dead', 'mute', 'x')) || (s.gripHeld && !s.stringKnown)) return false
  const start = s.i
  s.i++
  if (kind(s) === 'number' && !is(s, 1, 'times') && !is(s, 1, 'string')) {
    s.dead = count
    return true
  }
  sayNote(s, start, { fret: 0, dead: true, count })
  return true
}

/** Things that may be counted: "two dead", "three open Ds", "two power chords". */
function counted(s: Scan): boolean {
  const start = s.i
  const count = takeCount(s) ?? 1
  const done =
    powerChord(s, count) ||
    bend(s, count) ||
    (!is(s, 0, 'chuck') && stroke(s, count)) ||
    deadNotes(s, count) ||
    stroke(s, count) ||
    openStrings(s, count) ||
    (count > 1 && plainFret(s, count))
  if (!done) s.i = start
  return done
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

/** A letter that no string here is called by. */
const foreign = (s: Scan, letter: string): boolean =>
  !s.context.letters.some((name) => name[0]!.toLowerCase() === letter[0]!.toLowerCase()) &&
  !'EADGB'.includes(letter[0]!.toUpperCase())

/** Letters are chords in a call that speaks of chords and of no strings: "D, A, B minor, G". */
function speaksOfChords(s: Scan): boolean {
  const { list } = s
  const chordNames = list.some(
    (word) => word.kind === 'chord' || (word.kind === 'letter' && word.text !== 'a' && foreign(s, word.text)),
  )
  const strings = list.some(
    (word, index) =>
      word.text === 'string' ||
      ['pick', 'bass', 'together', 'thumb'].includes(word.text) ||
      word.text === 'e' ||
      (word.kind === 'letter' &&
        ['low', 'high', 'top', 'on', 'of', 'open'].includes(list[index - 1]?.text ?? '')) ||
      (!chordNames &&
        word.kind === 'letter' &&
        list[index + 1]?.kind === 'letter' &&
        list[index + 1]!.text !== 'a'),
  )
  if (strings) return false
  const letters = list.filter((word) => word.kind === 'letter' && word.text !== 'a').length
  const names = list.some(
    (word) =>
      word.kind === 'chord' || ['minor', 'major', 'measure', 'change', 'chord', 'bar'].includes(word.text),
  )
  if (chordNames && letters > 0 && !list.some((word) => word.text === 'fret')) return true
  const frets =
    list.some((word) => word.kind === 'number' && word.value > 4) || list.some((word) => word.text === 'fret')
  return !frets && (names ? letters > 0 : letters > 1)
}

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
