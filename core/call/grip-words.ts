// Grips: "x02220", "hold F#m7", "fingered 1 3 4", "barre".
import type { Grip } from '../document/schema'
import { readGrip } from '../neck/grips/grip'
import { readChordSymbol } from '../music/chord-name'
import { spokenChord } from './chord-words'
import { sayHold } from './events'
import { FINGER, fail, hereToken, peek, skip, type Reading } from './reading'
import type { Token } from './tokens'
import { numberOf } from './vocabulary'

/** "x02220" where a grip of that many strings can be meant. */
export function bareGrip(r: Reading, token: Token): boolean {
  if (
    r.context.part.tuning.openMidi.length < 4 ||
    !/^[x\d]{4,}$|^(x|\d{1,2})(-(x|\d{1,2})){3,}$/i.test(token.text)
  )
    return false
  const grip = readGrip(token.text, r.context.part.tuning.openMidi.length)
  if (!grip) {
    if (/^\d{1,3}$/.test(token.text)) return false
    fail(
      r,
      token,
      `A grip here has ${r.context.part.tuning.openMidi.length} strings, low to high: ` +
        'x for muted, 0 for open, frets over 9 with dashes.',
    )
  }
  r.i++
  sayHold(r, grip, token)
  return true
}

export function chordToken(r: Reading, token: Token): boolean {
  // A bare letter is a string's name, not a chord's.
  if (!/^[A-G](?:[#b]?.*[^#b]|.*\d.*)$/.test(token.text) || !readChordSymbol(token.text)) return false
  r.i++
  sayHold(r, gripNamed(r, token), token)
  return true
}

function gripNamed(r: Reading, token: Token, symbol = token.text): Grip {
  const grip = r.context.gripFor?.(symbol, r.holds.at(-1)?.grip)
  if (!grip) fail(r, token, `No grip for “${symbol}” here. Write its strings, low to high.`, ['hold x02220'])
  return grip
}

export function readFingered(r: Reading, token: Token): void {
  const hold = r.holds.at(-1)
  const text = peek(r)
  const { length } = r.context.part.tuning.openMidi
  if (!hold) fail(r, token, 'Fingers of which grip? Hold one first.', ['hold x32010 fingered x32010'])
  if (!new RegExp(`^[xt01-4]{${length}}$`, 'i').test(text))
    fail(
      r,
      token,
      `Write one sign a string, low to high: 1 to 4, T for the thumb, x for none; ${length} of them.`,
    )
  r.i++
  const fingers = [...text].reverse()
  hold.grip = {
    ...hold.grip,
    strings: hold.grip.strings.map((string, index) => {
      const sign = fingers[index]!.toUpperCase()
      return FINGER.test(sign) ? { fret: string.fret, finger: sign as 'T' | '1' } : { fret: string.fret }
    }),
  }
}

export function readBarre(r: Reading, token: Token): void {
  const hold = r.holds.at(-1)
  const fret = numberOf(peek(r))
  if (!hold || fret === undefined)
    fail(r, token, 'A barre belongs to a grip: barre 2 from 5 to 1.', ['barre 2 from 5 to 1'])
  r.i++
  const ends = [peek(r, 1), peek(r, 3)].map(numberOf)
  if (
    !/^from$/i.test(peek(r)) ||
    !/^to$/i.test(peek(r, 2)) ||
    ends.some((end) => end === undefined || end < 1 || end > r.context.part.tuning.openMidi.length) ||
    fret > 36
  )
    fail(r, token, 'From which string to which?', ['barre 2 from 5 to 1'])
  r.i += 4
  hold.grip = { ...hold.grip, barre: { fret, fromString: ends[0]!, toString: ends[1]! } }
}

/** "hold x02220", "hold the C sharp minor 7". */
export function holdWord(r: Reading, token: Token): void {
  r.i++
  skip(r, 'the')
  const next = hereToken(r)
  if (!next)
    fail(r, token, 'Which grip? Write its strings, low to high, or a chord name.', ['hold x02220', 'hold Em'])
  const said = spokenChord(r.list.slice(r.i, r.i + 8).map((one) => one.text))
  const named = readChordSymbol(next.text) ? { symbol: next.text, used: 1 } : undefined
  const chord = said && readChordSymbol(said.symbol) ? said : named
  const grip =
    readGrip(next.text, r.context.part.tuning.openMidi.length) ?? (chord && gripNamed(r, next, chord.symbol))
  if (!grip)
    fail(
      r,
      next,
      `“${next.text}” is no grip for ${r.context.part.tuning.openMidi.length} strings and no chord name.`,
      ['hold x02220', 'hold F#m7'],
    )
  const highest = r.context.part.instrument.fretCount - r.context.part.instrument.capo
  if (grip.strings.some((string) => (string.fret ?? 0) > highest))
    fail(r, next, `This grip reaches beyond the neck: the highest fret is ${highest}.`)
  r.i += chord?.used ?? 1
  sayHold(r, grip, next)
}
