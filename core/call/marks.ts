// What is done to a note: movements to the next fret, bends, harmonics, muting, picking.
import { PRESSURES, type Articulation, type Pressure } from '../song/schema'
import { FINGER, MOVES, TAKES_NUMBER, type NoteEvent } from './reading'
import { CallStrings } from './string-words'
import type { Token } from './tokens'
import { noteValue, numberOf, wordOf } from './vocabulary'

export class CallMarks extends CallStrings {
  protected addMark(mark: Articulation, token: Token): void {
    const event = this.events.at(-1)
    if (event?.layer !== 'note') this.fail(token, 'This belongs to a note: say the fret first.')
    if (mark.kind === 'bend' && event.fret === 0) this.fail(token, 'An open string cannot be bent: fret it first.', this.elsewhere(event.string, 0, this.context.part.instrument.fretCount))
    if (mark.kind === 'vibrato' && event.fret === 0) this.fail(token, 'An open string cannot be shaken with the finger: fret it first.', this.elsewhere(event.string, 0, this.context.part.instrument.fretCount))
    if (event.articulations.length >= 8) this.fail(token, 'That is more than one note can carry.')
    event.articulations = [...event.articulations.filter((other) => other.kind !== mark.kind || (mark.kind === 'slide' && other.kind === 'slide' && (other.how === 'out') !== (mark.how === 'out'))), mark]
  }
  protected amount(token: Token, least: number, most: number): number {
    const text = this.peek().toLowerCase()
    const named = { full: 2, whole: 2, half: 1, quarter: 0.5 }[text]
    const plain = /^-?\d{1,2}(\.\d{1,3})?$/.test(text) ? Number(text) : numberOf(text)
    if (/^(a|an)$/.test(text)) { this.i++; return this.amount(token, least, most) }
    const amount = named ?? plain
    if (amount === undefined || amount < least || amount > most) this.fail(token, `By how many semitones? Between ${least} and ${most}.`, least > 0 ? ['1', '2', 'half', 'full'] : ['2', '5'])
    this.i++
    return amount
  }
  protected mark(word: string, token: Token): boolean {
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
  protected bendShape(): 'plain' | 'bend and hold' | 'bend and release' {
    const [first, second] = [this.peek().toLowerCase(), this.peek(1).toLowerCase()]
    if (first === 'and' && second === 'hold') { this.i += 2; return 'bend and hold' }
    if (first === 'and' && (second === 'release' || second === 're')) { this.i += 2; return 'bend and release' }
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
  protected pressure(): Pressure | undefined {
    const text = this.peek().toLowerCase()
    const found = PRESSURES.find((pressure) => pressure === text)
    if (found) this.i++
    return found
  }
  protected spanWord(word: 'palming' | 'letting', token: Token): void {
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
  protected release(token: Token): void {
    const note = this.events.findLast((event): event is NoteEvent => event.layer === 'note')
    const bend = note?.articulations.find((mark) => mark.kind === 'bend')
    if (!note || bend?.kind !== 'bend' || bend.shape === 'release') this.fail(token, 'There is no bend before this to release.', ['bend 2, release'])
    this.last = { kind: 'notes', startTicks: this.at, first: this.events.length }
    this.events.push({ layer: 'note', token, string: note.string, fret: note.fret, startTicks: this.at, lengthTicks: this.step, articulations: [{ kind: 'bend', semitones: bend.semitones, shape: 'release' }] })
    this.advance(this.step, token)
  }
  protected move(word: string, move: (typeof MOVES)[string]): boolean {
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
  protected fretsAhead(): number {
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
  protected fretAt(token: Token, question: string): number {
    if (!this.isFret()) this.fail(token, question[0]!.toUpperCase() + question.slice(1), ['5', '7'])
    const fret = this.word() === 'open' ? 0 : numberOf(this.peek())!
    this.i++
    return fret
  }
}
