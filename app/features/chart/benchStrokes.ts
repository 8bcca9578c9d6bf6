// What the keys do to the strumming hand at the cursor.
import type { StrokeMark } from '#core/marks'
import { hasMark, markOf, withoutMark } from '#core/marks/marks-of'
import { setStroke, strokeAt, toggleStrokeMark } from '#core/document/figure-edit'
import type { Stroke } from '#core/document/schema'
import { usualDirection } from '#core/neck/strokes'
import { randomId } from '#platform/files'
import type { BenchCursor } from './benchCursor'

const SLIDE_WORDS = {
  legato: 'slid to',
  shift: 'slid to and struck',
  'in from below': 'in from below',
  'in from above': 'in from above',
  out: 'out of it',
} as const
const SLIDES = Object.keys(SLIDE_WORDS) as (keyof typeof SLIDE_WORDS)[]

/** The marks of a stroke with the next way its grip can be slid, and the words for it. */
function nextSlide(stroke: Stroke): { words: string; marks: StrokeMark[] } {
  const before = markOf(stroke, 'slide')
  const how = before ? SLIDES[SLIDES.indexOf(before.how) + 1] : SLIDES[0]
  const rest: StrokeMark[] = withoutMark(stroke.marks, 'slide')
  if (!how) return { words: 'no slide', marks: rest }
  return { words: `slide the grip: ${SLIDE_WORDS[how]}`, marks: [...rest, { kind: 'slide', how }] }
}

export function useBenchStrokes(cursor: BenchCursor) {
  const { figure, tick, step, content, stroke, edit, moveTick } = cursor
  function strike(direction: Stroke['direction'] | undefined, toggled?: StrokeMark): void {
    if (!figure.value) return
    const way =
      direction ??
      usualDirection(tick.value, {
        meter: figure.value.meter,
        subdivision: figure.value.feel.subdivision,
        school: figure.value.school,
      })
    const old = stroke.value
    const fresh = { marks: [], id: randomId(), startTicks: tick.value, lengthTicks: step.value }
    const struck: Stroke = { ...(old ?? fresh), startTicks: tick.value, direction: way }
    const next = toggled ? toggleStrokeMark(struck, toggled) : struck
    if (edit(`${hasMark(next, 'dead') ? 'dead ' : ''}stroke ${way}`, setStroke(content.value, next)) && !old)
      moveTick(1)
  }

  function fillStrokes(): void {
    const shape = figure.value
    if (!shape) return
    let next = content.value
    for (let at = tick.value; at < shape.lengthTicks; at += step.value)
      if (!strokeAt(next, at))
        next = setStroke(next, {
          marks: [],
          id: randomId(),
          startTicks: at,
          lengthTicks: step.value,
          direction: usualDirection(at, {
            meter: shape.meter,
            subdivision: shape.feel.subdivision,
            school: shape.school,
          }),
        })
    edit('strokes by pendulum', next)
  }
  function choke(): void {
    if (stroke.value)
      edit('choke', setStroke(content.value, toggleStrokeMark(stroke.value, { kind: 'choke' })))
  }
  /** Goes on to the next way a grip can be slid, and to none after the last. */
  function slideGrip(): void {
    if (!stroke.value) return
    const { words, marks } = nextSlide(stroke.value)
    edit(words, setStroke(content.value, { ...stroke.value, marks }))
  }
  return { strike, fillStrokes, choke, slideGrip }
}
