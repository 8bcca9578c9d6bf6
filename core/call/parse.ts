// The call line read: what a teacher says, in the order it is said, as a figure's content. A cursor moves through time by the present step; notes and
// strokes stand at the cursor, grips hold from it, marks go to what was said last. Nothing is applied by half: the result is all of it, or the first error
// with its place, a sentence and what may have been meant. The grammar, with examples, is docs/call-line.md.
import { readChordSymbol } from '../music/chord-name'
import { readGrip } from '../playing/grip'
import { usualDirection } from '../playing/strokes'
import { soundingStrings } from '../song/pattern'
import { EMPTY_CONTENT, PRESSURES, type Articulation, type Content, type Grip, type Note, type Part, type PickSchool, type Pressure, type Stroke } from '../song/schema'
import { barTicks, beatTicks, countWords, unitTicks, type Meter, type Subdivision } from '../time/meter'
import { findString } from './strings'
import { tokens, type Token } from './tokens'
import { FILLERS, nearWords, noteValue, noteValueName, NUMBER_WORDS, numberOf, ordinalOf, wordOf, WORDS } from './vocabulary'

export interface CallContext {
  part: Part
  /** Letters of the strings, string 1 first. */
  letters: readonly string[]
  meter: Meter
  subdivision: Subdivision
  school?: PickSchool | undefined
  stepTicks: number
  /** Where the call starts within the figure. */
  startTicks?: number
  /** The figure's end; a call may not reach past it. Left out: no end. */
  lengthTicks?: number
  /** What is there already: its grips say what "bass" and "chord" are. */
  content?: Content
  /** A grip for a chord name, near the grip before. */
  gripFor?: (symbol: string, after: Grip | undefined) => Grip | undefined
}
export interface CallError { at: number; end: number; message: string; suggestions: string[]; /** Set when the only fault is that it does not fit: by how much. */ overTicks?: number }
export interface ParsedCall { content: Content; startTicks: number; endTicks: number; stepTicks: number; /** The string frets go to next. */ string: number | undefined }
export type CallResult = { ok: true; value: ParsedCall } | { ok: false; error: CallError }

/** Longest call that is read, in characters, and most events it may make: a pasted book is refused, not chewed. */
const LONGEST_CALL = 20_000
const MOST_EVENTS = 4000
const FINGER = /^[t1-4]$/i
/** Words whose next number is theirs and no fret. */
const TAKES_NUMBER = new Set(['for', 'bend', 'pre-bend', 're-bend', 'releasing', 'dip', 'dive', 'return', 'trill', 'pinch', 'finger', 'out', 'string', 'grace'])
/** Stands for a string that is named after its frets. */
const NAMELESS = 0
/** Words that go between two steps of the same thought and end nothing. */
const MOVES: Record<string, 'hammer-on' | 'pull-off' | 'legato' | 'shift'> = { hammer: 'hammer-on', pull: 'pull-off', slide: 'legato', shift: 'shift' }

type Draft<T> = Omit<T, 'id'>
/** `rings`: its sounding length was said by itself and stays when the step it takes is set. */
type NoteEvent = Draft<Note> & { layer: 'note'; token: Token; rings?: boolean }
type StrokeEvent = Draft<Stroke> & { layer: 'stroke'; token: Token; rings?: boolean; on?: 'bass' | 'chord' }
type TimedEvent = NoteEvent | StrokeEvent
interface Hold { startTicks: number; lengthTicks: number | undefined; grip: Grip; token: Token }
interface MuteDraft { startTicks: number; lengthTicks: number; kind: 'palm mute' | 'let ring'; pressure?: Pressure }
interface Group { startTicks: number; first: number }

class CallProblem extends Error {
  constructor(readonly problem: CallError) { super(problem.message) }
}

/** Reads a call. Never throws for what is typed. */
export function parseCall(call: string, context: CallContext): CallResult {
  if (call.length > LONGEST_CALL) return { ok: false, error: { at: LONGEST_CALL, end: call.length, message: `A call may have ${LONGEST_CALL} characters: enter it in pieces.`, suggestions: [] } }
  try { return { ok: true, value: new CallReader(call, context).read() } } catch (error) {
    if (error instanceof CallProblem) return { ok: false, error: error.problem }
    throw error
  }
}

class CallReader {
  private readonly list: Token[]
  private i = 0
  private at: number
  private step: number
  private string: number | undefined
  private events: TimedEvent[] = []
  private holds: Hold[] = []
  private mutes: MuteDraft[] = []
  /** Where the next grip with a length of its own begins, when grips are said one after the other. */
  private gripEnd = -1
  private last: { kind: 'notes' | 'stroke' | 'rest' | 'hold'; startTicks: number; first: number } | undefined
  private clause: Group
  private clauseBefore: Group | undefined
  private barStart: number
  private line: Group
  private lineBefore: { startTicks: number; first: number; endTicks: number; end: number } | undefined
  private open: Group[] = []
  private closed: Group | undefined
  private spans: { kind: MuteDraft['kind']; pressure?: Pressure; startTicks: number; token: Token }[] = []
  private together = false
  private nextMove: (typeof MOVES)[string] | undefined
  private nextMarks: { kind: 'tap' | 'dead' | 'grace'; fret?: number }[] = []
  private run: { move: (typeof MOVES)[string]; started: boolean } | undefined
  private replacing: number[] = []
  private clauseFrets: { index: number }[] = []

  constructor(private readonly call: string, private readonly context: CallContext) {
    this.list = tokens(call)
    this.at = context.startTicks ?? 0
    this.step = context.stepTicks
    this.barStart = this.at
    this.clause = { startTicks: this.at, first: 0 }
    this.line = { startTicks: this.at, first: 0 }
  }

  read(): ParsedCall {
    while (this.i < this.list.length) {
      this.token()
      if (this.events.length + this.holds.length > MOST_EVENTS) this.fail(this.list[this.i - 1]!, `More than ${MOST_EVENTS} notes and strokes in one call: enter it in pieces.`)
    }
    if (this.open.length) this.fail(this.list.at(-1)!, 'A bracket is not closed.', [')'])
    const span = this.spans[0]
    if (span) this.fail(span.token, 'The muting that begins here does not end.', [']'])
    this.nameless()
    if (this.nextMove || this.nextMarks.length || this.together) this.fail(this.list.at(-1)!, 'Something is missing after this: which fret?', ['7', 'open'])
    return this.finish()
  }

  // What stands at the reader's place.
  private get here(): Token | undefined { return this.list[this.i] }
  private peek(offset = 0): string { return this.list[this.i + offset]?.text ?? '' }
  private word(offset = 0): string | undefined { return wordOf(this.peek(offset)) }
  private fail(token: Token, message: string, suggestions: string[] = [], overTicks?: number): never {
    throw new CallProblem({ at: token.at, end: token.end, message, suggestions, ...(overTicks === undefined ? {} : { overTicks }) })
  }

  private token(): void {
    const token = this.list[this.i]!
    const { text } = token
    if (this.punctuation(token)) return
    const word = wordOf(text)
    if (this.bareGrip(token) || this.stringToken(token, word) || this.count(token) || this.fretToken(token, word) || this.stepToken(token)) return
    if (word && this.saidWord(word, token)) return
    if (FILLERS.has(text.toLowerCase())) { this.i++; return }
    if (this.chordToken(token)) return
    this.unknown(token)
  }

  private unknown(token: Token): never {
    const near = nearWords(token.text, [...WORDS.map((entry) => entry.word), 'eighths', 'quarters', 'sixteenths', 'triplets', ...NUMBER_WORDS])
    const letter = /^[A-Ga-g](#|b)?\d*$/.test(token.text)
    this.fail(token, letter ? `There is no string “${token.text.replace(/\d+$/, '')}” on ${this.context.part.name}: its strings are ${[...this.context.letters].reverse().join(' ')}.` : `“${token.text}” is not a word of the call line.`, letter ? [...new Set(this.context.letters), `hold ${token.text}`] : near)
  }

  private punctuation(token: Token): boolean {
    switch (token.text) {
      case ',': case ';': this.i++; this.endClause(); return true
      case '\n': this.i++; this.endClause(); this.endLine(); return true
      case '|': this.i++; this.barLine(token); this.endClause(); return true
      case '(': this.i++; this.endClause(); this.open.push({ startTicks: this.at, first: this.events.length }); return true
      case ')': {
        const group = this.open.pop()
        if (!group) this.fail(token, 'This bracket closes nothing.')
        this.i++
        this.endClause()
        this.closed = group
        return true
      }
      case '[': this.fail(token, 'A square bracket begins a stretch of muting: write palm firm [ … ] or ring [ … ].', ['palm firm [', 'ring ['])
      // eslint-disable-next-line no-fallthrough -- fail never returns
      case ']': {
        const span = this.spans.pop()
        if (!span) this.fail(token, 'This bracket closes no muting.')
        if (this.at <= span.startTicks) this.fail(token, 'There is nothing inside this muting.')
        this.mutes.push({ kind: span.kind, startTicks: span.startTicks, lengthTicks: this.at - span.startTicks, ...(span.pressure ? { pressure: span.pressure } : {}) })
        this.i++
        return true
      }
      default: return this.star(token)
    }
  }

  private star(token: Token): boolean {
    if (!token.text.startsWith('*')) return false
    const [top, bottom] = token.text.slice(1).split('/').map(Number)
    if (!top) this.fail(token, 'A star wants a number: 7*3 is three steps long, ( … ) *2 is played twice.')
    this.i++
    if (this.closed) { this.repeat(this.closed, top, token); return true }
    this.setLength(Math.round((this.step * top) / (bottom || 1)), token)
    return true
  }

  private endClause(): void {
    this.run = undefined
    this.closed = undefined
    this.nameless()
    if (this.events.length > this.clause.first) this.clauseBefore = this.clause
    this.clause = { startTicks: this.at, first: this.events.length }
    this.clauseFrets = []
  }
  /** Frets may be said before their string ("seven nine on G"), but by the end of the clause it has to be known. */
  private nameless(): void {
    const event = this.events.slice(this.clause.first).find((one): one is NoteEvent => one.layer === 'note' && one.string === NAMELESS)
    if (event) this.fail(event.token, `Fret ${event.fret} on which string? Say it first: ${callExample(this.context.letters)}.`, [...new Set(this.context.letters)].map((letter) => `${letter} ${event.fret}`))
  }
  private endLine(): void {
    if (this.events.length > this.line.first) this.lineBefore = { ...this.line, endTicks: this.at, end: this.events.length }
    this.line = { startTicks: this.at, first: this.events.length }
  }

  private barLine(token: Token): void {
    const bar = barTicks(this.context.meter)
    const over = this.at % bar
    const began = this.barStart
    this.barStart = this.at
    if (over === 0) return
    const name = noteValueName(this.step) ?? 'steps'
    const held = this.at - Math.floor(began / bar) * bar
    const missing = bar - over
    this.fail(token, `This bar holds ${fraction(held / this.step)} of ${fraction(bar / this.step)} ${name}.`, held > bar ? ['take the bar line out and tie over', 'in triplets', 'a longer bar'] : [`rest for ${fraction(missing / this.step)} |`, `for ${fraction((this.stepOfLast() + missing) / this.step)} |`])
  }
  private stepOfLast(): number { return this.last ? this.at - this.last.startTicks : this.step }

  /** "x02220" where a grip of that many strings can be meant. */
  private bareGrip(token: Token): boolean {
    if (this.context.part.tuning.openMidi.length < 4 || !/^[x\d]{4,}$|^(x|\d{1,2})(-(x|\d{1,2})){3,}$/i.test(token.text)) return false
    const grip = readGrip(token.text, this.context.part.tuning.openMidi.length)
    if (!grip) { if (/^\d{1,3}$/.test(token.text)) return false; this.fail(token, `A grip here has ${this.context.part.tuning.openMidi.length} strings, low to high: x for muted, 0 for open, frets over 9 with dashes.`) }
    this.i++
    this.hold(grip, token)
    return true
  }

  /** "G", "low E", "string 3", "third string", "3:", "3:7", "G7". */
  private stringToken(token: Token, word: string | undefined): boolean {
    const { letters } = this.context
    const { text } = token
    const colon = /^(\d{1,2}):(\d{1,2}|x\d{1,2}|o)?$/.exec(text)
    if (colon) { this.setString(Number(colon[1]), token); this.i++; if (colon[2]) this.fretText(colon[2], token); return true }
    if (word === 'string') {
      const number = numberOf(this.peek(1))
      if (number === undefined) this.fail(token, 'Which string? Say its number: string 3.', ['string 1', 'string 2', 'string 3'])
      this.i += 2
      this.setString(number, token)
      return true
    }
    const ordinal = ordinalOf(text)
    if (ordinal !== undefined && this.peek(1).toLowerCase() === 'string') { this.i += 2; this.setString(ordinal, token); return true }
    const which = word === 'low' || word === 'high' || word === 'middle' ? word : undefined
    if (which) {
      const [name, used] = this.letterAt(1)
      const string = name === undefined ? undefined : findString(letters, name, which)
      if (string === undefined) this.fail(token, `Which string is “${text} ${this.peek(1)}”? The strings are ${[...letters].reverse().join(' ')}.`, [...new Set(letters)].map((letter) => `${which} ${letter}`))
      this.i += 1 + used
      this.setString(string, token)
      this.skip('string')
      return true
    }
    const joined = /^([A-Ga-g](?:#|b|♯|♭)?)(\d{1,2}|x\d{1,2})$/.exec(text)
    if (joined && findString(letters, joined[1]!) !== undefined && !(joined[1] === 'x')) { this.i++; this.setString(findString(letters, joined[1]!)!, token); this.fretText(joined[2]!, token); return true }
    // A small d is a down stroke while the hand is being called, the D string before a fret.
    if (text === 'd' && !(this.isFret(1) && this.last?.kind !== 'stroke')) return false
    if (!/^[A-Ga-g](#|b|♯|♭)?$/.test(text)) return false
    const [name, used] = this.letterAt(0)
    const string = name === undefined ? undefined : findString(letters, name)
    if (string === undefined) return false
    this.i += used
    this.setString(string, token)
    this.skip('string')
    return true
  }
  /** A letter with its sign at an offset, "B flat" as well; and how many tokens it took. */
  private letterAt(offset: number): [string | undefined, number] {
    const text = this.peek(offset)
    if (!/^[A-Ga-g](#|b|♯|♭)?$/.test(text)) return [undefined, 0]
    const sign = this.peek(offset + 1).toLowerCase()
    if (sign === 'flat' || sign === 'sharp') return [`${text}${sign === 'flat' ? 'b' : '#'}`, 2]
    return [text, 1]
  }
  private skip(text: string): void { if (this.peek().toLowerCase() === text) this.i++ }

  private setString(number: number, token: Token): void {
    const count = this.context.part.tuning.openMidi.length
    if (number < 1 || number > count) this.fail(token, `There is no string ${number}: ${this.context.part.name} has ${count}.`, [`string ${Math.max(1, Math.min(count, number))}`])
    this.string = number
  }

  private isFret(offset = 0): boolean { const text = this.peek(offset); return (numberOf(text) !== undefined && Number(numberOf(text)) <= 36) || wordOf(text) === 'open' || /^x\d{1,2}$/i.test(text) }

  /** Numbers that count what follows: "two dead", "three times", "4 down". */
  private count(token: Token): boolean {
    const number = numberOf(token.text)
    if (number === undefined || number === 0) return false
    const next = this.peek(1).toLowerCase()
    if (next === 'times') {
      this.i += 2
      this.repeat(this.recent(), number, token)
      return true
    }
    const word = this.word(1)
    if ((word !== 'dead' && word !== 'strum' && word !== 'down' && word !== 'up') || this.peek(1) === 'x' || this.list[this.i + 1]?.line) return false
    if (number > 64) this.fail(token, `${number} strokes in a row: say it in bars.`)
    this.i++
    const at = this.i
    for (let stroke = 0; stroke < number; stroke++) { this.i = at; this.saidWord(word, this.here!) }
    return true
  }

  private fretText(text: string, token: Token): void {
    if (text.startsWith('x')) { this.nextMarks.push({ kind: 'dead' }); this.note(Number(text.slice(1)), token) } else this.note(text === 'o' ? 0 : Number(text), token)
  }

  private fretToken(token: Token, word: string | undefined): boolean {
    const { text } = token
    if (/^x\d{1,2}$/i.test(text)) { this.i++; this.fretText(text.toLowerCase(), token); return true }
    const dashed = /^\d{1,2}(-\d{1,2})+$/.test(text) || (/^[a-z]+(-[a-z]+)+$/i.test(text) && numberOf(text) === undefined && text.split('-').every((part) => numberOf(part) !== undefined))
    if (dashed) { this.i++; for (const part of text.split('-')) this.note(numberOf(part)!, token); return true }
    const number = word === 'open' ? 0 : numberOf(text)
    if (number === undefined) return false
    this.i++
    this.note(number, token)
    return true
  }

  private stepToken(token: Token): boolean {
    const match = /^1\/(\d{1,3})$/.exec(token.text)
    if (!match) return false
    const ticks = 40_320 / Number(match[1])
    if (!Number.isInteger(ticks)) this.fail(token, `A ${match[1]}th of a whole note does not come out even here.`, ['1/8', '1/12', '1/16'])
    this.i++
    this.step = ticks
    return true
  }

  private note(fret: number, token: Token): void {
    const { part } = this.context
    const highest = part.instrument.fretCount - part.instrument.capo
    const replaced = this.replacing.length ? this.events[this.replacing[0]!] : undefined
    const string = this.string ?? (replaced?.layer === 'note' ? replaced.string : NAMELESS)
    if (fret > highest) this.fail(token, `Fret ${fret} is beyond the neck: the highest is ${highest}.`, this.elsewhere(string, fret, highest))
    const articulations: Articulation[] = []
    for (const mark of this.nextMarks) {
      if (mark.kind === 'grace') {
        const frets = mark.fret! - fret
        if (frets === 0 || Math.abs(frets) > 7) this.fail(token, 'A grace note lies within seven frets of its note.', [`grace ${fret > 1 ? fret - 2 : fret + 2} to ${fret}`])
        articulations.push({ kind: 'grace', frets })
      } else articulations.push({ kind: mark.kind })
    }
    this.nextMarks = []
    const move = this.nextMove ?? (this.run?.started ? this.run.move : undefined)
    if (this.run) this.run.started = true
    this.nextMove = undefined
    if (replaced) {
      const index = this.replacing.shift()!
      if (replaced.layer !== 'note') this.fail(token, 'The last thing there is a stroke, not a note.')
      this.events[index] = { layer: 'note', token, string: string === NAMELESS ? replaced.string : string, fret, startTicks: replaced.startTicks, lengthTicks: replaced.lengthTicks, articulations }
      this.last = { kind: 'notes', startTicks: replaced.startTicks, first: index }
      this.together = false
      return
    }
    if (move) articulations.unshift(this.moved(move, string, fret, token))
    if (this.together && this.last?.kind === 'notes') {
      const before = this.events.slice(this.last.first)
      if (before.some((event) => event.layer === 'note' && event.string === string && event.startTicks === this.last!.startTicks)) this.fail(token, `Two notes on one string at once: string ${string} already sounds here.`, this.elsewhere(string, fret, highest))
      this.events.push({ layer: 'note', token, string, fret, startTicks: this.last.startTicks, lengthTicks: this.at - this.last.startTicks, articulations })
      this.together = false
    } else {
      this.together = false
      const clash = this.events.find((event) => event.layer === 'note' && event.string === string && event.startTicks === this.at)
      if (clash) this.fail(token, `Two notes on one string at once: string ${string} already has a note at ${this.place(this.at)}.`, this.elsewhere(string, fret, highest))
      this.last = { kind: 'notes', startTicks: this.at, first: this.events.length }
      this.events.push({ layer: 'note', token, string, fret, startTicks: this.at, lengthTicks: this.step, articulations })
      this.advance(this.step, token)
    }
    this.clauseFrets.push({ index: this.events.length - 1 })
  }

  private moved(move: (typeof MOVES)[string], string: number, fret: number, token: Token): Articulation {
    const start = this.together && this.last ? this.last.startTicks : this.at
    const before = this.events.findLast((event): event is NoteEvent => event.layer === 'note' && event.startTicks < start)
    const onString = this.events.findLast((event): event is NoteEvent => event.layer === 'note' && event.string === string && event.startTicks < start) ?? this.context.content?.notes.findLast((note) => note.string === string && note.startTicks < start)
    const name = { 'hammer-on': 'hammer-on', 'pull-off': 'pull-off', legato: 'slide', shift: 'slide' }[move]
    if (!onString) {
      if (before) this.fail(token, `A ${name} stays on its string: the note before is on string ${before.string}, this one on string ${string}.`, [String(fret)])
      this.fail(token, `A ${name} needs a note to come from.`, [`${fret} ${name === 'pull-off' ? fret : fret + 2}`])
    }
    if (before && before.string !== string && before.startTicks > onString.startTicks && !this.events.some((event) => event.layer === 'note' && event.startTicks === before.startTicks && event.string === string)) this.fail(token, `A ${name} stays on its string: the note before is on string ${before.string}, this one on string ${string}.`, [String(fret)])
    if (onString.fret === fret) this.fail(token, `A ${name} has to go somewhere: the note before is fret ${fret} too.`)
    if (move === 'hammer-on' && fret < onString.fret) this.fail(token, `A hammer-on goes up: from ${onString.fret} to ${fret} is a pull-off.`, [`pull ${fret}`])
    if (move === 'pull-off' && fret > onString.fret) this.fail(token, `A pull-off goes down: from ${onString.fret} to ${fret} is a hammer-on.`, [`hammer ${fret}`])
    return move === 'hammer-on' || move === 'pull-off' ? { kind: move } : { kind: 'slide', how: move }
  }

  /** The same pitch where it can be played. */
  private elsewhere(string: number, fret: number, highest: number): string[] {
    if (string === NAMELESS) return []
    const { openMidi } = this.context.part.tuning
    const midi = openMidi[string - 1]! + fret
    return openMidi.flatMap((open, index) => (index + 1 !== string && midi - open >= 0 && midi - open <= highest ? [`${index + 1}:${midi - open}`] : [])).slice(0, 2)
  }
  private place(tick: number): string {
    const bar = barTicks(this.context.meter)
    return `bar ${Math.floor(tick / bar) + 1}, ${countWords(this.context.meter, tick % bar)}`
  }

  private advance(ticks: number, token: Token): void {
    this.at += ticks
    const end = this.context.lengthTicks
    if (end === undefined || this.at <= end) return
    const bar = barTicks(this.context.meter)
    const name = noteValueName(this.step) ?? 'steps'
    const lastBar = Math.floor((end - 1) / bar) * bar
    this.fail(token, `Bar ${Math.ceil(end / bar)} would hold ${fraction((this.at - lastBar) / this.step)} of ${fraction((end - lastBar) / this.step)} ${name}.`, ['tie over into a new bar', 'squeeze into a tuplet', 'a longer bar'], this.at - end)
  }

  private stroke(set: Partial<StrokeEvent> & { direction?: Stroke['direction'] }, token: Token): void {
    const direction = set.direction ?? usualDirection(this.at, this.context)
    this.last = { kind: 'stroke', startTicks: this.at, first: this.events.length }
    this.events.push({ layer: 'stroke', token, startTicks: this.at, lengthTicks: this.step, accent: false, dead: false, choke: false, ...set, direction })
    this.advance(this.step, token)
  }

  private hold(grip: Grip, token: Token): void {
    const startTicks = Math.max(this.at, this.gripEnd)
    this.last = { kind: 'hold', startTicks, first: this.events.length }
    this.holds.push({ startTicks, lengthTicks: undefined, grip, token })
  }

  private chordToken(token: Token): boolean {
    // A bare letter is a string's name, not a chord's.
    if (!/^[A-G](?:[#b]?.*[^#b]|.*\d.*)$/.test(token.text) || !readChordSymbol(token.text)) return false
    this.i++
    this.hold(this.gripNamed(token), token)
    return true
  }
  private gripNamed(token: Token): Grip {
    const grip = this.context.gripFor?.(token.text, this.holds.at(-1)?.grip)
    if (!grip) this.fail(token, `No grip for “${token.text}” here. Write its strings, low to high.`, ['hold x02220'])
    return grip
  }

  private saidWord(word: string, token: Token): boolean {
    const move = MOVES[word]
    if (move) return this.move(word, move)
    switch (word) {
      case 'tap': this.i++; this.nextMarks.push({ kind: 'tap' }); return true
      case 'muted': this.i++; this.nextMarks.push({ kind: 'dead' }); return true
      case 'grace': { this.i++; const fret = this.fretAt(token, 'grace from which fret?'); this.nextMarks.push({ kind: 'grace', fret }); return true }
      case 'release': this.i++; this.release(token); return true
      case 'rest': {
        this.i++
        this.last = { kind: 'rest', startTicks: this.at, first: this.events.length }
        this.advance(this.step, token)
        return true
      }
      case 'for': this.i++; this.setLength(this.length(token), token); return true
      case 'ringing': { this.i++; this.skip('for'); const ticks = this.length(token); const event = this.lastTimed(token); event.lengthTicks = ticks; event.rings = true; return true }
      case 'tie': this.i++; this.setLength(this.lengthOfLast(token) + this.step, token); return true
      case 'dotted': this.i++; this.setLength(Math.round(this.lengthOfLast(token) * 1.5), token); return true
      case 'in': return this.inWord(token)
      case 'at': this.i++; this.goTo(token); return true
      case 'on': this.i++; this.onStrings(token); return true
      case 'and': this.i++; if (this.last?.kind === 'notes') this.together = true; return true
      case 'hold': {
        this.i++
        const next = this.here
        if (!next) this.fail(token, 'Which grip? Write its strings, low to high, or a chord name.', ['hold x02220', 'hold Em'])
        const grip = readGrip(next.text, this.context.part.tuning.openMidi.length) ?? (readChordSymbol(next.text) ? this.gripNamed(next) : undefined)
        if (!grip) this.fail(next, `“${next.text}” is no grip for ${this.context.part.tuning.openMidi.length} strings and no chord name.`, ['hold x02220', 'hold F#m7'])
        const highest = this.context.part.instrument.fretCount - this.context.part.instrument.capo
        if (grip.strings.some((string) => (string.fret ?? 0) > highest)) this.fail(next, `This grip reaches beyond the neck: the highest fret is ${highest}.`)
        this.i++
        this.hold(grip, next)
        return true
      }
      case 'fingered': this.i++; this.fingered(token); return true
      case 'barre': this.i++; this.barre(token); return true
      case 'down': case 'up': case 'thumb': case 'fingers': this.i++; this.stroke({ direction: word }, token); return true
      case 'strum': this.i++; this.stroke({}, token); return true
      case 'dead': {
        this.i++
        const way = this.word()
        const direction = (way === 'down' || way === 'up') && !this.list[this.i]!.line ? way : undefined
        if (direction) this.i++
        this.stroke({ dead: true, ...(direction ? { direction } : {}) }, token)
        return true
      }
      case 'bass': this.i++; this.stroke({ on: 'bass', direction: 'down' }, token); return true
      case 'chord': this.i++; this.stroke({ on: 'chord' }, token); return true
      case 'pluck': this.i++; this.pluck(token); return true
      case 'palming': case 'letting': this.i++; this.spanWord(word, token); return true
      case 'same': this.i++; this.skip('again'); this.same(token); return true
      case 'again': this.i++; this.repeat(this.recent(), 2, token); return true
      case 'twice': this.i++; this.repeat(this.recent(), 2, token); return true
      case 'times': this.fail(token, 'How many times?', ['twice', 'three times'])
      // eslint-disable-next-line no-fallthrough -- fail never returns
      default: return this.mark(word, token)
    }
  }

  private move(word: string, move: (typeof MOVES)[string]): boolean {
    const token = this.list[this.i]!
    this.i++
    if ((word === 'hammer' && this.peek().toLowerCase() === 'on') || (word === 'pull' && this.peek().toLowerCase() === 'off')) this.i++
    if (word === 'shift' && this.word() === 'slide') this.i++
    if (word === 'slide') {
      const next = this.word()
      if (next === 'in' || this.peek().toLowerCase() === 'into') { this.i++; this.fail(token, 'Say the fret first, then where it is slid in from: 7 in from below 2.', ['7 in from below', '7 in from above']) }
      if (next === 'out') return true
    }
    // Said first in its clause with several frets, the movement goes through all of them; said between two frets, to the next one only.
    if (this.events.length === this.clause.first && this.fretsAhead() > 1) this.run = { move, started: false }
    else this.nextMove = move
    return true
  }
  /** Frets until the clause ends or another movement begins. */
  private fretsAhead(): number {
    let frets = 0
    for (let offset = 0; ; offset++) {
      const text = this.peek(offset)
      if (text === '' || [',', ';', '\n', '(', ')', '|'].includes(text)) return frets
      const word = wordOf(text)
      if (word && (MOVES[word] || word === 'and' || word === 'release' || word === 'rest')) return frets
      if (word && TAKES_NUMBER.has(word)) { if (/\d/.test(this.peek(offset + 1)) || numberOf(this.peek(offset + 1)) !== undefined) offset++; continue }
      if (/^(below|above)$/i.test(text) && numberOf(this.peek(offset + 1)) !== undefined) { offset++; continue }
      if (/^\d{1,2}(-\d{1,2})+$/.test(text)) frets += text.split('-').length
      else if (this.isFret(offset) || /^[A-Ga-g](#|b)?\d{1,2}$/.test(text) || /^\d{1,2}:\d{1,2}$/.test(text)) frets++
    }
  }
  private fretAt(token: Token, question: string): number {
    if (!this.isFret()) this.fail(token, question[0]!.toUpperCase() + question.slice(1), ['5', '7'])
    const fret = this.word() === 'open' ? 0 : numberOf(this.peek())!
    this.i++
    return fret
  }

  private release(token: Token): void {
    const note = this.events.findLast((event): event is NoteEvent => event.layer === 'note')
    const bend = note?.articulations.find((mark) => mark.kind === 'bend')
    if (!note || bend?.kind !== 'bend' || bend.shape === 'release') this.fail(token, 'There is no bend before this to release.', ['bend 2, release'])
    this.last = { kind: 'notes', startTicks: this.at, first: this.events.length }
    this.events.push({ layer: 'note', token, string: note.string, fret: note.fret, startTicks: this.at, lengthTicks: this.step, articulations: [{ kind: 'bend', semitones: bend.semitones, shape: 'release' }] })
    this.advance(this.step, token)
  }

  // Lengths and places.
  private lengthOfLast(token: Token): number {
    if (!this.last) this.fail(token, 'There is nothing before this to lengthen.')
    if (this.last.kind === 'hold') return this.holds.at(-1)!.lengthTicks ?? this.step
    return this.at - this.last.startTicks
  }
  private setLength(ticks: number, token: Token): void {
    if (!this.last) this.fail(token, 'There is nothing before this whose length could be set.')
    if (ticks < 1) this.fail(token, 'A length is at least a tick.')
    if (this.last.kind === 'hold') { const hold = this.holds.at(-1)!; hold.lengthTicks = ticks; this.gripEnd = hold.startTicks + ticks; this.checkEnd(this.gripEnd, token); return }
    for (const event of this.events.slice(this.last.first)) if (event.startTicks === this.last.startTicks && !event.rings) event.lengthTicks = ticks
    const before = this.at
    this.at = this.last.startTicks
    if (this.last.first < this.events.length && this.events.at(-1)!.startTicks > this.last.startTicks) { this.at = before; return }
    this.advance(ticks, token)
  }
  private checkEnd(tick: number, token: Token): void {
    const end = this.context.lengthTicks
    if (end !== undefined && tick > end) this.fail(token, `That reaches ${fraction((tick - end) / this.step)} steps past the end of the figure.`, ['tie over into a new bar'], tick - end)
  }
  private lastTimed(token: Token): TimedEvent {
    const event = this.events.at(-1)
    if (!event || this.last?.kind === 'rest' || this.last?.kind === 'hold') this.fail(token, 'There is no note or stroke before this.')
    return event
  }

  /** A length: "3", "3/2", "1.5", "a quarter", "2 bars", "half a bar", "960 ticks". In ticks. */
  private length(token: Token): number {
    const bar = barTicks(this.context.meter)
    let amount = 1
    const text = this.peek()
    const fractional = /^(\d{1,6})\/(\d{1,6})$/.exec(text) ?? /^(\d{1,9}(?:\.\d{1,4})?)$/.exec(text)
    const spoken = numberOf(text)
    let counted = true
    if (fractional) { amount = Number(fractional[1]) / Number(fractional[2] ?? 1); this.i++ }
    else if (spoken !== undefined) { amount = spoken; this.i++ }
    else if (text.toLowerCase() === 'half' && /^(a|the)$/i.test(this.peek(1)) && /^bar$/i.test(this.peek(2))) { this.i += 3; return bar / 2 }
    else if (/^(a|an|one|the)$/i.test(text)) this.i++
    else counted = false
    if (!Number.isFinite(amount) || amount <= 0) this.fail(token, 'That is no length.', ['for 2', 'for a quarter'])
    const unit = this.peek().toLowerCase()
    const value = noteValue(unit)
    const known = unit === 'bar' || unit === 'bars' ? bar : unit === 'beat' || unit === 'beats' ? beatTicks(this.context.meter) : unit === 'tick' || unit === 'ticks' ? 1 : unit === 'step' || unit === 'steps' ? this.step : value
    if (known !== undefined && !this.list[this.i]!.line) this.i++
    else if (!counted) this.fail(token, 'How long? A number of steps, or a note value.', ['for 2', 'for a quarter', 'for a bar'])
    const ticks = Math.round(amount * (known ?? this.step))
    if (ticks > 2 ** 30) this.fail(token, 'That is longer than any song.')
    return ticks
  }

  /** "in eighths" sets the step; "in from below 2" says how a note is slid into. */
  private inWord(token: Token): boolean {
    this.i++
    if (this.peek().toLowerCase() === 'from') {
      const side = this.peek(1).toLowerCase()
      if (side !== 'below' && side !== 'above') this.fail(token, 'Slid in from where?', ['in from below', 'in from above'])
      this.i += 2
      this.addMark({ kind: 'slide', how: side === 'below' ? 'in from below' : 'in from above', ...this.optionalFrets() }, token)
      return true
    }
    const value = noteValue(this.peek())
    if (value !== undefined) { this.i++; this.step = value; return true }
    if (/^1\/\d+$/.test(this.peek())) return this.stepToken(this.here!)
    const number = numberOf(this.peek())
    if (number && /^ticks?$/i.test(this.peek(1))) { this.i += 2; this.step = number; return true }
    this.fail(token, 'In which steps?', ['in eighths', 'in sixteenths', 'in triplets', 'in quarters'])
  }
  /** "in from below 2": said in the same breath, the number belongs to it. */
  private optionalFrets(): { frets?: number } {
    const frets = numberOf(this.peek())
    if (frets === undefined || frets < 1 || frets > 12) return {}
    this.i++
    return { frets }
  }

  private goTo(token: Token): void {
    const { meter } = this.context
    const bar = barTicks(meter)
    const dotted = /^(\d{1,3})\.(\d{1,2})(&|e|a)?$/.exec(this.peek())
    let tick: number
    if (dotted) { this.i++; tick = (Number(dotted[1]) - 1) * bar + this.countTick(Number(dotted[2]), dotted[3], token) }
    else if (/^\d+$/.test(this.peek()) && /^ticks?$/i.test(this.peek(1))) { tick = Number(this.peek()); this.i += 2 }
    else {
      let barNumber = Math.floor(this.at / bar) + 1
      let said = false
      if (/^bar$/i.test(this.peek())) {
        const number = numberOf(this.peek(1))
        if (!number) this.fail(token, 'Which bar?', ['at bar 1', 'at bar 2'])
        barNumber = number
        this.i += 2
        said = true
      }
      const count = this.spokenCount(token)
      if (count === undefined && !said) this.fail(token, 'At which place? A bar, a count, or both.', ['at bar 2', 'at the and of 4', 'at bar 2 on 3'])
      tick = (barNumber - 1) * bar + (count ?? 0)
    }
    if (tick < 0 || tick > 2 ** 30) this.fail(token, 'That place does not exist.')
    const end = this.context.lengthTicks
    if (end !== undefined && tick >= end) this.fail(token, `${this.place(tick)} lies after the end: the figure has ${fraction(end / bar)} bars.`, ['at bar 1'])
    this.at = tick
    this.gripEnd = -1
    this.last = undefined
    this.endClause()
  }
  /** "the and of 4", "on 3", "3 and", "3 e": ticks into the bar. */
  private spokenCount(token: Token): number | undefined {
    const start = this.i
    this.skip('on')
    this.skip('the')
    const part = this.peek().toLowerCase()
    if (['and', '&', 'e', 'a'].includes(part) && this.peek(1).toLowerCase() === 'of') {
      const beat = numberOf(this.peek(2))
      if (beat === undefined) this.fail(token, 'The and of which count?', ['the and of 4'])
      this.i += 3
      return this.countTick(beat, part === 'and' ? '&' : part, token)
    }
    const beat = numberOf(this.peek())
    if (beat === undefined || this.list[this.i]?.line) { this.i = start; return undefined }
    this.i++
    const after = this.peek().toLowerCase()
    if (after === 'and' || after === '&') { this.i++; return this.countTick(beat, '&', token) }
    return this.countTick(beat, undefined, token)
  }
  private countTick(beat: number, part: string | undefined, token: Token): number {
    const { meter } = this.context
    if (beat < 1 || beat > meter.beats) this.fail(token, `There is no count ${beat} in ${meter.beats}/${meter.unit}.`)
    const unit = unitTicks(meter)
    return (beat - 1) * unit + (part === '&' ? unit / 2 : part === 'e' ? unit / 4 : part === 'a' ? (unit * 3) / 4 : 0)
  }

  // Which strings.
  private onStrings(token: Token): void {
    const strings = this.stringList()
    if (strings.length === 0) this.fail(token, 'On which strings?', ['on 4-3-2', 'on G'])
    const previous = this.events.at(-1)
    if (previous?.layer === 'stroke' && this.last?.kind === 'stroke') { previous.strings = [...new Set(strings)].sort((a, b) => a - b); return }
    const justSaid = this.last?.kind === 'notes' && this.clauseFrets.length > 0 && previous?.layer === 'note'
    if (!justSaid || (strings.length === 1 && this.isFret() && previous?.layer === 'note' && previous.string !== NAMELESS)) { this.string = strings.at(-1); return }
    if (strings.length > 1) {
      // "three on four-three-two": one fret across several strings at once.
      const { fret, startTicks, lengthTicks } = previous
      this.events.pop()
      for (const string of strings) {
        if (this.events.some((event) => event.layer === 'note' && event.startTicks === startTicks && event.string === string)) this.fail(token, `Two notes on one string at once: string ${string} already sounds here.`)
        this.events.push({ layer: 'note', token, string, fret, startTicks, lengthTicks, articulations: [] })
      }
      this.last = { kind: 'notes', startTicks, first: this.events.length - strings.length }
      return
    }
    // "seven nine on G": all of the clause that has no string of its own.
    for (const { index } of this.clauseFrets) { const event = this.events[index]; if (event?.layer === 'note' && (event.string === NAMELESS || this.string === undefined)) event.string = strings[0]! }
    this.string = strings[0]
  }
  private stringList(): number[] {
    const { letters } = this.context
    const found: number[] = []
    this.skip('the')
    const count = this.context.part.tuning.openMidi.length
    const take = (text: string): number | undefined => { const number = numberOf(text); return number !== undefined && number >= 1 && number <= count ? number : findString(letters, text) }
    for (;;) {
      const token = this.here
      if (!token) break
      const parts = token.text.split('-')
      const which = this.word()
      if ((which === 'low' || which === 'high' || which === 'middle') && this.letterAt(1)[0] !== undefined) {
        const string = findString(letters, this.letterAt(1)[0]!, which)
        if (string === undefined) this.fail(token, `There is no ${token.text} ${this.peek(1)} string.`)
        found.push(string)
        this.i += 1 + this.letterAt(1)[1]
      } else if (which === 'string' && numberOf(this.peek(1)) !== undefined) {
        const string = take(this.peek(1))
        if (string === undefined || string > count) this.fail(token, `There is no string ${this.peek(1)}: ${this.context.part.name} has ${count}.`)
        found.push(string)
        this.i += 2
      } else if (parts.length > 1 && parts.every((part) => take(part) !== undefined)) { found.push(...parts.map((part) => take(part)!)); this.i++ }
      else if (found.length === 0 && parts.length === 1 && take(token.text) !== undefined && (numberOf(token.text) === undefined || this.last?.kind === 'stroke' || this.last?.kind === 'notes')) { found.push(take(token.text)!); this.i++; this.skip('string') }
      else break
      if (this.peek().toLowerCase() === 'and' && found.length && (take(this.peek(1)) !== undefined || ['low', 'high', 'middle', 'string'].includes(this.word(1) ?? '')) && !this.isFret(2)) this.i++
      else break
    }
    return found
  }
  private pluck(token: Token): void {
    let plucked = 0
    for (;;) {
      const here = this.here
      if (!here || here.line && plucked > 0) break
      const parts = here.text.split('-').map((part) => { const number = numberOf(part); return number !== undefined && number >= 1 && number <= this.context.part.tuning.openMidi.length ? number : findString(this.context.letters, part) })
      if (parts.some((part) => part === undefined)) break
      this.i++
      const strings = [...new Set(parts as number[])].sort((a, b) => a - b)
      this.stroke({ direction: strings[0]! >= 4 ? 'thumb' : 'fingers', strings }, here)
      plucked++
    }
    if (plucked === 0) this.fail(token, 'Which strings, in order?', ['pluck 5 3 2 3', 'pluck 6 4 3 2 1'])
  }

  // Grips.
  private fingered(token: Token): void {
    const hold = this.holds.at(-1)
    const text = this.peek()
    const { length } = this.context.part.tuning.openMidi
    if (!hold) this.fail(token, 'Fingers of which grip? Hold one first.', ['hold x32010 fingered x32010'])
    if (!new RegExp(`^[xt01-4]{${length}}$`, 'i').test(text)) this.fail(token, `Write one sign a string, low to high: 1 to 4, T for the thumb, x for none; ${length} of them.`)
    this.i++
    const fingers = [...text].reverse()
    hold.grip = { ...hold.grip, strings: hold.grip.strings.map((string, index) => { const sign = fingers[index]!.toUpperCase(); return FINGER.test(sign) ? { fret: string.fret, finger: sign as 'T' | '1' } : { fret: string.fret } }) }
  }
  private barre(token: Token): void {
    const hold = this.holds.at(-1)
    const fret = numberOf(this.peek())
    if (!hold || fret === undefined) this.fail(token, 'A barre belongs to a grip: barre 2 from 5 to 1.', ['barre 2 from 5 to 1'])
    this.i++
    const ends = [this.peek(1), this.peek(3)].map(numberOf)
    if (!/^from$/i.test(this.peek()) || !/^to$/i.test(this.peek(2)) || ends.some((end) => end === undefined || end < 1 || end > this.context.part.tuning.openMidi.length) || fret > 36) this.fail(token, 'From which string to which?', ['barre 2 from 5 to 1'])
    this.i += 4
    hold.grip = { ...hold.grip, barre: { fret, fromString: ends[0]!, toString: ends[1]! } }
  }

  // Muting stretches.
  private pressure(): Pressure | undefined {
    const text = this.peek().toLowerCase()
    const found = PRESSURES.find((pressure) => pressure === text)
    if (found) this.i++
    return found
  }
  private spanWord(word: 'palming' | 'letting', token: Token): void {
    const kind = word === 'palming' ? 'palm mute' : 'let ring'
    const pressure = word === 'palming' ? (this.pressure() ?? 'medium') : undefined
    if (word === 'letting') this.skip('ring')
    const draft = { kind, startTicks: this.at, ...(pressure ? { pressure } : {}) } as const
    if (this.peek() === '[') { this.i++; this.spans.push({ ...draft, token }); return }
    if (this.word() !== 'for') this.fail(token, `${word === 'palming' ? 'Palm muted' : 'Ringing'} for how long?`, [`${word}${word === 'letting' ? ' ring' : ' firm'} for 8`, `${word}${word === 'letting' ? ' ring' : ' firm'} for a bar`])
    this.i++
    const lengthTicks = this.length(token)
    this.checkEnd(this.at + lengthTicks, token)
    this.mutes.push({ ...draft, lengthTicks })
  }

  // Repeats.
  /** What "twice" means: the bracket just closed, this clause, or the one before the comma. */
  private recent(): Group { return this.closed ?? (this.events.length > this.clause.first ? this.clause : (this.clauseBefore ?? this.clause)) }
  private repeat(group: Group, times: number, token: Token): void {
    this.closed = undefined
    const copied = this.events.slice(group.first)
    const length = this.at - group.startTicks
    if (times < 1 || times > 64) this.fail(token, 'Say a number of times up to 64.')
    if (copied.length === 0 || length <= 0) this.fail(token, 'There is nothing before this to repeat.')
    if (copied.length * times > MOST_EVENTS) this.fail(token, `That would make more than ${MOST_EVENTS} notes and strokes.`)
    for (let round = 1; round < times; round++) this.copy(copied, round * length, length, token)
  }
  private copy(events: readonly TimedEvent[], shift: number, length: number, token: Token): void {
    const from = Math.min(...events.map((event) => event.startTicks))
    const inside = <T extends { startTicks: number }>(list: readonly T[]): T[] => list.filter((entry) => entry.startTicks >= from && entry.startTicks < from + length).map((entry) => ({ ...entry, startTicks: entry.startTicks + shift }))
    if (shift > 0) { this.holds.push(...inside(this.holds)); this.mutes.push(...inside(this.mutes)) }
    this.last = { kind: events.at(-1)!.layer === 'note' ? 'notes' : 'stroke', startTicks: events.at(-1)!.startTicks + shift, first: this.events.length + events.length - 1 }
    this.events.push(...events.map((event) => ({ ...event, token, startTicks: event.startTicks + shift, ...('articulations' in event ? { articulations: [...event.articulations] } : {}) })))
    this.advance(length, token)
  }
  /** "same again", "same again but last note 9", "… but last two notes 9 7", "… but first note 5". */
  private same(token: Token): void {
    const source = this.events.length > this.line.first ? { ...this.line, endTicks: this.at, end: this.events.length } : this.lineBefore
    if (!source) this.fail(token, 'There is no line before this to play again.')
    const events = this.events.slice(source.first, source.end)
    const start = this.events.length
    this.copy(events, this.at - source.startTicks, source.endTicks - source.startTicks, token)
    while (this.peek() === ',' && wordOf(this.peek(1)) === undefined && this.peek(1).toLowerCase() === 'but') this.i++
    if (this.peek().toLowerCase() !== 'but') return
    this.i++
    this.skip('the')
    const which = this.peek().toLowerCase()
    const ordinal = which === 'note' ? undefined : ordinalOf(which)
    if (which !== 'last' && which !== 'note' && ordinal === undefined) this.fail(token, 'But which note?', ['but last note 9', 'but last two notes 9 7', 'but first note 5'])
    this.i++
    const number = numberOf(this.peek())
    const counted = number !== undefined && (which === 'note' || /^notes?$/i.test(this.peek(1)))
    if (counted) this.i++
    const many = counted && which !== 'note' ? number : 1
    const skipNotes = which === 'note' ? (number ?? 1) - 1 : ordinal !== undefined ? ordinal - 1 : events.length - many
    while (/^notes?$/i.test(this.peek())) this.i++
    if (skipNotes < 0 || skipNotes + many > events.length) this.fail(token, `That line has ${events.length} notes.`)
    this.string = undefined
    this.replacing = Array.from({ length: many }, (_, index) => start + skipNotes + index)
    const target = this.events[this.replacing[0]!]!
    if (target.layer === 'note' && this.isFret()) this.string = target.string
    else if (!this.here) this.fail(token, 'But what instead?', ['but last note 9'])
    while (this.replacing.length && this.i < this.list.length && !['\n', ',', ';'].includes(this.peek())) {
      const next = this.events[this.replacing[0]!]!
      if (next.layer === 'note' && this.isFret() && this.list[this.i - 1]?.text.toLowerCase() !== 'string') this.string ??= next.string
      this.token()
    }
    if (this.replacing.length) this.fail(token, `${this.replacing.length} more ${this.replacing.length === 1 ? 'note is' : 'notes are'} missing after this.`)
  }

  // Marks on what was said last.
  private addMark(mark: Articulation, token: Token): void {
    const event = this.events.at(-1)
    if (event?.layer !== 'note') this.fail(token, 'This belongs to a note: say the fret first.')
    if (mark.kind === 'bend' && event.fret === 0) this.fail(token, 'An open string cannot be bent: fret it first.', this.elsewhere(event.string, 0, this.context.part.instrument.fretCount))
    if (mark.kind === 'vibrato' && event.fret === 0) this.fail(token, 'An open string cannot be shaken with the finger: fret it first.', this.elsewhere(event.string, 0, this.context.part.instrument.fretCount))
    if (event.articulations.length >= 8) this.fail(token, 'That is more than one note can carry.')
    event.articulations = [...event.articulations.filter((other) => other.kind !== mark.kind || (mark.kind === 'slide' && other.kind === 'slide' && (other.how === 'out') !== (mark.how === 'out'))), mark]
  }
  private amount(token: Token, least: number, most: number): number {
    const text = this.peek().toLowerCase()
    const named = { full: 2, whole: 2, half: 1, quarter: 0.5 }[text]
    const plain = /^-?\d{1,2}(\.\d{1,3})?$/.test(text) ? Number(text) : numberOf(text)
    if (/^(a|an)$/.test(text)) { this.i++; return this.amount(token, least, most) }
    const amount = named ?? plain
    if (amount === undefined || amount < least || amount > most) this.fail(token, `By how many semitones? Between ${least} and ${most}.`, least > 0 ? ['1', '2', 'half', 'full'] : ['2', '5'])
    this.i++
    return amount
  }

  private mark(word: string, token: Token): boolean {
    const event = this.events.at(-1)
    const stroke = event?.layer === 'stroke' && this.last?.kind === 'stroke' ? event : undefined
    switch (word) {
      case 'bend': case 'pre-bend': case 're-bend': case 'releasing': {
        this.i++
        const semitones = this.amount(token, 0.25, 5)
        const shape = word === 'pre-bend' ? 'pre-bend' : word === 're-bend' ? 're-bend' : word === 'releasing' ? 'release' : this.bendShape()
        this.addMark({ kind: 'bend', semitones, shape }, token)
        return true
      }
      case 'vibrato': this.i++; this.addMark({ kind: 'vibrato', width: 'narrow' }, token); return true
      case 'wide': this.i++; if (this.word() === 'vibrato') this.i++; this.addMark({ kind: 'vibrato', width: 'wide' }, token); return true
      case 'trill': {
        this.i++
        const note = event?.layer === 'note' ? event : this.fail(token, 'A trill belongs to a note: say the fret first.')
        const other = numberOf(this.peek())
        const frets = other !== undefined && other > note.fret && other - note.fret <= 7 ? other - note.fret : undefined
        if (frets !== undefined) this.i++
        if (note.fret + (frets ?? 2) > this.context.part.instrument.fretCount - this.context.part.instrument.capo) this.fail(token, 'The trill reaches beyond the neck.')
        this.addMark({ kind: 'trill', frets: frets ?? 2 }, token)
        return true
      }
      case 'harmonic': {
        this.i++
        this.addMark({ kind: 'natural harmonic' }, token)
        return true
      }
      case 'pinch': {
        this.i++
        const semitones = numberOf(this.peek())
        const known = semitones === 12 || semitones === 19 || semitones === 24 ? semitones : undefined
        if (known) this.i++
        this.addMark({ kind: 'pinched harmonic', semitones: known ?? 12 }, token)
        return true
      }
      case 'tremolo': this.i++; this.addMark({ kind: 'tremolo picking' }, token); return true
      case 'dip': case 'dive': case 'return': this.i++; this.addMark({ kind: 'bar', semitones: -Math.abs(this.amount(token, -24, 24)), how: word }, token); return true
      case 'rake': this.i++; this.addMark({ kind: 'rake' }, token); return true
      case 'ghost': this.i++; this.addMark({ kind: 'ghost' }, token); return true
      case 'ring': {
        this.i++
        if (this.peek() === '[') { this.i++; this.spans.push({ kind: 'let ring', startTicks: this.at, token }); return true }
        this.addMark({ kind: 'let ring' }, token)
        return true
      }
      case 'staccato': this.i++; if (stroke) stroke.staccato = true; else this.addMark({ kind: 'staccato' }, token); return true
      case 'choke': this.i++; if (stroke) stroke.choke = true; else this.addMark({ kind: 'choke' }, token); return true
      case 'palm': {
        this.i++
        if (/^muted?$/i.test(this.peek())) this.i++
        const pressure = this.pressure() ?? 'medium'
        if (this.peek() === '[') { this.i++; this.spans.push({ kind: 'palm mute', pressure, startTicks: this.at, token }); return true }
        if (stroke) stroke.palmMute = pressure
        else this.addMark({ kind: 'palm mute', pressure }, token)
        return true
      }
      case 'accent': {
        this.i++
        const target = this.lastTimed(token)
        target.accent = true
        return true
      }
      case 'out': {
        this.i++
        this.addMark({ kind: 'slide', how: 'out', ...this.optionalFrets() }, token)
        return true
      }
      case 'pick': {
        const way = this.word(1)
        if (way !== 'down' && way !== 'up') this.fail(token, 'Picked which way?', ['pick down', 'pick up'])
        this.i += 2
        if (event?.layer !== 'note') this.fail(token, 'This belongs to a note: say the fret first.')
        event.pick = way
        return true
      }
      case 'finger': {
        const finger = String(numberOf(this.peek(1)) ?? this.peek(1)).toUpperCase()
        if (!FINGER.test(finger)) this.fail(token, 'Which finger?', ['finger 1', 'finger 2', 'finger 3', 'finger 4'])
        if (event?.layer !== 'note') this.fail(token, 'This belongs to a note: say the fret first.')
        this.i += 2
        event.finger = finger as 'T' | '1'
        return true
      }
      default: return false
    }
  }
  /** "bend 2 and hold", "bend 2 and release". */
  private bendShape(): 'plain' | 'bend and hold' | 'bend and release' {
    const [first, second] = [this.peek().toLowerCase(), this.peek(1).toLowerCase()]
    if (first === 'and' && second === 'hold') { this.i += 2; return 'bend and hold' }
    if (first === 'and' && (second === 'release' || second === 're')) { this.i += 2; return 'bend and release' }
    return 'plain'
  }

  private finish(): ParsedCall {
    const startTicks = Math.min(this.context.startTicks ?? 0, ...this.events.map((event) => event.startTicks), ...this.holds.map((hold) => hold.startTicks))
    const end = Math.max(this.at, this.gripEnd, ...this.events.map((event) => event.startTicks + event.lengthTicks))
    const grips = this.holds.sort((a, b) => a.startTicks - b.startTicks).map((hold, index) => {
      // A grip nothing follows is held to the end of the figure, or of its bar.
      const next = this.holds[index + 1]?.startTicks ?? Math.max(end, this.context.lengthTicks ?? (end > hold.startTicks ? 0 : (Math.floor(hold.startTicks / barTicks(this.context.meter)) + 1) * barTicks(this.context.meter)))
      return { id: `g${index}`, startTicks: hold.startTicks, lengthTicks: hold.lengthTicks ?? Math.max(1, next - hold.startTicks), grip: hold.grip }
    }).filter((span, index, all) => !all.slice(index + 1).some((later) => later.startTicks === span.startTicks))
    const held = [...(this.context.content?.grips ?? []), ...grips]
    const strokes: Stroke[] = []
    const notes: Note[] = []
    const plays = this.events.some((event) => event.layer === 'stroke' && event.on === 'bass')
    for (const event of this.events) {
      if (event.layer === 'note') { const { layer: _layer, token: _token, rings: _rings, ...note } = event; notes.push({ ...note, id: `n${notes.length}` }); continue }
      const { layer: _layer, token, on, rings: _rings, ...stroke } = event
      strokes.push({ ...stroke, ...(on && !(on === 'chord' && !plays) ? { strings: this.relative(on, stroke.startTicks, held, token) } : {}), id: `s${strokes.length}` })
    }
    strokes.sort((a, b) => a.startTicks - b.startTicks)
    const twice = strokes.find((stroke, index) => strokes[index + 1]?.startTicks === stroke.startTicks)
    if (twice) this.fail(this.list.at(-1)!, `Two strokes at once at ${this.place(twice.startTicks)}.`)
    notes.sort((a, b) => a.startTicks - b.startTicks || b.string - a.string)
    const clash = notes.find((note, index) => notes.slice(index + 1, index + 8).some((other) => other.startTicks === note.startTicks && other.string === note.string))
    if (clash) this.fail(this.events.findLast((event) => event.layer === 'note' && event.startTicks === clash.startTicks && event.string === clash.string)!.token, `Two notes on one string at once: string ${clash.string} at ${this.place(clash.startTicks)}.`)
    return { content: { ...EMPTY_CONTENT, grips, strokes, notes, mutes: this.mutes.map((mute, index) => ({ ...mute, id: `m${index}` })) }, startTicks, endTicks: end, stepTicks: this.step, string: this.string }
  }
  private relative(on: 'bass' | 'chord', tick: number, held: readonly { startTicks: number; lengthTicks: number; grip: Grip }[], token: Token): number[] {
    const grip = held.findLast((span) => span.startTicks <= tick && tick < span.startTicks + span.lengthTicks)?.grip
    const sounding = grip ? soundingStrings(grip) : []
    if (sounding.length === 0) this.fail(token, `The ${on} of which grip? Hold one first.`, ['hold x32010', 'hold Em'])
    return on === 'bass' ? [sounding[0]!] : (sounding.length > 1 ? sounding.slice(1) : sounding).toSorted((a, b) => a - b)
  }
}

const callExample = (letters: readonly string[]): string => `${letters[Math.min(2, letters.length - 1)]} seven`
/** 1.5 → "3/2", whole numbers plain. */
export function fraction(value: number): string {
  if (Number.isInteger(value)) return String(value)
  for (const bottom of [2, 3, 4, 5, 6, 7, 8, 12, 16]) if (Math.abs(value * bottom - Math.round(value * bottom)) < 1e-9) return `${Math.round(value * bottom)}/${bottom}`
  return value.toFixed(2)
}
