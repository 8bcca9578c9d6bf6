// A second line that exists, held against the first: which interval it keeps, and where it leaves it.
import { intervalWords } from '../../music/interval-words'
import { spellPitchClass, type Key } from '../../music/pitch'
import { soundingMidi } from '../../document/part-pitch'
import type { Content, Part } from '../../document/schema'
import { diatonic, harmonyPitch, type HarmonyRule } from './harmony-rule'
import { inTimeOrder, pitched } from './line'

export interface IntervalCheck {
  startTicks: number
  semitones: number | undefined
  expected: number | undefined
  fits: boolean
  text: string
}

/** The diatonic interval most of a second line keeps to a first; undefined when they never sound together. */
export function usualInterval(
  first: Content,
  second: Content,
  parts: { first: Part; second: Part },
  key: Key,
): number | undefined {
  const pairs = pairsOf(first, second, parts)
  const candidates = [3, -3, 6, -6, 4, -4, 5, -5, 8, -8, 1, 10, -10].map((interval) => ({
    interval,
    hits: pairs.filter(({ a, b }) => b !== undefined && diatonic(a, interval, key) === b).length,
  }))
  const best = candidates.reduce((most, next) => (next.hits > most.hits ? next : most))
  return best.hits > 0 ? best.interval : undefined
}

function pairsOf(
  first: Content,
  second: Content,
  parts: { first: Part; second: Part },
): { startTicks: number; a: number; b: number | undefined }[] {
  const others = new Map(
    inTimeOrder(second.notes).map((note) => [
      note.startTicks,
      soundingMidi(parts.second, note.string, note.fret),
    ]),
  )
  return pitched(first).map((note) => ({
    startTicks: note.startTicks,
    a: soundingMidi(parts.first, note.string, note.fret),
    b: others.get(note.startTicks),
  }))
}

/** Interval by interval: what a second line does against a rule, and what deviates, in words. */
export function checkHarmony(
  { first, second }: { first: Content; second: Content },
  parts: { first: Part; second: Part },
  rule: HarmonyRule,
  spell: (pitchClass: number) => string = (pitchClass) => spellPitchClass(pitchClass, rule.key),
): IntervalCheck[] {
  return pairsOf(first, second, parts).map(({ startTicks, a, b }): IntervalCheck => {
    const expected = harmonyPitch(a, startTicks, rule) - a
    if (b === undefined)
      return {
        startTicks,
        semitones: undefined,
        expected,
        fits: false,
        text: 'the second line is silent here',
      }
    const semitones = b - a
    const fits = semitones === expected
    return {
      startTicks,
      semitones,
      expected,
      fits,
      text: fits
        ? intervalWords(semitones)
        : `${intervalWords(semitones)} instead of ${intervalWords(expected)}: ` +
          `${spell(((b % 12) + 12) % 12)} against ${spell(((a % 12) + 12) % 12)}`,
    }
  })
}
