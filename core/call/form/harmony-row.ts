// Chords over a section, said in a row: "8 bars of G, D, Em, C, two each".
import { sectionTicks } from '../../document/form'
import { newPart } from '../../document/new-song'
import type { Section } from '../../document/schema'
import { readGrip } from '../../fretboard/grips/grip'
import { barTicks, beatTicks } from '../../time/meter'
import { readCall } from '../read-call'
import { numberOf } from '../vocabulary'
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

interface Row {
  words: string
  /** How long all of it is, in ticks. */
  total: number | undefined
  each: number | undefined
}

/** "8 bars of …" and "… two each" taken off the chords between them. */
function trimmed(call: string, section: Section): Row {
  const { meter } = section.bars[0]!
  const bar = barTicks(meter)
  const ticksOf = (unit: string | undefined): number => (unit?.startsWith('beat') ? beatTicks(meter) : bar)
  let words = call
  let total: number | undefined
  let each: number | undefined
  const bars = /^\s*(\w+)\s+bars?\s+of\s+/i.exec(words)
  const many = bars && numberOf(bars[1]!)
  if (bars && many && (words.match(/\bof\b/gi)?.length ?? 0) === 1) {
    total = many * bar
    words = words.slice(bars[0].length)
  }
  const tail = /[,\s]+(?:(half) a |(a|\w+)\s+)(bars?|beats?)?\s*each\s*$/i.exec(words)
  const count = tail && (tail[1] ? 0.5 : tail[2] === 'a' ? 1 : numberOf(tail[2] ?? ''))
  if (tail && count) {
    each = count * ticksOf(tail[3])
    words = words.slice(0, tail.index)
  }
  return { words, total, each }
}

/** The chords of a row with their places in a section; undefined when the words are no chords. */
export function harmonyRow(call: string, section: Section, context: FormContext): HarmonyRow | undefined {
  const { words, total, each } = trimmed(call, section)
  const { meter } = section.bars[0]!
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
  const end = Math.min(sectionTicks(section), total ?? sectionTicks(section))
  const said = reading.chords.map((chord, index) => ({
    said: chord.symbol,
    symbol: context.sounding(chord.symbol),
    lengthTicks: each ?? grips[index]?.lengthTicks ?? barTicks(meter),
  }))
  const round = said.reduce((sum, chord) => sum + chord.lengthTicks, 0)
  // Who says how long all of it is without saying how long each is means equal shares.
  const shares = total !== undefined && each === undefined && !/\b(bars?|beats?|for)\b/i.test(words)
  const harmony: Section['harmony'] = []
  let at = 0
  for (let index = 0; at < end && index < 2000; index++) {
    const chord = said[index % said.length]!
    if (total === undefined && index >= said.length) break
    const lengthTicks = shares ? Math.round(total / said.length) : chord.lengthTicks
    harmony.push({ startTicks: at, lengthTicks: Math.min(lengthTicks, end - at), symbol: chord.symbol })
    at += lengthTicks
  }
  // What was there after the row stays.
  const kept = section.harmony.filter((chord) => chord.startTicks >= at)
  return {
    harmony: [...harmony, ...kept],
    symbols: said.map((chord) => chord.said),
    endTicks: total ?? Math.max(at, round),
  }
}
