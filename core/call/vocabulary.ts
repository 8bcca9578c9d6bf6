// The words of the call line: full words as a teacher says them, short forms of one or two letters, and
// what each is for. Completions and the grammar page are made from this list, so a word that is not here
// does not exist.
import { TICKS_PER_QUARTER } from '../time/meter'

export type WordKind = 'move' | 'mark' | 'stroke' | 'length' | 'place' | 'grip' | 'span' | 'repeat' | 'filler'
export interface Word {
  word: string
  short?: string
  kind: WordKind
  help: string
}

export const WORDS: Word[] = [
  { word: 'hammer', short: 'ha', kind: 'move', help: 'the next fret is hammered on' },
  { word: 'pull', short: 'pu', kind: 'move', help: 'the next fret is pulled off to' },
  { word: 'slide', short: 'sl', kind: 'move', help: 'the next fret is slid to without picking' },
  { word: 'shift', short: 'sh', kind: 'move', help: 'slid to and picked again' },
  { word: 'tap', short: 'ta', kind: 'move', help: 'the next fret is tapped by the picking hand' },
  { word: 'grace', short: 'gr', kind: 'move', help: 'a quick note before the next: grace 5 to 7' },
  { word: 'muted', short: 'mu', kind: 'move', help: 'the next fret is only touched: a dead note' },
  { word: 'power', short: 'pw', kind: 'mark', help: 'with its fifth on the next string: A 2 power' },
  { word: 'octave', short: 'oc', kind: 'mark', help: 'with its octave two strings on: A 2 octave' },
  { word: 'harmonic', short: 'hm', kind: 'mark', help: 'natural harmonic over this fret' },
  { word: 'pinch', short: 'pi', kind: 'mark', help: 'pinched harmonic: an octave up, or pinch 19, pinch 24' },
  {
    word: 'bend',
    short: 'be',
    kind: 'mark',
    help: 'bend up by semitones: bend 2, bend half, bend 1.5 and release',
  },
  { word: 'pre-bend', short: 'pb', kind: 'mark', help: 'bent before it is picked' },
  { word: 're-bend', short: 'rb', kind: 'mark', help: 'bent, let down and bent again' },
  { word: 'releasing', short: 'rl', kind: 'mark', help: 'starts bent by so much and comes down' },
  { word: 'release', short: 're', kind: 'move', help: 'the bend before comes down, without picking' },
  { word: 'vibrato', short: 'vi', kind: 'mark', help: 'shaken; wide vibrato for more' },
  { word: 'wide', short: 'wi', kind: 'mark', help: 'wide vibrato' },
  { word: 'trill', short: 'tr', kind: 'mark', help: 'quickly to and from a higher fret: 7 trill 9' },
  { word: 'tremolo', short: 'tm', kind: 'mark', help: 'picked as fast as it goes' },
  { word: 'dip', short: 'di', kind: 'mark', help: 'the bar down and back by semitones' },
  { word: 'dive', short: 'dv', kind: 'mark', help: 'the bar down by semitones' },
  { word: 'return', short: 'rt', kind: 'mark', help: 'the bar comes back from so many semitones' },
  { word: 'rake', short: 'rk', kind: 'mark', help: 'the pick drags over damped strings into it' },
  { word: 'ghost', short: 'gh', kind: 'mark', help: 'hardly heard' },
  { word: 'staccato', short: 'st', kind: 'mark', help: 'cut short at once' },
  { word: 'ring', short: 'ri', kind: 'mark', help: 'left to ring' },
  { word: 'choke', short: 'ck', kind: 'mark', help: 'sounds, then is cut' },
  {
    word: 'glide',
    kind: 'mark',
    help: 'a stroke’s whole grip is slid to: glide, glide struck, glide in, glide out',
  },
  {
    word: 'scrape',
    kind: 'mark',
    help: 'the strings rasp: scrape up, scrape down, scrape round (there and back)',
  },
  { word: 'palm', short: 'pm', kind: 'mark', help: 'palm muted: palm light, palm medium, palm firm' },
  { word: 'accent', short: '>', kind: 'mark', help: 'harder' },
  { word: 'pick', short: 'pk', kind: 'mark', help: 'pick down or pick up' },
  { word: 'finger', short: 'fi', kind: 'mark', help: 'fretting finger: finger 1 to 4, finger T' },
  {
    word: 'in',
    kind: 'length',
    help: 'the step: in eighths, in sixteenths, in triplets; after a fret: in from below 2',
  },
  { word: 'out', kind: 'mark', help: 'slides away downwards' },
  { word: 'for', kind: 'length', help: 'how long: for 3, for a quarter, for 2 bars' },
  { word: 'ringing', kind: 'length', help: 'sounds longer than its step: ringing for 4' },
  { word: 'tie', short: '~', kind: 'length', help: 'a step longer' },
  { word: 'dotted', short: '.', kind: 'length', help: 'half as long again' },
  { word: 'rest', short: 'r', kind: 'length', help: 'a step of silence' },
  { word: 'at', kind: 'place', help: 'go to a place: at bar 2, at the and of 4, at bar 2 on 3 and' },
  { word: 'string', kind: 'place', help: 'a string by number: string 3 (or 3:)' },
  { word: 'on', kind: 'place', help: 'three on four-three-two; down on 4-3-2' },
  { word: 'low', kind: 'place', help: 'the lower of two strings of one name' },
  { word: 'high', kind: 'place', help: 'the higher of two strings of one name' },
  { word: 'middle', kind: 'place', help: 'the one between' },
  { word: 'open', kind: 'place', help: 'fret 0' },
  { word: 'and', short: '+', kind: 'place', help: 'together with: D 9 and B 10' },
  { word: 'hold', short: '@', kind: 'grip', help: 'a grip from here on: hold x02220, hold F#m7 for 8' },
  { word: 'fingered', kind: 'grip', help: 'fingers of a grip, low to high: fingered x01230' },
  { word: 'barre', kind: 'grip', help: 'a flat finger: barre 2 from 5 to 1' },
  { word: 'down', short: 'd', kind: 'stroke', help: 'stroke down' },
  { word: 'up', short: 'u', kind: 'stroke', help: 'stroke up' },
  { word: 'strum', short: 'sm', kind: 'stroke', help: 'stroke in the direction the hand swings' },
  { word: 'dead', short: 'x', kind: 'stroke', help: 'a dead stroke: two dead, dead up' },
  { word: 'thumb', short: 'th', kind: 'stroke', help: 'thumb on 6' },
  { word: 'fingers', short: 'fs', kind: 'stroke', help: 'fingers on 3-2-1' },
  { word: 'pluck', short: 'pl', kind: 'stroke', help: 'strings one after the other: pluck 6 4 3 2 1' },
  { word: 'bass', short: 'ba', kind: 'stroke', help: 'the lowest string of the grip' },
  { word: 'chord', short: 'ch', kind: 'stroke', help: 'the strings above the bass' },
  { word: 'palming', kind: 'span', help: 'a stretch of palm mute from here: palming firm for 8' },
  { word: 'letting', kind: 'span', help: 'a stretch left to ring: letting ring for 2 bars' },
  { word: 'same', kind: 'repeat', help: 'same again: the line before once more; but last note 9' },
  { word: 'again', kind: 'repeat', help: 'what came since the last comma, once more' },
  { word: 'twice', kind: 'repeat', help: 'what came since the last comma, two times in all' },
  { word: 'times', kind: 'repeat', help: 'three times, 4 times; after brackets: ( … ) *4' },
]

export const FILLERS = new Set([
  'the',
  'then',
  'to',
  'now',
  'please',
  'of',
  'back',
  'strings',
  'note',
  'notes',
  'fret',
  'step',
  'steps',
  'stroke',
  'strokes',
  'double-stop',
  'double-stops',
  'double',
  'stop',
  'stops',
  'natural',
  'play',
  'start',
  'starting',
  'just',
  '·',
])

const SYNONYMS: Record<string, string> = {
  'hammer-on': 'hammer',
  hammered: 'hammer',
  'pull-off': 'pull',
  pulled: 'pull',
  slid: 'slide',
  prebend: 'pre-bend',
  rebend: 're-bend',
  vib: 'vibrato',
  harm: 'harmonic',
  grip: 'hold',
  muffled: 'muted',
  tied: 'tie',
  rests: 'rest',
  upstroke: 'up',
  downstroke: 'down',
  downs: 'down',
  ups: 'up',
  strums: 'strum',
  deads: 'dead',
  chords: 'chord',
  accented: 'accent',
  stacc: 'staccato',
  short: 'staccato',
  choked: 'choke',
  tremolos: 'tremolo',
  squeal: 'pinch',
  ghosted: 'ghost',
  raked: 'rake',
  tapped: 'tap',
  let: 'letting',
  lets: 'letting',
  '&': 'and',
  o: 'open',
  harmonics: 'harmonic',
  bent: 'bend',
  scratch: 'dead',
  scratches: 'dead',
  mute: 'dead',
  mutes: 'dead',
  plus: 'and',
  repeat: 'again',
  octaves: 'octave',
  vibratos: 'vibrato',
  sliding: 'slide',
  hammering: 'hammer',
  pulling: 'pull',
}
const SHORT = new Map(WORDS.flatMap((word) => (word.short ? [[word.short, word.word] as const] : [])))
const FULL = new Set(WORDS.map((word) => word.word))

/** The full word for what was typed (any case), undefined when it is none. */
export function wordOf(typed: string): string | undefined {
  const lower = typed.toLowerCase()
  if (FULL.has(lower)) return lower
  return SHORT.get(lower) ?? (Object.hasOwn(SYNONYMS, lower) ? SYNONYMS[lower] : undefined)
}

export const NUMBER_WORDS = [
  'zero',
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
  'thirteen',
  'fourteen',
  'fifteen',
  'sixteen',
  'seventeen',
  'eighteen',
  'nineteen',
  'twenty',
]
const NUMBERS = new Map([
  ...NUMBER_WORDS.map((word, value) => [word, value] as const),
  ...NUMBER_WORDS.slice(1, 10).flatMap((word, index) => [
    [`twenty-${word}`, 21 + index] as const,
    [`twenty${word}`, 21 + index] as const,
  ]),
  ['thirty', 30] as const,
])
const ORDINALS = [
  'first',
  'second',
  'third',
  'fourth',
  'fifth',
  'sixth',
  'seventh',
  'eighth',
  'ninth',
  'tenth',
  'eleventh',
  'twelfth',
]

/** A whole number in digits or words; "open" is fret 0 and not a number here. */
export const numberOf = (typed: string): number | undefined =>
  /^\d{1,4}$/.test(typed) ? Number(typed) : NUMBERS.get(typed.toLowerCase())
export const ordinalOf = (typed: string): number | undefined => {
  const at = ORDINALS.indexOf(typed.toLowerCase())
  if (at !== -1) return at + 1
  return /^[1-9]\d?(st|nd|rd|th)$/.test(typed) ? Number.parseInt(typed) : undefined
}
export const numberWord = (value: number): string => NUMBER_WORDS[value] ?? String(value)

/** Note values by name, singular, in ticks. */
const NOTE_VALUES: Record<string, number> = {
  whole: 4 * TICKS_PER_QUARTER,
  half: 2 * TICKS_PER_QUARTER,
  quarter: TICKS_PER_QUARTER,
  eighth: TICKS_PER_QUARTER / 2,
  triplet: TICKS_PER_QUARTER / 3,
  sixteenth: TICKS_PER_QUARTER / 4,
  quintuplet: TICKS_PER_QUARTER / 5,
  sextuplet: TICKS_PER_QUARTER / 6,
  septuplet: TICKS_PER_QUARTER / 7,
  'thirty-second': TICKS_PER_QUARTER / 8,
}
const singular = (word: string): string => (word === 'halves' ? 'half' : word.replace(/s$/, ''))
/** Note values as they are called elsewhere, and in figures: "quavers", "16ths". */
const VALUE_NAMES: Record<string, string> = {
  semibreve: 'whole',
  minim: 'half',
  crotchet: 'quarter',
  quaver: 'eighth',
  semiquaver: 'sixteenth',
  '4th': 'quarter',
  '8th': 'eighth',
  '16th': 'sixteenth',
  '32nd': 'thirty-second',
}
export function noteValue(word: string): number | undefined {
  const said = singular(word.toLowerCase())
  const name = Object.hasOwn(VALUE_NAMES, said) ? VALUE_NAMES[said]! : said
  return Object.hasOwn(NOTE_VALUES, name) ? NOTE_VALUES[name] : undefined
}
/** "eighths" for 5040; undefined for a length without a name. */
export const noteValueName = (ticks: number): string | undefined => {
  const name = Object.keys(NOTE_VALUES).find((key) => NOTE_VALUES[key] === ticks)
  return name && (name === 'half' ? 'halves' : `${name}s`)
}
