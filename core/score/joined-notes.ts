// Notes of one string that go over into each other: slurred, slid to, let down from a bend.
import type { PlayedNote } from './perform'
import { fretSteps, glideTicks } from './pitch-curve'

/**
 * A slurred note follows without a gap, whatever other strings are struck meanwhile: the note before lasts
 * until it. So does a bent string until it is let down.
 */
export function slurred(played: PlayedNote[]): PlayedNote[] {
  const last = new Map<number, PlayedNote>()
  for (const note of played) {
    const before = last.get(note.string)
    const goesOn = note.attack === 'slurred' || (note.joins === 'release' && before && isBent(before))
    if (before && goesOn && before.endTicks < note.startTicks) before.endTicks = note.startTicks
    last.set(note.string, note)
  }
  return played
}

const isBent = ({ curve }: PlayedNote): boolean => (curve.at(-1)?.semitones ?? 0) > 0

/**
 * Notes that are not struck go on in the note before them: its pitch slides over fret by fret, or its bend
 * comes down. A note slid to and struck is still reached by its predecessor's pitch moving towards it.
 */
export function joined(played: PlayedNote[], beat: number): PlayedNote[] {
  const last = new Map<string, PlayedNote>()
  const kept: PlayedNote[] = []
  for (const note of played) {
    const key = String(note.string)
    const before = last.get(key)
    const touches =
      before && !before.dead && Math.abs(before.endTicks - note.startTicks) < 2 ? before : undefined
    if (touches && (note.joins === 'slide' || note.slidTo)) slideTo(touches, note, beat)
    if (touches && note.joins) {
      const offset = note.startTicks - touches.startTicks
      const rise = note.midi - touches.midi
      touches.curve = [
        ...touches.curve.filter((point) => point.ticks <= offset),
        ...(note.curve.length ? note.curve : [{ ticks: 0, semitones: 0 }]).map((point) => ({
          ticks: offset + point.ticks,
          semitones: rise + point.semitones,
        })),
      ]
      touches.endTicks = note.endTicks
      if (note.vibrato !== 'none') touches.vibrato = note.vibrato
      touches.letRing ||= note.letRing
      continue
    }
    kept.push(note)
    last.set(key, note)
  }
  return kept
}
function slideTo(before: PlayedNote, note: PlayedNote, beat: number): void {
  const offset = note.startTicks - before.startTicks
  const held = before.curve.at(-1)?.semitones ?? 0
  const start = offset - glideTicks(note.startTicks - before.startTicks, beat)
  const points = before.curve.filter((point) => point.ticks < start)
  before.curve = [
    ...(points.length ? points : [{ ticks: 0, semitones: held }]),
    ...fretSteps(held, note.midi - before.midi, start, offset),
  ]
}
