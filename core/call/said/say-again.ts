// Referring back and correcting oneself: "again", "same thing on the B", "that whole thing up two frets",
// "but finish on 7", "twice", "sorry", "scratch that".
import type { ItemOf } from './items'
import { takeChordName } from './say-chords'
import { takeEnding } from './say-endings'
import { takeFret } from './say-frets'
import { isMark } from './say-marks'
import { fretsMoved, setMoved, takeWayBack, wordWay } from './say-ways'
import { atClauseStart, clauseItems, here, is, kind, spanFrom, takeOne, text, type Scan } from './scan'

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

const AGAIN = 'again same wholething repeat samerhythm firstbar secondbar it that this those'.split(' ')
/** Words that mean what was played only when it is said how: "that, up two frets". */
const WEAK = ['it', 'that', 'this', 'those']

/** "move that …": it is said how afterwards. */
function takeMove(s: Scan): boolean {
  const slides = is(s, 0, 'slide') && is(s, 1, 'wholething')
  const moves =
    is(s, 0, 'move', 'shift', 'transpose') && is(s, 1, 'it', 'that', 'wholething', 'same', 'this', 'those')
  if (slides || moves) s.i++
  return slides || moves
}
/** "like the second bar", "back to the first bit". */
function takeLike(s: Scan): void {
  const offset = is(s, 1, 'to') ? 2 : 1
  if (is(s, 0, 'like', 'back') && Object.hasOwn(BARS, text(s, offset))) s.i += offset
}

/** What is played again, and how: "same thing on the B, but finish on 7". */
export function again(s: Scan): boolean {
  const start = s.i
  const inClause = clauseItems(s).some((item) => item.k === 'note' || item.k === 'stroke')
  const move = takeMove(s)
  takeLike(s)
  const word = takeOne(s, ...AGAIN)
  if (!word) return wayAlone(s, start)
  if (word === 'wholething' && isMark(s)) {
    s.i = start
    return false
  }
  if (word === 'again' && inClause) {
    s.empty.push(spanFrom(s, start))
    return true
  }
  if (word === 'samerhythm') return sameRhythm(s, start)
  return playedAgain(s, start, word, move)
}

function playedAgain(s: Scan, start: number, word: string, move: boolean): boolean {
  const weak = WEAK.includes(word)
  const item: ItemOf<'again'> = {
    k: 'again',
    whole: word === 'wholething' || move,
    ways: [],
    times: 1,
    at: 0,
    end: 0,
  }
  const bar = Object.hasOwn(BARS, word) ? BARS[word] : undefined
  if (bar !== undefined) item.bar = bar
  takeWays(s, item, !weak)
  if (weak && !move && item.ways.length === 0) {
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
