// Another instrument's line taken over: an octave is chosen where it lies best, what sounds together is
// thinned to what one hand plays, and a path laid.
import { ok, refuse, type Result } from '../../result'
import type { Key } from '../../music/pitch'
import type { Note, Part } from '../../document/schema'
import { onPath } from './line'
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

/** Quantises to `stepTicks`, keeps the top of what sounds together, moves by octaves onto the part. */
export function adaptLine(
  foreign: readonly ForeignNote[],
  part: Part,
  key: Key,
  options: { stepTicks: number; lengthTicks?: number; octaves?: number },
): Result<Adapted> {
  const { stepTicks } = options
  const snapped = foreign
    .map((note) => ({
      midi: Math.round(note.midi),
      startTicks: Math.round(note.startTicks / stepTicks) * stepTicks,
      lengthTicks: Math.max(stepTicks, Math.round(note.lengthTicks / stepTicks) * stepTicks),
    }))
    .filter(
      (note) =>
        note.startTicks >= 0 && (options.lengthTicks === undefined || note.startTicks < options.lengthTicks),
    )
    .sort((a, b) => a.startTicks - b.startTicks || b.midi - a.midi)
  const kept: ForeignNote[] = []
  for (const note of snapped) {
    const same = kept.filter((other) => other.startTicks === note.startTicks)
    if (
      same.length < TOGETHER &&
      same.every((other) => other.midi !== note.midi && other.midi - note.midi <= 12)
    )
      kept.push(note)
  }
  if (kept.length === 0) return refuse('no-notes', 'There are no notes in this stretch of the file.')
  const lowest = Math.min(...part.tuning.openMidi) + part.instrument.capo
  const highest = Math.max(...part.tuning.openMidi) + part.instrument.fretCount - 3
  const range = {
    low: Math.min(...kept.map((note) => note.midi)),
    high: Math.max(...kept.map((note) => note.midi)),
  }
  const middle = lowest + (highest - lowest) * COMFORT
  const fitting = [-3, -2, -1, 0, 1, 2, 3].filter(
    (octaves) => range.low + 12 * octaves >= lowest && range.high + 12 * octaves <= highest,
  )
  const octaves =
    options.octaves ??
    fitting.toSorted(
      (a, b) =>
        Math.abs(a) * 4 +
        Math.abs((range.low + range.high) / 2 + 12 * a - middle) -
        Math.abs(b) * 4 -
        Math.abs((range.low + range.high) / 2 + 12 * b - middle),
    )[0]
  if (octaves === undefined)
    return refuse(
      'range',
      `The line spans ${range.high - range.low} semitones: more than ${part.name} has in any octave. ` +
        'Take a shorter stretch.',
    )
  // One note ends where the next on the line begins; what rings longer is left to the player.
  const starts = [...new Set(kept.map((note) => note.startTicks))]
  const line = kept.map((note): PathNote => {
    const next = starts.find((start) => start > note.startTicks)
    return {
      midi: note.midi + 12 * octaves,
      startTicks: note.startTicks,
      lengthTicks: Math.min(note.lengthTicks, next === undefined ? note.lengthTicks : next - note.startTicks),
      slurred: false,
      slid: false,
      pressed: false,
    }
  })
  const paths = findPaths(line, part, key, {}, 1)
  if (!paths.ok) return paths
  const plain = line.map((note, index): Note => ({
    id: `a${index}`,
    string: 1,
    fret: 0,
    startTicks: note.startTicks,
    lengthTicks: note.lengthTicks,
    articulations: [],
  }))
  return ok({
    notes: onPath(plain, paths.value[0]!, false),
    octaves,
    leftOut: snapped.length - kept.length,
    words: pathWords(paths.value[0]!),
  })
}
