// Marks as they are said, and what they reach: the note before, all that follow, all that came before.
import { PRESSURES, type Mark } from '../../document/schema'
import type { Reach } from './items'
import {
  atClauseStart,
  clauseItems,
  here,
  is,
  isStop,
  kind,
  lastNote,
  spanFrom,
  takeOne,
  text,
  type Scan,
} from './scan'

const MARKS: Readonly<Record<string, Mark>> = {
  vibrato: { kind: 'vibrato', width: 'narrow' },
  widevibrato: { kind: 'vibrato', width: 'wide' },
  harmonic: { kind: 'natural harmonic' },
  pinch: { kind: 'pinched harmonic', semitones: 12 },
  palm: { kind: 'palm mute', pressure: 'medium' },
  ring: { kind: 'let ring' },
  ringall: { kind: 'let ring' },
  staccato: { kind: 'staccato' },
  short: { kind: 'staccato' },
  ghost: { kind: 'ghost' },
  tremolo: { kind: 'tremolo picking' },
  rake: { kind: 'rake' },
  tap: { kind: 'tap' },
  dive: { kind: 'arm', semitones: -5, how: 'dive' },
  dip: { kind: 'arm', semitones: -2, how: 'dip' },
  grace: { kind: 'grace', frets: -2 },
  scrapeup: { kind: 'scrape', way: 'up' },
  scrapedown: { kind: 'scrape', way: 'down' },
  scrapeback: { kind: 'scrape', way: 'there and back' },
}
/** Marks that are said ahead of their note as often as after it. */
const AHEAD = new Set([
  'harmonic',
  'pinch',
  'tap',
  'ghost',
  'rake',
  'grace',
  'staccato',
  'tremolo',
  'palm',
  'ring',
])

const WIDE = ['wide', 'big', 'heavy']

export const isMark = (s: Scan, offset = 0): boolean =>
  kind(s, offset) === 'word' && Object.hasOwn(MARKS, text(s, offset))

/** How far a mark reaches, where it is said. */
function takeReach(s: Scan): Reach | undefined {
  const start = s.i
  while (takeOne(s, 'on', 'with', 'for', 'it', 'over', 'of', 'that')) continue
  if (is(s, 0, 'wholething') || is(s, 0, 'all', 'everything', 'throughout', 'allway')) {
    s.i++
    if (takeOne(s, 'except', 'but')) {
      while (takeOne(s, 'for', 'the')) continue
      takeOne(s, 'last')
      return 'all but last'
    }
    while (takeOne(s, 'of', 'it', 'that', 'those', 'them')) continue
    return 'all before'
  }
  if (takeOne(s, 'last')) {
    const number = kind(s) === 'number' ? here(s).value : 1
    if (kind(s) === 'number') s.i++
    takeOne(s, 'notes', 'one', 'ones')
    return { last: number }
  }
  if (
    (takeOne(s, 'these', 'those') || start === s.i) &&
    kind(s) === 'number' &&
    here(s, 0).value <= 9 &&
    s.i > start
  ) {
    const number = here(s).value
    s.i++
    return { last: number }
  }
  s.i = start
  return undefined
}

/** "let these three ring", "let that last one ring", "keep those ringing". */
function lettingRing(s: Scan): boolean {
  if (!is(s, 0, 'let', 'keep', 'leave')) return false
  for (let offset = 1; offset < 7 && !isStop(s, offset); offset++) {
    if (!is(s, offset, 'ring', 'ringall', 'sound', 'hang', 'carry')) continue
    if (is(s, offset, 'sound')) {
      s.i += offset + 1
      s.items.push({ k: 'unmark', kind: 'palm mute', ...spanFrom(s, s.i - 1) })
      return true
    }
    const words = s.list.slice(s.i + 1, s.i + offset)
    const number = words.find((word) => word.kind === 'number')?.value
    const all = words.some((word) =>
      ['all', 'wholething', 'everything', 'them', 'those', 'these'].includes(word.text),
    )
    // "let the open D ring": a note said in between.
    const note = words.some((word) => word.kind === 'letter' || word.text === 'open')
    if (note) {
      s.waiting = [...s.waiting, { kind: 'let ring' }]
      s.i++
      return true
    }
    const reach: Reach = all && number === undefined ? 'all before' : { last: number ?? 1 }
    const start = s.i
    s.i += offset + 1
    s.items.push({ k: 'mark', mark: { kind: 'let ring' }, reach, ...spanFrom(s, start) })
    return true
  }
  return false
}

/** Whether the clause that is being said goes on with notes after a mark at its start. */
function notesFollow(s: Scan): boolean {
  for (let offset = 0; !isStop(s, offset); offset++)
    if (kind(s, offset) === 'number' || is(s, offset, 'open') || kind(s, offset) === 'ordinal') return true
  return false
}
/** Marks that go through the whole thought they are said at the start of. */
const THROUGH = ['palm', 'ring', 'staccato']

/** How far "all …" reaches: what was said, when nothing comes after it, else what follows. */
function reachOfAll(s: Scan, notes: boolean): Reach {
  if (notes && !atClauseStart(s)) return 'clause'
  return notes && isStop(s) ? 'all before' : 'following'
}

/** Where a mark goes that is said ahead of its note; undefined where it is said after it. */
function reachAhead(s: Scan, word: string): Reach | 'next' | undefined {
  const follow = notesFollow(s)
  if (atClauseStart(s) && follow) return THROUGH.includes(word) ? 'clause' : 'next'
  const played = clauseItems(s).some((item) => item.k === 'note')
  if (!AHEAD.has(word) || played || !(follow || is(s, 0, 'on', 'at', 'over'))) return undefined
  return word === 'palm' && !follow ? 'following' : 'next'
}

function reachOf(s: Scan, word: string, all: boolean): Reach | 'next' {
  const said = takeReach(s)
  if (said) return said
  const notes = s.items.some((item) => item.k === 'note' || item.k === 'stroke' || item.k === 'again')
  if (word === 'ringall') return notes ? 'all before' : 'following'
  if (all) return reachOfAll(s, notes)
  const ahead = reachAhead(s, word)
  if (ahead) return ahead
  const otherwise = isStop(s) ? 'following' : 'next'
  return notes ? 'before' : otherwise
}

function pressure(s: Scan, mark: Mark): Mark {
  if (mark.kind !== 'palm mute') return mark
  const said = PRESSURES.find((one) => one === text(s))
  if (said) s.i++
  return said ? { ...mark, pressure: said } : mark
}

/** "grace note hammer from 1 to 2": the small note before, and its way. */
function graceNote(s: Scan): boolean {
  let offset = 0
  while (is(s, offset, 'hammer', 'pull', 'slide', 'from', 'on', 'at', 'fret')) offset++
  if (kind(s, offset) !== 'number' || !is(s, offset + 1, 'to', 'into') || kind(s, offset + 2) !== 'number')
    return false
  const frets = here(s, offset).value - here(s, offset + 2).value
  if (frets === 0 || Math.abs(frets) > 7) return false
  s.i += offset + 2
  s.waiting = [...s.waiting, { kind: 'grace', frets }]
  return true
}

export function mark(s: Scan): boolean {
  if (lettingRing(s)) return true
  const start = s.i
  const all = Boolean(takeOne(s, 'all', 'everything', 'wholething'))
  const wide = Boolean(takeOne(s, ...WIDE))
  const word = kind(s) === 'word' ? text(s) : ''
  if (!Object.hasOwn(MARKS, word)) {
    s.i = start
    return false
  }
  s.i++
  if (word === 'grace' && graceNote(s)) return true
  const plain = MARKS[word]!
  const put = pressure(s, wide && plain.kind === 'vibrato' ? { kind: 'vibrato', width: 'wide' } : plain)
  const reach = reachOf(s, word, all)
  if (reach === 'next') s.waiting = [...s.waiting, put]
  else if (word === 'palm' && isPalmExcept(s))
    s.items.push({ k: 'mark', mark: put, reach: 'all but last', ...spanFrom(s, start) })
  else s.items.push({ k: 'mark', mark: put, reach, ...spanFrom(s, start) })
  return true
}
/** "all palm-muted except the last one". */
function isPalmExcept(s: Scan): boolean {
  const start = s.i
  if (takeOne(s, 'except') && takeOne(s, 'last')) return true
  s.i = start
  return false
}

/** "accent", "let that one sound". */
export function accentOrSound(s: Scan): boolean {
  if (takeOne(s, 'sound')) {
    s.items.push({ k: 'unmark', kind: 'palm mute', ...spanFrom(s, s.i - 1) })
    return true
  }
  if (is(s, 0, 'accent')) {
    s.i++
    const ahead = notesFollow(s) || !lastNote(s)
    if (ahead) s.accent = true
    else lastNote(s)!.accent = true
    takeOne(s, 'firstone')
    if (kind(s) === 'ordinal') s.i++
    return true
  }
  return false
}
