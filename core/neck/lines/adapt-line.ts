// Another instrument's line taken over: an octave is chosen where it lies best, what sounds together is
// thinned to what one hand plays, and a path laid.
import { ok, refuse, type Result } from '../../result'
import type { Key } from '../../music/pitch'
import type { Note, Part } from '../../document/schema'
import { onPath, unplaced } from './line'
import { findPaths, pathWords, type PathNote } from './path'

export interface ForeignNote {
  midi: number
  startTicks: number
  lengthTicks: number
}
export interface Adapted {
  notes: Note[]
  octaves: number
  leftOut: number
  words: string
}

/** Notes that may sound at once for one hand without chords: the melody and one below. */
const TOGETHER = 2
/** A line lies best around the middle of the neck's range. */
const COMFORT = 0.5

interface AdaptOptions {
  stepTicks: number
  lengthTicks?: number
  octaves?: number
}

/** On the steps of the figure, in time order, the highest first. */
function snapped(foreign: readonly ForeignNote[], { stepTicks, lengthTicks }: AdaptOptions): ForeignNote[] {
  return foreign
    .map((note) => ({
      midi: Math.round(note.midi),
      startTicks: Math.round(note.startTicks / stepTicks) * stepTicks,
      lengthTicks: Math.max(stepTicks, Math.round(note.lengthTicks / stepTicks) * stepTicks),
    }))
    .filter((note) => note.startTicks >= 0 && (lengthTicks === undefined || note.startTicks < lengthTicks))
    .sort((a, b) => a.startTicks - b.startTicks || b.midi - a.midi)
}

/** The top of what sounds together, as much as one hand has without chords. */
function topNotes(notes: readonly ForeignNote[]): ForeignNote[] {
  const kept: ForeignNote[] = []
  for (const note of notes) {
    const same = kept.filter((other) => other.startTicks === note.startTicks)
    const near = same.every((other) => other.midi !== note.midi && other.midi - note.midi <= 12)
    if (same.length < TOGETHER && near) kept.push(note)
  }
  return kept
}

/** The octaves by which a line lies best on a part; undefined when none holds it. */
function bestOctaves(range: { low: number; high: number }, part: Part): number | undefined {
  const lowest = Math.min(...part.tuning.openMidi) + part.instrument.capo
  const highest = Math.max(...part.tuning.openMidi) + part.instrument.fretCount - 3
  const middle = lowest + (highest - lowest) * COMFORT
  const cost = (octaves: number): number =>
    Math.abs(octaves) * 4 + Math.abs((range.low + range.high) / 2 + 12 * octaves - middle)
  return [-3, -2, -1, 0, 1, 2, 3]
    .filter((octaves) => range.low + 12 * octaves >= lowest && range.high + 12 * octaves <= highest)
    .toSorted((a, b) => cost(a) - cost(b))[0]
}

/** One note ends where the next on the line begins; what rings longer is left to the player. */
function oneAfterAnother(notes: readonly ForeignNote[], octaves: number): PathNote[] {
  const starts = [...new Set(notes.map((note) => note.startTicks))]
  return notes.map(({ midi, startTicks, lengthTicks }) => {
    const next = starts.find((start) => start > startTicks)
    const room = next === undefined ? lengthTicks : next - startTicks
    return {
      midi: midi + 12 * octaves,
      startTicks,
      lengthTicks: Math.min(lengthTicks, room),
      slurred: false,
      slid: false,
      pressed: false,
    }
  })
}

/** Quantises to `stepTicks`, keeps the top of what sounds together, moves by octaves onto the part. */
export function adaptLine(
  foreign: readonly ForeignNote[],
  part: Part,
  key: Key,
  options: AdaptOptions,
): Result<Adapted> {
  const all = snapped(foreign, options)
  const kept = topNotes(all)
  if (kept.length === 0) return refuse('no-notes', 'There are no notes in this stretch of the file.')
  const midis = kept.map((note) => note.midi)
  const range = { low: Math.min(...midis), high: Math.max(...midis) }
  const octaves = options.octaves ?? bestOctaves(range, part)
  if (octaves === undefined)
    return refuse(
      'range',
      `The line spans ${range.high - range.low} semitones: more than ${part.name} has in any octave. ` +
        'Take a shorter stretch.',
    )
  const line = oneAfterAnother(kept, octaves)
  const paths = findPaths(line, part, key, {}, 1)
  if (!paths.ok) return paths
  const [best] = paths.value
  return ok({
    notes: onPath(unplaced(line, 'a'), best!, false),
    octaves,
    leftOut: all.length - kept.length,
    words: pathWords(best!),
  })
}
