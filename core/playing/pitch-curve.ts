// How the pitch of one note moves: bends, slides fret by fret, trills, the bar. Points over time from the start of the note, in semitones against the
// fretted pitch; between two points the finger accelerates and settles (the player draws a cosine).
import type { Note } from '../song/schema'

export interface CurvePoint { ticks: number; semitones: number }

/** Part of a fret's time in a slide that the finger needs to cross the fret wire; for the rest the pitch stands. */
const CROSSING = 0.35
const GLIDE_BEATS = 1 / 5

/** A slide as frets pass under the finger: one step a fret, from `from` to `to` semitones within [start, end). */
export function fretSteps(from: number, to: number, start: number, end: number): CurvePoint[] {
  const count = Math.max(1, Math.round(Math.abs(to - from)))
  const points: CurvePoint[] = [{ ticks: start, semitones: from }]
  for (let fret = 1; fret <= count; fret++) {
    const at = start + ((end - start) * fret) / count
    points.push({ ticks: at - ((end - start) / count) * CROSSING, semitones: from + ((to - from) * (fret - 1)) / count }, { ticks: at, semitones: from + ((to - from) * fret) / count })
  }
  return points
}

/** Time a slide to the next note takes, at the end of the note it leaves. */
export const glideTicks = (lengthTicks: number, beat: number): number => Math.min(lengthTicks * 0.6, beat * GLIDE_BEATS)

/** A plain bend takes at most half a beat to arrive. */
export function pitchCurve(note: Note, beat: number): CurvePoint[] {
  const length = note.lengthTicks
  const rise = Math.min(length * 0.5, beat / 2)
  const points: CurvePoint[] = []
  for (const mark of note.articulations) {
    if (mark.kind === 'bend') {
      const top = mark.semitones
      const shapes: Record<typeof mark.shape, [number, number][]> = {
        plain: [[0, 0], [rise, top]], 'bend and hold': [[0, 0], [rise, top]], 'pre-bend': [[0, top]], release: [[0, top], [rise * 0.4, top], [rise * 1.4, 0]],
        'bend and release': [[0, 0], [length * 0.3, top], [length * 0.6, top], [length * 0.85, 0]], 're-bend': [[0, 0], [length * 0.25, top], [length * 0.5, 0], [length * 0.75, top]],
      }
      points.push(...shapes[mark.shape].map(([ticks, semitones]) => ({ ticks, semitones })))
    } else if (mark.kind === 'slide') {
      const frets = mark.frets ?? 3
      if (mark.how === 'in from below') points.push(...fretSteps(-frets, 0, 0, beat / 6))
      else if (mark.how === 'in from above') points.push(...fretSteps(frets, 0, 0, beat / 6))
      else if (mark.how === 'out') points.push(...fretSteps(0, -frets, length * 0.6, length))
    } else if (mark.kind === 'bar') points.push({ ticks: 0, semitones: mark.how === 'return' ? mark.semitones : 0 }, ...(mark.how === 'return' ? [] : [{ ticks: length / 2, semitones: mark.semitones }]), { ticks: length, semitones: mark.how === 'dive' ? mark.semitones : 0 })
    else if (mark.kind === 'trill') points.push(...trill(mark.frets, length, beat))
  }
  return points
}

/** Up and down at a sixth of a beat, beginning below. */
function trill(frets: number, length: number, beat: number): CurvePoint[] {
  const half = beat / 6
  const points: CurvePoint[] = []
  for (let index = 0; index * half < length; index++) {
    const semitones = index % 2 === 0 ? 0 : frets
    points.push({ ticks: Math.min(length, index * half + (index ? half * 0.12 : 0)), semitones }, { ticks: Math.min(length, (index + 1) * half), semitones })
  }
  return points
}
