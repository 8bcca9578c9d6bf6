// A bend at its own string: the course of the pitch right of the fret, up or up and back, and how far in
// semitones.
import type { Mark, Note } from '../document/schema'
import { line, text, type Primitive } from './primitives'
import type { TabMetrics } from './tab-measures'

type Bend = Extract<Mark, { kind: 'bend' }>
export interface BendPlace {
  x: number
  y: number
  /** Where the note ends. */
  until: number
  /** Where the string is let down, when that comes later: it is kept bent until there. */
  heldTo?: number
}

/** Courses as shares of width and height, from 0 (the fret) to 1 (bent). */
const COURSES: Record<Bend['shape'], readonly (readonly [along: number, up: number])[]> = {
  plain: [
    [0, 0],
    [1, 1],
  ],
  'bend and hold': [
    [0, 0],
    [0.5, 1],
    [1, 1],
  ],
  'pre-bend': [
    [0.15, 0],
    [0.15, 1],
  ],
  release: [
    [0, 1],
    [1, 0],
  ],
  'bend and release': [
    [0, 0],
    [0.5, 1],
    [1, 0],
  ],
  're-bend': [
    [0, 0],
    [0.33, 1],
    [0.66, 0],
    [1, 1],
  ],
}

/** "+2", "+½". */
function amount(semitones: number): string {
  const whole = Math.floor(semitones)
  const rest = semitones - whole
  const fraction = { 0.25: '¼', 0.5: '½', 0.75: '¾' }[rest] ?? ''
  return `+${whole || !fraction ? whole : ''}${fraction}`
}

/** What is drawn right of a bent note; nothing for any other. */
export function bendShapes(note: Note, { x, y, until, heldTo }: BendPlace, metrics: TabMetrics): Primitive[] {
  const bend = note.marks.find((mark): mark is Bend => mark.kind === 'bend')
  if (!bend) return []
  const { fretSize, stringGap, hairline, smallSize } = metrics
  const from = x + fretSize * (0.3 + 0.32 * String(note.fret).length)
  const to = Math.max(from + fretSize * 0.5, Math.min(until - fretSize * 0.7, from + fretSize * 1.6))
  const height = stringGap * 0.62
  const at = ([along, up]: readonly [number, number]): [number, number] => [
    from + along * (to - from),
    y - up * height,
  ]
  const course = COURSES[bend.shape].map(at)
  const lines = course.slice(1).map(([x2, y2], index) => {
    const [x1, y1] = course[index]!
    return line(x1, y1, x2, y2, hairline * 1.5)
  })
  const [endX, endY] = course.at(-1)!
  const down = endY > course.at(-2)![1]
  const tip = smallSize * 0.24
  const head: Primitive = {
    kind: 'polygon',
    points: [
      endX - tip * 0.7,
      endY + (down ? -tip : tip),
      endX + tip * 0.7,
      endY + (down ? -tip : tip),
      endX,
      endY,
    ],
    fill: 'ink',
  }
  const highest = course.reduce((top, point) => (point[1] < top[1] ? point : top))
  const words = text(highest[0], y - height - smallSize * 0.12, amount(bend.semitones), smallSize * 0.8, {
    anchor: 'middle',
    halo: true,
    bold: true,
  })
  const held: Primitive[] =
    heldTo !== undefined && heldTo > to + fretSize && !down
      ? [{ ...line(endX, endY, heldTo, endY, hairline), dashed: true } as Primitive]
      : []
  return [...lines, ...held, head, ...(bend.shape === 'release' ? [] : [words])]
}
