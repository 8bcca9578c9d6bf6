// Notes, strokes and grips as they are said, and their lengths.
import type { Mark, Grip, Stroke } from '../document/schema'
import { usualDirection } from '../neck/strokes'
import {
  type MOVES,
  NAMELESS,
  advance,
  elsewhere,
  fail,
  failOver,
  fraction,
  placeOf,
  type NoteEvent,
  type Reading,
  type StrokeEvent,
  type TimedEvent,
} from './reading'
import type { Token } from './tokens'

export function sayNote(r: Reading, fret: number, token: Token): void {
  addNote(r, fret, token)
  r.asOne = []
  for (const mark of r.clauseMarks) mark(token)
}

/** Marks said before a note: tapped, dead, a grace note before it. */
function takeNextMarks(r: Reading, fret: number, token: Token): Mark[] {
  const marks = r.nextMarks
  r.nextMarks = []
  return marks.map((mark): Mark => {
    if (mark.kind !== 'grace') return { kind: mark.kind }
    const frets = mark.fret! - fret
    if (frets === 0 || Math.abs(frets) > 7)
      fail(r, token, 'A grace note lies within seven frets of its note.', [
        `grace ${fret > 1 ? fret - 2 : fret + 2} to ${fret}`,
      ])
    return { kind: 'grace', frets }
  })
}

/** The movement said before a note, or the one a run of them goes on with. */
function takeMove(r: Reading): (typeof MOVES)[string] | undefined {
  const move = r.nextMove ?? (r.run?.started ? r.run.move : undefined)
  if (r.run) r.run.started = true
  r.nextMove = undefined
  return move
}

type Played = Pick<NoteEvent, 'string' | 'fret' | 'marks' | 'token'>

/** Takes the place of a note of the line said again: "but last note 9". */
function replaceNote(r: Reading, replaced: TimedEvent, played: Played): void {
  const index = r.replacing.shift()!
  if (replaced.layer !== 'note') fail(r, played.token, 'The last thing there is a stroke, not a note.')
  const { startTicks, lengthTicks } = replaced
  const string = played.string === NAMELESS ? replaced.string : played.string
  r.events[index] = { layer: 'note', ...played, string, startTicks, lengthTicks }
  r.last = { kind: 'notes', startTicks, first: index }
  r.together = false
}

const soundsAt = (events: readonly TimedEvent[], string: number, startTicks: number): boolean =>
  events.some((event) => event.layer === 'note' && event.string === string && event.startTicks === startTicks)

/** Sounds at once with the note before. */
function joinNote(r: Reading, last: NonNullable<Reading['last']>, played: Played, highest: number): void {
  const { string, fret, token } = played
  if (soundsAt(r.events.slice(last.first), string, last.startTicks))
    fail(
      r,
      token,
      `Two notes on one string at once: string ${string} already sounds here.`,
      elsewhere(r, string, fret, highest),
    )
  const { startTicks } = last
  r.events.push({ layer: 'note', ...played, startTicks, lengthTicks: r.at - startTicks })
  r.together = false
}

function appendNote(r: Reading, played: Played, highest: number): void {
  const { string, fret, token } = played
  r.together = false
  if (soundsAt(r.events, string, r.at))
    fail(
      r,
      token,
      `Two notes on one string at once: string ${string} already has a note at ${placeOf(r, r.at)}.`,
      elsewhere(r, string, fret, highest),
    )
  r.last = { kind: 'notes', startTicks: r.at, first: r.events.length }
  r.events.push({ layer: 'note', ...played, startTicks: r.at, lengthTicks: r.step })
  advance(r, r.step, token)
}

function addNote(r: Reading, fret: number, token: Token): void {
  const { part } = r.context
  const highest = part.instrument.fretCount - part.instrument.capo
  const replaced = r.replacing.length ? r.events[r.replacing[0]!] : undefined
  const string = r.string ?? (replaced?.layer === 'note' ? replaced.string : NAMELESS)
  if (fret > highest)
    fail(
      r,
      token,
      `Fret ${fret} is beyond the neck: the highest is ${highest}.`,
      elsewhere(r, string, fret, highest),
    )
  const marks = takeNextMarks(r, fret, token)
  const move = takeMove(r)
  const played = { string, fret, marks, token }
  if (replaced) {
    replaceNote(r, replaced, played)
    return
  }
  if (move) marks.unshift(moved(r, move, played))
  if (r.together && r.last?.kind === 'notes') joinNote(r, r.last, played, highest)
  else appendNote(r, played, highest)
  r.clauseFrets.push({ index: r.events.length - 1 })
}

const MOVE_NAMES = { 'hammer-on': 'hammer-on', 'pull-off': 'pull-off', legato: 'slide', shift: 'slide' }
type Move = (typeof MOVES)[string]

/** Whether another string was struck since the note a movement would come from. */
const crossesTo = (r: Reading, string: number, before: NoteEvent, from: { startTicks: number }): boolean =>
  before.string !== string &&
  before.startTicks > from.startTicks &&
  !soundsAt(r.events, string, before.startTicks)

/** The note a movement comes from: the one before on its string, said in this call or standing there. */
function comesFrom(r: Reading, move: Move, { string, fret, token }: Played): { fret: number } {
  const start = r.together && r.last ? r.last.startTicks : r.at
  const notes = r.events.filter(
    (event): event is NoteEvent => event.layer === 'note' && event.startTicks < start,
  )
  const before = notes.at(-1)
  const said = notes.findLast((event) => event.string === string)
  const written = r.context.content?.notes.findLast(
    (note) => note.string === string && note.startTicks < start,
  )
  const from = said ?? written
  const name = MOVE_NAMES[move]
  // A slide may be taken up again after another string; what is hammered or pulled follows at once.
  const resumed = said !== undefined && MOVE_NAMES[move] === 'slide'
  if (before && (!from || (!resumed && crossesTo(r, string, before, from))))
    fail(
      r,
      token,
      `A ${name} stays on its string: the note before is on string ${before.string}, ` +
        `this one on string ${string}.`,
      [String(fret)],
    )
  if (from) return from
  return fail(r, token, `A ${name} needs a note to come from.`, [
    `${fret} ${name === 'pull-off' ? fret : fret + 2}`,
  ])
}

/** The mark of a note that is reached by a movement. */
function moved(r: Reading, move: Move, played: Played): Mark {
  const { fret, token } = played
  const from = comesFrom(r, move, played)
  if (from.fret === fret)
    fail(r, token, `A ${MOVE_NAMES[move]} has to go somewhere: the note before is fret ${fret} too.`)
  if (move === 'hammer-on' && fret < from.fret)
    fail(r, token, `A hammer-on goes up: from ${from.fret} to ${fret} is a pull-off.`, [`pull ${fret}`])
  if (move === 'pull-off' && fret > from.fret)
    fail(r, token, `A pull-off goes down: from ${from.fret} to ${fret} is a hammer-on.`, [`hammer ${fret}`])
  return move === 'hammer-on' || move === 'pull-off' ? { kind: move } : { kind: 'slide', how: move }
}

export function sayStroke(
  r: Reading,
  set: Partial<StrokeEvent> & { direction?: Stroke['direction'] },
  token: Token,
): void {
  const direction = set.direction ?? usualDirection(r.at, r.context)
  r.last = { kind: 'stroke', startTicks: r.at, first: r.events.length }
  r.events.push({
    layer: 'stroke',
    token,
    startTicks: r.at,
    lengthTicks: r.step,
    marks: [],
    ...set,
    direction,
  })
  advance(r, r.step, token)
  for (const mark of r.clauseMarks) mark(token)
}

export function sayHold(r: Reading, grip: Grip, token: Token): void {
  const startTicks = Math.max(r.at, r.gripEnd)
  if (startTicks >= (r.context.lengthTicks ?? Number.POSITIVE_INFINITY))
    checkEnd(r, startTicks + r.step, token)
  r.last = { kind: 'hold', startTicks, first: r.events.length }
  r.holds.push({ startTicks, lengthTicks: undefined, grip, token })
}

function lastTimed(r: Reading, token: Token): TimedEvent {
  const event = r.events.at(-1)
  if (!event || r.last?.kind === 'rest' || r.last?.kind === 'hold')
    fail(r, token, 'There is no note or stroke before this.')
  return event
}

/** The last note or stroke, or the two notes that were said as one. */
export function lastAsOne(r: Reading, token: Token): TimedEvent[] {
  const last = lastTimed(r, token)
  return r.asOne.length ? r.asOne.map((index) => r.events[index]!) : [last]
}

export function stepOfLast(r: Reading): number {
  return r.last ? r.at - r.last.startTicks : r.step
}

export function lengthOfLast(r: Reading, token: Token): number {
  if (!r.last) fail(r, token, 'There is nothing before this to lengthen.')
  if (r.last.kind === 'hold') return r.holds.at(-1)!.lengthTicks ?? r.step
  return r.at - r.last.startTicks
}

export function setLength(r: Reading, ticks: number, token: Token): void {
  if (!r.last) fail(r, token, 'There is nothing before this whose length could be set.')
  if (ticks < 1) fail(r, token, 'A length is at least a tick.')
  if (r.last.kind === 'hold') {
    const hold = r.holds.at(-1)!
    hold.lengthTicks = ticks
    r.gripEnd = hold.startTicks + ticks
    checkEnd(r, r.gripEnd, token)
    return
  }
  for (const event of r.events.slice(r.last.first))
    if (event.startTicks === r.last.startTicks && !event.rings) event.lengthTicks = ticks
  const before = r.at
  r.at = r.last.startTicks
  if (r.last.first < r.events.length && r.events.at(-1)!.startTicks > r.last.startTicks) {
    r.at = before
    return
  }
  const said = r.covered.at(-1)
  if (said?.to === before) said.to = r.at
  advance(r, ticks, token)
}

export function checkEnd(r: Reading, tick: number, token: Token): void {
  const end = r.context.lengthTicks
  if (end === undefined || tick <= end) return
  const steps = fraction((tick - end) / r.step)
  failOver(token, `That reaches ${steps} steps past the end of the figure.`, {
    overTicks: tick - end,
    suggestions: ['tie over into a new bar'],
  })
}
