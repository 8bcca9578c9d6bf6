// Small edits of a figure's content, as the bench makes them: each returns the next content, the
// transaction checks it.
import type { SpanMark, StrokeMark } from '../marks'
import { hasMark, markOf, sameMark, withoutMark } from '../marks/marks-of'
import type { Mark, Content, Grip, GripSpan, MuteSpan, Note, Pressure, Stroke } from './schema'
import { PRESSURES } from './schema'

const byTime = <T extends { startTicks: number }>(list: T[]): T[] =>
  list.sort((a, b) => a.startTicks - b.startTicks)

export const noteAt = (content: Content, string: number, tick: number): Note | undefined =>
  content.notes.find((note) => note.string === string && note.startTicks === tick)
export const strokeAt = (content: Content, tick: number): Stroke | undefined =>
  content.strokes.find((stroke) => stroke.startTicks === tick)
export const gripAt = (content: Content, tick: number): GripSpan | undefined =>
  content.grips.find((span) => span.startTicks <= tick && tick < span.startTicks + span.lengthTicks)

/** Sets the fret at a place; a new note takes `lengthTicks`. */
export function setFret(
  content: Content,
  place: { string: number; tick: number; fret: number; lengthTicks: number; id: string },
): Content {
  const old = noteAt(content, place.string, place.tick)
  const note: Note = old
    ? { ...old, fret: place.fret }
    : {
        id: place.id,
        string: place.string,
        fret: place.fret,
        startTicks: place.tick,
        lengthTicks: place.lengthTicks,
        marks: [],
      }
  return { ...content, notes: byTime([...content.notes.filter((other) => other !== old), note]) }
}

export const changeNote = (content: Content, id: string, set: Partial<Note>): Content => ({
  ...content,
  notes: byTime(content.notes.map((note) => (note.id === id ? { ...note, ...set } : note))),
})
export const removeNote = (content: Content, id: string): Content => ({
  ...content,
  notes: content.notes.filter((note) => note.id !== id),
})

/** Adds a mark, or takes it off when the note has just that one; one of a kind at most. */
export function toggleMark(note: Note, mark: Mark): Note {
  const rest = withoutMark(note.marks, mark.kind)
  const had = markOf(note, mark.kind)
  // A note is hammered, pulled or slid into, not two of them.
  const slurs = ['hammer-on', 'pull-off', 'slide']
  const cleared = slurs.includes(mark.kind) ? rest.filter((other) => !slurs.includes(other.kind)) : rest
  return {
    ...note,
    marks: had && sameMark(had, mark) ? cleared : [...cleared, mark],
  }
}

/** Adds a mark to a stroke, or takes it off when the stroke has one of its kind. */
export const toggleStrokeMark = (stroke: Stroke, mark: StrokeMark): Stroke => ({
  ...stroke,
  marks: hasMark(stroke, mark.kind) ? withoutMark(stroke.marks, mark.kind) : [...stroke.marks, mark],
})

/** none → light → medium → firm → none */
export function nextPressure(pressure: Pressure | undefined): Pressure | undefined {
  return pressure === undefined ? PRESSURES[0] : PRESSURES[PRESSURES.indexOf(pressure) + 1]
}

export function setStroke(content: Content, stroke: Stroke): Content {
  return {
    ...content,
    strokes: byTime([...content.strokes.filter((other) => other.startTicks !== stroke.startTicks), stroke]),
  }
}
export const removeStroke = (content: Content, tick: number): Content => ({
  ...content,
  strokes: content.strokes.filter((stroke) => stroke.startTicks !== tick),
})

/** Puts a grip from a place on: until the next grip, or to the end. A grip held there is cut short. */
export function setGrip(
  content: Content,
  place: { tick: number; grip: Grip; id: string; figureTicks: number },
): Content {
  const here = content.grips.find((span) => span.startTicks === place.tick)
  if (here)
    return {
      ...content,
      grips: content.grips.map((span) => (span === here ? { ...span, grip: place.grip } : span)),
    }
  const next = content.grips
    .filter((span) => span.startTicks > place.tick)
    .reduce((least, span) => Math.min(least, span.startTicks), place.figureTicks)
  const cut = content.grips.map((span) =>
    span.startTicks < place.tick && span.startTicks + span.lengthTicks > place.tick
      ? { ...span, lengthTicks: place.tick - span.startTicks }
      : span,
  )
  return {
    ...content,
    grips: byTime([
      ...cut,
      { id: place.id, startTicks: place.tick, lengthTicks: next - place.tick, grip: place.grip },
    ]),
  }
}
export const removeGrip = (content: Content, id: string): Content => ({
  ...content,
  grips: content.grips.filter((span) => span.id !== id),
})
export const changeGrip = (content: Content, id: string, set: Partial<GripSpan>): Content => ({
  ...content,
  grips: content.grips.map((span) => (span.id === id ? { ...span, ...set } : span)),
})

/** Sets or clears a muting span over [from, to): what overlaps of its kind is cut away first. */
export function setMuteSpan(
  content: Content,
  span: MuteSpan | { mark: { kind: SpanMark['kind'] }; startTicks: number; lengthTicks: number; clear: true },
): Content {
  const end = span.startTicks + span.lengthTicks
  const kept = content.mutes.flatMap((other): MuteSpan[] => {
    const otherEnd = other.startTicks + other.lengthTicks
    if (other.mark.kind !== span.mark.kind || otherEnd <= span.startTicks || other.startTicks >= end)
      return [other]
    const before =
      other.startTicks < span.startTicks
        ? [{ ...other, lengthTicks: span.startTicks - other.startTicks }]
        : []
    const after =
      otherEnd > end ? [{ ...other, id: `${other.id}x`, startTicks: end, lengthTicks: otherEnd - end }] : []
    return [...before, ...after]
  })
  return { ...content, mutes: 'clear' in span ? kept : byTime([...kept, span]) }
}

/** Cuts what lies beyond a new length. */
export function cutToLength(content: Content, lengthTicks: number): Content {
  const inside = <T extends { startTicks: number; lengthTicks: number }>(list: T[]): T[] =>
    list
      .filter((event) => event.startTicks < lengthTicks)
      .map((event) => ({
        ...event,
        lengthTicks: Math.min(event.lengthTicks, lengthTicks - event.startTicks),
      }))
  return {
    grips: inside(content.grips),
    strokes: inside(content.strokes),
    notes: inside(content.notes),
    mutes: inside(content.mutes),
  }
}

/** The content played several times in a row, as one longer content. */
export function repeated(content: Content, lengthTicks: number, times: number, newId: () => string): Content {
  const copies = <T extends { id: string; startTicks: number }>(list: T[]): T[] =>
    Array.from({ length: times }, (_, round) =>
      list.map((event) =>
        round === 0 ? event : { ...event, id: newId(), startTicks: event.startTicks + round * lengthTicks },
      ),
    ).flat()
  return {
    grips: copies(content.grips),
    strokes: copies(content.strokes),
    notes: copies(content.notes),
    mutes: copies(content.mutes),
  }
}
