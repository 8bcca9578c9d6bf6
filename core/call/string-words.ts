// Strings, frets and grips: "low E", "third string", "on 4-3-2", "x02220", "hold F#m7".
import { readChordSymbol } from '../music/chord-name'
import { readGrip } from '../fretboard/grips/grip'
import type { Grip } from '../document/schema'
import { CallPlaces } from './places'
import { FINGER, NAMELESS } from './reading'
import { findString } from './strings'
import type { Token } from './tokens'
import { numberOf, ordinalOf } from './vocabulary'

export class CallStrings extends CallPlaces {
  /** A letter with its sign at an offset, "B flat" as well; and how many tokens it took. */
  protected letterAt(offset: number): [string | undefined, number] {
    const text = this.peek(offset)
    if (!/^[A-Ga-g](#|b|♯|♭)?$/.test(text)) return [undefined, 0]
    const sign = this.peek(offset + 1).toLowerCase()
    if (sign === 'flat' || sign === 'sharp') return [`${text}${sign === 'flat' ? 'b' : '#'}`, 2]
    return [text, 1]
  }
  /** "G", "low E", "string 3", "third string", "3:", "3:7", "G7". */
  protected stringToken(token: Token, word: string | undefined): boolean {
    const { letters } = this.context
    const { text } = token
    const colon = /^(\d{1,2}):(\d{1,2}|x\d{1,2}|o)?$/.exec(text)
    if (colon) {
      this.setString(Number(colon[1]), token)
      this.i++
      if (colon[2]) this.fretText(colon[2], token)
      return true
    }
    if (word === 'string') {
      const number = numberOf(this.peek(1))
      if (number === undefined)
        this.fail(token, 'Which string? Say its number: string 3.', ['string 1', 'string 2', 'string 3'])
      this.i += 2
      this.setString(number, token)
      return true
    }
    const ordinal = ordinalOf(text)
    if (ordinal !== undefined && this.peek(1).toLowerCase() === 'string') {
      this.i += 2
      this.setString(ordinal, token)
      return true
    }
    const which = word === 'low' || word === 'high' || word === 'middle' ? word : undefined
    if (which) {
      const [name, used] = this.letterAt(1)
      const string = name === undefined ? undefined : findString(letters, name, which)
      if (string === undefined)
        this.fail(
          token,
          `Which string is “${text} ${this.peek(1)}”? The strings are ${[...letters].reverse().join(' ')}.`,
          [...new Set(letters)].map((letter) => `${which} ${letter}`),
        )
      this.i += 1 + used
      this.setString(string, token)
      this.skip('string')
      return true
    }
    const joined = /^([A-Ga-g](?:#|b|♯|♭)?)(\d{1,2}|x\d{1,2})$/.exec(text)
    if (joined && findString(letters, joined[1]!) !== undefined && !(joined[1] === 'x')) {
      this.i++
      this.setString(findString(letters, joined[1]!)!, token)
      this.fretText(joined[2]!, token)
      return true
    }
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
  protected fretText(text: string, token: Token): void {
    if (text.startsWith('x')) {
      this.nextMarks.push({ kind: 'dead' })
      this.note(Number(text.slice(1)), token)
    } else this.note(text === 'o' ? 0 : Number(text), token)
  }
  protected fretToken(token: Token, word: string | undefined): boolean {
    const { text } = token
    if (/^x\d{1,2}$/i.test(text)) {
      this.i++
      this.fretText(text.toLowerCase(), token)
      return true
    }
    const dashed =
      /^\d{1,2}(-\d{1,2})+$/.test(text) ||
      (/^[a-z]+(-[a-z]+)+$/i.test(text) &&
        numberOf(text) === undefined &&
        text.split('-').every((part) => numberOf(part) !== undefined))
    if (dashed) {
      this.i++
      for (const part of text.split('-')) this.note(numberOf(part)!, token)
      return true
    }
    // "third fret", "12th fret".
    const ordinal = this.peek(1).toLowerCase() === 'fret' ? ordinalOf(text) : undefined
    // "open A string": the string said after it, unless a fret follows for that string.
    const [name, used] = word === 'open' ? this.letterAt(1) : [undefined, 0]
    const named = name === undefined ? undefined : findString(this.context.letters, name)
    const after = 1 + used + (this.peek(1 + used).toLowerCase() === 'string' ? 1 : 0)
    if (
      named !== undefined &&
      !this.isFret(after) &&
      this.word(after) !== 'open' &&
      !this.list[this.i + 1]!.line
    ) {
      this.i += after
      this.setString(named, token)
      this.note(0, token)
      return true
    }
    const number = word === 'open' ? 0 : (ordinal ?? numberOf(text))
    if (number === undefined) return false
    this.i += ordinal === undefined ? 1 : 2
    this.note(number, token)
    return true
  }
  protected onStrings(token: Token): void {
    const strings = this.stringList()
    if (strings.length === 0) this.fail(token, 'On which strings?', ['on 4-3-2', 'on G'])
    const previous = this.events.at(-1)
    if (previous?.layer === 'stroke' && this.last?.kind === 'stroke') {
      previous.strings = [...new Set(strings)].sort((a, b) => a - b)
      return
    }
    const justSaid = this.last?.kind === 'notes' && this.clauseFrets.length > 0 && previous?.layer === 'note'
    if (
      !justSaid ||
      (strings.length === 1 && this.isFret() && previous?.layer === 'note' && previous.string !== NAMELESS)
    ) {
      this.string = strings.at(-1)
      return
    }
    if (strings.length > 1) {
      // "three on four-three-two": one fret across several strings at once.
      const { fret, startTicks, lengthTicks } = previous
      this.events.pop()
      for (const string of strings) {
        if (
          this.events.some(
            (event) => event.layer === 'note' && event.startTicks === startTicks && event.string === string,
          )
        )
          this.fail(token, `Two notes on one string at once: string ${string} already sounds here.`)
        this.events.push({ layer: 'note', token, string, fret, startTicks, lengthTicks, articulations: [] })
      }
      this.last = { kind: 'notes', startTicks, first: this.events.length - strings.length }
      return
    }
    // "seven nine on G": all of the clause that has no string of its own.
    for (const { index } of this.clauseFrets) {
      const event = this.events[index]
      if (event?.layer === 'note' && (event.string === NAMELESS || this.string === undefined))
        event.string = strings[0]!
    }
    this.string = strings[0]
  }
  protected stringList(): number[] {
    const { letters } = this.context
    const found: number[] = []
    this.skip('the')
    const count = this.context.part.tuning.openMidi.length
    const take = (text: string): number | undefined => {
      const number = numberOf(text)
      return number !== undefined && number >= 1 && number <= count ? number : findString(letters, text)
    }
    let more = false
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
        if (string === undefined || string > count)
          this.fail(token, `There is no string ${this.peek(1)}: ${this.context.part.name} has ${count}.`)
        found.push(string)
        this.i += 2
      } else if (parts.length > 1 && parts.every((part) => take(part) !== undefined)) {
        found.push(...parts.map((part) => take(part)!))
        this.i++
      } else if (
        (found.length === 0 || more) &&
        parts.length === 1 &&
        take(token.text) !== undefined &&
        (numberOf(token.text) === undefined || this.last?.kind === 'stroke' || this.last?.kind === 'notes')
      ) {
        found.push(take(token.text)!)
        this.i++
        this.skip('string')
      } else break
      // "on low E and A", but not "on low E and A 5": that is another note, at once with this one.
      const said = ['low', 'high', 'middle', 'string'].includes(this.word(1) ?? '')
        ? 2
        : take(this.peek(1)) !== undefined
          ? 1
          : 0
      more = this.peek().toLowerCase() === 'and' && found.length > 0 && said > 0 && !this.isFret(said + 1)
      if (!more) break
      this.i++
    }
    return found
  }
  protected pluck(token: Token): void {
    let plucked = 0
    for (;;) {
      const here = this.here
      if (!here || (here.line && plucked > 0)) break
      const parts = here.text.split('-').map((part) => {
        const number = numberOf(part)
        return number !== undefined && number >= 1 && number <= this.context.part.tuning.openMidi.length
          ? number
          : findString(this.context.letters, part)
      })
      if (parts.some((part) => part === undefined)) break
      this.i++
      const strings = [...new Set(parts as number[])].sort((a, b) => a - b)
      this.stroke({ direction: strings[0]! >= 4 ? 'thumb' : 'fingers', strings }, here)
      plucked++
    }
    if (plucked === 0) this.fail(token, 'Which strings, in order?', ['pluck 5 3 2 3', 'pluck 6 4 3 2 1'])
  }
  /** "x02220" where a grip of that many strings can be meant. */
  protected bareGrip(token: Token): boolean {
    if (
      this.context.part.tuning.openMidi.length < 4 ||
      !/^[x\d]{4,}$|^(x|\d{1,2})(-(x|\d{1,2})){3,}$/i.test(token.text)
    )
      return false
    const grip = readGrip(token.text, this.context.part.tuning.openMidi.length)
    if (!grip) {
      if (/^\d{1,3}$/.test(token.text)) return false
      this.fail(
        token,
        `A grip here has ${this.context.part.tuning.openMidi.length} strings, low to high: x for muted, 0 for open, frets over 9 with dashes.`,
      )
    }
    this.i++
    this.hold(grip, token)
    return true
  }
  protected chordToken(token: Token): boolean {
    // A bare letter is a string's name, not a chord's.
    if (!/^[A-G](?:[#b]?.*[^#b]|.*\d.*)$/.test(token.text) || !readChordSymbol(token.text)) return false
    this.i++
    this.hold(this.gripNamed(token), token)
    return true
  }
  protected gripNamed(token: Token, symbol = token.text): Grip {
    const grip = this.context.gripFor?.(symbol, this.holds.at(-1)?.grip)
    if (!grip)
      this.fail(token, `No grip for “${symbol}” here. Write its strings, low to high.`, ['hold x02220'])
    return grip
  }
  protected fingered(token: Token): void {
    const hold = this.holds.at(-1)
    const text = this.peek()
    const { length } = this.context.part.tuning.openMidi
    if (!hold) this.fail(token, 'Fingers of which grip? Hold one first.', ['hold x32010 fingered x32010'])
    if (!new RegExp(`^[xt01-4]{${length}}$`, 'i').test(text))
      this.fail(
        token,
        `Write one sign a string, low to high: 1 to 4, T for the thumb, x for none; ${length} of them.`,
      )
    this.i++
    const fingers = [...text].reverse()
    hold.grip = {
      ...hold.grip,
      strings: hold.grip.strings.map((string, index) => {
        const sign = fingers[index]!.toUpperCase()
        return FINGER.test(sign) ? { fret: string.fret, finger: sign as 'T' | '1' } : { fret: string.fret }
      }),
    }
  }
  protected barre(token: Token): void {
    const hold = this.holds.at(-1)
    const fret = numberOf(this.peek())
    if (!hold || fret === undefined)
      this.fail(token, 'A barre belongs to a grip: barre 2 from 5 to 1.', ['barre 2 from 5 to 1'])
    this.i++
    const ends = [this.peek(1), this.peek(3)].map(numberOf)
    if (
      !/^from$/i.test(this.peek()) ||
      !/^to$/i.test(this.peek(2)) ||
      ends.some((end) => end === undefined || end < 1 || end > this.context.part.tuning.openMidi.length) ||
      fret > 36
    )
      this.fail(token, 'From which string to which?', ['barre 2 from 5 to 1'])
    this.i += 4
    hold.grip = { ...hold.grip, barre: { fret, fromString: ends[0]!, toString: ends[1]! } }
  }
}
