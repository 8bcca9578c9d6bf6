// What a stretch of muting or ringing says of the notes and strokes in it.
import type { Content, MuteSpan, Pressure } from '../document/schema'
import type { SpanMark } from '../marks'
import { markOf, type Marked } from '../marks/marks-of'

/** The stretch of a kind in which a tick lies. */
export const spanAt = (
  mutes: readonly MuteSpan[],
  kind: SpanMark['kind'],
  tick: number,
): MuteSpan | undefined =>
  mutes.find(
    (span) => span.mark.kind === kind && span.startTicks <= tick && tick < span.startTicks + span.lengthTicks,
  )

/** How firmly the palm rests at a note or stroke: by its own mark, or by the span it lies in. */
export function palmOf(event: Marked & { startTicks: number }, { mutes }: Content): Pressure | undefined {
  const span = spanAt(mutes, 'palm mute', event.startTicks)?.mark
  const mark = markOf(event, 'palm mute') ?? span
  return mark?.kind === 'palm mute' ? mark.pressure : undefined
}
