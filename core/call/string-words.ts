// Strings and frets: "low E", "third string", "on 4-3-2", "pluck 6 4 2".
import { sayNote, sayStroke } from './events'
import { NAMELESS, fail, hereToken, isFret, peek, setString, skip, wordHere, type Reading } from './reading'
import { findString } from './strings'
import type { Token } from './tokens'
import { numberOf, ordinalOf } from './vocabulary'

/** A letter with its sign at an offset, "B flat" as well; and how many tokens it took. */
function letterAt(r: Reading, offset: number): [string | undefined, number] {
  const text = peek(r, offset)
  if (!/^[A-Ga-g](#|b|♯|♭)?$/.test(text)) return [undefined, 0]
  const sign = peek(r, offset + 1).toLowerCase()
  if (sign === 'flat' || sign === 'sharp') return [`${text}${sign === 'flat' ? 'b' : '#'}`, 2]
  return [text, 1]
}

/** "3:", "3:7", "3:x7". */
function colonString(r: Reading, token: Token): boolean {
  const colon = /^(\d{1,2}):(\d{1,2}|x\d{1,2}|o)?$/.exec(token.text)
  if (!colon) return false
  setString(r, Number(colon[1]), token)
  r.i++
  if (colon[2]) fretText(r, colon[2], token)
  return true
}

/** "string 3", "third string". */
function numberedString(r: Reading, token: Token, word: string | undefined): boolean {
  const number = word === 'string' ? numberOf(peek(r, 1)) : ordinalOf(token.text)
  if (word === 'string' && number === undefined)
    fail(r, token, 'Which string? Say its number: string 3.', ['string 1', 'string 2', 'string 3'])
  if (number === undefined || (word !== 'string' && peek(r, 1).toLowerCase() !== 'string')) return false
  r.i += 2
  setString(r, number, token)
  return true
}

/** "low E", "high E": one of several strings with the same letter. */
function twinString(r: Reading, token: Token, word: string | undefined): boolean {
  if (word !== 'low' && word !== 'high' && word !== 'middle') return false
  const { letters } = r.context
  const [name, used] = letterAt(r, 1)
  const string = name === undefined ? undefined : findString(letters, name, word)
  if (string === undefined)
    fail(
      r,
      token,
      `Which string is “${token.text} ${peek(r, 1)}”? The strings are ${[...letters].reverse().join(' ')}.`,
      [...new Set(letters)].map((letter) => `${word} ${letter}`),
    )
  r.i += 1 + used
  setString(r, string, token)
  skip(r, 'string')
  return true
}

/** "G7": a letter and its fret in one. */
function joinedString(r: Reading, token: Token): boolean {
  const joined = /^([A-Ga-g](?:#|b|♯|♭)?)(\d{1,2}|x\d{1,2})$/.exec(token.text)
  const string = joined ? findString(r.context.letters, joined[1]!) : undefined
  if (!joined || string === undefined) return false
  r.i++
  setString(r, string, token)
  fretText(r, joined[2]!, token)
  return true
}

function letterString(r: Reading, token: Token): boolean {
  // A small d is a down stroke while the hand is being called, the D string before a fret.
  if (token.text === 'd' && !(isFret(r, 1) && r.last?.kind !== 'stroke')) return false
  if (!/^[A-Ga-g](#|b|♯|♭)?$/.test(token.text)) return false
  const [name, used] = letterAt(r, 0)
  const string = name === undefined ? undefined : findString(r.context.letters, name)
  if (string === undefined) return false
  r.i += used
  setString(r, string, token)
  skip(r, 'string')
  return true
}

/** "G", "low E", "string 3", "third string", "3:", "3:7", "G7". */
export function stringToken(r: Reading, token: Token, word: string | undefined): boolean {
  return (
    colonString(r, token) ||
    numberedString(r, token, word) ||
    twinString(r, token, word) ||
    joinedString(r, token) ||
    letterString(r, token)
  )
}

function fretText(r: Reading, text: string, token: Token): void {
  if (text.startsWith('x')) {
    r.nextMarks.push({ kind: 'dead' })
    sayNote(r, Number(text.slice(1)), token)
  } else sayNote(r, text === 'o' ? 0 : Number(text), token)
}

export function fretToken(r: Reading, token: Token, word: string | undefined): boolean {
  const { text } = token
  if (/^x\d{1,2}$/i.test(text)) {
    r.i++
    fretText(r, text.toLowerCase(), token)
    return true
  }
  const dashed =
    /^\d{1,2}(-\d{1,2})+$/.test(text) ||
    (/^[a-z]+(-[a-z]+)+$/i.test(text) &&
      numberOf(text) === undefined &&
      text.split('-').every((part) => numberOf(part) !== undefined))
  if (dashed) {
    r.i++
    for (const part of text.split('-')) sayNote(r, numberOf(part)!, token)
    return true
  }
  // "third fret", "12th fret".
  const ordinal = peek(r, 1).toLowerCase() === 'fret' ? ordinalOf(text) : undefined
  // "open A string": the string said after it, unless a fret follows for that string.
  const [name, used] = word === 'open' ? letterAt(r, 1) : [undefined, 0]
  const named = name === undefined ? undefined : findString(r.context.letters, name)
  const after = 1 + used + (peek(r, 1 + used).toLowerCase() === 'string' ? 1 : 0)
  if (named !== undefined && !isFret(r, after) && wordHere(r, after) !== 'open' && !r.list[r.i + 1]!.line) {
    r.i += after
    setString(r, named, token)
    sayNote(r, 0, token)
    return true
  }
  const number = word === 'open' ? 0 : (ordinal ?? numberOf(text))
  if (number === undefined) return false
  r.i += ordinal === undefined ? 1 : 2
  sayNote(r, number, token)
  return true
}

export function onStrings(r: Reading, token: Token): void {
  const strings = stringList(r)
  if (strings.length === 0) fail(r, token, 'On which strings?', ['on 4-3-2', 'on G'])
  const previous = r.events.at(-1)
  if (previous?.layer === 'stroke' && r.last?.kind === 'stroke') {
    previous.strings = [...new Set(strings)].sort((a, b) => a - b)
    return
  }
  const justSaid = r.last?.kind === 'notes' && r.clauseFrets.length > 0 && previous?.layer === 'note'
  if (
    !justSaid ||
    (strings.length === 1 && isFret(r) && previous?.layer === 'note' && previous.string !== NAMELESS)
  ) {
    r.string = strings.at(-1)
    return
  }
  if (strings.length > 1) {
    // "three on four-three-two": one fret across several strings at once.
    const { fret, startTicks, lengthTicks } = previous
    r.events.pop()
    for (const string of strings) {
      if (
        r.events.some(
          (event) => event.layer === 'note' && event.startTicks === startTicks && event.string === string,
        )
      )
        fail(r, token, `Two notes on one string at once: string ${string} already sounds here.`)
      r.events.push({ layer: 'note', token, string, fret, startTicks, lengthTicks, marks: [] })
    }
    r.last = { kind: 'notes', startTicks, first: r.events.length - strings.length }
    return
  }
  // "seven nine on G": all of the clause that has no string of its own.
  for (const { index } of r.clauseFrets) {
    const event = r.events[index]
    if (event?.layer === 'note' && (event.string === NAMELESS || r.string === undefined))
      event.string = strings[0]!
  }
  r.string = strings[0]
}

function stringList(r: Reading): number[] {
  const { letters } = r.context
  const found: number[] = []
  skip(r, 'the')
  const count = r.context.part.tuning.openMidi.length
  const take = (text: string): number | undefined => {
    const number = numberOf(text)
    return number !== undefined && number >= 1 && number <= count ? number : findString(letters, text)
  }
  let more = false
  for (;;) {
    const token = hereToken(r)
    if (!token) break
    const parts = token.text.split('-')
    const which = wordHere(r)
    if ((which === 'low' || which === 'high' || which === 'middle') && letterAt(r, 1)[0] !== undefined) {
      const string = findString(letters, letterAt(r, 1)[0]!, which)
      if (string === undefined) fail(r, token, `There is no ${token.text} ${peek(r, 1)} string.`)
      found.push(string)
      r.i += 1 + letterAt(r, 1)[1]
    } else if (which === 'string' && numberOf(peek(r, 1)) !== undefined) {
      const string = take(peek(r, 1))
      if (string === undefined || string > count)
        fail(r, token, `There is no string ${peek(r, 1)}: ${r.context.part.name} has ${count}.`)
      found.push(string)
      r.i += 2
    } else if (parts.length > 1 && parts.every((part) => take(part) !== undefined)) {
      found.push(...parts.map((part) => take(part)!))
      r.i++
    } else if (
      (found.length === 0 || more) &&
      parts.length === 1 &&
      take(token.text) !== undefined &&
      (numberOf(token.text) === undefined || r.last?.kind === 'stroke' || r.last?.kind === 'notes')
    ) {
      found.push(take(token.text)!)
      r.i++
      skip(r, 'string')
    } else break
    // "on low E and A", but not "on low E and A 5": that is another note, at once with this one.
    const named = take(peek(r, 1)) === undefined ? 0 : 1
    const said = ['low', 'high', 'middle', 'string'].includes(wordHere(r, 1) ?? '') ? 2 : named
    more = peek(r).toLowerCase() === 'and' && found.length > 0 && said > 0 && !isFret(r, said + 1)
    if (!more) break
    r.i++
  }
  return found
}

export function readPluck(r: Reading, token: Token): void {
  let plucked = 0
  for (;;) {
    const here = hereToken(r)
    if (!here || (here.line && plucked > 0)) break
    const parts = here.text.split('-').map((part) => {
      const number = numberOf(part)
      return number !== undefined && number >= 1 && number <= r.context.part.tuning.openMidi.length
        ? number
        : findString(r.context.letters, part)
    })
    if (parts.some((part) => part === undefined)) break
    r.i++
    const strings = [...new Set(parts as number[])].sort((a, b) => a - b)
    sayStroke(r, { direction: strings[0]! >= 4 ? 'thumb' : 'fingers', strings }, here)
    plucked++
  }
  if (plucked === 0) fail(r, token, 'Which strings, in order?', ['pluck 5 3 2 3', 'pluck 6 4 3 2 1'])
}
