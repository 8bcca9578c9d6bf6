// Bends: "bend the 8 a whole step", "half-step bend at 13", "and let it down".
import type { Mark } from '../../document/schema'
import { UNSAID, type NoteItem } from './items'
import { takeFret } from './say-frets'
import { isLetter, namesString, stringList } from './say-strings'
import {
  here,
  is,
  isStop,
  kind,
  lastNote,
  sayNote,
  skipArticle,
  spanFrom,
  takeOne,
  text,
  type Scan,
} from './scan'

const AMOUNTS: Readonly<Record<string, number>> = {
  full: 2,
  halfstep: 1,
  quartertone: 0.5,
  stepandhalf: 3,
  twosteps: 4,
}

/** An amount of bending that comes next, in semitones. */
function takeAmount(s: Scan): number | undefined {
  const start = s.i
  while (is(s, 0, 'up', 'by', 'it', 'that', 'about')) s.i++
  skipArticle(s)
  if (kind(s) === 'word' && Object.hasOwn(AMOUNTS, text(s))) {
    const amount = AMOUNTS[text(s)]
    s.i++
    takeOne(s, 'step', 'steps', 'tone', 'tones')
    return amount
  }
  if (is(s, 0, 'half', 'quarter', 'whole')) {
    const amount = { half: 1, quarter: 0.5, whole: 2 }[text(s)]
    s.i++
    takeOne(s, 'step', 'steps', 'tone', 'tones')
    return amount
  }
  const { value } = here(s)
  if (
    kind(s) === 'number' &&
    value <= 5 &&
    is(s, 1, 'semitone', 'semitones', 'halfstep', 'fret', 'step', 'steps', 'twosteps') &&
    !is(s, 2, 'string')
  ) {
    const whole = is(s, 1, 'step', 'steps')
    s.i += 2
    return whole ? value * 2 : value
  }
  s.i = start
  return undefined
}

/** "release to 12": the fret it was bent from. */
function toItsFret(s: Scan): void {
  const note = lastNote(s)
  const offset = is(s, 0, 'back') ? 1 : 0
  if (is(s, offset, 'to') && kind(s, offset + 1) === 'number' && here(s, offset + 1).value === note?.fret)
    s.i += offset + 2
}

type Shape = Extract<Mark, { kind: 'bend' }>['shape']

/** "and release", ", let it down", "and hold it": how a bend goes on. */
function takeShape(s: Scan): Shape | undefined {
  const start = s.i
  while (
    takeOne(s, 'and', 'then', 'slowly') ||
    (text(s) === ',' && is(s, 1, 'release', 'holdit', 'and', 'then'))
  ) {
    if (text(s) === ',') s.i++
  }
  if (is(s, 0, 'back') && is(s, 1, 'down') && isStop(s, 2)) {
    s.i += 2
    return 'bend and release'
  }
  if (takeOne(s, 'holdit')) return 'bend and hold'
  if (takeOne(s, 'release')) {
    takeOne(s, 'it')
    toItsFret(s)
    return 'bend and release'
  }
  s.i = start
  return undefined
}

/** Where a bend goes: the fret said with it, or the note before. */
function bentNote(s: Scan, start: number, count: number): NoteItem | undefined {
  const before = s.i
  while (is(s, 0, 'on', 'at', 'up', 'of', 'from', 'it', 'fret')) s.i++
  skipArticle(s)
  const fret =
    is(s, -1, 'on', 'of') && kind(s) === 'ordinal' && is(s, 1, 'string') ? undefined : takeFret(s, true)
  const last = lastNote(s)
  if (fret === undefined || fret === 0) {
    s.i = before
    return last
  }
  const again = last && last.fret === fret && !last.marks.some((mark) => mark.kind === 'bend') && !last.dead
  if (again && count === 1) return last
  const specs = last?.fret === fret ? last.strings : undefined
  return sayNote(s, start, { fret, count, move: undefined, ...(specs ? { strings: specs } : {}) })
}

/** "9 bend 2", right behind its fret: by so many semitones, as in the exact words. */
function semitonesAfter(s: Scan): number | undefined {
  const { value } = here(s)
  const last = s.items.at(-1)
  if (last?.k !== 'note' || kind(s) !== 'number' || !/^[1-5]$/.test(text(s)) || last.fret === value)
    return undefined
  if (is(s, 1, 'fret', 'string', 'times')) return undefined
  s.i++
  return value
}

/** "bend to the pitch of 10": as far as that fret is away. */
function bentTo(s: Scan, note: NoteItem | undefined): number | undefined {
  const start = s.i
  takeOne(s, 'up')
  if (!takeOne(s, 'to')) return undefined
  while (is(s, 0, 'pitch', 'of', 'sound', 'like', 'fret', 'note', 'where')) s.i++
  skipArticle(s)
  const target = takeFret(s, true)
  if (target !== undefined && typeof note?.fret === 'number' && target > note.fret && target - note.fret <= 5)
    return target - note.fret
  s.i = start
  return undefined
}

/** "up a whole step", after a bend whose amount was not said. */
export function amountAfter(s: Scan): boolean {
  const note = lastNote(s)
  const bent = note?.marks.find((mark) => mark.kind === 'bend')
  if (!note || bent?.kind !== 'bend' || bent.semitones !== UNSAID) return false
  const amount = takeAmount(s)
  if (amount === undefined) return false
  note.marks = note.marks.map((mark) => (mark === bent ? { ...bent, semitones: amount } : mark))
  return true
}

/** "pick it again": the note before, struck once more. */
export function pickAgain(s: Scan): boolean {
  const start = s.i
  if (!takeOne(s, 'pick')) return false
  takeOne(s, 'it', 'that')
  const note = lastNote(s)
  if (!takeOne(s, 'again') || !note) {
    s.i = start
    return false
  }
  sayNote(s, start, { ...note, move: undefined, count: 1 })
  return true
}
type BendWord = 'bend' | 'prebend' | 'curl'
/** What is said of a bend around its note. */
interface Bent {
  word: BendWord
  amount: number | undefined
  shape: Shape | undefined
}

/** A bend starts bent, is let down, or both: then it starts bent and comes down. */
function shapeOf({ word, shape }: Bent): Shape {
  if (word !== 'prebend') return shape ?? 'plain'
  return shape === 'bend and release' ? 'release' : 'pre-bend'
}
const bendMark = (bent: Bent): Mark => ({
  kind: 'bend',
  semitones: bent.word === 'curl' ? 0.5 : (bent.amount ?? UNSAID),
  shape: shapeOf(bent),
})

/** "bend the B string at 13": the string it is on. */
function takeBentString(s: Scan, start: number): void {
  const specs = isLetter(s) && is(s, 1, 'string') ? stringList(s) : undefined
  if (specs) s.items.push({ k: 'strings', specs, after: false, ...spanFrom(s, start) })
}

/** "bend the 8 a whole step", "half-step bend at 13", "two bends on 10", "a little curl". */
export function bend(s: Scan, count = 1): boolean {
  const start = s.i
  const first = takeAmount(s)
  const word = takeOne(s, 'bend', 'prebend', 'curl') as BendWord | undefined
  if (!word) {
    s.i = start
    return false
  }
  takeBentString(s, start)
  const shape = takeShape(s)
  const before = lastNote(s)
  const toward = bentTo(s, before) ?? semitonesAfter(s)
  const note = toward === undefined ? bentNote(s, start, count) : before
  if (!note) {
    s.waiting = [...s.waiting, bendMark({ word, amount: first, shape })]
    return true
  }
  const strings = takeStringsAfter(s)
  const amount = first ?? toward ?? bentTo(s, note) ?? takeAmount(s)
  const mark = bendMark({ word, amount, shape: shape ?? takeShape(s) })
  note.marks = [...note.marks.filter((one) => one.kind !== 'bend'), mark]
  if (strings) s.items.push({ k: 'strings', specs: strings, after: true, ...spanFrom(s, start) })
  return true
}

/** "bend the 8 on the B up a whole step": the string said in between. */
function takeStringsAfter(s: Scan) {
  const start = s.i
  const specs = takeOne(s, 'on', 'of') ? stringList(s, true) : undefined
  if (!specs) s.i = start
  if (specs) s.stringKnown = true
  return specs
}

const bendOf = ({ marks }: NoteItem): Extract<Mark, { kind: 'bend' }> | undefined =>
  marks.find((mark) => mark.kind === 'bend')

/** "… 8 on the high E, release the B": a string that was kept bent while another was struck. */
function releaseKept(s: Scan, start: number): void {
  skipArticle(s)
  const named = namesString(s) ? stringList(s) : undefined
  const kept = s.items.findLast(
    (item): item is NoteItem => item.k === 'note' && bendOf(item)?.shape === 'bend and hold',
  )
  const strings = named ?? kept?.strings
  if (!kept || !strings) return
  sayNote(s, start, { fret: 'last', strings, move: undefined })
  lastNote(s)!.marks = [{ ...bendOf(kept)!, shape: 'release' }]
}

/** "release", "let it down", said as a thought of its own. */
export function release(s: Scan): boolean {
  if (!is(s, 0, 'release', 'holdit')) return false
  const start = s.i
  const held = is(s, 0, 'holdit')
  s.i++
  takeOne(s, 'it')
  toItsFret(s)
  const note = lastNote(s)
  const bent = note && bendOf(note)
  if (!note || !bent) {
    if (!held) releaseKept(s, start)
    return true
  }
  const down = bent.shape === 'pre-bend' ? 'release' : 'bend and release'
  const shape = held ? 'bend and hold' : down
  note.marks = note.marks.map((mark) => (mark === bent ? { ...bent, shape } : mark))
  return true
}
