// Notes of a second line that do not sit in the chord under them.
import { readChordSymbol } from '../../music/chord-name'
import { pitchClass, spellPitchClass } from '../../music/pitch'
import { soundingMidi } from '../../document/part-pitch'
import type { Note, Part } from '../../document/schema'
import { TICKS_PER_QUARTER } from '../../time/meter'
import type { ChordAt, HarmonyRule } from './harmony-rule'

/**
 * `pitchClass` of the second line is no tone of the chord under it: a half step above `against`, one of its
 * tones, or only outside of it where the first line is in it.
 */
export interface Clash {
  startTicks: number
  index: number
  text: string
  pitchClass: number
  against: number | undefined
  symbol: string
  /** Semitones to move this note by so that it sits in the chord. */ betterStep: number | undefined
}
/** Shorter, a note is passing by: a half step above a chord tone, or only outside the chord. */
const RUBS_FROM = TICKS_PER_QUARTER / 2
const OUTSIDE_FROM = TICKS_PER_QUARTER
/** Steps to the next tone of a chord, the nearest first. */
const STEPS = [1, -1, 2, -2, 3, -3]

/** Notes that do not sit in the chord under them, and what would. */
export function harmonyClashes(
  lead: readonly Note[],
  wanted: readonly number[],
  chords: readonly ChordAt[],
  { from, rule }: { from: Part; rule: HarmonyRule },
): Clash[] {
  return lead.flatMap((note, index): Clash[] => {
    const chord = chords.find(
      (one) => one.startTicks <= note.startTicks && note.startTicks < one.startTicks + one.lengthTicks,
    )
    const read = chord && readChordSymbol(chord.symbol)
    const midi = wanted[index]
    if (!chord || !read || midi === undefined) return []
    const tones = new Set(read.semitones.map((semitones) => (read.root + semitones) % 12))
    const tone = pitchClass(midi)
    if (tones.has(tone)) return []
    const below = (tone + 11) % 12
    const rubs = tones.has(below) && note.lengthTicks >= RUBS_FROM
    // Where the first line leaves the chord as well, both pass through together.
    const first = pitchClass(soundingMidi(from, note.string, note.fret))
    if (!rubs && (note.lengthTicks < OUTSIDE_FROM || !tones.has(first))) return []
    const name = spellPitchClass(tone, rule.key)
    return [
      {
        startTicks: note.startTicks,
        index,
        text: rubs
          ? `${name} rubs against ${spellPitchClass(below, rule.key)} of ${chord.symbol}`
          : `${name} is no tone of ${chord.symbol}`,
        pitchClass: tone,
        against: rubs ? below : undefined,
        symbol: chord.symbol,
        betterStep: STEPS.find((by) => tones.has(pitchClass(midi + by))),
      },
    ]
  })
}
