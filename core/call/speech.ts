// Saying a figure back: where the speaker stands, and the words for lengths and places.
import type { PickSchool } from '../document/schema'
import { barTicks, beatTicks, countWords, type Meter, type Subdivision } from '../time/meter'
import type { StringSchool } from './strings'

export interface SpeakOptions {
  letters: readonly string[]
  strings: StringSchool
  meter: Meter
  subdivision: Subdivision
  stepTicks: number
  /** Says which way a dead stroke goes unless it is said. */ school?: PickSchool | undefined
  /** Open strings, string 1 first: with them a root and its fifth are a "power". */
  openMidi?: readonly number[]
}

export interface SpokenLine {
  startTicks: number
  text: string
  layer: 'grips' | 'muting' | 'hand' | 'notes'
}

/** A length in steps where it comes out even ("3", "3/2"), else in ticks. */
export function lengthWords(ticks: number, step: number): string {
  for (const bottom of [1, 2, 3, 4, 5, 6, 7, 8]) {
    const top = Math.round((ticks * bottom) / step)
    if (top > 0 && Math.round((step * top) / bottom) === ticks && top < 1e5)
      return bottom === 1 ? String(top) : `${top}/${bottom}`
  }
  return `${ticks} ticks`
}

/** A place as it is said after "at". */
export function placeWords(tick: number, meter: Meter): string {
  const bar = barTicks(meter)
  const within = tick % bar
  const barWords = `at bar ${Math.floor(tick / bar) + 1}`
  if (within === 0) return barWords
  const words = countWords(meter, within)
  return /^(\d+|the (and|e|a) of \d+)$/.test(words) &&
    within % (beatTicks(meter) / 4) === 0 &&
    !(meter.unit === 8 && /of/.test(words))
    ? `${barWords} on ${words}`
    : `at ${tick} ticks`
}

/** Where the speaker stands, and what has been said. */
export interface Speech {
  readonly options: SpeakOptions
  cursor: number
  step: number
  lines: SpokenLine[]
}

export function addLine(
  speech: Speech,
  layer: SpokenLine['layer'],
  startTicks: number,
  clauses: readonly string[],
): void {
  const text = clauses.filter(Boolean).join(', ')
  if (text) speech.lines.push({ layer, startTicks, text })
}

/** Words that bring the cursor to a place, if it is not there. */
export function goTo(speech: Speech, tick: number): string {
  if (tick === speech.cursor) return ''
  speech.cursor = tick
  return placeWords(tick, speech.options.meter)
}

/** Words for the way to what comes next: a rest, or a place. */
export function wayTo(speech: Speech, tick: number, first: boolean): string {
  const gap = tick - speech.cursor
  if (gap <= 0 || first) return goTo(speech, tick)
  speech.cursor = tick
  return `rest for ${lengthWords(gap, speech.step)}`
}

/** " for a quarter", when it is not the step. */
export const forLength = ({ step }: Speech, ticks: number): string =>
  ticks === step ? '' : ` for ${lengthWords(ticks, step)}`

/** "ringing for a half", when it sounds longer than the cursor moves. */
export const ringingFor = ({ step }: Speech, ticks: number, advance: number): string =>
  ticks === advance ? '' : `ringing for ${lengthWords(ticks, step)}`

/** How far the cursor moves over a stroke or note: to the next, when that comes before its end. */
export const advanceTo = (next: number | undefined, startTicks: number, lengthTicks: number): number =>
  next !== undefined && next < startTicks + lengthTicks ? next - startTicks : lengthTicks
