// The striking hand and the count: "down, down-up", "two dead ones", "on one and the and of two", "rest".
import { barTicks, unitTicks } from '../../time/meter'
import { noteValue } from '../vocabulary'
import { takeLength } from './say-lengths'
import { here, is, isArticle, isStop, kind, spanFrom, takeOne, text, type Scan } from './scan'

const WAY_ON = ['to', 'into', 'from', 'at', 'towards', 'another']
/** Whether "down" or "up" is a stroke here and no way along the neck. */
function isStroke(s: Scan): boolean {
  if (is(s, 1, ...WAY_ON) || isArticle(s, 1)) return false
  if (kind(s, 1) === 'number' && is(s, 2, 'fret', 'string', 'halfstep', 'step', 'steps', 'semitones'))
    return false
  if (kind(s, 1) === 'ordinal') return false
  return s.gripHeld || kind(s, 1) !== 'number'
}

/** Strokes, counted or not: "down", "two ups", "chuck", "dead down". */
export function stroke(s: Scan, count: number): boolean {
  const start = s.i
  let dead = false
  if (is(s, 0, 'chuck') || (is(s, 0, 'dead') && s.gripHeld && deadStroke(s))) {
    dead = true
    s.i++
    takeOne(s, 'ones', 'one', 'strum')
  }
  const way = is(s, 0, 'down', 'up') && isStroke(s) ? text(s) : undefined
  if (way) s.i++
  else if (!dead && !(is(s, 0, 'strum') && s.gripHeld)) {
    s.i = start
    return false
  } else if (!dead) {
    s.i++
    // "strum down down up": the strokes are said after it.
    takeOne(s, 'it', 'that', 'them')
    if (is(s, 0, 'down', 'up')) return true
  }
  if (!dead && way && takeOne(s, 'dead', 'chuck')) dead = true
  s.items.push({
    k: 'stroke',
    direction: way as 'down' | 'up' | undefined,
    dead,
    count,
    ...spanFrom(s, start),
  })
  return true
}
const deadStroke = (s: Scan): boolean =>
  isStop(s, 1) || is(s, 1, 'ones', 'one', 'strum', 'down', 'up', 'dead', 'and', 'then', 'strokes')

const PARTS: Readonly<Record<string, number>> = { and: 1 / 2, '&': 1 / 2, e: 1 / 4, a: 3 / 4 }

/** A count as it is said: "one", "the and of two", "beat three", "2 and": ticks into the bar. */
function takeCountPlace(s: Scan): number | undefined {
  const start = s.i
  const { meter } = s.context
  const unit = unitTicks(meter)
  takeOne(s, 'beat')
  const part = text(s).toLowerCase()
  if (
    Object.hasOwn(PARTS, part) &&
    is(s, 1, 'of') &&
    kind(s, 2) === 'number' &&
    here(s, 2).value <= meter.beats
  ) {
    s.i += 3
    return unit * (here(s, -1).value - 1 + PARTS[part]!)
  }
  const { value } = here(s)
  if (kind(s) !== 'number' || value < 1 || value > meter.beats || is(s, 1, 'string', 'fret', 'times')) {
    s.i = start
    return undefined
  }
  s.i++
  return unit * (value - 1)
}

/** "on one, and three, and four": more counts after the first. */
function countGoesOn(s: Scan): boolean {
  const last = s.items.findLast((item) => item.k !== 'stop' && item.k !== 'and')
  if (last?.k !== 'place' || kind(s) !== 'number' || /\d/.test(text(s))) return false
  if (!isStop(s, 1) && !is(s, 1, 'and', 'then')) return false
  const start = s.i
  const ticks = takeCountPlace(s)
  if (ticks === undefined) return false
  s.items.push({ k: 'place', ticks, ...spanFrom(s, start) })
  return true
}

/** "on one", "on the and of three", "on beat two": where what was said stands. */
export function place(s: Scan): boolean {
  const start = s.i
  if (countGoesOn(s)) return true
  const andOf = is(s, 0, 'and', 'e') && is(s, 1, 'of') && kind(s, 2) === 'number'
  if (!is(s, 0, 'on', 'at', 'beat') && !andOf) return false
  if (!andOf && !is(s, 0, 'beat')) s.i++
  // "on 3" of a power chord is a fret; "on one" in a word, after "the", after a count, is a count.
  const counted =
    andOf ||
    is(s, 0, 'beat', 'and', 'e') ||
    (kind(s) === 'number' && !/\d/.test(text(s)) && is(s, -1, 'on')) ||
    (kind(s) === 'number' && (here(s).the || s.gripHeld) && is(s, -1, 'on'))
  const ticks = counted ? takeCountPlace(s) : undefined
  if (ticks === undefined) {
    s.i = start
    return false
  }
  s.items.push({ k: 'place', ticks, ...spanFrom(s, start) })
  return true
}

/** A rhythm counted aloud while a grip is held: "one, two and, three, four and". */
export function countedRhythm(s: Scan): boolean {
  if (!s.gripHeld || kind(s) !== 'number' || /\d/.test(text(s))) return false
  const places: { ticks: number; rest: boolean; i: number }[] = []
  const unit = unitTicks(s.context.meter)
  const start = s.i
  let beat = 0
  let rest = false
  for (; s.i < s.list.length; s.i++) {
    const { value } = here(s)
    const word = text(s).toLowerCase()
    if (kind(s) === 'stop' || is(s, 0, 'then', 'on', 'beat')) continue
    if (is(s, 0, 'rest')) rest = true
    else if (kind(s) === 'number' && value > beat && value <= s.context.meter.beats) {
      beat = value
      places.push({ ticks: unit * (beat - 1), rest, i: s.i })
      rest = false
    } else if (Object.hasOwn(PARTS, word) && beat > 0) {
      // "one and two": the "and" between two counts is struck; "two and three" at the end of a list is not.
      places.push({ ticks: unit * (beat - 1 + PARTS[word]!), rest: false, i: s.i })
    } else {
      s.i = start
      return false
    }
  }
  if (places.length < 2) {
    s.i = start
    return false
  }
  for (const one of places)
    s.items.push({
      k: 'place',
      ticks: one.ticks,
      ...(one.rest ? { rest: true } : {}),
      at: s.list[one.i]!.at,
      end: s.list[one.i]!.end,
    })
  return true
}

/** "rest", "rest for a bar", "rest on three". */
export function rest(s: Scan): boolean {
  if (!is(s, 0, 'rest')) return false
  const start = s.i
  s.i++
  if (is(s, 0, 'on')) {
    s.i++
    const ticks = takeCountPlace(s)
    if (ticks !== undefined) {
      s.items.push({ k: 'place', ticks, rest: true, ...spanFrom(s, start) })
      return true
    }
    s.i--
  }
  takeOne(s, 'for')
  const ticks = takeLength(s)
  s.items.push({ k: 'rest', ...(ticks === undefined ? {} : { length: { ticks } }), ...spanFrom(s, start) })
  return true
}

/** "eighths", "in triplets", "sixteenths all the way". */
export function steps(s: Scan): boolean {
  const start = s.i
  takeOne(s, 'in', 'as')
  const value = kind(s) === 'word' ? noteValue(text(s)) : undefined
  const ordinal = kind(s) === 'ordinal' && /ths?$|nds?$/.test(text(s)) ? noteValue(text(s)) : undefined
  const ticks = value ?? (is(s, 1, 'notes') ? ordinal : undefined)
  if (ticks === undefined || (!/s$/.test(text(s)) && text(s) !== 'halves' && !is(s, 1, 'notes'))) {
    s.i = start
    return false
  }
  s.i++
  takeOne(s, 'notes')
  s.items.push({ k: 'step', ticks, ...spanFrom(s, start) })
  if (takeOne(s, 'allway') && s.gripHeld) strokesThroughBar(s, ticks)
  return true
}

/** "all downs", "all the way": how a whole bar of strokes goes, or which way those said go. */
export function strokeWay(s: Scan): boolean {
  const start = s.i
  const way = takeOne(s, 'alldowns', 'allups', 'allway', 'alternate')
  if (!way) return false
  const direction = way === 'alldowns' ? 'down' : way === 'allups' ? 'up' : undefined
  const strokes = s.items.filter((item) => item.k === 'stroke')
  if (strokes.length && direction) for (const item of strokes) item.direction = direction
  else if (s.gripHeld) {
    if (text(s) === ',') s.i++
    const count = kind(s) === 'number' && here(s).value <= 32 ? here(s).value : undefined
    if (count) {
      s.i++
      while (takeOne(s, 'of', 'them', 'those')) continue
      s.items.push({ k: 'stroke', direction, dead: false, count, ...spanFrom(s, start) })
    } else if (way !== 'alternate') strokesThroughBar(s, s.context.stepTicks, direction)
    if (count === undefined && is(s, -1) && false) return false
  } else if (direction) for (const item of s.items) if (item.k === 'note') item.pick = direction
  return true
}

function strokesThroughBar(s: Scan, step: number, direction?: 'down' | 'up'): void {
  const count = Math.max(1, Math.min(64, Math.round(barTicks(s.context.meter) / step)))
  s.items.push({ k: 'stroke', direction, dead: false, count, ...spanFrom(s, s.i - 1) })
}
