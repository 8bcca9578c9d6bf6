// Letters and ordinals: strings where frets go, strings that are plucked, or chords.
import type { StringSpec } from './items'
import { stringsOpen, takeFret } from './say-frets'
import { namedChord } from './say-shapes'
import { isLetter, namesString, sayStrings, stringList, whichAt } from './say-strings'
import { clauseItems, here, is, isStop, kind, lastNote, sayNote, spanFrom, takeOne, type Scan } from './scan'

/** "5, 7, 5, all on the A": every fret before it. */
export function allOnString(s: Scan): boolean {
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

/** Frets of this clause that no string has been said for. */
const unbound = (s: Scan): boolean => {
  const clause = clauseItems(s)
  const bound = clause.findLastIndex((item) => item.k === 'strings')
  return clause.slice(bound + 1).some((item) => item.k === 'note' && !item.strings)
}

export const fretAhead = (s: Scan, offset = 0): boolean =>
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

/** "12, 11, on the G": said last of all and by itself, it is the string of everything before it. */
function isLastOfAll(s: Scan): boolean {
  const note = lastNote(s)
  return s.i >= s.list.length && !s.gripHeld && note !== undefined && !note.strings
}

/** "on both", "on the same string": nothing but what is on already. */
function onTheSame(s: Scan, start: number): boolean {
  if (!is(s, 0, 'both', 'samestring', 'it')) return false
  if (is(s, 0, 'both')) markBoth(s)
  s.i++
  s.empty.push(spanFrom(s, start))
  return true
}

/** "on the G", "of the fourth string", "on both". */
export function onStrings(s: Scan): boolean {
  if (!is(s, 0, 'on', 'of', 'over', 'for', 'across', 'from', 'to')) return false
  const start = s.i
  const to = is(s, 0, 'to')
  s.i++
  if (!to && onTheSame(s, start)) return true
  const list = stringList(s, !to && (unbound(s) || is(s, -1, 'of')) && !s.finger)
  if (!list) {
    s.i = start
    return false
  }
  const clause = clauseItems(s)
  if (!to && clause.length === 0 && isLastOfAll(s)) {
    s.items.push({ k: 'strings', specs: list, after: true, alone: true, ...spanFrom(s, start) })
    return true
  }
  return stringsSaid(s, start, list, !to && clause.some((item) => item.k === 'note'))
}

/** "7 on both strings": the note before goes on the pair. */
function markBoth(s: Scan): void {
  const note = clauseItems(s).findLast((item) => item.k === 'note')
  if (note?.k === 'note') note.both = true
  else s.bothNext = true
}

/** "both" ahead of its frets, "four on its own". */
export function bothOrAlone(s: Scan): boolean {
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

/** A letter by itself, with nothing around that makes it a string. */
const isLone = (s: Scan): boolean =>
  isLetter(s) && !here(s).the && !is(s, 1, 'string', 'open') && !fretAhead(s, 1) && !unbound(s)

/** A letter or an ordinal that is a string, or a chord by itself. */
export function letterOrString(s: Scan): boolean {
  const start = s.i
  if (!namesString(s) && !is(s, 0, 'string')) return false
  if (isLone(s) && (s.chordRow || !is(s, 1, 'and')) && loneChord(s)) return namedChord(s, true)
  if (stringsOpen(s) || ordinalFret(s)) return true
  const list = stringList(s, unbound(s))
  if (!list) return false
  const first = clauseItems(s).find((item) => item.k === 'note' || item.k === 'strings')
  return stringsSaid(s, start, list, unbound(s) && (first?.k === 'note' || !fretAhead(s)))
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
  const fret = takeFret(s, true)
  if (fret === undefined) return false
  sayNote(s, start, { fret })
  return true
}

/** Whether a letter by itself names a chord here: no string of this call was told by letters alone. */
function loneChord(s: Scan): boolean {
  if (s.chordRow) return true
  const first = !s.items.some((item) => item.k !== 'stop')
  return first && !s.stringKnown && !(isLetter(s, 1) || whichAt(s, 1))
}

/** A letter that no string here is called by. */
const foreign = (s: Scan, letter: string): boolean =>
  !s.context.letters.some((name) => name[0]?.toLowerCase() === letter[0]?.toLowerCase()) &&
  !'EADGB'.includes(letter[0]!.toUpperCase())

/** "D seven": a number in a word right behind a letter, and no other behind it. */
const isSeventh = ({ list }: Scan, index: number): boolean =>
  ['six', 'seven', 'nine', 'eleven', 'thirteen'].includes(list[index]?.text ?? '') &&
  (list[index - 1]?.kind === 'letter' ||
    ['minor', 'major', 'flat', 'sharp'].includes(list[index - 1]?.text ?? '')) &&
  list[index + 1]?.kind !== 'number'

/** Letters are chords in a call that speaks of chords and of no strings: "D, A, B minor, G". */
export function speaksOfChords(s: Scan): boolean {
  const { list } = s
  const chordNames = list.some(
    (word) => word.kind === 'chord' || (word.kind === 'letter' && word.text !== 'a' && foreign(s, word.text)),
  )
  const strings = list.some(
    (word, index) =>
      word.text === 'string' ||
      ['pick', 'bass', 'together', 'thumb', 'open'].includes(word.text) ||
      word.text === 'e' ||
      (word.kind === 'letter' &&
        ['low', 'high', 'top', 'on', 'of', 'open'].includes(list[index - 1]?.text ?? '')) ||
      (!chordNames &&
        word.kind === 'letter' &&
        list[index + 1]?.kind === 'letter' &&
        list[index + 1]?.text !== 'a'),
  )
  if (strings) return false
  const letters = list.filter((word) => word.kind === 'letter' && word.text !== 'a').length
  const names = list.some(
    (word) =>
      word.kind === 'chord' || ['minor', 'major', 'measure', 'change', 'chord', 'bar'].includes(word.text),
  )
  if (chordNames && letters > 0 && !list.some((word) => word.text === 'fret')) return true
  const frets =
    list.some((word, index) => word.kind === 'number' && word.value > 4 && !isSeventh(s, index)) ||
    list.some((word) => word.text === 'fret')
  return !frets && (names ? letters > 0 : letters > 1)
}
