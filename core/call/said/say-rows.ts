// Things that are counted or said in rows: "two dead", "5 3 2 3", "on every beat".
import { beatTicks } from '../../time/meter'
import { bend } from './say-bends'
import { fingerAt, openStrings, plainFret, powerChord, takeCount } from './say-frets'
import { stroke } from './say-hand'
import {
  atClauseStart,
  clauseItems,
  here,
  is,
  kind,
  lastNote,
  sayNote,
  spanFrom,
  takeOne,
  text,
  type Scan,
} from './scan'

/** "two notes on the D": how many are coming, which their frets say as well. */
export function countAhead(s: Scan): boolean {
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

/** "strum down on every beat". */
export function everyBeat(s: Scan): boolean {
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

/** Where in the words ahead the numbers of a row are that can be strings, and where the row ends. */
function rowAhead(s: Scan): { at: number[]; end: number } {
  const strings = s.context.part.tuning.openMidi.length
  const at: number[] = []
  let end = 0
  for (; ; end++) {
    if (text(s, end) === ',' && kind(s, end + 1) === 'number') continue
    const { value } = here(s, end)
    if (kind(s, end) !== 'number' || value < 1 || value > strings || is(s, end + 1, 'times')) break
    at.push(end)
  }
  return { at, end }
}
/** Strings are named in the words ahead: numbers are frets on them. */
const stringsAhead = (s: Scan): boolean =>
  s.list
    .slice(s.i + 1)
    .some((word) => word.kind === 'letter' || word.text === 'fret' || word.text === 'string')

/** Numbers in a row while a grip is held: strings to pluck, "5 3 2 3". */
export function pluckedRow(s: Scan): boolean {
  if (!s.gripHeld || kind(s) !== 'number') return false
  const fretted = clauseItems(s).some((item) => item.k === 'note' && item.fret !== 'grip')
  if (!s.pickRow && (fretted || stringsAhead(s))) return false
  const { at, end } = rowAhead(s)
  if (at.length < (s.pickRow ? 1 : 3) || is(s, end, 'on', 'of')) return false
  const start = s.i
  for (const offset of at) {
    s.i = start + offset + 1
    sayNote(s, start + offset, { fret: 'grip', strings: [{ number: here(s, -1).value }] })
  }
  return true
}

export function pickWord(s: Scan): boolean {
  const note = lastNote(s)
  if (is(s, 0, 'pick') && is(s, 1, 'down', 'up') && note) {
    note.pick = is(s, 1, 'down') ? 'down' : 'up'
    s.i += 2
    return true
  }
  if (!is(s, 0, 'pick', 'thumb')) return false
  s.pickRow = s.gripHeld
  s.i++
  return true
}

/** "5 with the first finger": whose finger the note before has. */
export function withFinger(s: Scan): boolean {
  const offset = is(s, 1, 'your') ? 2 : 1
  const said = fingerAt(s, offset)
  const note = clauseItems(s).findLast((item) => item.k === 'note')
  if (!said || note?.k !== 'note') return false
  note.finger = said
  s.i += offset + 1
  return true
}

/** The lowest string of the grip: "bass note". */
export function bassNote(s: Scan): boolean {
  if (!is(s, 0, 'bass') || !s.gripHeld) return false
  const start = s.i
  s.i++
  takeOne(s, 'note', 'string', 'strings')
  sayNote(s, start, { fret: 'grip', strings: [{ bass: true }] })
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
export function counted(s: Scan): boolean {
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
