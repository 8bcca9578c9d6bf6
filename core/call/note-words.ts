// What is said of one note: trills, slides out, picking, fingers, its fifth or octave.
import { lastAsOne } from './events'
import { addMark } from './marks'
import { stepToken } from './places'
import {
  FINGER,
  NAMELESS,
  advance,
  elsewhere,
  fail,
  failWords,
  hereToken,
  peek,
  wordHere,
  type NoteEvent,
  type Reading,
} from './reading'
import type { Token } from './tokens'
import { noteValue, numberOf } from './vocabulary'

const highestFret = (r: Reading): number =>
  r.context.part.instrument.fretCount - r.context.part.instrument.capo

/** The note said last, or a refusal. */
function lastNote(r: Reading, token: Token, otherwise: string): NoteEvent {
  const event = r.events.at(-1)
  return event?.layer === 'note' ? event : fail(r, token, otherwise)
}
const NOTE_FIRST = 'This belongs to a note: say the fret first.'
/** A trill reaches at most this many frets up. */
const WIDEST_TRILL = 7

function readTrill(r: Reading, token: Token): void {
  r.i++
  const { fret } = lastNote(r, token, 'A trill belongs to a note: say the fret first.')
  const other = numberOf(peek(r))
  const said = other !== undefined && other > fret && other - fret <= WIDEST_TRILL ? other - fret : undefined
  if (said !== undefined) r.i++
  const frets = said ?? 2
  if (fret + frets > highestFret(r)) fail(r, token, 'The trill reaches beyond the neck.')
  addMark(r, { kind: 'trill', frets }, token)
}
function readPick(r: Reading, token: Token): void {
  const way = wordHere(r, 1)
  if (way !== 'down' && way !== 'up') fail(r, token, 'Picked which way?', ['pick down', 'pick up'])
  r.i += 2
  lastNote(r, token, NOTE_FIRST)
  for (const one of lastAsOne(r, token)) if (one.layer === 'note') one.pick = way
}
function readFinger(r: Reading, token: Token): void {
  const finger = String(numberOf(peek(r, 1)) ?? peek(r, 1)).toUpperCase()
  if (!FINGER.test(finger)) fail(r, token, 'Which finger?', ['finger 1', 'finger 2', 'finger 3', 'finger 4'])
  const note = lastNote(r, token, NOTE_FIRST)
  r.i += 2
  note.finger = finger as 'T' | '1'
}
function readOut(r: Reading, token: Token): void {
  r.i++
  addMark(r, { kind: 'slide', how: 'out', ...optionalFrets(r) }, token)
}
const NOTE_WORDS: Record<string, (r: Reading, token: Token) => void> = {
  trill: readTrill,
  out: readOut,
  pick: readPick,
  finger: readFinger,
}

/** What is said of one note only. */
export function noteWord(r: Reading, word: string, token: Token): boolean {
  const said = Object.hasOwn(NOTE_WORDS, word) ? NOTE_WORDS[word] : undefined
  said?.(r, token)
  return said !== undefined
}

/**
 * The last note's fifth or octave on a higher string, at once with it: "A 2 power". Marks said after it
 * go on both.
 */
export function readDouble(r: Reading, strings: number, semitones: number, token: Token): void {
  const index = r.events.length - 1
  const root = r.events[index]
  const name = semitones === 7 ? 'fifth' : 'octave'
  if (root?.layer !== 'note' || root.string === NAMELESS)
    failWords(token, `The ${name} of which note? Say its string and fret first.`, ['A 2 power', 'A 2 octave'])
  const { openMidi } = r.context.part.tuning
  const string = root.string - strings
  if (string < 1)
    fail(
      r,
      token,
      `There is no string above string ${root.string} for the ${name}.`,
      elsewhere(r, root.string, root.fret, r.context.part.instrument.fretCount).map(
        (place) => `${place} ${semitones === 7 ? 'power' : 'octave'}`,
      ),
    )
  const fret = root.fret + semitones - (openMidi[string - 1]! - openMidi[root.string - 1]!)
  if (fret < 0 || fret > r.context.part.instrument.fretCount - r.context.part.instrument.capo)
    fail(
      r,
      token,
      `The ${name} of fret ${root.fret} on string ${root.string} does not lie on string ${string} ` +
        'of this tuning.',
    )
  if (
    r.events.some(
      (event) => event.layer === 'note' && event.string === string && event.startTicks === root.startTicks,
    )
  )
    fail(r, token, `Two notes on one string at once: string ${string} already sounds here.`)
  const from = r.events.findLast(
    (event) => event.layer === 'note' && event.string === string && event.startTicks < root.startTicks,
  )
  const slid = root.marks.filter((mark) =>
    from && 'fret' in from && from.fret !== fret
      ? mark.kind !== 'hammer-on' && mark.kind !== 'pull-off'
      : mark.kind !== 'hammer-on' &&
        mark.kind !== 'pull-off' &&
        !(mark.kind === 'slide' && (mark.how === 'legato' || mark.how === 'shift')),
  )
  r.events.push({ ...root, token, string, fret, marks: [...slid] })
  r.asOne = [index, index + 1]
}

/** "in from below 2": said in the same breath, the number belongs to it. */
export function optionalFrets(r: Reading): { frets?: number } {
  const frets = numberOf(peek(r))
  if (frets === undefined || frets < 1 || frets > 12) return {}
  r.i++
  return { frets }
}

/** "in eighths" sets the step; "in from below 2" says how a note is slid into. */
export function inWord(r: Reading, token: Token): boolean {
  r.i++
  if (peek(r).toLowerCase() === 'from') {
    const side = peek(r, 1).toLowerCase()
    if (side !== 'below' && side !== 'above')
      fail(r, token, 'Slid in from where?', ['in from below', 'in from above'])
    r.i += 2
    addMark(
      r,
      { kind: 'slide', how: side === 'below' ? 'in from below' : 'in from above', ...optionalFrets(r) },
      token,
    )
    return true
  }
  const value = noteValue(peek(r))
  if (value !== undefined) {
    r.i++
    r.step = value
    return true
  }
  if (/^1\/\d+$/.test(peek(r))) return stepToken(r, hereToken(r)!)
  const number = numberOf(peek(r))
  if (number && /^ticks?$/i.test(peek(r, 1))) {
    r.i += 2
    r.step = number
    return true
  }
  fail(r, token, 'In which steps?', ['in eighths', 'in sixteenths', 'in triplets', 'in quarters'])
}

export function readRelease(r: Reading, token: Token): void {
  const note = r.events.findLast((event): event is NoteEvent => event.layer === 'note')
  const bend = note?.marks.find((mark) => mark.kind === 'bend')
  if (!note || bend?.kind !== 'bend' || bend.shape === 'release')
    fail(r, token, 'There is no bend before this to release.', ['bend 2, release'])
  r.last = { kind: 'notes', startTicks: r.at, first: r.events.length }
  r.events.push({
    layer: 'note',
    token,
    string: note.string,
    fret: note.fret,
    startTicks: r.at,
    lengthTicks: r.step,
    marks: [{ kind: 'bend', semitones: bend.semitones, shape: 'release' }],
  })
  advance(r, r.step, token)
}
