// A song as open formats see it: bars in playing order and, of every part, notes on strings one after
// another, whatever figures, passes and strokes they came from. Formats are written from it and read into
// it.
import { bisector } from 'd3-array'
import type { Mark, Feel, Note, Part } from '../../document/schema'
import type { Key } from '../../music/pitch'
import type { Meter } from '../../time/meter'
import { chordsAtPlaces, type PlacedChord } from '../../timeline/placed-chord'

export interface WrittenBar {
  /** Ticks from the start of the song. */
  startTicks: number
  lengthTicks: number
  meter: Meter
  free: boolean
  /** Said where a section begins. */
  section?: string
  /** The sounding key, said where it changes. */
  key?: Key
}
export interface WrittenNote {
  string: number
  fret: number
  /** Sounding. */
  midi: number
  startTicks: number
  lengthTicks: number
  marks: Mark[]
  pick?: Note['pick']
  finger?: Note['finger']
  /** Of a strum: its strings together, by the thumb or the fingers where it says so. */
  pluck?: 'thumb' | 'fingers'
}
export interface WrittenGrip {
  startTicks: number
  symbol: string
  strings: readonly { fret: number | null; finger?: string | undefined }[]
}
/** Said in words at a place: a rig, a landmark, the name of a lick. */
export interface WrittenWords {
  startTicks: number
  text: string
}
export interface WrittenPart {
  name: string
  instrument: Part['instrument']
  tuning: Part['tuning']
  sound: Part['sound']
  notes: WrittenNote[]
  grips: WrittenGrip[]
  /** Of this part alone; a reader leaves them out. */
  words?: WrittenWords[]
}
export interface WrittenHarmony {
  startTicks: number
  lengthTicks: number
  symbol: string
}
/** From here on so many quarters a minute. */
export interface WrittenTempo {
  startTicks: number
  quartersPerMinute: number
}
export interface WrittenScore {
  title: string
  artist: string
  key: Key
  /** The file does not say a key: what stands there is a place to start from. */
  keyUnknown?: boolean
  feel: Feel
  bars: WrittenBar[]
  harmony: WrittenHarmony[]
  tempo: WrittenTempo[]
  /** Seconds of its record at which the first bar begins, where it says so. */
  firstSeconds?: number
  parts: WrittenPart[]
  /** Of the whole band; a reader leaves them out. */
  words?: WrittenWords[]
  endTicks: number
}

/** What a file could not hold or a reader left out: what it is, how often, why. */
export interface Dropped {
  what: string
  count: number
  why: string
}
export function dropped(entries: readonly Dropped[]): Dropped[] {
  return entries.filter(({ count }) => count > 0)
}

const byStart = bisector(({ startTicks }: WrittenBar) => startTicks)
/** The bar a tick lies in; before the first, the first. */
export const barOfTick = (bars: readonly WrittenBar[], tick: number): WrittenBar | undefined =>
  bars[Math.max(0, byStart.right(bars, tick) - 1)]

/** Notes in order: by time, the lowest string first. */
export const noteOrder = (a: WrittenNote, b: WrittenNote): number =>
  a.startTicks - b.startTicks || b.string - a.string

/** A chord written again in the next bar is the same chord going on, but for where a section begins. */
export function heldOn(harmony: readonly WrittenHarmony[], bars: readonly WrittenBar[]): WrittenHarmony[] {
  const begins = new Set(
    bars.flatMap(({ section, startTicks }) => (section === undefined ? [] : [startTicks])),
  )
  const held: WrittenHarmony[] = []
  for (const change of harmony) {
    const last = held.at(-1)
    const goesOn = last?.symbol === change.symbol && last.startTicks + last.lengthTicks === change.startTicks
    if (goesOn && !begins.has(change.startTicks))
      held[held.length - 1] = { ...last, lengthTicks: last.lengthTicks + change.lengthTicks }
    else held.push(change)
  }
  return held
}

/** The chords of a bar where they are written, each until the next. */
export function chordsInBar(
  { startTicks, lengthTicks, meter }: Pick<WrittenBar, 'startTicks' | 'lengthTicks' | 'meter'>,
  chords: readonly PlacedChord[],
): WrittenHarmony[] {
  const placed = chordsAtPlaces(chords, meter)
  return placed.flatMap(({ tick, symbol }, index) => {
    const length = (placed[index + 1]?.tick ?? lengthTicks) - tick
    return length > 0
      ? [{ startTicks: startTicks + tick, lengthTicks: length, symbol: symbol.slice(0, 24) }]
      : []
  })
}
