// What the keys do to the strumming hand at the cursor.
import { setStroke, strokeAt } from '#core/document/figure-edit'
import type { Stroke } from '#core/document/schema'
import { usualDirection } from '#core/fretboard/strokes'
import { randomId } from '#platform/files'
import type { BenchCursor } from './benchCursor'

const PLAIN = { accent: false, dead: false, choke: false }

const SLIDE_WORDS = {
  legato: 'slid to',
  shift: 'slid to and struck',
  'in from below': 'in from below',
  'in from above': 'in from above',
  out: 'out of it',
} as const
const SLIDES = Object.keys(SLIDE_WORDS) as (keyof typeof SLIDE_WORDS)[]

export function useBenchStrokes(cursor: BenchCursor) {
  const { figure, tick, step, content, stroke, edit, moveTick } = cursor
  function strike(direction: Stroke['direction'] | undefined, set: Partial<Stroke> = {}): void {
    if (!figure.value) return
    const way =
      direction ??
      usualDirection(tick.value, {
        meter: figure.value.meter,
        subdivision: figure.value.feel.subdivision,
        school: figure.value.school,
      })
    const old = stroke.value
    const fresh = { ...PLAIN, id: randomId(), startTicks: tick.value, lengthTicks: step.value }
    const next: Stroke = { ...(old ?? fresh), startTicks: tick.value, direction: way, ...set }
    if (edit(`${next.dead ? 'dead ' : ''}stroke ${way}`, setStroke(content.value, next)) && !old) moveTick(1)
  }

  function fillStrokes(): void {
    const shape = figure.value
    if (!shape) return
    let next = content.value
    for (let at = tick.value; at < shape.lengthTicks; at += step.value)
      if (!strokeAt(next, at))
        next = setStroke(next, {
          ...PLAIN,
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
    if (stroke.value) edit('choke', setStroke(content.value, { ...stroke.value, choke: !stroke.value.choke }))
  }
  /** Goes on to the next way a grip can be slid, and to none after the last. */
  function slideGrip(): void {
    if (!stroke.value) return
    const { slide: before, ...rest } = stroke.value
    const next = before ? SLIDES[SLIDES.indexOf(before.how) + 1] : SLIDES[0]
    const stepped = next ? { ...rest, slide: { how: next } } : rest
    edit(next ? `slide the grip: ${SLIDE_WORDS[next]}` : 'no slide', setStroke(content.value, stepped))
  }
  return { strike, fillStrokes, choke, slideGrip }
}
