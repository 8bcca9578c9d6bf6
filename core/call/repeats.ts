// "twice", "three times", "same again but last note 9".
import {
  MOST_EVENTS,
  advance,
  fail,
  hereToken,
  isFret,
  peek,
  skip,
  type Group,
  type Reading,
  type TimedEvent,
} from './reading'
import type { Token } from './tokens'
import { numberOf, ordinalOf, wordOf } from './vocabulary'

/** What "twice" means: the bracket just closed, this clause, or the one before the comma. */
export function recentGroup(r: Reading): Group {
  return r.closed ?? (r.events.length > r.clause.first ? r.clause : (r.clauseBefore ?? r.clause))
}

export function repeatGroup(r: Reading, group: Group, times: number, token: Token): void {
  r.closed = undefined
  const copied = r.events.slice(group.first)
  const length = r.at - group.startTicks
  if (times < 1 || times > 64) fail(r, token, 'Say a number of times up to 64.')
  if (copied.length === 0 || length <= 0) fail(r, token, 'There is nothing before this to repeat.')
  if (copied.length * times > MOST_EVENTS)
    fail(r, token, `That would make more than ${MOST_EVENTS} notes and strokes.`)
  for (let round = 1; round < times; round++)
    copyEvents(r, { events: copied, group, shift: round * length, length }, token)
}

/**
 * Says again what was said in a group: its notes and strokes, and the grips and muting that were said
 * with them, not those that only go on through it.
 */
function copyEvents(
  r: Reading,
  said: { events: readonly TimedEvent[]; group: Group; shift: number; length: number },
  token: Token,
): void {
  const { events, group, shift, length } = said
  const from = Math.min(...events.map((event) => event.startTicks))
  const inside = <T extends { startTicks: number }>(list: readonly T[]): T[] =>
    list
      .filter((entry) => entry.startTicks >= from && entry.startTicks < from + length)
      .map((entry) => ({ ...entry, startTicks: entry.startTicks + shift }))
  if (shift > 0) {
    r.holds.push(...inside(r.holds.slice(group.firstHold)))
    r.mutes.push(...inside(r.mutes.slice(group.firstMute)))
  }
  r.last = {
    kind: events.at(-1)!.layer === 'note' ? 'notes' : 'stroke',
    startTicks: events.at(-1)!.startTicks + shift,
    first: r.events.length + events.length - 1,
  }
  r.events.push(
    ...events.map((event): TimedEvent => ({ ...event, token, startTicks: event.startTicks + shift })),
  )
  advance(r, length, token)
}

/** Which notes of the line said again are to be others. */
interface Replaced {
  /** Notes before the first of them. */
  before: number
  count: number
}

/** "last note", "last two notes", "first note", "note 3". */
function whichNotes(r: Reading, token: Token, lineNotes: number): Replaced {
  const which = peek(r).toLowerCase()
  const ordinal = which === 'note' ? undefined : ordinalOf(which)
  if (which !== 'last' && which !== 'note' && ordinal === undefined)
    fail(r, token, 'But which note?', ['but last note 9', 'but last two notes 9 7', 'but first note 5'])
  r.i++
  const number = numberOf(peek(r))
  const counted = number !== undefined && (which === 'note' || /^notes?$/i.test(peek(r, 1)))
  if (counted) r.i++
  while (/^notes?$/i.test(peek(r))) r.i++
  if (which === 'note') return { before: (number ?? 1) - 1, count: 1 }
  const count = counted ? number : 1
  return { before: ordinal === undefined ? lineNotes - count : ordinal - 1, count }
}

/** Reads what is played instead, until every replaced note has been said. */
function readInstead(r: Reading, token: Token): void {
  const target = r.events[r.replacing[0]!]!
  if (target.layer === 'note' && isFret(r)) r.string = target.string
  else if (!hereToken(r)) fail(r, token, 'But what instead?', ['but last note 9'])
  while (r.replacing.length && r.i < r.list.length && !['\n', ',', ';'].includes(peek(r))) {
    const next = r.events[r.replacing[0]!]!
    if (next.layer === 'note' && isFret(r) && r.list[r.i - 1]?.text.toLowerCase() !== 'string')
      r.string ??= next.string
    r.readToken(r)
  }
  const missing = r.replacing.length
  if (missing)
    fail(r, token, `${missing} more ${missing === 1 ? 'note is' : 'notes are'} missing after this.`)
}

/** "same again", "same again but last note 9", "… but last two notes 9 7", "… but first note 5". */
export function readSame(r: Reading, token: Token): void {
  const here = { ...r.line, endTicks: r.at, end: r.events.length }
  const source = r.events.length > r.line.first ? here : r.lineBefore
  if (!source) fail(r, token, 'There is no line before this to play again.')
  const events = r.events.slice(source.first, source.end)
  const start = r.events.length
  const shift = r.at - source.startTicks
  copyEvents(r, { events, group: source, shift, length: source.endTicks - source.startTicks }, token)
  while (peek(r) === ',' && wordOf(peek(r, 1)) === undefined && peek(r, 1).toLowerCase() === 'but') r.i++
  if (peek(r).toLowerCase() !== 'but') return
  r.i++
  skip(r, 'the')
  const { before, count } = whichNotes(r, token, events.length)
  if (before < 0 || before + count > events.length) fail(r, token, `That line has ${events.length} notes.`)
  r.string = undefined
  r.replacing = Array.from({ length: count }, (_, index) => start + before + index)
  readInstead(r, token)
}
