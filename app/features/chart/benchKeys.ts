// The bench under the keys: the cursor, and what can be done to what stands there, note, stroke or grip.
import type { MarkKind, SpanMark } from '#core/marks'
import { withoutMark } from '#core/marks/marks-of'
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
  toggleStrokeMark,
} from '#core/document/figure-edit'
import type { Figure } from '#core/document/schema'
import { randomId } from '#platform/files'
import { useBenchBars } from './benchBars'
import { useBenchCursor } from './benchCursor'
import { useBenchNotes } from './benchNotes'
import { useBenchStrokes } from './benchStrokes'

export type { BenchRow } from './benchCursor'

type PalmMute = Extract<SpanMark, { kind: 'palm mute' }>

/** The marks with the next pressure of the palm, none after the last, and the words for it. */
function nextPalm<M extends { kind: MarkKind }>(
  marks: readonly M[],
): { words: string; marks: (M | PalmMute)[] } {
  const before = marks.find((mark): mark is M & PalmMute => mark.kind === 'palm mute')
  const pressure = nextPressure(before?.pressure)
  const rest = withoutMark(marks, 'palm mute')
  return {
    words: `${pressure ?? 'no'} palm mute`,
    marks: pressure ? [...rest, { kind: 'palm mute', pressure }] : rest,
  }
}

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
      const { words, marks } = nextPalm(stroke.value.marks)
      edit(words, setStroke(content.value, { ...stroke.value, marks }))
    } else if (note.value) {
      const { words, marks } = nextPalm(note.value.marks)
      edit(words, changeNote(content.value, note.value.id, { marks }))
    }
  }

  function accent(): void {
    const mark = { kind: 'accent' } as const
    if (note.value) articulate(mark, 'accent')
    else if (stroke.value) edit('accent', setStroke(content.value, toggleStrokeMark(stroke.value, mark)))
  }

  function dead(): void {
    if (typeof row.value === 'number' && note.value) articulate({ kind: 'dead' }, 'dead note')
    else strike(stroke.value?.direction, { kind: 'dead' })
  }

  function letRing(): void {
    if (typeof row.value === 'number' && note.value) {
      articulate({ kind: 'let ring' }, 'let ring')
      return
    }
    if (!figure.value) return
    const mark = { kind: 'let ring' } as const
    const beat = beatTicks(figure.value.meter)
    const span = grip.value ?? { startTicks: Math.floor(tick.value / beat) * beat, lengthTicks: beat }
    const rings = content.value.mutes.some(
      (mute) =>
        mute.mark.kind === 'let ring' &&
        mute.startTicks <= tick.value &&
        tick.value < mute.startTicks + mute.lengthTicks,
    )
    edit(
      rings ? 'no let ring' : 'let ring',
      setMuteSpan(
        content.value,
        rings
          ? { mark, startTicks: span.startTicks, lengthTicks: span.lengthTicks, clear: true }
          : { id: randomId(), mark, startTicks: span.startTicks, lengthTicks: span.lengthTicks },
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
