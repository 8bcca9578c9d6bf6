// The bench under the keys: the cursor, and what can be done to what stands there, note, stroke or grip.
import { beatTicks } from '#core/time/meter'
import {
  changeGrip,
  changeNote,
  nextPressure,
  removeGrip,
  removeNote,
  removeStroke,
  setMuteSpan,
  setStroke,
} from '#core/document/figure-edit'
import type { Figure } from '#core/document/schema'
import { randomId } from '#platform/files'
import { useBenchBars } from './benchBars'
import { useBenchCursor } from './benchCursor'
import { useBenchNotes } from './benchNotes'
import { useBenchStrokes } from './benchStrokes'

export type { BenchRow } from './benchCursor'

export function useBench(figure: Ref<Figure | undefined>) {
  const cursor = useBenchCursor(figure)
  const notes = useBenchNotes(cursor)
  const strokes = useBenchStrokes(cursor)
  const bars = useBenchBars(cursor)
  const { row, tick, step, content, note, stroke, grip, edit } = cursor
  const { articulate } = notes
  const { strike } = strokes

  function palmMute(): void {
    if (row.value === 'hand' || (!note.value && stroke.value)) {
      if (!stroke.value) return
      const { palmMute: before, ...rest } = stroke.value
      const next = nextPressure(before)
      edit(`${next ?? 'no'} palm mute`, setStroke(content.value, next ? { ...rest, palmMute: next } : rest))
    } else if (note.value) {
      const before = note.value.articulations.find((articulation) => articulation.kind === 'palm mute')
      const next = nextPressure(before?.kind === 'palm mute' ? before.pressure : undefined)
      const rest = note.value.articulations.filter((articulation) => articulation.kind !== 'palm mute')
      edit(
        `${next ?? 'no'} palm mute`,
        changeNote(content.value, note.value.id, {
          articulations: next ? [...rest, { kind: 'palm mute', pressure: next }] : rest,
        }),
      )
    }
  }

  function accent(): void {
    if (note.value) edit('accent', changeNote(content.value, note.value.id, { accent: !note.value.accent }))
    else if (stroke.value)
      edit('accent', setStroke(content.value, { ...stroke.value, accent: !stroke.value.accent }))
  }

  function dead(): void {
    if (typeof row.value === 'number' && note.value) articulate({ kind: 'dead' }, 'dead note')
    else strike(stroke.value?.direction, { dead: !stroke.value?.dead })
  }

  function letRing(): void {
    if (typeof row.value === 'number' && note.value) {
      articulate({ kind: 'let ring' }, 'let ring')
      return
    }
    if (!figure.value) return
    const beat = beatTicks(figure.value.meter)
    const span = grip.value ?? { startTicks: Math.floor(tick.value / beat) * beat, lengthTicks: beat }
    const rings = content.value.mutes.some(
      (mute) =>
        mute.kind === 'let ring' &&
        mute.startTicks <= tick.value &&
        tick.value < mute.startTicks + mute.lengthTicks,
    )
    edit(
      rings ? 'no let ring' : 'let ring',
      setMuteSpan(
        content.value,
        rings
          ? { kind: 'let ring', startTicks: span.startTicks, lengthTicks: span.lengthTicks, clear: true }
          : { id: randomId(), kind: 'let ring', startTicks: span.startTicks, lengthTicks: span.lengthTicks },
      ),
    )
  }

  function lengthen(by: number): void {
    const change = by * step.value
    if (row.value === 'grips' && grip.value)
      edit(
        'grip length',
        changeGrip(content.value, grip.value.id, {
          lengthTicks: Math.max(step.value, grip.value.lengthTicks + change),
        }),
      )
    else if (note.value)
      edit(
        'note length',
        changeNote(content.value, note.value.id, {
          lengthTicks: Math.max(step.value, note.value.lengthTicks + change),
        }),
      )
    else if (stroke.value)
      edit(
        'stroke length',
        setStroke(content.value, {
          ...stroke.value,
          lengthTicks: Math.max(step.value, stroke.value.lengthTicks + change),
        }),
      )
  }

  function remove(): void {
    if (row.value === 'grips' && grip.value) edit('remove grip', removeGrip(content.value, grip.value.id))
    else if (row.value === 'hand' && stroke.value)
      edit('remove stroke', removeStroke(content.value, tick.value))
    else if (note.value) edit('remove note', removeNote(content.value, note.value.id))
  }
  return { ...cursor, ...notes, ...strokes, bars, palmMute, accent, dead, letRing, lengthen, remove }
}
export type Bench = ReturnType<typeof useBench>
