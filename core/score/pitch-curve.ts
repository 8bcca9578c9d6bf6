// How the pitch of one note moves: bends, slides fret by fret, trills, the bar. Points over time from the
// start of the note, in semitones against the fretted pitch; between two points the finger accelerates and
// settles (the player draws a cosine).
import { curveOf } from '../marks'
import type { CurvePoint } from '../marks/define-mark'
import type { Note } from '../document/schema'

export { fretSteps, glideTicks } from '../marks/slide'
export type { CurvePoint } from '../marks/define-mark'

export const pitchCurve = (note: Note, beat: number): CurvePoint[] =>
  note.marks.flatMap((mark) => curveOf(mark, note.lengthTicks, beat))
