// What is done to a note: movements to the next fret, bends, harmonics, muting, picking.
import { PRESSURES, type Articulation, type Pressure } from '../document/schema'
import {
  FINGER,
  MOVES,
  NAMELESS,
  TAKES_NUMBER,
  type NoteEvent,
  type StrokeEvent,
  type TimedEvent,
} from './reading'
import { CallStrings } from './string-words'
import type { Token } from './tokens'
import { noteValue, numberOf, wordOf } from './vocabulary'

export class CallMarks extends CallStrings {
  protected addMark(mark: Articulation, token: Token): void {
    if (this.asOne.length) for (const index of this.asOne) this.markNote(this.events[index], mark, token)
    else this.markNote(this.events.at(-1), mark, token)
  }
  private markNote(event: TimedEvent | undefined, mark: Articulation, token: Token): void {
    if (event?.layer !== 'note') this.fail(token, 'This belongs to a note: say the fret first.')
    if (mark.kind === 'bend' && event.fret === 0)
      this.fail(
        token,
        'An open string cannot be bent: fret it first.',
        this.elsewhere(event.string, 0, this.context.part.instrument.fretCount),
      )
    if (mark.kind === 'vibrato' && event.fret === 0)
      this.fail(
        token,
        'An open string cannot be shaken with the finger: fret it first.',
        this.elsewhere(event.string, 0, this.context.part.instrument.fretCount),
      )
    if (event.articulations.length >= 8) this.fail(token, 'That is more than one note can carry.')
    event.articulations = [
      ...event.articulations.filter(
        (other) =>
          other.kind !== mark.kind ||
          (mark.kind === 'slide' && other.kind === 'slide' && (other.how === 'out') !== (mark.how === 'out')),
      ),
      mark,
    ]
  }
  protected amount(token: Token, least: number, most: number): number {
    const text = this.peek().toLowerCase()
    if (/^(up|by)$/.test(text) && this.i + 1 < this.list.length) {
      this.i++
      return this.amount(token, least, most)
    }
    const named = { full: 2, whole: 2, half: 1, quarter: 0.5, step: 2, tone: 2, semitone: 1 }[text]
    const plain = /^-?\d{1,2}(\.\d{1,3})?$/.test(text) ? Number(text) : numberOf(text)
    if (/^(a|an)$/.test(text)) {
      this.i++
      return this.amount(token, least, most)
    }
    const amount = named ?? plain
    if (amount === undefined || amount < least || amount > most)
      this.fail(
        token,
        `By how many semitones? Between ${least} and ${most}.`,
        least > 0 ? ['1', '2', 'half', 'full'] : ['2', '5'],
      )
    this.i++
    // "two semitones" is two; "a step", "two whole steps" count in whole tones.
    const unit = this.peek().toLowerCase()
    if (/^(semitones?|half-steps?)$/.test(unit)) {
      this.i++
      return amount
    }
    if (/^(steps?|tones?)$/.test(unit)) {
      this.i++
      return named === undefined && amount * 2 <= most ? amount * 2 : amount
    }
    return amount
  }
  protected mark(word: string, token: Token): boolean {
    const apply = this.markSaid(word, token)
    if (!apply) return this.noteWord(word, token)
    // Said first in its clause, a mark goes through all of it: "palm mute low E open open three".
    if (this.events.length === this.clause.first && this.playsAhead()) this.clauseMarks.push(apply)
    else apply(token)
    return true
  }
  /**
   * Reads a mark that any note (some: any stroke) can carry, and gives what puts it on the last one;
   * undefined when the word is none.
   */
  private markSaid(word: string, token: Token): ((token: Token) => void) | undefined {
    const put =
      (mark: Articulation) =>
      (at: Token): void =>
        this.addMark(mark, at)
    const strokeOr =
      (set: (stroke: StrokeEvent) => void, mark: Articulation) =>
      (at: Token): void => {
        const event = this.events.at(-1)
        if (event?.layer === 'stroke' && this.last?.kind === 'stroke') set(event)
        else this.addMark(mark, at)
      }
    const next = (): void => {
      this.i++
    }
    switch (word) {
      case 'bend':
      case 'pre-bend':
      case 're-bend':
      case 'releasing': {
        next()
        const semitones = this.amount(token, 0.25, 5)
        return put({
          kind: 'bend',
          semitones,
          shape: word === 'releasing' ? 'release' : word === 'bend' ? this.bendShape() : word,
        })
      }
      case 'vibrato':
        next()
        return put({ kind: 'vibrato', width: 'narrow' })
      case 'wide':
        next()
        if (this.word() === 'vibrato') this.i++
        return put({ kind: 'vibrato', width: 'wide' })
      case 'harmonic':
        next()
        return put({ kind: 'natural harmonic' })
      case 'pinch': {
        next()
        if (this.word() === 'harmonic') this.i++
        const said = numberOf(this.peek())
        const known = said === 12 || said === 19 || said === 24 ? said : undefined
        if (known) this.i++
        return put({ kind: 'pinched harmonic', semitones: known ?? 12 })
      }
      case 'tremolo':
        next()
        return put({ kind: 'tremolo picking' })
      case 'dip':
      case 'dive':
      case 'return':
        next()
        return put({ kind: 'bar', semitones: -Math.abs(this.amount(token, -24, 24)), how: word })
      case 'rake':
      case 'ghost':
        next()
        return put({ kind: word })
      case 'ring': {
        next()
        if (this.peek() !== '[') return put({ kind: 'let ring' })
        this.i++
        this.spans.push({ kind: 'let ring', startTicks: this.at, token })
        return () => {}
      }
      case 'staccato':
        next()
        return strokeOr(
          (stroke) => {
            stroke.staccato = true
          },
          { kind: 'staccato' },
        )
      case 'choke':
        next()
        return strokeOr(
          (stroke) => {
            stroke.choke = true
          },
          { kind: 'choke' },
        )
      case 'palm': {
        next()
        if (/^(muted?|muting)$/i.test(this.peek())) this.i++
        const pressure = this.pressure() ?? 'medium'
        if (this.peek() !== '[')
          return strokeOr(
            (stroke) => {
              stroke.palmMute = pressure
            },
            { kind: 'palm mute', pressure },
          )
        this.i++
        this.spans.push({ kind: 'palm mute', pressure, startTicks: this.at, token })
        return () => {}
      }
      case 'accent':
        next()
        return (at) => {
          for (const one of this.lastAsOne(at)) one.accent = true
        }
      case 'power':
        next()
        if (this.word() === 'chord') this.i++
        return (at) => this.double(1, 7, at)
      case 'octave':
        next()
        return (at) => this.double(2, 12, at)
      default:
        return undefined
    }
  }
  /** What is said of one note only. */
  private noteWord(word: string, token: Token): boolean {
    const event = this.events.at(-1)
    switch (word) {
      case 'trill': {
        this.i++
        const note =
          event?.layer === 'note' ? event : this.fail(token, 'A trill belongs to a note: say the fret first.')
        const other = numberOf(this.peek())
        const frets =
          other !== undefined && other > note.fret && other - note.fret <= 7 ? other - note.fret : undefined
        if (frets !== undefined) this.i++
        if (
          note.fret + (frets ?? 2) >
          this.context.part.instrument.fretCount - this.context.part.instrument.capo
        )
          this.fail(token, 'The trill reaches beyond the neck.')
        this.addMark({ kind: 'trill', frets: frets ?? 2 }, token)
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
        for (const one of this.lastAsOne(token)) if (one.layer === 'note') one.pick = way
        return true
      }
      case 'finger': {
        const finger = String(numberOf(this.peek(1)) ?? this.peek(1)).toUpperCase()
        if (!FINGER.test(finger))
          this.fail(token, 'Which finger?', ['finger 1', 'finger 2', 'finger 3', 'finger 4'])
        if (event?.layer !== 'note') this.fail(token, 'This belongs to a note: say the fret first.')
        this.i += 2
        event.finger = finger as 'T' | '1'
        return true
      }
      default:
        return false
    }
  }
  /**
   * The last note's fifth or octave on a higher string, at once with it: "A 2 power". Marks said after it
   * go on both.
   */
  private double(strings: number, semitones: number, token: Token): void {
    const index = this.events.length - 1
    const root = this.events[index]
    const name = semitones === 7 ? 'fifth' : 'octave'
    if (root?.layer !== 'note' || root.string === NAMELESS)
      this.fail(token, `The ${name} of which note? Say its string and fret first.`, [
        'A 2 power',
        'A 2 octave',
      ])
    const { openMidi } = this.context.part.tuning
    const string = root.string - strings
    if (string < 1)
      this.fail(
        token,
        `There is no string above string ${root.string} for the ${name}.`,
        this.elsewhere(root.string, root.fret, this.context.part.instrument.fretCount).map(
          (place) => `${place} ${semitones === 7 ? 'power' : 'octave'}`,
        ),
      )
    const fret = root.fret + semitones - (openMidi[string - 1]! - openMidi[root.string - 1]!)
    if (fret < 0 || fret > this.context.part.instrument.fretCount - this.context.part.instrument.capo)
      this.fail(
        token,
        `The ${name} of fret ${root.fret} on string ${root.string} does not lie on string ${string} of this tuning.`,
      )
    if (
      this.events.some(
        (event) => event.layer === 'note' && event.string === string && event.startTicks === root.startTicks,
      )
    )
      this.fail(token, `Two notes on one string at once: string ${string} already sounds here.`)
    const from = this.events.findLast(
      (event) => event.layer === 'note' && event.string === string && event.startTicks < root.startTicks,
    )
    const slid = root.articulations.filter((mark) =>
      from && 'fret' in from && from.fret !== fret
        ? mark.kind !== 'hammer-on' && mark.kind !== 'pull-off'
        : mark.kind !== 'hammer-on' &&
          mark.kind !== 'pull-off' &&
          !(mark.kind === 'slide' && (mark.how === 'legato' || mark.how === 'shift')),
    )
    this.events.push({ ...root, token, string, fret, articulations: [...slid] })
    this.asOne = [index, index + 1]
  }
  /** "bend 2 and hold", "bend 2 and release". */
  protected bendShape(): 'plain' | 'bend and hold' | 'bend and release' {
    const [first, second] = [this.peek().toLowerCase(), this.peek(1).toLowerCase()]
    if (first === 'and' && second === 'hold') {
      this.i += 2
      return 'bend and hold'
    }
    if (first === 'and' && (second === 'release' || second === 're')) {
      this.i += 2
      return 'bend and release'
    }
    return 'plain'
  }
  /** "in from below 2": said in the same breath, the number belongs to it. */
  protected optionalFrets(): { frets?: number } {
    const frets = numberOf(this.peek())
    if (frets === undefined || frets < 1 || frets > 12) return {}
    this.i++
    return { frets }
  }
  /** "in eighths" sets the step; "in from below 2" says how a note is slid into. */
  protected inWord(token: Token): boolean {
    this.i++
    if (this.peek().toLowerCase() === 'from') {
      const side = this.peek(1).toLowerCase()
      if (side !== 'below' && side !== 'above')
        this.fail(token, 'Slid in from where?', ['in from below', 'in from above'])
      this.i += 2
      this.addMark(
        { kind: 'slide', how: side === 'below' ? 'in from below' : 'in from above', ...this.optionalFrets() },
        token,
      )
      return true
    }
    const value = noteValue(this.peek())
    if (value !== undefined) {
      this.i++
      this.step = value
      return true
    }
    if (/^1\/\d+$/.test(this.peek())) return this.stepToken(this.here!)
    const number = numberOf(this.peek())
    if (number && /^ticks?$/i.test(this.peek(1))) {
      this.i += 2
      this.step = number
      return true
    }
    this.fail(token, 'In which steps?', ['in eighths', 'in sixteenths', 'in triplets', 'in quarters'])
  }
  protected pressure(): Pressure | undefined {
    const text = this.peek().toLowerCase()
    const found = PRESSURES.find((pressure) => pressure === text)
    if (found) this.i++
    return found
  }
  protected spanWord(word: 'palming' | 'letting', token: Token): void {
    const kind = word === 'palming' ? 'palm mute' : 'let ring'
    const pressure = word === 'palming' ? (this.pressure() ?? 'medium') : undefined
    if (word === 'letting') {
      this.skip('it')
      this.skip('them')
      this.skip('ring')
    }
    const draft = { kind, startTicks: this.at, ...(pressure ? { pressure } : {}) } as const
    if (this.peek() === '[') {
      this.i++
      this.spans.push({ ...draft, token })
      return
    }
    if (this.word() !== 'for') {
      const put = (at: Token): void =>
        this.addMark(kind === 'palm mute' ? { kind, pressure: pressure ?? 'medium' } : { kind }, at)
      if (this.events.length === this.clause.first && this.playsAhead()) {
        this.clauseMarks.push(put)
        return
      }
      // "…, let it ring": said after a note, it is that note's.
      if (word === 'letting' && this.events.at(-1)?.layer === 'note') {
        put(token)
        return
      }
    }
    if (this.word() !== 'for')
      this.fail(token, `${word === 'palming' ? 'Palm muted' : 'Ringing'} for how long?`, [
        `${word}${word === 'letting' ? ' ring' : ' firm'} for 8`,
        `${word}${word === 'letting' ? ' ring' : ' firm'} for a bar`,
      ])
    this.i++
    const lengthTicks = this.length(token)
    this.checkEnd(this.at + lengthTicks, token)
    this.mutes.push({ ...draft, lengthTicks })
  }
  protected release(token: Token): void {
    const note = this.events.findLast((event): event is NoteEvent => event.layer === 'note')
    const bend = note?.articulations.find((mark) => mark.kind === 'bend')
    if (!note || bend?.kind !== 'bend' || bend.shape === 'release')
      this.fail(token, 'There is no bend before this to release.', ['bend 2, release'])
    this.last = { kind: 'notes', startTicks: this.at, first: this.events.length }
    this.events.push({
      layer: 'note',
      token,
      string: note.string,
      fret: note.fret,
      startTicks: this.at,
      lengthTicks: this.step,
      articulations: [{ kind: 'bend', semitones: bend.semitones, shape: 'release' }],
    })
    this.advance(this.step, token)
  }
  protected move(word: string, move: (typeof MOVES)[string]): boolean {
    const token = this.list[this.i]!
    this.i++
    if (
      (word === 'hammer' && this.peek().toLowerCase() === 'on') ||
      (word === 'pull' && this.peek().toLowerCase() === 'off')
    )
      this.i++
    if (word === 'shift' && this.word() === 'slide') this.i++
    // "slide up to 9", "hammer from 5 to 7": said for the ear.
    if (/^(up|down|back)$/i.test(this.peek()) && (/^(to|from)$/i.test(this.peek(1)) || this.isFret(1)))
      this.i++
    if (this.peek().toLowerCase() === 'from' && this.isFret(1)) this.i++
    if (word === 'slide') {
      const next = this.word()
      if (next === 'in' || this.peek().toLowerCase() === 'into') {
        this.i++
        this.fail(token, 'Say the fret first, then where it is slid in from: 7 in from below 2.', [
          '7 in from below',
          '7 in from above',
        ])
      }
      if (next === 'out') return true
    }
    // Said first in its clause with several frets, the movement goes through all of them; said between two
    // frets, to the next one only.
    if (this.events.length === this.clause.first && this.fretsAhead() > 1) this.run = { move, started: false }
    else this.nextMove = move
    return true
  }
  /** Frets until the clause ends or another movement begins. */
  protected fretsAhead(beyondMoves = false): number {
    let frets = 0
    for (let offset = 0; ; offset++) {
      const text = this.peek(offset)
      if (text === '' || [',', ';', '\n', '(', ')', '|'].includes(text)) return frets
      const word = wordOf(text)
      if (word && !beyondMoves && (MOVES[word] || word === 'and' || word === 'release' || word === 'rest'))
        return frets
      if (word === 'at' || word === 'same') return frets
      if (word === 'on') {
        offset++
        continue
      }
      if (word && TAKES_NUMBER.has(word)) {
        if (/\d/.test(this.peek(offset + 1)) || numberOf(this.peek(offset + 1)) !== undefined) offset++
        continue
      }
      if (/^(below|above)$/i.test(text) && numberOf(this.peek(offset + 1)) !== undefined) {
        offset++
        continue
      }
      if (/^\d{1,2}(-\d{1,2})+$/.test(text)) frets += text.split('-').length
      else if (this.isFret(offset) || /^[A-Ga-g](#|b)?\d{1,2}$/.test(text) || /^\d{1,2}:\d{1,2}$/.test(text))
        frets++
    }
  }
  /** Whether this clause still has notes or strokes to come. */
  private playsAhead(): boolean {
    if (this.fretsAhead(true) > 0) return true
    for (let offset = 0; ; offset++) {
      const text = this.peek(offset)
      if (text === '' || [',', ';', '\n', '(', ')', '|', '['].includes(text)) return false
      if (
        /^\d+[hpstb]/.test(text) ||
        ['down', 'up', 'strum', 'dead', 'chord', 'bass', 'thumb', 'fingers', 'pluck'].includes(
          wordOf(text) ?? '',
        )
      )
        return true
    }
  }
  protected fretAt(token: Token, question: string): number {
    if (!this.isFret()) this.fail(token, question[0]!.toUpperCase() + question.slice(1), ['5', '7'])
    const fret = this.word() === 'open' ? 0 : numberOf(this.peek())!
    this.i++
    return fret
  }
}
