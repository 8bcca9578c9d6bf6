// The call line read: what a teacher says, in the order it is said, as a figure's content. A cursor moves
// through time by the present step; notes and strokes stand at the cursor, grips hold from it, marks go to
// what was said last. Nothing is applied by half: the result is all of it, or the first error with its
// place, a sentence and what may have been meant. The grammar, with examples, is docs/call-line.md.
import { contentProblem } from '../document/invariants/content'
import { readChordSymbol } from '../music/chord-name'
import { readGrip } from '../fretboard/grips/grip'
import { soundingStrings } from '../document/pattern'
import { EMPTY_CONTENT, type Grip, type Note, type Stroke } from '../document/schema'
import { barTicks } from '../time/meter'
import { spokenChord } from './chord-words'
import { CallMarks } from './marks'
import {
  CallProblem,
  LONGEST_CALL,
  MOST_EVENTS,
  MOVES,
  type CallContext,
  type CallError,
  type CallResult,
  type Group,
  type ParsedCall,
  type TimedEvent,
} from './reading'
import type { Token } from './tokens'
import {
  FILLERS,
  nearWords,
  NUMBER_WORDS,
  noteValue,
  noteValueName,
  numberOf,
  ordinalOf,
  wordOf,
  WORDS,
} from './vocabulary'

export type { CallContext, CallError, CallResult, ParsedCall }

/** Reads a call. Never throws for what is typed. */
export function parseCall(call: string, context: CallContext): CallResult {
  if (call.length > LONGEST_CALL)
    return {
      ok: false,
      error: {
        at: LONGEST_CALL,
        end: call.length,
        message: `A call may have ${LONGEST_CALL} characters: enter it in pieces.`,
        suggestions: [],
      },
    }
  const result = read(call, context)
  return result.ok ? playable(result, call, context) : quoted(result)
}

function read(call: string, context: CallContext): CallResult {
  try {
    return { ok: true, value: new CallReader(call, context).read() }
  } catch (error) {
    if (error instanceof CallProblem) return { ok: false, error: error.problem }
    throw error
  }
}

type Refused = Extract<CallResult, { ok: false }>

/** Nothing that cannot be played is understood as a call, whatever the words were. */
function playable(result: CallResult & { ok: true }, call: string, context: CallContext): CallResult {
  const problem = contentProblem(result.value.content, context.part, Number.POSITIVE_INFINITY)
  if (!problem) return result
  return {
    ok: false,
    error: { at: 0, end: call.length, message: `That cannot be played: ${problem}.`, suggestions: [] },
  }
}

const LONGEST_QUOTED = 40

/** The refusal with no endless word quoted back. */
function quoted({ error }: Refused): Refused {
  const message = error.message.replaceAll(/\S{41,}/g, (word) => `${word.slice(0, LONGEST_QUOTED)}…`)
  return { ok: false, error: { ...error, message } }
}

/** Strokes that are counted: "two dead", "one chord". */
const COUNTED: ReadonlySet<string> = new Set(['dead', 'strum', 'down', 'up', 'chord', 'bass'])

class CallReader extends CallMarks {
  read(): ParsedCall {
    while (this.i < this.list.length) {
      this.token()
      if (this.events.length + this.holds.length > MOST_EVENTS)
        this.fail(
          this.list[this.i - 1]!,
          `More than ${MOST_EVENTS} notes and strokes in one call: enter it in pieces.`,
        )
    }
    if (this.open.length) this.fail(this.list.at(-1)!, 'A bracket is not closed.', [')'])
    const span = this.spans[0]
    if (span) this.fail(span.token, 'The muting that begins here does not end.', [']'])
    this.settleMarks()
    this.nameless()
    if (this.nextMove || this.nextMarks.length || this.together)
      this.fail(this.list.at(-1)!, 'Something is missing after this: which fret?', ['7', 'open'])
    return this.finish()
  }
  protected token(): void {
    const token = this.list[this.i]!
    const { text } = token
    if (this.punctuation(token)) return
    const word = wordOf(text)
    if (
      this.bareGrip(token) ||
      this.stringToken(token, word) ||
      this.count(token) ||
      this.fretToken(token, word) ||
      this.stepToken(token)
    )
      return
    if (word && this.saidWord(word, token)) return
    if (this.valueWord(token)) return
    if (FILLERS.has(text.toLowerCase())) {
      this.i++
      return
    }
    if (this.chordToken(token)) return
    this.unknown(token)
  }
  /** "triplets G 5 7 9" sets the step like "in triplets"; "eighth note rest" is a rest of that length. */
  protected valueWord(token: Token): boolean {
    // "15 full bend", "9 half step bend": the amount said before the word.
    const steps = /^(steps?|tones?)$/i.test(this.peek(1)) ? 1 : 0
    if (/^(full|whole|half|quarter)$/i.test(token.text) && this.word(1 + steps) === 'bend') {
      const semitones = this.amount(token, 0.25, 5)
      this.i++
      this.addMark({ kind: 'bend', semitones, shape: this.bendShape() }, token)
      return true
    }
    const value = noteValue(token.text)
    if (value === undefined) return false
    const noted = /^notes?$/i.test(this.peek(1))
    const after = noted ? 2 : 1
    if (this.word(after) === 'rest') {
      this.i += after + 1
      this.restFor(value, token)
      return true
    }
    if (
      !/s$/i.test(token.text) &&
      token.text.toLowerCase() !== 'triplet' &&
      this.peek(1).toLowerCase() !== 'notes'
    )
      this.fail(token, `“${token.text}” is a length: for this note, or from here on?`, [
        `for ${/^[aeiou]/i.test(token.text) ? 'an' : 'a'} ${token.text}`,
        `in ${noteValueName(value) ?? `${token.text}s`}`,
      ])
    this.i += after
    this.step = value
    return true
  }
  protected unknown(token: Token): never {
    const near = nearWords(token.text, [
      ...WORDS.map((entry) => entry.word),
      'eighths',
      'quarters',
      'sixteenths',
      'triplets',
      ...NUMBER_WORDS,
    ])
    const letter = /^[A-Ga-g](#|b)?\d*$/.test(token.text)
    this.fail(
      token,
      letter
        ? `There is no string “${token.text.replace(/\d+$/, '')}” on ${this.context.part.name}: its strings are ${[...this.context.letters].reverse().join(' ')}.`
        : `“${token.text}” is not a word of the call line.`,
      letter ? [...new Set(this.context.letters), `hold ${token.text}`] : near,
    )
  }
  protected punctuation(token: Token): boolean {
    switch (token.text) {
      case ',':
      case ';':
        this.i++
        this.endClause()
        return true
      case '\n':
        this.i++
        this.endClause()
        this.endLine()
        return true
      case '|':
        this.i++
        this.barLine(token)
        this.endClause()
        return true
      case '(':
        this.i++
        this.endClause()
        this.open.push(this.groupHere())
        return true
      case ')': {
        const group = this.open.pop()
        if (!group) this.fail(token, 'This bracket closes nothing.')
        this.i++
        this.endClause()
        this.closed = group
        return true
      }
      case '[':
        this.fail(
          token,
          'A square bracket begins a stretch of muting: write palm firm [ … ] or ring [ … ].',
          ['palm firm [', 'ring ['],
        )
      // eslint-disable-next-line no-fallthrough -- fail never returns
      case ']': {
        const span = this.spans.pop()
        if (!span) this.fail(token, 'This bracket closes no muting.')
        if (this.at <= span.startTicks) this.fail(token, 'There is nothing inside this muting.')
        this.mutes.push({
          kind: span.kind,
          startTicks: span.startTicks,
          lengthTicks: this.at - span.startTicks,
          ...(span.pressure ? { pressure: span.pressure } : {}),
        })
        this.i++
        return true
      }
      default:
        return this.star(token)
    }
  }
  protected star(token: Token): boolean {
    // "( … ) x4", as it is written on a chart.
    const times = this.closed && /^[x×](\d{1,2})$/i.exec(token.text)
    if (times && this.list[this.i - 1]?.text === ')') {
      this.i++
      this.repeat(this.closed!, Number(times[1]), token)
      return true
    }
    if (!token.text.startsWith('*')) return false
    const [top, bottom] = token.text.slice(1).split('/').map(Number)
    if (!top) this.fail(token, 'A star wants a number: 7*3 is three steps long, ( … ) *2 is played twice.')
    this.i++
    if (this.closed) {
      this.repeat(this.closed, top, token)
      return true
    }
    this.setLength(Math.round((this.step * top) / (bottom || 1)), token)
    return true
  }
  protected endLine(): void {
    if (this.events.length > this.line.first)
      this.lineBefore = { ...this.line, endTicks: this.at, end: this.events.length }
    this.line = this.groupHere()
  }
  /** Numbers that count what follows: "two dead", "three times", "4 down". */
  protected count(token: Token): boolean {
    const number = numberOf(token.text)
    if (number === undefined || number === 0) return false
    const next = this.peek(1).toLowerCase()
    if (next === 'times') {
      this.i += 2
      this.repeat(this.recent(), number, token)
      return true
    }
    // "two bars rest".
    if (/^(bars?|beats?)$/i.test(this.peek(1)) && this.word(2) === 'rest') {
      const ticks = this.length(token)
      this.i++
      this.restFor(ticks, token)
      return true
    }
    const word = this.word(1)
    if (word === undefined || !COUNTED.has(word) || this.peek(1) === 'x' || this.list[this.i + 1]?.line)
      return false
    if (number > 64) this.fail(token, `${number} strokes in a row: say it in bars.`)
    this.i++
    const at = this.i
    for (let stroke = 0; stroke < number; stroke++) {
      this.i = at
      this.saidWord(word, this.here!)
    }
    return true
  }
  protected restFor(ticks: number, token: Token): void {
    this.last = { kind: 'rest', startTicks: this.at, first: this.events.length }
    this.advance(ticks, token)
  }
  protected saidWord(word: string, token: Token): boolean {
    const move = MOVES[word]
    if (move) return this.move(word, move)
    switch (word) {
      case 'tap':
        this.i++
        this.nextMarks.push({ kind: 'tap' })
        return true
      case 'muted':
        this.i++
        this.nextMarks.push({ kind: 'dead' })
        return true
      case 'grace': {
        this.i++
        const fret = this.fretAt(token, 'grace from which fret?')
        this.nextMarks.push({ kind: 'grace', fret })
        return true
      }
      case 'release':
        this.i++
        this.release(token)
        return true
      case 'rest': {
        this.i++
        // "rest two beats": a number with its unit is the rest's length, a bare one the next fret.
        const timed =
          numberOf(this.peek()) !== undefined &&
          (/^(bars?|beats?|ticks?)$/i.test(this.peek(1)) || noteValue(this.peek(1)) !== undefined)
        this.restFor(timed ? this.length(token) : this.step, token)
        return true
      }
      case 'for':
        this.i++
        this.setLength(this.length(token), token)
        return true
      case 'ringing': {
        this.i++
        this.skip('for')
        const ticks = this.length(token)
        for (const event of this.lastAsOne(token)) {
          event.lengthTicks = ticks
          event.rings = true
        }
        return true
      }
      case 'tie':
        this.i++
        this.setLength(this.lengthOfLast(token) + this.step, token)
        return true
      case 'dotted':
        this.i++
        this.setLength(Math.round(this.lengthOfLast(token) * 1.5), token)
        return true
      case 'in':
        return this.inWord(token)
      case 'at':
        this.i++
        this.goTo(token)
        return true
      case 'on':
        this.i++
        this.onStrings(token)
        return true
      case 'and':
        this.i++
        if (this.peek().toLowerCase() === 'then') {
          this.i++
          return true
        }
        if (this.last?.kind === 'notes') this.together = true
        return true
      case 'hold': {
        this.i++
        this.skip('the')
        const next = this.here
        if (!next)
          this.fail(token, 'Which grip? Write its strings, low to high, or a chord name.', [
            'hold x02220',
            'hold Em',
          ])
        const said = spokenChord(this.list.slice(this.i, this.i + 8).map((one) => one.text))
        const chord =
          said && readChordSymbol(said.symbol)
            ? said
            : readChordSymbol(next.text)
              ? { symbol: next.text, used: 1 }
              : undefined
        const grip =
          readGrip(next.text, this.context.part.tuning.openMidi.length) ??
          (chord && this.gripNamed(next, chord.symbol))
        if (!grip)
          this.fail(
            next,
            `“${next.text}” is no grip for ${this.context.part.tuning.openMidi.length} strings and no chord name.`,
            ['hold x02220', 'hold F#m7'],
          )
        const highest = this.context.part.instrument.fretCount - this.context.part.instrument.capo
        if (grip.strings.some((string) => (string.fret ?? 0) > highest))
          this.fail(next, `This grip reaches beyond the neck: the highest fret is ${highest}.`)
        this.i += chord?.used ?? 1
        this.hold(grip, next)
        return true
      }
      case 'fingered':
        this.i++
        this.fingered(token)
        return true
      case 'barre':
        this.i++
        this.barre(token)
        return true
      case 'down':
      case 'up':
      case 'thumb':
      case 'fingers':
        this.i++
        this.stroke({ direction: word }, token)
        return true
      // "strum down down up": the strokes are said after it.
      case 'strum':
        this.i++
        if ((this.word() !== 'down' && this.word() !== 'up') || this.here!.line) this.stroke({}, token)
        return true
      case 'dead': {
        this.i++
        const way = this.word()
        const direction = (way === 'down' || way === 'up') && !this.list[this.i]!.line ? way : undefined
        if (direction) this.i++
        this.stroke({ dead: true, ...(direction ? { direction } : {}) }, token)
        return true
      }
      case 'bass':
        this.i++
        this.stroke({ on: 'bass', direction: 'down' }, token)
        return true
      case 'chord':
        this.i++
        this.stroke({ on: 'chord' }, token)
        return true
      case 'pluck':
        this.i++
        this.pluck(token)
        return true
      case 'palming':
      case 'letting':
        this.i++
        this.spanWord(word, token)
        return true
      case 'same':
        this.i++
        this.skip('again')
        this.same(token)
        return true
      case 'again':
        this.i++
        this.repeat(this.recent(), 2, token)
        return true
      case 'twice':
        this.i++
        this.repeat(this.recent(), 2, token)
        return true
      case 'times':
        this.fail(token, 'How many times?', ['twice', 'three times'])
      // eslint-disable-next-line no-fallthrough -- fail never returns
      default:
        return this.mark(word, token)
    }
  }
  /** What "twice" means: the bracket just closed, this clause, or the one before the comma. */
  protected recent(): Group {
    return (
      this.closed ??
      (this.events.length > this.clause.first ? this.clause : (this.clauseBefore ?? this.clause))
    )
  }
  protected repeat(group: Group, times: number, token: Token): void {
    this.closed = undefined
    const copied = this.events.slice(group.first)
    const length = this.at - group.startTicks
    if (times < 1 || times > 64) this.fail(token, 'Say a number of times up to 64.')
    if (copied.length === 0 || length <= 0) this.fail(token, 'There is nothing before this to repeat.')
    if (copied.length * times > MOST_EVENTS)
      this.fail(token, `That would make more than ${MOST_EVENTS} notes and strokes.`)
    for (let round = 1; round < times; round++) this.copy(copied, group, round * length, length, token)
  }
  /**
   * Says again what was said in a group: its notes and strokes, and the grips and muting that were said
   * with them, not those that only go on through it.
   */
  protected copy(
    events: readonly TimedEvent[],
    group: Group,
    shift: number,
    length: number,
    token: Token,
  ): void {
    const from = Math.min(...events.map((event) => event.startTicks))
    const inside = <T extends { startTicks: number }>(list: readonly T[]): T[] =>
      list
        .filter((entry) => entry.startTicks >= from && entry.startTicks < from + length)
        .map((entry) => ({ ...entry, startTicks: entry.startTicks + shift }))
    if (shift > 0) {
      this.holds.push(...inside(this.holds.slice(group.firstHold)))
      this.mutes.push(...inside(this.mutes.slice(group.firstMute)))
    }
    this.last = {
      kind: events.at(-1)!.layer === 'note' ? 'notes' : 'stroke',
      startTicks: events.at(-1)!.startTicks + shift,
      first: this.events.length + events.length - 1,
    }
    this.events.push(
      ...events.map((event) => ({
        ...event,
        token,
        startTicks: event.startTicks + shift,
        ...('articulations' in event ? { articulations: [...event.articulations] } : {}),
      })),
    )
    this.advance(length, token)
  }
  /** "same again", "same again but last note 9", "… but last two notes 9 7", "… but first note 5". */
  protected same(token: Token): void {
    const source =
      this.events.length > this.line.first
        ? { ...this.line, endTicks: this.at, end: this.events.length }
        : this.lineBefore
    if (!source) this.fail(token, 'There is no line before this to play again.')
    const events = this.events.slice(source.first, source.end)
    const start = this.events.length
    this.copy(events, source, this.at - source.startTicks, source.endTicks - source.startTicks, token)
    while (this.peek() === ',' && wordOf(this.peek(1)) === undefined && this.peek(1).toLowerCase() === 'but')
      this.i++
    if (this.peek().toLowerCase() !== 'but') return
    this.i++
    this.skip('the')
    const which = this.peek().toLowerCase()
    const ordinal = which === 'note' ? undefined : ordinalOf(which)
    if (which !== 'last' && which !== 'note' && ordinal === undefined)
      this.fail(token, 'But which note?', ['but last note 9', 'but last two notes 9 7', 'but first note 5'])
    this.i++
    const number = numberOf(this.peek())
    const counted = number !== undefined && (which === 'note' || /^notes?$/i.test(this.peek(1)))
    if (counted) this.i++
    const many = counted && which !== 'note' ? number : 1
    const skipNotes =
      which === 'note' ? (number ?? 1) - 1 : ordinal !== undefined ? ordinal - 1 : events.length - many
    while (/^notes?$/i.test(this.peek())) this.i++
    if (skipNotes < 0 || skipNotes + many > events.length)
      this.fail(token, `That line has ${events.length} notes.`)
    this.string = undefined
    this.replacing = Array.from({ length: many }, (_, index) => start + skipNotes + index)
    const target = this.events[this.replacing[0]!]!
    if (target.layer === 'note' && this.isFret()) this.string = target.string
    else if (!this.here) this.fail(token, 'But what instead?', ['but last note 9'])
    while (this.replacing.length && this.i < this.list.length && !['\n', ',', ';'].includes(this.peek())) {
      const next = this.events[this.replacing[0]!]!
      if (next.layer === 'note' && this.isFret() && this.list[this.i - 1]?.text.toLowerCase() !== 'string')
        this.string ??= next.string
      this.token()
    }
    if (this.replacing.length)
      this.fail(
        token,
        `${this.replacing.length} more ${this.replacing.length === 1 ? 'note is' : 'notes are'} missing after this.`,
      )
  }
  protected finish(): ParsedCall {
    const begins = [
      ...this.covered.map((span) => span.from),
      ...this.events.map((event) => event.startTicks),
      ...this.holds.map((hold) => hold.startTicks),
    ]
    const startTicks = begins.length ? Math.min(...begins) : (this.context.startTicks ?? 0)
    const end = Math.max(
      this.at,
      this.gripEnd,
      ...this.events.map((event) => event.startTicks + event.lengthTicks),
    )
    const grips = this.holds
      .sort((a, b) => a.startTicks - b.startTicks)
      .map((hold, index) => {
        // A grip nothing follows is held to the end of the figure, or of its bar.
        const next =
          this.holds[index + 1]?.startTicks ??
          Math.max(
            end,
            this.context.lengthTicks ??
              (end > hold.startTicks
                ? 0
                : (Math.floor(hold.startTicks / barTicks(this.context.meter)) + 1) *
                  barTicks(this.context.meter)),
          )
        return {
          id: `g${index}`,
          startTicks: hold.startTicks,
          lengthTicks: hold.lengthTicks ?? Math.max(1, next - hold.startTicks),
          grip: hold.grip,
        }
      })
      .filter(
        (span, index, all) => !all.slice(index + 1).some((later) => later.startTicks === span.startTicks),
      )
    const held = [...(this.context.content?.grips ?? []), ...grips]
    const strokes: Stroke[] = []
    const notes: Note[] = []
    const plays = this.events.some((event) => event.layer === 'stroke' && event.on === 'bass')
    for (const event of this.events) {
      if (event.layer === 'note') {
        const { layer: _layer, token: _token, rings: _rings, ...note } = event
        notes.push({ ...note, id: `n${notes.length}` })
        continue
      }
      const { layer: _layer, token, on, rings: _rings, ...stroke } = event
      strokes.push({
        ...stroke,
        ...(on && !(on === 'chord' && !plays)
          ? { strings: this.relative(on, stroke.startTicks, held, token) }
          : {}),
        id: `s${strokes.length}`,
      })
    }
    strokes.sort((a, b) => a.startTicks - b.startTicks)
    const twice = strokes.find((stroke, index) => strokes[index + 1]?.startTicks === stroke.startTicks)
    if (twice) this.fail(this.list.at(-1)!, `Two strokes at once at ${this.place(twice.startTicks)}.`)
    notes.sort((a, b) => a.startTicks - b.startTicks || b.string - a.string)
    const clash = notes.find((note, index) =>
      notes
        .slice(index + 1, index + 8)
        .some((other) => other.startTicks === note.startTicks && other.string === note.string),
    )
    if (clash)
      this.fail(
        this.events.findLast(
          (event) =>
            event.layer === 'note' && event.startTicks === clash.startTicks && event.string === clash.string,
        )!.token,
        `Two notes on one string at once: string ${clash.string} at ${this.place(clash.startTicks)}.`,
      )
    return {
      covered: this.covered.filter((span) => span.to > span.from),
      content: {
        ...EMPTY_CONTENT,
        grips,
        strokes,
        notes,
        mutes: this.mutes.map((mute, index) => ({ ...mute, id: `m${index}` })),
      },
      startTicks,
      endTicks: end,
      stepTicks: this.step,
      string: this.string,
    }
  }
  protected relative(
    on: 'bass' | 'chord',
    tick: number,
    held: readonly { startTicks: number; lengthTicks: number; grip: Grip }[],
    token: Token,
  ): number[] {
    const grip = held.findLast(
      (span) => span.startTicks <= tick && tick < span.startTicks + span.lengthTicks,
    )?.grip
    const sounding = grip ? soundingStrings(grip) : []
    if (sounding.length === 0)
      this.fail(token, `The ${on} of which grip? Hold one first.`, ['hold x32010', 'hold Em'])
    return on === 'bass'
      ? [sounding[0]!]
      : (sounding.length > 1 ? sounding.slice(1) : sounding).toSorted((a, b) => a - b)
  }
}
