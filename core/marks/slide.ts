// The finger slides along the string: to the next note (said on the way there), in from beside it, or out
// of it.
import { z } from 'zod'
import { defineMark, type CurvePoint } from './define-mark'

/** How far a slide goes that does not say it. */
const USUAL_FRETS = 3
/**
 * Part of a fret's time in a slide that the finger needs to cross the fret wire; for the rest the pitch
 * stands.
 */
const CROSSING = 0.35
const GLIDE_BEATS = 1 / 5

/**
 * A slide as frets pass under the finger: one step a fret, from `from` to `to` semitones within [start,
 * end).
 */
export function fretSteps(from: number, to: number, start: number, end: number): CurvePoint[] {
  const count = Math.max(1, Math.round(Math.abs(to - from)))
  const points: CurvePoint[] = [{ ticks: start, semitones: from }]
  for (let fret = 1; fret <= count; fret++) {
    const at = start + ((end - start) * fret) / count
    points.push(
      {
        ticks: at - ((end - start) / count) * CROSSING,
        semitones: from + ((to - from) * (fret - 1)) / count,
      },
      { ticks: at, semitones: from + ((to - from) * fret) / count },
    )
  }
  return points
}

/** Time a slide to the next note takes, at the end of the note it leaves. */
export const glideTicks = (lengthTicks: number, beat: number): number =>
  Math.min(lengthTicks * 0.6, beat * GLIDE_BEATS)

const WAY = {
  how: z.enum(['legato', 'shift', 'in from below', 'in from above', 'out']),
  frets: z.int().min(1).max(12).optional(),
}
export const slide = defineMark({
  schema: z.strictObject({ kind: z.literal('slide'), ...WAY }),
  sign: () => 'sl',
  words: (mark) => {
    if (mark.how === 'legato' || mark.how === 'shift') return undefined
    return mark.frets ? `${mark.how} ${mark.frets}` : mark.how
  },
  curve: (mark, lengthTicks, beatTicks) => {
    const frets = mark.frets ?? USUAL_FRETS
    if (mark.how === 'in from below') return fretSteps(-frets, 0, 0, beatTicks / 6)
    if (mark.how === 'in from above') return fretSteps(frets, 0, 0, beatTicks / 6)
    return mark.how === 'out' ? fretSteps(0, -frets, lengthTicks * 0.6, lengthTicks) : []
  },
  offered: [
    { name: 'shift slide', mark: { kind: 'slide', how: 'shift' } },
    { name: 'slide in from below', mark: { kind: 'slide', how: 'in from below', frets: 2 } },
    { name: 'slide in from above', mark: { kind: 'slide', how: 'in from above', frets: 2 } },
    { name: 'slide out', mark: { kind: 'slide', how: 'out', frets: 3 } },
  ],
})
