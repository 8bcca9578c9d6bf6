// Chords of a bar in writing. They stand evenly in it; one that stands elsewhere says its beat: "G@4.5" comes
// on the and of four.
import { barTicks, beatTicks, type Meter } from '../time/meter'

export interface PlacedChord {
  symbol: string
  /** From 1, with halves and thirds between; undefined for a chord that stands evenly. */
  beat?: number | undefined
}
export interface ChordInBar {
  /** From the bar line. */
  tick: number
  symbol: string
}

const WRITTEN = /^([^@]+)@(\d{1,2}(?:\.\d{1,3})?)$/
/** So many places of a beat are told apart: down to 64ths and their triplets. */
const PLACES = 48

/** One word of a line of chords. */
export function readPlacedChord(word: string): PlacedChord {
  const [, symbol, beat] = WRITTEN.exec(word) ?? []
  return symbol === undefined ? { symbol: word } : { symbol, beat: Number(beat) }
}

const evenTick = (index: number, count: number, meter: Meter): number =>
  Math.round((index * barTicks(meter)) / Math.max(1, count))

/** A chord of a bar as a word: its place is said where it is not the even one. */
export function writePlacedChord(
  { tick, symbol }: ChordInBar,
  { index, count, meter }: { index: number; count: number; meter: Meter },
): string {
  if (Math.abs(tick - evenTick(index, count, meter)) <= 1) return symbol
  const beat = 1 + tick / beatTicks(meter)
  return `${symbol}@${Number(beat.toFixed(3))}`
}

/** Where the chords of a bar begin, in order; one said to come outside of it stands at its even place. */
export function chordsAtPlaces(chords: readonly PlacedChord[], meter: Meter): ChordInBar[] {
  const placed = chords.map(({ symbol, beat }, index): ChordInBar => {
    const said = beat === undefined ? undefined : Math.round((beat - 1) * PLACES) / PLACES
    const tick = said === undefined ? -1 : Math.round(said * beatTicks(meter))
    const inside = tick >= 0 && tick < barTicks(meter)
    return { symbol, tick: inside ? tick : evenTick(index, chords.length, meter) }
  })
  return placed.sort((a, b) => a.tick - b.tick)
}
