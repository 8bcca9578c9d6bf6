// Chords over a section, said in a row: "8 bars of G, D, Em, C, two each".
import { sectionTicks } from '../document/form'
import { newPart } from '../document/new-song'
import type { Section } from '../document/schema'
import { readGrip } from '../neck/grips/grip'
import type { Key } from '../music/pitch'
import { romanChord } from '../music/roman'
import { barTicks, beatTicks } from '../time/meter'
import { readCall } from '../call/read-call'
import { numberOf } from '../call/vocabulary'
import type { FormContext } from './form-names'

export interface HarmonyRow {
  harmony: Section['harmony']
  /** The chords as they were said. */
  symbols: string[]
  /** Where the row ends as it was said, which may be after the section. */
  endTicks: number
}

const part = newPart({ id: 'any', name: 'Guitar', kind: 'guitar-6' })
const letters = ['e', 'B', 'G', 'D', 'A', 'E']

/** More chords than any section has. */
const MOST_CHORDS = 2000
/** A section without bars is counted in four. */
const FOUR = { beats: 4, unit: 4 } as const

interface Row {
  words: string
  /** How long all of it is, in ticks. */
  total: number | undefined
  each: number | undefined
}

/** "half a", "a", "two": how many of the unit. */
function shareOf(half: string | undefined, word: string): number | undefined {
  if (half) return 0.5
  return word === 'a' ? 1 : numberOf(word)
}

/** "8 bars of …" and "… two each" taken off the chords between them. */
function trimmed(call: string, section: Section): Row {
  const meter = section.bars[0]?.meter ?? FOUR
  const bar = barTicks(meter)
  const ticksOf = (unit: string | undefined): number => (unit?.startsWith('beat') ? beatTicks(meter) : bar)
  let words = call
  let total: number | undefined
  let each: number | undefined
  const bars = /^\s*(\w+)\s+bars?\s+of\s+/i.exec(words)
  const many = bars ? numberOf(bars[1] ?? '') : undefined
  if (bars && many && (words.match(/\bof\b/gi)?.length ?? 0) === 1) {
    total = many * bar
    words = words.slice(bars[0].length)
  }
  const tail = /[,\s]+(?:(half) a |(a|\w+)\s+)(bars?|beats?)?\s*each\s*$/i.exec(words)
  const count = tail && shareOf(tail[1], tail[2] ?? '')
  if (tail && count) {
    each = count * ticksOf(tail[3])
    words = words.slice(0, tail.index)
  }
  return { words, total, each }
}

/** Chords one after the other, round and round until all of it is full; once through where no end is said. */
function laidOut(
  said: readonly { symbol: string; lengthTicks: number }[],
  end: number,
  once: boolean,
): Section['harmony'] {
  const harmony: Section['harmony'] = []
  let at = 0
  for (let index = 0; at < end && index < (once ? said.length : MOST_CHORDS); index++) {
    const chord = said[index % said.length]
    if (!chord) break
    const lengthTicks = Math.min(chord.lengthTicks, end - at)
    harmony.push({ startTicks: at, lengthTicks, symbol: chord.symbol })
    at += chord.lengthTicks
  }
  return harmony
}

/** "I, V, vi, IV" as the chords of a key; undefined where fewer than two degrees stand. */
function degreesAsChords(words: string, key: Key): string | undefined {
  let count = 0
  const chords = words.replaceAll(/[b#♭♯]?\b[IVivx]+[\w°#]*/g, (token) => {
    const chord = romanChord(token, key)
    if (chord !== undefined) count++
    return chord ?? token
  })
  return count > 1 ? chords : undefined
}

/** The chords of a row with their places in a section; undefined when the words are no chords. */
export function harmonyRow(call: string, section: Section, context: FormContext): HarmonyRow | undefined {
  const { words: typed, total, each } = trimmed(call, section)
  const degrees = degreesAsChords(typed, section.key ?? context.song.key)
  const words = degrees ?? typed
  const meter = section.bars[0]?.meter ?? FOUR
  const reading = readCall(words, {
    part,
    letters,
    meter,
    subdivision: 'eighths',
    stepTicks: beatTicks(meter) / 2,
    gripFor: () => readGrip('022100', 6),
  })
  if (!reading.ok || reading.chords.length === 0 || reading.value.content.notes.length > 0) return undefined
  const { grips } = reading.value.content
  // Who says how long all of it is without saying how long each is means equal shares.
  const equal = total !== undefined && each === undefined && !/\b(bars?|beats?|for)\b/i.test(words)
  const share = equal ? Math.round(total / reading.chords.length) : each
  const said = reading.chords.map((chord, index) => ({
    // Degrees are of the key as it sounds; names are as they are called on the page.
    symbol: degrees === undefined ? context.sounding(chord.symbol) : chord.symbol,
    lengthTicks: share ?? grips[index]?.lengthTicks ?? barTicks(meter),
  }))
  const round = said.reduce((sum, chord) => sum + chord.lengthTicks, 0)
  const harmony = laidOut(said, Math.min(sectionTicks(section), total ?? round), total === undefined)
  const last = harmony.at(-1)
  const at = last ? last.startTicks + last.lengthTicks : 0
  // What was there after the row stays.
  const kept = section.harmony.filter((chord) => chord.startTicks >= at)
  return {
    harmony: [...harmony, ...kept],
    symbols: reading.chords.map((chord) => chord.symbol),
    endTicks: total ?? round,
  }
}
