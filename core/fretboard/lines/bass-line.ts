// A bass line for a chord progression: roots, root and fifth, root and octave, or walking to the next root;
// each note where it lies nearest.
import { readChordSymbol } from '../../music/chord-name'
import type { Note, Part } from '../../document/schema'
import type { ChordAt } from './harmony-line'
import { onPath } from './line'
import { findPaths, type PathNote } from './path'
import { soundingMidi } from '../../document/part-pitch'
import { refuse, ok, type Result } from '../../result'
import type { Key } from '../../music/pitch'

export const BASS_KINDS = ['root', 'fifth', 'octave', 'walking'] as const
export type BassKind = (typeof BASS_KINDS)[number]

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
  const line: PathNote[] = []
  let before = lowest + 5
  chords.forEach((chord, at) => {
    const read = readChordSymbol(chord.symbol)
    if (!read) return
    const start = Math.max(0, chord.startTicks)
    const end = Math.min(options.lengthTicks, chord.startTicks + chord.lengthTicks)
    const steps = Math.max(0, Math.round((end - start) / options.stepTicks))
    const root = nearest(read.bass, before, lowest)
    const tone = (semitones: number): number => nearest((read.root + semitones) % 12, root + 5, lowest)
    const nextRoot = chords[at + 1] && readChordSymbol(chords[at + 1]!.symbol)?.bass
    for (let step = 0; step < steps; step++) {
      const last = step === steps - 1 && steps > 1
      let midi = root
      if (options.kind === 'fifth') midi = step % 2 ? tone(read.semitones[2] ?? 7) : root
      else if (options.kind === 'octave') midi = step % 2 ? root + 12 : root
      else if (options.kind === 'walking' && step > 0)
        midi =
          last && nextRoot !== undefined
            ? nearest(nextRoot, root, lowest) + (nearest(nextRoot, root, lowest) > root ? -1 : 1)
            : tone(read.semitones[step % read.semitones.length]!)
      line.push({
        midi: Math.max(lowest, midi),
        startTicks: start + step * options.stepTicks,
        lengthTicks: options.stepTicks,
        slurred: false,
        slid: false,
        pressed: false,
      })
    }
    before = root
  })
  if (line.length === 0)
    return refuse(
      'no-chords',
      'There are no chords over this figure: place it in the map, or write the harmony first.',
    )
  const paths = findPaths(line, part, key, {}, 1)
  if (!paths.ok) return paths
  return ok(
    onPath(
      line.map((note, index): Note => ({
        id: `b${index}`,
        string: 1,
        fret: 0,
        startTicks: note.startTicks,
        lengthTicks: note.lengthTicks,
        articulations: [],
      })),
      paths.value[0]!,
      false,
    ),
  )
}

/** The pitch of a class nearest to another pitch, not below the lowest. */
function nearest(pitchClass: number, to: number, lowest: number): number {
  const down = to - ((((to - pitchClass) % 12) + 12) % 12)
  const best = to - down <= 6 ? down : down + 12
  return best < lowest ? best + 12 : best
}
