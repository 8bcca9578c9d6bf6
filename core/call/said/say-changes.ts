// Changes to the grip that is held: "lift the finger off the G", "mute the A", "with F sharp in the bass".
import type { Change, StringSpec } from './items'
import { takeLetter } from './say-chords'
import { fingerAt, takeFret } from './say-frets'
import { fretsMoved } from './say-ways'
import { isLetter, namesString, oneString, stringList, whichAt } from './say-strings'
import { clauseItems, here, is, isStop, kind, skipArticle, spanFrom, takeOne, text, type Scan } from './scan'

function put(s: Scan, start: number, change: Change): boolean {
  s.items.push({ k: 'change', change, ...spanFrom(s, start) })
  return true
}
const stringAhead = (s: Scan, offset = 0): boolean =>
  isLetter(s, offset) ||
  Boolean(whichAt(s, offset)) ||
  (kind(s, offset) === 'ordinal' && is(s, offset + 1, 'string'))

/** "mute the A and the high E", "don't play the low E", "no A". */
function muted(s: Scan): boolean {
  const start = s.i
  const dead = is(s, 0, 'mute', 'dead') && stringAhead(s, 1)
  const no = is(s, 0, 'no', 'without') && stringAhead(s, 1)
  const not = is(s, 0, 'dontplay')
  if (!s.gripHeld || (!dead && !no && !not)) return false
  s.i++
  skipArticle(s)
  const specs = stringList(s, true)
  if (!specs || kind(s) === 'number') {
    s.i = start
    return false
  }
  return put(s, start, { what: 'mute', strings: specs })
}

const OFF = ['off', 'from', 'finger', 'fingers', 'of', 'away', 'your', 'that', 'string']
/** "the middle finger off the", "your": the finger, where one is said; the cursor stands after it. */
function takeFinger(s: Scan): string | undefined {
  let said: string | undefined
  for (; ; s.i++) {
    const one = fingerAt(s)
    if (one) said = one
    else if (!is(s, 0, ...OFF, 'up')) return said
  }
}
const liftsFinger = (s: Scan): boolean => {
  if (is(s, 0, 'lift')) return true
  if (is(s, 0, 'without', 'no')) return fingerAt(s, 1) !== undefined
  return is(s, 0, 'take', 'pick') && (fingerAt(s, 1) ?? whichAt(s, 1) ?? is(s, 1, 'finger', 'your')) !== false
}

/** "lift the finger off the G", "take the pinky off", "without the pinky". */
function lifted(s: Scan): boolean {
  const start = s.i
  if (!liftsFinger(s)) return false
  s.i++
  const said = takeFinger(s)
  const specs = stringAhead(s) ? stringList(s, true) : undefined
  while (takeOne(s, ...OFF)) continue
  if (specs) return put(s, start, { what: 'open', strings: specs })
  if (said) return put(s, start, { what: 'lift finger', finger: said })
  s.i = start
  return false
}

/** "the second fret of the G", "the B at 3": where a finger goes. */
function takePlace(s: Scan): { fret: number | undefined; strings: StringSpec[] | undefined } {
  const ahead = stringAhead(s) ? oneString(s) : undefined
  while (takeOne(s, 'at', 'on')) continue
  const fret = takeFret(s, true)
  takeOne(s, 'on', 'of')
  return { fret, strings: ahead ?? (namesString(s) ? oneString(s, true) : undefined) }
}

/** "just move the ring finger over to the second fret of the G". */
function movedFinger(s: Scan): boolean {
  const start = s.i
  const said = fingerAt(s, 1)
  if (!said || !is(s, 0, 'move', 'shift', 'bring', 'slide')) return false
  s.i += 2
  while (takeOne(s, 'over', 'to', 'up', 'down', 'on', 'across', 'onto', 'from')) continue
  const { fret, strings } = takePlace(s)
  if (fret === undefined && !strings) {
    s.i = start
    return false
  }
  return put(s, start, { what: 'move finger', finger: said, ...(strings ? { strings } : {}), fret })
}

/** "add …", "put …"; or "with the pinky …" after a grip nothing was played of. */
function addsFinger(s: Scan): boolean {
  if (!s.gripHeld) return false
  if (is(s, 0, 'add', 'put', 'place', 'drop', 'adding')) return true
  const silent = !s.items.some((item) => item.k === 'note' || item.k === 'stroke')
  return silent && is(s, 0, 'with') && fingerAt(s, is(s, 1, 'your') ? 2 : 1) !== undefined
}

/** "add the pinky at 3 on the high E", "put the third finger on the B at 3". */
function added(s: Scan): boolean {
  const start = s.i
  if (!addsFinger(s)) return false
  s.i++
  takeOne(s, 'your')
  skipArticle(s)
  if (fingerAt(s)) s.i++
  while (takeOne(s, 'at', 'on', 'down', 'to')) continue
  const { fret, strings } = takePlace(s)
  if (fret === undefined || !strings) {
    s.i = start
    return false
  }
  return put(s, start, { what: 'fret', strings, fret })
}

/** "with the third fret on the high E", of the grip that was just named. */
function withFret(s: Scan, start: number): boolean {
  const last = s.items.findLast((item) => item.k !== 'stop')
  const fret = last?.k === 'chord' || last?.k === 'grip' ? takeFret(s, true) : undefined
  if (fret === undefined) return false
  takeOne(s, 'on', 'of')
  const strings = namesString(s) ? oneString(s, true) : undefined
  takeOne(s, 'inbass')
  return strings ? put(s, start, { what: 'fret', strings, fret }) : false
}

/** "with F sharp in the bass", "with a G on the high E". */
function withNote(s: Scan): boolean {
  const start = s.i
  if (!s.gripHeld || !takeOne(s, 'with', 'and')) return false
  skipArticle(s)
  if (withFret(s, start)) return true
  const letter = takeLetter(s)
  if (letter !== undefined) {
    if (takeOne(s, 'inbass', 'below', 'bass')) return put(s, start, { what: 'bass', letter })
    const strings = takeOne(s, 'on') && stringAhead(s) ? oneString(s, true) : undefined
    if (strings) return put(s, start, { what: 'note', strings, letter })
  }
  s.i = start
  return false
}

/** "only the top four strings", "just the top three". */
function onlyStrings(s: Scan): boolean {
  const start = s.i
  const last = s.items.findLast((item) => item.k !== 'stop')
  if (!s.gripHeld || (last && last.k !== 'chord' && last.k !== 'grip')) return false
  takeOne(s, 'only', 'just', 'on')
  takeOne(s, 'only', 'just', 'on')
  const side = is(s, 0, 'top', 'bottom', 'high', 'low', 'middle') && kind(s, 1) === 'number'
  const specs = side ? oneString(s) : undefined
  if (!specs || is(s, 0, 'at', 'open')) {
    s.i = start
    return false
  }
  return put(s, start, { what: 'only', strings: specs })
}

/** "keep the rest", "leave the rest": nothing else changes. */
function kept(s: Scan): boolean {
  if (!is(s, 0, 'keep')) return false
  for (let offset = 1; !isStop(s, offset); offset++)
    if (is(s, offset, 'ring', 'ringall', 'hang')) return false
  const start = s.i
  while (!isStop(s) && !is(s, 0, 'but', 'and')) s.i++
  s.empty.push(spanFrom(s, start))
  return true
}

/** "A minor 7 up at the fifth fret": where on the neck a chord is held. */
function position(s: Scan): boolean {
  const last = clauseItems(s).at(-1)
  if (last?.k !== 'chord' || here(s).kind !== 'word') return false
  const start = s.i
  takeOne(s, 'up', 'down')
  if (!takeOne(s, 'at', 'on', 'from', 'around')) {
    s.i = start
    return false
  }
  const fret = kind(s) === 'ordinal' && is(s, 1, 'fret', 'position') ? here(s).value : undefined
  if (fret === undefined) {
    s.i = start
    return false
  }
  s.i += 2
  last.position = fret
  return true
}

/** "from the fifth string, open two two one open": a grip, fret by fret, towards the high strings. */
function dictated(s: Scan): boolean {
  const start = s.i
  if (!takeOne(s, 'from')) return false
  const specs = oneString(s, true)
  takeOne(s, 'up', 'down')
  if (text(s) === ',') s.i++
  const frets: (number | null)[] = []
  while (specs && frets.length < 12) {
    if (is(s, 0, 'dead', 'x', 'mute')) {
      frets.push(null)
      s.i++
    } else if (kind(s) === 'number' || is(s, 0, 'open')) {
      frets.push(is(s, 0, 'open') ? 0 : here(s).value)
      s.i++
    } else if (text(s) === ',' && frets.length > 0 && (kind(s, 1) === 'number' || is(s, 1, 'open'))) s.i++
    else break
  }
  if (!specs || frets.length < 3) {
    s.i = start
    return false
  }
  s.items.push({ k: 'dictated', from: specs[0]!, frets, ...spanFrom(s, start) })
  s.gripHeld = true
  return true
}

/** Nothing but one stroke since the grip was named: what is slid is the grip, not what was played on it. */
function struckOnce(s: Scan): boolean {
  const named = s.items.findLastIndex(({ k }) => k === 'chord' || k === 'grip' || k === 'change')
  const since = s.items.slice(named + 1)
  const strokes = since.flatMap((item) => (item.k === 'stroke' ? [item.count] : []))
  return !since.some(({ k }) => k === 'note') && strokes.reduce((sum, count) => sum + count, 0) < 2
}
/** "slide the whole chord up two frets", "slide it up to the seventh fret", after a grip or its strokes. */
export function slidGrip(s: Scan): boolean {
  const start = s.i
  if (!s.gripHeld || !is(s, 0, 'slide') || !struckOnce(s)) return false
  s.i++
  const whole = takeOne(s, 'wholething', 'it', 'that', 'same') === 'wholething'
  const last = s.items.findLast((item) => item.k !== 'stop' && item.k !== 'and')
  // Without "the whole chord" it has to be what was just said: else it is a note that is slid to.
  const slid = whole || (last !== undefined && last.k !== 'note') ? slideSaid(s) : undefined
  if (!slid) {
    s.i = start
    return false
  }
  return put(s, start, slid)
}
/** "up two frets", "up to the seventh fret"; nothing where a string is named or it comes from beside. */
function slideSaid(s: Scan): Extract<Change, { what: 'slide' }> | undefined {
  const moved = fretsMoved(s)
  if (moved?.how === 'frets') return { what: 'slide', by: moved.by }
  takeOne(s, 'up', 'down', 'back')
  if (!takeOne(s, 'to')) return undefined
  skipArticle(s)
  const to = takeFret(s, true)
  if (to === undefined || namesString(s) || is(s, 0, 'on', 'of', 'from')) return undefined
  return { what: 'slide', to }
}

export const gripChange = (s: Scan): boolean =>
  muted(s) ||
  lifted(s) ||
  movedFinger(s) ||
  added(s) ||
  withNote(s) ||
  onlyStrings(s) ||
  kept(s) ||
  position(s) ||
  dictated(s)
