// A part written in slashes: the rhythm is said, what is struck is the chord of the moment. Its diagram where
// the file has one, else the shape a teacher shows first.
import { bisector } from 'd3-array'
import type { Grip, Part } from '../../document/schema'
import { gripsFor } from '../../neck/grips/grip-search'
import { usualDirection } from '../../neck/strokes'
import { barOfTick, type WrittenBar } from '../score/written-score'
import type { ReadMeasure, ReadNote } from './read-measure'

/** Chords of all measures at their places in the song, in order. */
export type ChordsSaid = readonly ReadMeasure['harmony'][number][]

/** Different chords that shapes are looked for, each for one part. */
const MOST_SYMBOLS = 200

const chordAt = bisector(({ startTicks }: ChordsSaid[number]) => startTicks).right

/**
 * The notes of a part with every slash as the strings of its chord; `lost` counts slashes under no chord.
 * Times in ticks of the song.
 */
export function withSlashes(
  notes: readonly ReadNote[],
  chords: ChordsSaid,
  { part, bars }: { part: Part; bars: readonly WrittenBar[] },
): { notes: ReadNote[]; lost: number } {
  if (!notes.some(({ slash }) => slash)) return { notes: [...notes], lost: 0 }
  const shapes = new Map<string, Grip | undefined>()
  const shapeOf = (symbol: string): Grip | undefined => {
    if (!shapes.has(symbol)) {
      const found = shapes.size < MOST_SYMBOLS ? gripsFor(symbol, part) : undefined
      shapes.set(symbol, found?.ok ? found.value[0]?.grip : undefined)
    }
    return shapes.get(symbol)
  }
  const strings = part.tuning.openMidi.length
  const frames = new Map(
    chords.flatMap(({ symbol, frame }) => (frame?.strings.length === strings ? [[symbol, frame]] : [])),
  )
  const struck = new Set<number>()
  let lost = 0
  const all = notes.flatMap((note): ReadNote[] => {
    if (!note.slash) return [note]
    // Slashes of a chord are one stroke.
    if (struck.has(note.startTicks)) return []
    struck.add(note.startTicks)
    const chord = chords[chordAt(chords, note.startTicks) - 1]
    const grip = chord && (frames.get(chord.symbol) ?? shapeOf(chord.symbol))
    if (!grip) {
      lost += 1
      return []
    }
    const pick = note.pick ?? usualWay(note.startTicks, bars)
    return grip.strings.flatMap(({ fret }, index) =>
      fret === null ? [] : [{ ...note, pick, slash: false, string: index + 1, fret }],
    )
  })
  return { notes: all, lost }
}

/** The way the hand goes when nothing is written: down on the beat, up between. */
function usualWay(startTicks: number, bars: readonly WrittenBar[]): 'down' | 'up' {
  const bar = barOfTick(bars, startTicks)
  if (!bar) return 'down'
  return usualDirection(startTicks - bar.startTicks, { meter: bar.meter, subdivision: 'eighths' })
}
