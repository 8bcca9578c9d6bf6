// Quickly to and fro between the note and one some frets above it.
import { z } from 'zod'
import { defineMark, type CurvePoint } from './define-mark'

/** Share of a half turn in which the finger moves. */
const TURN_SHARE = 0.12

/** Up and down at a sixth of a beat, beginning below. */
function turns(frets: number, lengthTicks: number, beatTicks: number): CurvePoint[] {
  const half = beatTicks / 6
  const points: CurvePoint[] = []
  for (let index = 0; index * half < lengthTicks; index++) {
    const semitones = index % 2 === 0 ? 0 : frets
    points.push(
      { ticks: Math.min(lengthTicks, index * half + (index ? half * TURN_SHARE : 0)), semitones },
      { ticks: Math.min(lengthTicks, (index + 1) * half), semitones },
    )
  }
  return points
}

export const trill = defineMark({
  schema: z.strictObject({ kind: z.literal('trill'), frets: z.int().min(1).max(7) }),
  sign: (mark) => `tr +${mark.frets}`,
  words: (mark, fret) => `trill ${fret + mark.frets}`,
  curve: (mark, lengthTicks, beatTicks) => turns(mark.frets, lengthTicks, beatTicks),
  offered: [{ name: 'trill', mark: { kind: 'trill', frets: 2 } }],
})
