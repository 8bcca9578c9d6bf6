// What a reading typed in a few words says of the record: a chord, a note, picked or pulled, how far bent,
// short or ringing, how often, on which string, or that nothing plays.
import type { Claim } from '../document/schema'
import { readChordSymbol } from '../music/chord-name'
import { midiOf } from '../music/pitch'

const NUMBERS = [
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
]
const HALVES: [RegExp, number][] = [
  [/\b(quarter|micro)/, 0.5],
  [/\bone and a half\b|\b1\.5\b|\b1½/, 3],
  [/\bhalf\b|\b½/, 1],
  [/\b(two|2) (tones|whole steps)|\btwo steps\b/, 4],
]

export interface ClaimContext {
  /** The note charted there, as a MIDI number: what "picked" or "bent" is said of. */
  midi: number | undefined
  /** Whether the place is one note rather than a stretch. */
  isNote: boolean
}

const countOf = (text: string): number | undefined => {
  const word = /\b(\d{1,2}|[a-z]+)\s*(?:×|x|times|passes|repeats|rounds)\b/i.exec(text)?.[1]?.toLowerCase()
  if (word === undefined) return undefined
  const number = /^\d/.test(word) ? Number(word) : NUMBERS.indexOf(word) + 1
  return number >= 1 && number <= 99 ? number : undefined
}

/** Semitones of a bend in words; a whole step where it does not say. */
function bendOf(text: string): number {
  const told = /\bbend (\d(?:\.5)?)\b/.exec(text)?.[1]
  if (told !== undefined) return Math.min(4, Number(told))
  return HALVES.find(([words]) => words.test(text))?.[1] ?? 2
}

/** A note by name: nearest to the one charted there when it does not say which octave. */
function noteOf(text: string, near: number): number | undefined {
  const name = /^([A-Ga-g])([#b♯♭]?)(-?\d)?$/.exec(text.trim())
  if (!name) return undefined
  const plain = `${name[1]!.toUpperCase()}${(name[2] ?? '').replace('♯', '#').replace('♭', 'b')}`
  if (name[3] !== undefined) return midiOf(`${plain}${name[3]}`)
  const base = midiOf(`${plain}4`)
  return base === undefined ? undefined : base + 12 * Math.round((near - base) / 12)
}

/** "G string 14", "string 3 fret 7". */
function stringOf(text: string): Claim | undefined {
  const said = /\bstring (\d{1,2})\D+(\d{1,2})\b/.exec(text)
  if (!said) return undefined
  const [string, fret] = [Number(said[1]), Number(said[2])]
  return string >= 1 && string <= 12 && fret <= 36 ? { kind: 'string', string, fret } : undefined
}

/** What is said of one note: of the one that is charted there. */
const OF_A_NOTE: [RegExp, (midi: number, text: string) => Claim][] = [
  [/\b(not bent|straight|unbent)\b/, (midi) => ({ kind: 'bend', midi, semitones: 0 })],
  [/\bb(end|ent)\b/, (midi, text) => ({ kind: 'bend', midi, semitones: bendOf(text) })],
  [/\b(picked|struck|plucked)\b/, (midi) => ({ kind: 'attack', midi, picked: true })],
  [/\b(pull|hammer|slur|legato)/, (midi) => ({ kind: 'attack', midi, picked: false })],
  [/\b(mute|muted|short|damped|choked|staccato)\b/, (midi) => ({ kind: 'mute', midi, short: true })],
  [/\b(rings?|open|let ring|sustained)\b/, (midi) => ({ kind: 'mute', midi, short: false })],
]

/** Undefined where the words say nothing that can be measured: they are kept as words. */
export function readClaim(words: string, { midi, isNote }: ClaimContext): Claim | undefined {
  const text = words.trim().toLowerCase()
  if (/^(nothing|no chord|silence|rests?|nobody|tacet)\b/.test(text)) return { kind: 'silence' }
  const count = countOf(text)
  if (count !== undefined) return { kind: 'passes', count }
  const string = stringOf(text)
  if (string) return string
  const ofNote = midi === undefined ? undefined : OF_A_NOTE.find(([said]) => said.test(text))
  if (ofNote) return ofNote[1](Math.round(midi!), text)
  const [first = ''] = words.trim().split(/[\s:,;]+/)
  const note = isNote || /\d$/.test(first) ? noteOf(first, midi ?? 60) : undefined
  if (note !== undefined && note >= 0 && note <= 127) return { kind: 'note', midi: note }
  return readChordSymbol(first) ? { kind: 'chord', symbol: first } : undefined
}
