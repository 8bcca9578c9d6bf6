// Referring back and correcting oneself: "again", "same thing on the B", "that whole thing up two frets",
// "but finish on 7", "twice", "sorry", "scratch that".
import type { Item, ItemOf, ReferenceHow, StringSpec } from './items'
import { isMark } from './say-marks'
import {
  atClauseStart,
  clauseItems,
  here,
  is,
  isArticle,
  isStop,
  kind,
  skipArticle,
  spanFrom,
  takeOne,
  text,
  type Scan,
} from './scan'
import { oneString, stringList } from './say-strings'
import { takeFret } from './say-frets'
import { takeChordName } from './say-chords'

/** "twice", "three times", "x2": how often, all in all. */
function takeTimes(s: Scan): number | undefined {
  if (takeOne(s, 'twice')) return 2
  if (takeOne(s, 'once')) return 1
  if (kind(s) === 'count') {
    s.i++
    return here(s, -1).value
  }
  if (kind(s) === 'number' && is(s, 1, 'times', 'more') && here(s).value <= 64) {
    const times = here(s).value
    const more = is(s, 1, 'more')
    s.i += 2
    if (more) takeOne(s, 'times')
    return more ? times + 1 : times
  }
  return undefined
}

export function times(s: Scan): boolean {
  const start = s.i
  // "four of them", after what they are.
  if (kind(s) === 'number' && is(s, 1, 'of') && is(s, 2, 'them', 'those', 'it', 'these')) {
    s.i += 3
    s.items.push({ k: 'times', times: here(s, -3).value, whole: false, more: false, ...spanFrom(s, start) })
    return true
  }
  const said = takeTimes(s)
  if (said === undefined) return false
  const more = s.list.slice(start, s.i).some((word) => word.text === 'more')
  takeOne(s, 'each')
  s.items.push({ k: 'times', times: said, whole: false, more, ...spanFrom(s, start) })
  return true
}

const NUMBERED = (s: Scan): number | undefined => {
  const start = s.i
  skipArticle(s)
  const one = is(s, 0, 'couple') ? 2 : kind(s) === 'number' ? here(s).value : undefined
  if (one === undefined) {
    s.i = start
    return isArticle({ ...s, i: start }) ? 1 : undefined
  }
  s.i++
  return one
}

/** "up two frets", "two frets lower", "down a fret", "up a half step". */
function fretsMoved(s: Scan): ReferenceHow | undefined {
  const start = s.i
  const way = takeOne(s, 'up', 'down')
  const half = way && isArticle(s) && is(s, 1, 'halfstep', 'full') ? 1 : 0
  s.i += half
  if (way && takeOne(s, 'halfstep')) return { how: 'frets', by: way === 'down' ? -1 : 1 }
  if (way && takeOne(s, 'full')) return { how: 'frets', by: way === 'down' ? -2 : 2 }
  const number = NUMBERED(s) ?? (is(s, 0, 'fret') ? 1 : undefined)
  if (isArticle(s) && is(s, 1, 'fret')) s.i++
  if (number !== undefined && takeOne(s, 'fret')) {
    const late = takeOne(s, 'up', 'down', 'higher', 'lower', 'above', 'below')
    const said = way ?? late
    if (said) return { how: 'frets', by: /down|lower|below/.test(said) ? -number : number }
  }
  s.i = start
  return undefined
}

/** "one string over", "one set of strings higher", "up a string": how many strings, higher above 0. */
function setMoved(s: Scan): ReferenceHow | undefined {
  const start = s.i
  const way = takeOne(s, 'up', 'down', 'over')
  const number = NUMBERED(s) ?? 1
  if (isArticle(s)) s.i++
  if (takeOne(s, 'stringset', 'string', 'set')) {
    while (takeOne(s, 'of', 'string')) continue
    const said = takeOne(s, 'up', 'down', 'higher', 'lower', 'over', 'across') ?? way
    if (said) {
      const to = thereAfter(s)
      if (to) return { how: 'strings', specs: to }
      return { how: 'set', by: /down|lower/.test(said) ? -number : number }
    }
  }
  s.i = start
  return undefined
}
/** "one string over, on the A": the string it goes to, said after. */
function thereAfter(s: Scan): StringSpec[] | undefined {
  const start = s.i
  if (text(s) === ',') s.i++
  const specs = takeOne(s, 'on', 'to') ? stringList(s, true) : undefined
  if (!specs) s.i = start
  return specs
}

function onStrings(s: Scan): ReferenceHow | undefined {
  const start = s.i
  if (takeOne(s, 'on', 'over', 'to', 'with', 'for')) {
    takeOne(s, 'on', 'to')
    const specs = stringList(s, true)
    if (specs) return { how: 'strings', specs }
  }
  s.i = start
  return undefined
}

function beginOn(s: Scan, sure: boolean): ReferenceHow | undefined {
  const start = s.i
  if (takeOne(s, 'begin', 'from', 'at', ...(sure ? ['on'] : []))) {
    skipArticle(s)
    const specs = stringList(s)
    if (specs) return { how: 'strings', specs }
    const fret = takeFret(s, true)
    if (fret !== undefined && !is(s, 0, 'string')) return { how: 'start', fret }
  }
  s.i = start
  return undefined
}

const WAYS: Readonly<Record<string, ReferenceHow>> = {
  octavehigher: { how: 'octave', by: 1 },
  octavelower: { how: 'octave', by: -1 },
  backwards: { how: 'backwards' },
  thirdabove: { how: 'harmony', interval: 3, inKey: true },
  thirdbelow: { how: 'harmony', interval: -3, inKey: true },
  sixthabove: { how: 'harmony', interval: 6, inKey: true },
  fifthabove: { how: 'harmony', interval: 5, inKey: true },
}
function wordWay(s: Scan): ReferenceHow | undefined {
  const article = isArticle(s) ? 1 : 0
  const word = text(s, article)
  if (kind(s, article) !== 'word' || !Object.hasOwn(WAYS, word)) return undefined
  s.i += article + 1
  while (takeOne(s, 'inkey') || (text(s) === ',' && is(s, 1, 'inkey'))) if (text(s) === ',') s.i++
  return WAYS[word]
}

const takeWayBack = (s: Scan, sure: boolean): ReferenceHow | undefined =>
  wordWay(s) ?? fretsMoved(s) ?? setMoved(s) ?? onStrings(s) ?? beginOn(s, sure)

/** "but finish on 7 of the D", "but last two notes 9 7", "with the last note left out". */
function takeEnding(s: Scan, item: ItemOf<'again'>): boolean {
  const start = s.i
  while (
    takeOne(s, 'but', 'and', 'with', 'only', 'just', 'except', 'this', 'time') ||
    (text(s) === ',' && !isStop(s, 1))
  ) {
    if (text(s) === ',') s.i++
  }
  if (takeOne(s, 'without')) {
    skipArticle(s)
    const count = takeLast(s)
    if (count) {
      item.drop = count
      return true
    }
  }
  const finish = takeOne(s, 'finish')
  const count = takeLast(s)
  if (count && takeOne(s, 'leftout', 'without')) {
    item.drop = count
    return true
  }
  if (finish || count) {
    const ending = endingNotes(s, Math.max(1, count ?? 1))
    if (ending.length) {
      item.ending = ending
      return true
    }
  }
  s.i = start
  return false
}
function takeLast(s: Scan): number | undefined {
  if (!takeOne(s, 'last')) return undefined
  const count = kind(s) === 'number' && is(s, 1, 'notes', 'note') ? here(s).value : 1
  if (kind(s) === 'number' && is(s, 1, 'notes', 'note')) s.i++
  while (takeOne(s, 'notes', 'note', 'is', 'being', 'on', 'to', 'goes', 'becomes')) continue
  return count
}
function endingNotes(s: Scan, most: number): NonNullable<ItemOf<'again'>['ending']> {
  const notes: NonNullable<ItemOf<'again'>['ending']> = []
  while (notes.length < most) {
    const start = s.i
    while (takeOne(s, 'on', 'with', 'at', 'and')) continue
    skipArticle(s)
    const ahead = oneString(s)
    const fret = takeFret(s, true)
    if (fret === undefined) {
      s.i = start
      break
    }
    const before = s.i
    const late = ahead ?? (takeOne(s, 'of', 'on') ? oneString(s, true) : undefined)
    if (!late) s.i = before
    notes.push({
      k: 'note',
      fret,
      dead: false,
      count: 1,
      marks: [],
      ...(late ? { strings: late } : {}),
      ...spanFrom(s, start),
    })
  }
  return notes
}

/** "the last two notes again". */
export function notesAgain(s: Scan): boolean {
  if (!atClauseStart(s) || !(is(s, 0, 'last') || (kind(s) === 'ordinal' && here(s).value === 1))) return false
  const first = kind(s) === 'ordinal'
  const start = s.i
  s.i++
  const count = kind(s) === 'number' ? here(s).value : 1
  if (kind(s) === 'number') s.i++
  takeOne(s, 'notes', 'note')
  if (!takeOne(s, 'again', 'twice')) {
    s.i = start
    return false
  }
  s.items.push({ k: 'again', whole: true, ways: [], times: 1, part: { first, count }, ...spanFrom(s, start) })
  return true
}

const BARS: Readonly<Record<string, number>> = { firstbar: 0, secondbar: 1 }

/** What is played again, and how: "same thing on the B, but finish on 7". */
export function again(s: Scan): boolean {
  const start = s.i
  const inClause = clauseItems(s).some((item) => item.k === 'note' || item.k === 'stroke')
  const move =
    is(s, 0, 'move', 'shift', 'transpose', ...(is(s, 1, 'wholething') ? ['slide'] : [])) &&
    is(s, 1, 'it', 'that', 'wholething', 'same', 'this', 'those')
  if (move) s.i += 1
  const bar = kind(s) === 'word' && Object.hasOwn(BARS, text(s)) ? BARS[text(s)] : undefined
  const like = is(s, 0, 'like', 'back') && Object.hasOwn(BARS, text(s, is(s, 1, 'to') ? 2 : 1))
  if (like) s.i += is(s, 1, 'to') ? 2 : 1
  const word = takeOne(
    s,
    'again',
    'same',
    'wholething',
    'repeat',
    'samerhythm',
    'firstbar',
    'secondbar',
    'it',
    'that',
    'this',
    'those',
  )
  if (word === 'wholething' && isMark(s)) {
    s.i = start
    return false
  }
  if (!word) return wayAlone(s, start)
  const weak = /^(it|that|this|those)$/.test(word)
  if (word === 'again' && inClause) {
    s.empty.push(spanFrom(s, start))
    return true
  }
  if (word === 'samerhythm') return sameRhythm(s, start)
  const item: ItemOf<'again'> = {
    k: 'again',
    whole: word === 'wholething' || move,
    ways: [],
    times: 1,
    at: 0,
    end: 0,
  }
  const barNumber = like || bar !== undefined ? BARS[word] : undefined
  if (barNumber !== undefined) item.bar = barNumber
  const way = takeWays(s, item, !weak)
  if (weak && !move && (!way || item.ways.length === 0)) {
    s.i = start
    return false
  }
  Object.assign(item, spanFrom(s, start))
  s.items.push(item)
  if (word === 'repeat' && item.times === 1) item.whole = true
  return true
}

/** Ways, endings and counts after what is played again; false when none was said. */
function takeWays(s: Scan, item: ItemOf<'again'>, sure: boolean): boolean {
  let found = false
  for (;;) {
    const start = s.i
    while (
      takeOne(
        s,
        'again',
        'wholething',
        'that',
        'it',
        'but',
        'and',
        'thing',
        'just',
        'all',
        'as',
        'before',
        'line',
        'same',
      ) ||
      commaAhead(s)
    ) {
      if (text(s) === ',') s.i++
    }
    const count = takeTimes(s)
    if (count !== undefined) {
      item.times = count
      item.whole = item.whole || item.ways.length === 0
      found = true
      continue
    }
    const way = takeWayBack(s, sure)
    if (way) {
      item.ways.push(way)
      found = true
      continue
    }
    s.i = start
    if (takeEnding(s, item)) {
      found = true
      continue
    }
    s.i = start
    while (takeOne(s, 'again')) continue
    return found
  }
}
/** After a comma only what cannot be a thought of its own goes on with the reference. */
function commaAhead(s: Scan): boolean {
  if (text(s) !== ',') return false
  const start = s.i
  s.i++
  while (takeOne(s, 'but', 'just', 'and', 'only', 'all')) continue
  const goesOn =
    is(s, 0, 'twice', 'inkey', 'without', 'finish', 'last', 'begin') ||
    Boolean(wordWay(s) ?? fretsMoved(s) ?? setMoved(s)) ||
    takeTimes(s) !== undefined
  s.i = start
  return goesOn
}

/** "a third above", "an octave higher", "backwards", said by themselves. */
function wayAlone(s: Scan, start: number): boolean {
  const way = wordWay(s) ?? (atClauseStart(s) ? (fretsMoved(s) ?? setMoved(s)) : undefined)
  if (!way || kind(s) === 'number') {
    s.i = start
    return false
  }
  s.items.push({ k: 'again', whole: true, ways: [way], times: 1, ...spanFrom(s, start) })
  return true
}

function sameRhythm(s: Scan, start: number): boolean {
  takeOne(s, 'on', 'with', 'for', 'but')
  takeOne(s, 'on')
  const symbol = kind(s) === 'number' || is(s, 0, 'open') ? undefined : takeChordName(s, true)
  const fret = symbol === undefined ? takeFret(s, true) : undefined
  s.items.push({
    k: 'again',
    whole: true,
    ways: [
      { how: 'rhythm', ...(fret === undefined ? {} : { fret }), ...(symbol === undefined ? {} : { symbol }) },
    ],
    times: 1,
    ...spanFrom(s, start),
  })
  return true
}

/** "sorry", "I mean", "scratch that"; "no" before a comma or a string said again. */
export function fix(s: Scan): boolean {
  const start = s.i
  if (takeOne(s, 'scratchthat')) {
    s.items.push({ k: 'fix', wipe: true, ...spanFrom(s, start) })
    return true
  }
  const no = is(s, 0, 'no', 'nope', 'not') && text(s, 1) === ',' && s.items.length > 0
  if (!no && !is(s, 0, 'sorry')) return false
  if (s.items.length === 0) return false
  s.i++
  while (takeOne(s, 'sorry', 'no')) continue
  s.items.push({ k: 'fix', wipe: false, ...spanFrom(s, start) })
  return true
}

const contentful = (item: Item): boolean => item.k !== 'stop' && item.k !== 'and'

/** Corrections done: what was taken back is gone, what came instead stands in its place. */
export function corrected(items: readonly Item[]): Item[] {
  const list = [...items]
  for (;;) {
    const at = list.findIndex((item) => item.k === 'fix')
    if (at === -1) return list
    const mark = list[at] as ItemOf<'fix'>
    if (mark.wipe) wipe(list, at)
    else instead(list, at)
  }
}

function wipe(list: Item[], at: number): void {
  let from = at
  while (from > 0 && !contentful(list[from - 1]!)) from--
  while (from > 0 && list[from - 1]!.k !== 'stop') from--
  list.splice(from, at - from + 1)
}

function instead(list: Item[], at: number): void {
  let next = at + 1
  while (next < list.length && !contentful(list[next]!)) next++
  const now = list[next]
  let before = at - 1
  while (before >= 0 && !contentful(list[before]!)) before--
  if (!now || before < 0) {
    list.splice(at, 1)
    return
  }
  if (now.k === 'strings') insteadOfStrings(list, at, next)
  else if (now.k === 'note') insteadOfNote(list, at, next)
  else {
    const old = list.slice(0, at).findLastIndex((item) => item.k === now.k)
    if (old === -1) list.splice(at, 1)
    else list.splice(old, next - old, now)
    if (old !== -1) list.splice(old + 1, 1)
  }
}

function insteadOfStrings(list: Item[], at: number, next: number): void {
  const now = list[next] as ItemOf<'strings'>
  const old = list
    .slice(0, at)
    .findLastIndex((item) => item.k === 'strings' || (item.k === 'note' && item.strings))
  const was = list[old]
  if (was?.k === 'note') {
    was.strings = now.specs
    list.splice(at, next - at + 1)
  } else if (was?.k === 'strings') {
    list[old] = { ...now, after: was.after }
    list.splice(at, next - at + 1)
  } else list.splice(at, 1)
}

function insteadOfNote(list: Item[], at: number, next: number): void {
  const now = list[next] as ItemOf<'note'>
  const old = list.slice(0, at).findLastIndex((item) => item.k === 'note')
  if (old === -1) {
    list.splice(at, 1)
    return
  }
  const end = list.findIndex((item, index) => index > next && item.k === 'stop')
  const clause = list.slice(next + 1, end === -1 ? undefined : end)
  if (now.strings || clause.some((item) => item.k === 'strings')) {
    // Said anew with its string: the note before goes, its string with it.
    list.splice(old, next - old)
    return
  }
  list[old] = { ...(list[old] as ItemOf<'note'>), fret: now.fret, marks: now.marks }
  list.splice(at, next - at + 1)
}
