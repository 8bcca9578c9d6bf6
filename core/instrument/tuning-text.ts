// Tunings written out, low to high: "E2 A2 D3 G3 B3 E4". For the command line and for a tuning of one's own.
import { midiOf } from '../music/pitch'
import { ok, refuse, type Result } from '../result'
import { INSTRUMENTS, type InstrumentKind } from './instruments'
import { openPitchProblem, type Tuning } from './tunings'

/** Reads 4 to 8 pitches, low to high. The result lists string 1 (the highest) first. */
export function readTuning(text: string): Result<number[]> {
  const names = text.trim().split(/[\s,]+/)
  if (names.length < 4 || names.length > 8)
    return refuse(
      'tuning',
      'Write four to eight pitches from the lowest string up, with octaves: "E2 A2 D3 G3 B3 E4".',
    )
  const midis = names.map(midiOf)
  const unknown = names.find((_, index) => midis[index] === undefined)
  if (unknown !== undefined)
    return refuse('tuning', `“${unknown}” is no pitch with an octave, like E2 or Bb1.`)
  const problem = (midis as number[]).map(openPitchProblem).find(Boolean)
  return problem ? refuse('tuning', problem) : ok((midis as number[]).reverse())
}

/** The instrument such a set of strings is usually on. */
export function usualInstrument(openMidi: readonly number[]): InstrumentKind {
  const lowest = Math.min(...openMidi)
  if (openMidi.length <= 5) return openMidi.length === 4 ? 'bass-4' : 'bass-5'
  if (openMidi.length > 6) return 'guitar-7'
  if (lowest < 28 || Math.max(...openMidi) < 53) return 'bass-6'
  return lowest <= 36 ? 'baritone-6' : 'guitar-6'
}

/**
 * A tuning with its names by shape: moved as a whole from the instrument's standard, a dropped low string
 * aside.
 */
export function tuningOf(openMidi: readonly number[], kind: InstrumentKind): Tuning {
  const standard = INSTRUMENTS[kind].standardMidi
  const shifts = openMidi.slice(0, -1).map((midi, index) => midi - (standard[index] ?? midi))
  return {
    name: 'own',
    openMidi: [...openMidi],
    shapeOffset:
      standard.length === openMidi.length && shifts.every((shift) => shift === shifts[0])
        ? Math.max(-12, Math.min(12, shifts[0]!))
        : 0,
  }
}
