// A bass line for a chord progression: roots, root and fifth, root and octave, or walking to the next root;
// each note where it lies nearest.
import { readChordSymbol } from '../../music/chord-name'
import type { Note, Part } from '../../document/schema'
import type { ChordAt } from './harmony-rule'
import { onPath, unplaced } from './line'
import { findPaths, type PathNote } from './path'
import { soundingMidi } from '../../document/part-pitch'
import { refuse, ok, type Result } from '../../result'
import type { Key } from '../../music/pitch'

export const BASS_KINDS = ['root', 'fifth', 'octave', 'walking'] as const
export type BassKind = (typeof BASS_KINDS)[number]

interface BassStep {
  kind: BassKind
  step: number
  last: boolean
  root: number
  /** Tones of the chord in semitones over its root. */
  semitones: readonly number[]
  tone: (semitones: number) => number
  /** The root of the next chord, near this one. */
  nextRoot: number | undefined
}

function bassPitch({ kind, step, last, root, semitones, tone, nextRoot }: BassStep): number {
  if (kind === 'fifth') return step % 2 ? tone(semitones[2] ?? 7) : root
  if (kind === 'octave') return step % 2 ? root + 12 : root
  if (kind !== 'walking' || step === 0) return root
  if (last && nextRoot !== undefined) return nextRoot + (nextRoot > root ? -1 : 1)
  return tone(semitones[step % semitones.length]!)
}

/** The pitches of a bass line, a step after the other. */
function bassNotes(
  chords: readonly ChordAt[],
  lowest: number,
  options: { kind: BassKind; stepTicks: number; lengthTicks: number },
): PathNote[] {
  const { kind, stepTicks, lengthTicks } = options
  let before = lowest + 5
  return chords.flatMap((chord, at): PathNote[] => {
    const read = readChordSymbol(chord.symbol)
    if (!read) return []
    const start = Math.max(0, chord.startTicks)
    const end = Math.min(lengthTicks, chord.startTicks + chord.lengthTicks)
    const steps = Math.max(0, Math.round((end - start) / stepTicks))
    const root = nearest(read.bass, before, lowest)
    const next = chords[at + 1] && readChordSymbol(chords[at + 1]!.symbol)?.bass
    const nextRoot = next === undefined ? undefined : nearest(next, root, lowest)
    const tone = (semitones: number): number => nearest((read.root + semitones) % 12, root + 5, lowest)
    before = root
    return Array.from({ length: steps }, (_, step) => {
      const last = step === steps - 1 && steps > 1
      const midi = bassPitch({ kind, step, last, root, semitones: read.semitones, tone, nextRoot })
      return {
        midi: Math.max(lowest, midi),
        startTicks: start + step * stepTicks,
        lengthTicks: stepTicks,
        slurred: false,
        slid: false,
        pressed: false,
      }
    })
  })
}

/**
 * One note a step over the chords. Walking takes chord tones and steps into the next root from a half or
 * whole step away.
 */
export function bassLine(
  chords: readonly ChordAt[],
  part: Part,
  key: Key,
  options: { kind: BassKind; stepTicks: number; lengthTicks: number },
): Result<Note[]> {
  const lowest = soundingMidi(part, part.tuning.openMidi.length, 0)
  const line = bassNotes(chords, lowest, options)
  if (line.length === 0)
    return refuse(
      'no-chords',
      'There are no chords over this figure: place it in the map, or write the harmony first.',
    )
  const paths = findPaths(line, part, key, {}, 1)
  if (!paths.ok) return paths
  return ok(onPath(unplaced(line, 'b'), paths.value[0]!, false))
}

/** The pitch of a class nearest to another pitch, not below the lowest. */
function nearest(pitchClass: number, to: number, lowest: number): number {
  const down = to - ((((to - pitchClass) % 12) + 12) % 12)
  const best = to - down <= 6 ? down : down + 12
  return best < lowest ? best + 12 : best
}
