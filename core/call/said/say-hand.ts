// The striking hand and the count: "down, down-up", "two dead ones", "on one and the and of two", "rest".
import { barTicks, unitTicks } from '../../time/meter'
import { noteValue } from '../vocabulary'
import { takeLength } from './say-lengths'
import { isLetter } from './say-strings'
import { here, is, isArticle, isStop, kind, spanFrom, takeOne, text, type Scan } from './scan'

const WAY_ON = ['to', 'into', 'from', 'at', 'towards', 'another']
/** Whether "down" or "up" is a stroke here and no way along the neck. */
function isStroke(s: Scan): boolean {
  if (is(s, 1, ...WAY_ON) || isArticle(s, 1)) return false
  if (kind(s, 1) === 'number' && is(s, 2, 'fret', 'string', 'halfstep', 'step', 'steps', 'semitones'))
    return false
  if (kind(s, 1) === 'ordinal') return false
  // "come down the G": a way, while nothing is held that could be struck.
  if (!s.gripHeld && !s.items.some((item) => item.k === 'note' || item.k === 'stroke'))
    return !isLetter(s, 1) && kind(s, 1) !== 'number'
  return s.gripHeld || kind(s, 1) !== 'number'
}

/** "chuck", "dead ones": a dead stroke, where a grip is held. */
function takeDead(s: Scan): boolean {
  if (!is(s, 0, 'chuck') && !(is(s, 0, 'dead') && s.gripHeld && deadStroke(s))) return false
  s.i++
  takeOne(s, 'ones', 'one', 'strum')
  return true
}
function takeWay(s: Scan): 'down' | 'up' | undefined {
  if (!is(s, 0, 'down', 'up') || !isStroke(s)) return undefined
  s.i++
  return is(s, -1, 'down') ? 'down' : 'up'
}

/** Strokes, counted or not: "down", "two ups", "chuck", "dead down". */
export function stroke(s: Scan, count: number): boolean {
  const start = s.i
  const dead = takeDead(s)
  const direction = takeWay(s)
  if (!dead && !direction) {
    if (!s.gripHeld || !takeOne(s, 'strum')) {
      s.i = start
      return false
    }
    // "strum down down up": the strokes are said after it.
    takeOne(s, 'it', 'that', 'them')
    if (is(s, 0, 'down', 'up')) return true
  }
  const late = !dead && direction !== undefined && takeOne(s, 'dead', 'chuck') !== undefined
  s.items.push({ k: 'stroke', direction, dead: dead || late, count, ...spanFrom(s, start) })
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

/**
 * Whether a number is a count here: "on 3" of a power chord is a fret; "on one" in a word, after "the", or of
 * a grip, is a count.
 */
const isCount = (s: Scan): boolean =>
  kind(s) === 'number' &&
  is(s, -1, 'on') &&
  !is(s, 1, 'of') &&
  (!/\d/.test(text(s)) || here(s).the || s.gripHeld)

/** "on one", "on the and of three", "on beat two": where what was said stands. */
export function place(s: Scan): boolean {
  const start = s.i
  if (countGoesOn(s)) return true
  const andOf = is(s, 0, 'and', 'e') && is(s, 1, 'of') && kind(s, 2) === 'number'
  if (!andOf && !is(s, 0, 'beat') && !takeOne(s, 'on', 'at')) return false
  const counted = is(s, 0, 'beat', 'and', 'e') || isCount(s)
  const ticks = counted ? takeCountPlace(s) : undefined
  if (ticks === undefined) {
    s.i = start
    return false
  }
  s.items.push({ k: 'place', ticks, ...spanFrom(s, start) })
  return true
}

interface CountedPlace {
  ticks: number
  rest: boolean
  at: number
  end: number
}
/** The counts of the rest of a call; undefined where anything else is said. */
function countsAhead(s: Scan): CountedPlace[] | undefined {
  const unit = unitTicks(s.context.meter)
  const places: CountedPlace[] = []
  let beat = 0
  let rest = false
  for (const word of s.list.slice(s.i)) {
    const part = Object.hasOwn(PARTS, word.text.toLowerCase()) ? PARTS[word.text.toLowerCase()] : undefined
    const next = word.kind === 'number' && word.value > beat && word.value <= s.context.meter.beats
    if (word.kind === 'stop' || ['then', 'on', 'beat'].includes(word.text)) continue
    if (word.text === 'rest') rest = true
    else if (next) {
      beat = word.value
      places.push({ ticks: unit * (beat - 1), rest, at: word.at, end: word.end })
      rest = false
    } else if (part !== undefined && beat > 0)
      places.push({ ticks: unit * (beat - 1 + part), rest: false, at: word.at, end: word.end })
    else return undefined
  }
  return places
}

/** A rhythm counted aloud while a grip is held: "one, two and, three, four and". */
export function countedRhythm(s: Scan): boolean {
  if (!s.gripHeld || kind(s) !== 'number' || /\d/.test(text(s))) return false
  const places = countsAhead(s)
  if (!places || places.length < 2) return false
  for (const { rest: silent, ...one } of places)
    s.items.push({ k: 'place', ...one, ...(silent ? { rest: true } : {}) })
  s.i = s.list.length
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

const WAYS: Readonly<Record<string, 'down' | 'up' | undefined>> = { alldowns: 'down', allups: 'up' }
/** "…, four of them": how many strokes there are. */
function takeStrokeCount(s: Scan): number | undefined {
  if (text(s) === ',') s.i++
  if (kind(s) !== 'number' || here(s).value > 32) return undefined
  s.i++
  const { value } = here(s, -1)
  while (takeOne(s, 'of', 'them', 'those')) continue
  return value
}

/** "all downs", "all the way": how a whole bar of strokes goes, or which way those said go. */
export function strokeWay(s: Scan): boolean {
  const start = s.i
  const way = takeOne(s, 'alldowns', 'allups', 'allway', 'alternate')
  if (!way) return false
  const direction = WAYS[way]
  const strokes = s.items.filter((item) => item.k === 'stroke')
  if (strokes.length && direction) for (const item of strokes) item.direction = direction
  else if (s.gripHeld) {
    const count = takeStrokeCount(s)
    if (count) s.items.push({ k: 'stroke', direction, dead: false, count, ...spanFrom(s, start) })
    else if (way !== 'alternate') strokesThroughBar(s, s.context.stepTicks, direction)
  } else if (direction) for (const item of s.items) if (item.k === 'note') item.pick = direction
  return true
}

function strokesThroughBar(s: Scan, step: number, direction?: 'down' | 'up'): void {
  const count = Math.max(1, Math.min(64, Math.round(barTicks(s.context.meter) / step)))
  s.items.push({ k: 'stroke', direction, dead: false, count, ...spanFrom(s, s.i - 1) })
}
