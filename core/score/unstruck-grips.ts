// Grips that no hand pattern touches: they are struck once and held.
import type { Content, GripSpan, Stroke } from '../document/schema'

const overlaps = (stroke: Stroke, span: GripSpan): boolean =>
  stroke.startTicks < span.startTicks + span.lengthTicks &&
  stroke.startTicks + stroke.lengthTicks > span.startTicks
/** Grips that no stroke touches. */
export const unstruckGrips = ({ grips, strokes }: Content): GripSpan[] =>
  grips.filter((span) => !strokes.some((stroke) => overlaps(stroke, span)))
/** A grip without any hand pattern is struck once and held. */
export const heldStroke = (span: GripSpan): Stroke => ({
  id: span.id,
  startTicks: span.startTicks,
  lengthTicks: span.lengthTicks,
  direction: 'down',
  marks: [],
})
