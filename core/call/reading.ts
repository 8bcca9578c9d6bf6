// Reading a call: where the reader stands, what has been said so far, and how notes, strokes and lengths
// are added. The layers above it read places (places.ts), strings and grips (string-words.ts), marks and
// movements (marks.ts), and everything else (parse.ts).
import { usualDirection } from '../fretboard/strokes'
import type {
  Articulation,
  Content,
  Grip,
  Note,
  Part,
  PickSchool,
  Pressure,
  Stroke,
} from '../document/schema'
import { barTicks, countWords, type Meter, type Subdivision } from '../time/meter'
import { tokens, type Token } from './tokens'
import { noteValueName, numberOf, wordOf } from './vocabulary'

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
export interface CallError {
  at: number
  end: number
  message: string
  suggestions: string[]
  /** Set when the only fault is that it does not fit: by how much. */ overTicks?: number
}
/** `covered`: the stretches the call spoke of, in the order said; what stands there is replaced. */
export interface ParsedCall {
  content: Content
  startTicks: number
  endTicks: number
  covered: { from: number; to: number }[]
  stepTicks: number
  /** The string frets go to next. */ string: number | undefined
}
export type CallResult = { ok: true; value: ParsedCall } | { ok: false; error: CallError }

/**
 * Longest call that is read, in characters, and most events it may make: a pasted book is refused, not
 * chewed.
 */
export const LONGEST_CALL = 6000
export const MOST_EVENTS = 4000
export const FINGER = /^[t1-4]$/i
/** Words whose next number is theirs and no fret. */
export const TAKES_NUMBER = new Set([
  'for',
  'bend',
  'pre-bend',
  're-bend',
  'releasing',
  'dip',
  'dive',
  'return',
  'trill',
  'pinch',
  'finger',
  'out',
  'string',
  'grace',
])
/** Stands for a string that is named after its frets. */
export const NAMELESS = 0
/** Words that go between two steps of the same thought and end nothing. */
export const MOVES: Record<string, 'hammer-on' | 'pull-off' | 'legato' | 'shift'> = {
  hammer: 'hammer-on',
  pull: 'pull-off',
  slide: 'legato',
  shift: 'shift',
}

export type Draft<T> = Omit<T, 'id'>
/** `rings`: its sounding length was said by itself and stays when the step it takes is set. */
export type NoteEvent = Draft<Note> & { layer: 'note'; token: Token; rings?: boolean }
export type StrokeEvent = Draft<Stroke> & {
  layer: 'stroke'
  token: Token
  rings?: boolean
  on?: 'bass' | 'chord'
}
export type TimedEvent = NoteEvent | StrokeEvent
export interface Hold {
  startTicks: number
  lengthTicks: number | undefined
  grip: Grip
  token: Token
}
export interface MuteDraft {
  startTicks: number
  lengthTicks: number
  kind: 'palm mute' | 'let ring'
  pressure?: Pressure
}
/** Where a clause, a line or a bracket begins: in time, and among what has been said so far. */
export interface Group {
  startTicks: number
  first: number
  firstHold: number
  firstMute: number
}

export class CallProblem extends Error {
  constructor(readonly problem: CallError) {
    super(problem.message)
  }
}

const callExample = (letters: readonly string[]): string =>
  `${letters[Math.min(2, letters.length - 1)]} seven`
/** 1.5 → "3/2", whole numbers plain. */
export function fraction(value: number): string {
  if (Number.isInteger(value)) return String(value)
  for (const bottom of [2, 3, 4, 5, 6, 7, 8, 12, 16])
    if (Math.abs(value * bottom - Math.round(value * bottom)) < 1e-9)
      return `${Math.round(value * bottom)}/${bottom}`
  return value.toFixed(2)
}

export class CallReading {
  protected readonly list: Token[]
  protected i = 0
  protected at: number
  protected step: number
  protected string: number | undefined
  protected events: TimedEvent[] = []
  protected holds: Hold[] = []
  protected mutes: MuteDraft[] = []
  /** Where the next grip with a length of its own begins, when grips are said one after the other. */
  protected gripEnd = -1
  protected last:
    { kind: 'notes' | 'stroke' | 'rest' | 'hold'; startTicks: number; first: number } | undefined
  protected clause: Group
  protected clauseBefore: Group | undefined
  protected barStart: number
  protected line: Group
  protected lineBefore: (Group & { endTicks: number; end: number }) | undefined
  protected open: Group[] = []
  protected closed: Group | undefined
  protected spans: { kind: MuteDraft['kind']; pressure?: Pressure; startTicks: number; token: Token }[] = []
  protected together = false
  protected nextMove: (typeof MOVES)[string] | undefined
  protected nextMarks: { kind: 'tap' | 'dead' | 'grace'; fret?: number }[] = []
  /** Marks said first in their clause: they go on every note and stroke of it. */
  protected clauseMarks: ((token: Token) => void)[] = []
  /** Notes that were said as one, a root and its fifth: marks go on both. */
  protected asOne: number[] = []
  protected run: { move: (typeof MOVES)[string]; started: boolean } | undefined
  protected replacing: number[] = []
  protected clauseFrets: { index: number }[] = []
  protected covered: { from: number; to: number }[] = []

  constructor(
    call: string,
    protected readonly context: CallContext,
  ) {
    this.list = tokens(call)
    this.at = context.startTicks ?? 0
    this.step = context.stepTicks
    this.barStart = this.at
    this.clause = this.groupHere()
    this.line = this.groupHere()
  }

  protected groupHere(): Group {
    return {
      startTicks: this.at,
      first: this.events.length,
      firstHold: this.holds.length,
      firstMute: this.mutes.length,
    }
  }
  protected get here(): Token | undefined {
    return this.list[this.i]
  }
  protected peek(offset = 0): string {
    return this.list[this.i + offset]?.text ?? ''
  }
  protected word(offset = 0): string | undefined {
    return wordOf(this.peek(offset))
  }
  protected fail(token: Token, message: string, suggestions: string[] = [], overTicks?: number): never {
    throw new CallProblem({
      at: token.at,
      end: token.end,
      message,
      suggestions,
      ...(overTicks === undefined ? {} : { overTicks }),
    })
  }
  protected skip(text: string): void {
    if (this.peek().toLowerCase() === text) this.i++
  }
  protected isFret(offset = 0): boolean {
    const text = this.peek(offset)
    return (
      (numberOf(text) !== undefined && Number(numberOf(text)) <= 36) ||
      wordOf(text) === 'open' ||
      /^x\d{1,2}$/i.test(text)
    )
  }
  protected setString(number: number, token: Token): void {
    const count = this.context.part.tuning.openMidi.length
    if (number < 1 || number > count)
      this.fail(token, `There is no string ${number}: ${this.context.part.name} has ${count}.`, [
        `string ${Math.max(1, Math.min(count, number))}`,
      ])
    this.string = number
  }
  protected place(tick: number): string {
    const bar = barTicks(this.context.meter)
    return `bar ${Math.floor(tick / bar) + 1}, ${countWords(this.context.meter, tick % bar)}`
  }
  /** The same pitch where it can be played. */
  protected elsewhere(string: number, fret: number, highest: number): string[] {
    if (string === NAMELESS) return []
    const { openMidi } = this.context.part.tuning
    const midi = openMidi[string - 1]! + fret
    return openMidi
      .flatMap((open, index) =>
        index + 1 !== string && midi - open >= 0 && midi - open <= highest
          ? [`${index + 1}:${midi - open}`]
          : [],
      )
      .slice(0, 2)
  }
  protected advance(ticks: number, token: Token): void {
    const before = this.covered.at(-1)
    if (before?.to === this.at) before.to = this.at + ticks
    else this.covered.push({ from: this.at, to: this.at + ticks })
    this.at += ticks
    const end = this.context.lengthTicks
    if (end === undefined || this.at <= end) return
    const bar = barTicks(this.context.meter)
    const name = noteValueName(this.step) ?? 'steps'
    const lastBar = Math.floor((end - 1) / bar) * bar
    this.fail(
      token,
      `Bar ${Math.ceil(end / bar)} would hold ${fraction((this.at - lastBar) / this.step)} of ${fraction((end - lastBar) / this.step)} ${name}.`,
      ['tie over into a new bar', 'squeeze into a tuplet', 'a longer bar'],
      this.at - end,
    )
  }
  /**
   * Frets may be said before their string ("seven nine on G"), but by the end of the clause it has to be
   * known.
   */
  protected nameless(): void {
    const event = this.events
      .slice(this.clause.first)
      .find((one): one is NoteEvent => one.layer === 'note' && one.string === NAMELESS)
    if (event)
      this.fail(
        event.token,
        `Fret ${event.fret} on which string? Say it first: ${callExample(this.context.letters)}.`,
        [...new Set(this.context.letters)].map((letter) => `${letter} ${event.fret}`),
      )
  }
  protected endClause(): void {
    this.run = undefined
    this.settleMarks()
    this.closed = undefined
    this.nameless()
    if (this.events.length > this.clause.first) this.clauseBefore = this.clause
    this.clause = this.groupHere()
    this.clauseFrets = []
  }
  /** Nothing came that marks said first could go through: they are meant for what was said before. */
  protected settleMarks(): void {
    if (this.events.length === this.clause.first)
      for (const mark of this.clauseMarks) mark(this.list[Math.max(0, this.i - 2)]!)
    this.clauseMarks = []
  }
  protected note(fret: number, token: Token): void {
    this.addNote(fret, token)
    this.asOne = []
    for (const mark of this.clauseMarks) mark(token)
  }
  private addNote(fret: number, token: Token): void {
    const { part } = this.context
    const highest = part.instrument.fretCount - part.instrument.capo
    const replaced = this.replacing.length ? this.events[this.replacing[0]!] : undefined
    const string = this.string ?? (replaced?.layer === 'note' ? replaced.string : NAMELESS)
    if (fret > highest)
      this.fail(
        token,
        `Fret ${fret} is beyond the neck: the highest is ${highest}.`,
        this.elsewhere(string, fret, highest),
      )
    const articulations: Articulation[] = []
    for (const mark of this.nextMarks) {
      if (mark.kind === 'grace') {
        const frets = mark.fret! - fret
        if (frets === 0 || Math.abs(frets) > 7)
          this.fail(token, 'A grace note lies within seven frets of its note.', [
            `grace ${fret > 1 ? fret - 2 : fret + 2} to ${fret}`,
          ])
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
      this.events[index] = {
        layer: 'note',
        token,
        string: string === NAMELESS ? replaced.string : string,
        fret,
        startTicks: replaced.startTicks,
        lengthTicks: replaced.lengthTicks,
        articulations,
      }
      this.last = { kind: 'notes', startTicks: replaced.startTicks, first: index }
      this.together = false
      return
    }
    if (move) articulations.unshift(this.moved(move, string, fret, token))
    if (this.together && this.last?.kind === 'notes') {
      const before = this.events.slice(this.last.first)
      if (
        before.some(
          (event) =>
            event.layer === 'note' && event.string === string && event.startTicks === this.last!.startTicks,
        )
      )
        this.fail(
          token,
          `Two notes on one string at once: string ${string} already sounds here.`,
          this.elsewhere(string, fret, highest),
        )
      this.events.push({
        layer: 'note',
        token,
        string,
        fret,
        startTicks: this.last.startTicks,
        lengthTicks: this.at - this.last.startTicks,
        articulations,
      })
      this.together = false
    } else {
      this.together = false
      const clash = this.events.find(
        (event) => event.layer === 'note' && event.string === string && event.startTicks === this.at,
      )
      if (clash)
        this.fail(
          token,
          `Two notes on one string at once: string ${string} already has a note at ${this.place(this.at)}.`,
          this.elsewhere(string, fret, highest),
        )
      this.last = { kind: 'notes', startTicks: this.at, first: this.events.length }
      this.events.push({
        layer: 'note',
        token,
        string,
        fret,
        startTicks: this.at,
        lengthTicks: this.step,
        articulations,
      })
      this.advance(this.step, token)
    }
    this.clauseFrets.push({ index: this.events.length - 1 })
  }
  protected moved(move: (typeof MOVES)[string], string: number, fret: number, token: Token): Articulation {
    const start = this.together && this.last ? this.last.startTicks : this.at
    const before = this.events.findLast(
      (event): event is NoteEvent => event.layer === 'note' && event.startTicks < start,
    )
    const onString =
      this.events.findLast(
        (event): event is NoteEvent =>
          event.layer === 'note' && event.string === string && event.startTicks < start,
      ) ?? this.context.content?.notes.findLast((note) => note.string === string && note.startTicks < start)
    const name = { 'hammer-on': 'hammer-on', 'pull-off': 'pull-off', legato: 'slide', shift: 'slide' }[move]
    if (!onString) {
      if (before)
        this.fail(
          token,
          `A ${name} stays on its string: the note before is on string ${before.string}, this one on string ${string}.`,
          [String(fret)],
        )
      this.fail(token, `A ${name} needs a note to come from.`, [
        `${fret} ${name === 'pull-off' ? fret : fret + 2}`,
      ])
    }
    if (
      before &&
      before.string !== string &&
      before.startTicks > onString.startTicks &&
      !this.events.some(
        (event) =>
          event.layer === 'note' && event.startTicks === before.startTicks && event.string === string,
      )
    )
      this.fail(
        token,
        `A ${name} stays on its string: the note before is on string ${before.string}, this one on string ${string}.`,
        [String(fret)],
      )
    if (onString.fret === fret)
      this.fail(token, `A ${name} has to go somewhere: the note before is fret ${fret} too.`)
    if (move === 'hammer-on' && fret < onString.fret)
      this.fail(token, `A hammer-on goes up: from ${onString.fret} to ${fret} is a pull-off.`, [
        `pull ${fret}`,
      ])
    if (move === 'pull-off' && fret > onString.fret)
      this.fail(token, `A pull-off goes down: from ${onString.fret} to ${fret} is a hammer-on.`, [
        `hammer ${fret}`,
      ])
    return move === 'hammer-on' || move === 'pull-off' ? { kind: move } : { kind: 'slide', how: move }
  }
  protected stroke(set: Partial<StrokeEvent> & { direction?: Stroke['direction'] }, token: Token): void {
    const direction = set.direction ?? usualDirection(this.at, this.context)
    this.last = { kind: 'stroke', startTicks: this.at, first: this.events.length }
    this.events.push({
      layer: 'stroke',
      token,
      startTicks: this.at,
      lengthTicks: this.step,
      accent: false,
      dead: false,
      choke: false,
      ...set,
      direction,
    })
    this.advance(this.step, token)
    for (const mark of this.clauseMarks) mark(token)
  }
  protected hold(grip: Grip, token: Token): void {
    const startTicks = Math.max(this.at, this.gripEnd)
    this.last = { kind: 'hold', startTicks, first: this.events.length }
    this.holds.push({ startTicks, lengthTicks: undefined, grip, token })
  }
  protected lastTimed(token: Token): TimedEvent {
    const event = this.events.at(-1)
    if (!event || this.last?.kind === 'rest' || this.last?.kind === 'hold')
      this.fail(token, 'There is no note or stroke before this.')
    return event
  }
  /** The last note or stroke, or the two notes that were said as one. */
  protected lastAsOne(token: Token): TimedEvent[] {
    const last = this.lastTimed(token)
    return this.asOne.length ? this.asOne.map((index) => this.events[index]!) : [last]
  }
  protected stepOfLast(): number {
    return this.last ? this.at - this.last.startTicks : this.step
  }
  protected lengthOfLast(token: Token): number {
    if (!this.last) this.fail(token, 'There is nothing before this to lengthen.')
    if (this.last.kind === 'hold') return this.holds.at(-1)!.lengthTicks ?? this.step
    return this.at - this.last.startTicks
  }
  protected setLength(ticks: number, token: Token): void {
    if (!this.last) this.fail(token, 'There is nothing before this whose length could be set.')
    if (ticks < 1) this.fail(token, 'A length is at least a tick.')
    if (this.last.kind === 'hold') {
      const hold = this.holds.at(-1)!
      hold.lengthTicks = ticks
      this.gripEnd = hold.startTicks + ticks
      this.checkEnd(this.gripEnd, token)
      return
    }
    for (const event of this.events.slice(this.last.first))
      if (event.startTicks === this.last.startTicks && !event.rings) event.lengthTicks = ticks
    const before = this.at
    this.at = this.last.startTicks
    if (this.last.first < this.events.length && this.events.at(-1)!.startTicks > this.last.startTicks) {
      this.at = before
      return
    }
    const said = this.covered.at(-1)
    if (said?.to === before) said.to = this.at
    this.advance(ticks, token)
  }
  protected checkEnd(tick: number, token: Token): void {
    const end = this.context.lengthTicks
    if (end !== undefined && tick > end)
      this.fail(
        token,
        `That reaches ${fraction((tick - end) / this.step)} steps past the end of the figure.`,
        ['tie over into a new bar'],
        tick - end,
      )
  }
}
