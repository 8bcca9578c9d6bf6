// What was said, put on strings and in time, piece by piece.
import { withMark } from '../../marks/marks-of'
import type { Mark } from '../../document/schema'
import type { CallContext } from '../reading'
import { bindStrings, type Bound } from './bind'
import { advance, choose, startBuild, type Build, type Moment } from './build'
import { dictatedItems } from './dictated'
import { performChange, performChord, performDictated, performGrip } from './grips-said'
import type { Item, ItemOf, Length } from './items'
import { performNote } from './perform-notes'
import { performPlace, performStroke } from './perform-place'
import { performAgain, repeatMoments } from './references'

const lengthTicks = (b: Build, length: Length): number =>
  'ticks' in length ? length.ticks : length.steps * b.step

function performStop(b: Build, item: ItemOf<'stop'>): void {
  if (b.moments.length > b.clauseFrom) b.clauseBefore = b.clauseFrom
  b.clauseFrom = b.moments.length
  if (item.text !== ',') {
    if (b.moments.length > b.stretchFrom) b.stretchBefore = b.stretchFrom
    b.stretchFrom = b.moments.length
    b.newThought = b.grips.length > 0
  }
  b.clauseMarks = []
}

function performLength(b: Build, item: ItemOf<'length'>): void {
  const ticks = Math.max(1, Math.round(lengthTicks(b, item.length)))
  if (item.each) {
    b.rowLengths = { ticks, each: true }
    return
  }
  const held = b.grips.at(-1)
  const last = b.moments.at(-1)
  if (held && (!last || last.startTicks < held.startTicks || b.moments.length === 0)) held.lengthTicks = ticks
  else if (last) setLength(b, last, ticks)
}

function setLength(b: Build, last: Moment, ticks: number): void {
  b.at = last.startTicks
  last.lengthTicks = ticks
  const covered = b.covered.at(-1)
  if (covered) covered.to = b.at
  advance(b, ticks)
}

function putMark(moment: Moment, put: Mark): void {
  if (moment.stroke) {
    if (put.kind === 'palm mute' || put.kind === 'staccato')
      moment.stroke = { ...moment.stroke, marks: withMark(moment.stroke.marks, put) }
    return
  }
  moment.notes = moment.notes.map((note) => {
    const had = note.marks.some((other) => other.kind === put.kind)
    const pressed = note.fret > 0 || (put.kind !== 'vibrato' && put.kind !== 'bend')
    if (had || !pressed || note.marks.length > 7) return note
    return { ...note, marks: [...note.marks, put] }
  })
}

function performMark(b: Build, item: ItemOf<'mark'>): void {
  const { reach } = item
  const put = (from: number, to = b.moments.length): void => {
    for (const moment of b.moments.slice(Math.max(0, from), to)) putMark(moment, item.mark)
  }
  if (reach === 'following') b.following.push(item.mark)
  else if (reach === 'clause') b.clauseMarks.push(item.mark)
  else if (reach === 'all before') put(0)
  else if (reach === 'all but last') b.allButLast.push(item.mark)
  else if (reach === 'before') put(b.moments.length > b.clauseFrom ? lastGroup(b) : lastGroup(b))
  else put(b.moments.length - reach.last)
}

/** The note before, with the times it was repeated. */
function lastGroup(b: Build): number {
  let from = b.moments.length - 1
  while (
    from > 0 &&
    b.moments[from - 1]?.notes[0]?.at === b.moments[from]?.notes[0]?.at &&
    b.moments[from]!.notes.length > 0
  )
    from--
  return from
}

function performTimes(b: Build, item: ItemOf<'times'>): void {
  if (b.moments.length === 0) {
    // "twice" by itself: what stands before.
    performAgain(b, { ...item, k: 'again', whole: true, ways: [] })
    return
  }
  const inClause = b.moments.length > b.clauseFrom
  const clause = inClause ? b.clauseFrom : b.clauseBefore
  repeatMoments(b, item.whole ? 0 : clause, item.times)
}

function performRest(b: Build, item: ItemOf<'rest'>): void {
  advance(b, Math.round(item.length ? lengthTicks(b, item.length) : b.step))
}

/** "and" between notes joins them in thirds, sixths and octaves, and over the strings of a pair. */
function joinsByAnd(b: Build, items: readonly Item[], index: number): void {
  const note = items[index + 1]
  const before = items[index - 1]
  if (note?.k !== 'note' || !before) return
  if (b.pairs && (before.k === 'note' || before.k === 'strings')) note.join = true
}

type Performer = (b: Build, items: readonly Item[], index: number) => void

const PERFORM: { [K in Item['k']]?: Performer } = {
  note: (b, items, index) => {
    pairUp(b, items, index)
    performNote(b, items, index)
  },
  strings: (b, items, index) => {
    const item = items[index] as ItemOf<'strings'>
    b.current = item.specs
    if (item.specs.length > 1) b.pair = item.specs
  },
  stop: (b, items, index) => performStop(b, items[index] as ItemOf<'stop'>),
  and: joinsByAnd,
  together: (b, items, index) => {
    if ((items[index] as ItemOf<'together'>).pairs) b.pairs = true
    else joinLast(b)
  },
  chord: (b, items, index) => performChord(b, items, index),
  grip: (b, items, index) => performGrip(b, items[index] as ItemOf<'grip'>),
  dictated: (b, items, index) => performDictated(b, items, index),
  change: (b, items, index) => performChange(b, items[index] as ItemOf<'change'>),
  stroke: (b, items, index) => {
    const before = items.slice(0, index).findLast((one) => one.k !== 'stop' && one.k !== 'and')
    performStroke(b, items[index] as ItemOf<'stroke'>, before?.k !== 'stroke')
  },
  rest: (b, items, index) => performRest(b, items[index] as ItemOf<'rest'>),
  place: (b, items, index) => {
    const item = items[index] as ItemOf<'place'>
    const before = items.slice(0, index).findLast((one) => one.k !== 'and' && one.k !== 'stop')
    const clauseBefore =
      items[index - 1]?.k === 'stop' && before?.k !== 'chord' && before?.k !== 'grip' ? undefined : before
    performPlace(
      b,
      item,
      clauseBefore,
      items.slice(index + 1).find((one) => one.k !== 'and'),
    )
  },
  length: (b, items, index) => performLength(b, items[index] as ItemOf<'length'>),
  step: (b, items, index) => {
    b.step = (items[index] as ItemOf<'step'>).ticks
  },
  mark: (b, items, index) => performMark(b, items[index] as ItemOf<'mark'>),
  unmark: (b, items, index) => {
    const { kind } = items[index] as ItemOf<'unmark'>
    const last = b.moments.at(-1)
    if (last)
      last.notes = last.notes.map((note) => ({
        ...note,
        marks: note.marks.filter((one) => one.kind !== kind),
      }))
  },
  times: (b, items, index) => performTimes(b, items[index] as ItemOf<'times'>),
  again: (b, items, index) => performAgain(b, items[index] as ItemOf<'again'>),
}

/** The other fret of a pair: after "and", or directly after it where everything comes in pairs. */
function secondOf(b: Build, items: readonly Item[], index: number): ItemOf<'note'> | undefined {
  const next = items[index + 1]
  const directly = b.pairs || (next?.k === 'note' && next.join) ? next : undefined
  const second = next?.k === 'and' ? items[index + 2] : directly
  return second?.k === 'note' && !second.strings ? second : undefined
}

/** Two frets for a pair of strings, "6 and 7": the second sounds with the first, each on its string. */
function pairUp(b: Build, items: readonly Item[], index: number): void {
  const note = items[index] as ItemOf<'note'>
  if (note.strings || note.both || b.current?.length !== 2) return
  const [low, high, more] = b.pair ?? []
  const second = secondOf(b, items, index)
  if (!second || !low || !high || more) return
  note.strings = [low]
  second.strings = [high]
  second.join = true
  second.move ??= note.move
}

/** "… together": the two notes before sound at once. */
function joinLast(b: Build): void {
  const last = b.moments.at(-1)
  const before = b.moments.at(-2)
  if (!last || !before || b.moments.length - b.clauseFrom < 2) return
  if (last.notes.some((note) => before.notes.some((other) => other.string === note.string))) return
  before.notes.push(...last.notes)
  b.moments.pop()
  b.at = before.startTicks + before.lengthTicks
  const covered = b.covered.at(-1)
  if (covered) covered.to = b.at
  b.pair = before.notes.map((note) => ({ number: note.string }))
  b.current = b.pair
}

const REACH_PRICE = { thought: 0.6, frets: 0.7 }

function bound(b: Build, items: readonly Item[]): Bound {
  const far = bindStrings(items, 'frets')
  const [first] = far.reached
  if (!first) return far
  const last = far.reached.at(-1)!.note
  const options = [
    { words: 'all on the string named after them', price: REACH_PRICE.thought },
    { words: 'on the string before', price: REACH_PRICE.frets },
  ]
  const taken = choose(b, 'reach', { at: first.note.at, end: last.end }, options)
  return taken === 0 ? far : bindStrings(items, 'thought')
}

/** Everything said, performed. Throws a SaidProblem where it cannot be. */
export function perform(
  said: readonly Item[],
  context: CallContext,
  shapes: readonly string[],
  decided: Readonly<Record<string, number>>,
): Build {
  const b = startBuild(context, shapes, decided)
  const { items } = bound(b, dictatedItems(said, b))
  const each = items.find((item): item is ItemOf<'length'> => item.k === 'length' && item.each)
  if (each) b.rowLengths = { ticks: Math.round(lengthTicks(b, each.length)), each: true }
  items.forEach((item, index) => PERFORM[item.k]?.(b, items, index))
  for (const put of b.allButLast) for (const moment of b.moments.slice(0, -1)) putMark(moment, put)
  return b
}
