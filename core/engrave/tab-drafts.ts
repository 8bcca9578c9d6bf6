// What is not entered yet, drawn over the tablature.
import { hasMark } from '../marks/marks-of'
import { text, type Primitive } from './primitives'
import { inset, inSystem, tickToX, type TabInput, type TabMetrics, type TabSystem } from './tab-measures'
import { ARROW } from './tab-strokes'

/** Dots along the string on both sides of a fret that was assumed to be there. */
function dotted(x: number, y: number, left: number, { fretSize }: TabInput['metrics']): Primitive[] {
  const [near, far] = [fretSize * 0.75, fretSize * 1.9]
  const dash = (from: number, to: number): Primitive => ({
    kind: 'line',
    x1: x + from,
    y1: y,
    x2: x + to,
    y2: y,
    width: 2,
    role: 'attention',
    dashed: true,
  })
  // The first fret of a line keeps clear of the string's name.
  return x - far < left ? [dash(near, far)] : [dash(-far, -near), dash(near, far)]
}

/** A label on a patch of its own. */
function draftSign(x: number, y: number, label: string, { fretSize }: TabMetrics): Primitive[] {
  const half = fretSize * 0.34 * Math.max(1.8, label.length)
  return [
    {
      kind: 'rect',
      x: x - half,
      y: y - fretSize * 0.6,
      width: 2 * half,
      height: fretSize * 1.2,
      fill: 'selection',
      radius: 3,
    },
    text(x, y + fretSize * 0.36, label, fretSize, {
      anchor: 'middle',
      face: 'mono',
      role: 'action',
      bold: true,
    }),
  ]
}

/** Drafts in the colour of what the user is doing, on top of what is there. */
export function drafts(system: TabSystem, { draft, assumed, metrics }: TabInput): Primitive[] {
  const sign = (x: number, y: number, label: string): Primitive[] => draftSign(x, y, label, metrics)
  const at = (event: { startTicks: number }): number => tickToX(system, event.startTicks) + inset(metrics)
  const notes = (draft?.notes ?? [])
    .filter((note) => inSystem(system, note))
    .flatMap((note) => {
      const y = system.stringYs[note.string - 1]
      if (y === undefined) return []
      const label = hasMark(note, 'dead') ? '×' : String(note.fret)
      return [
        ...sign(at(note), y, label),
        ...(assumed?.has(note.id) ? dotted(at(note), y, system.left, metrics) : []),
      ]
    })
  const strokes = (draft?.strokes ?? [])
    .filter((stroke) => inSystem(system, stroke))
    .flatMap((stroke) =>
      sign(
        at(stroke),
        system.handY - metrics.smallSize * 0.36,
        hasMark(stroke, 'dead') ? '×' : ARROW[stroke.direction],
      ),
    )
  const grips = (draft?.grips ?? [])
    .filter((span) => inSystem(system, span))
    .flatMap((span) => {
      const label = span.grip.strings
        .map((string) => string.fret ?? 'x')
        .reverse()
        .join(span.grip.strings.some((string) => (string.fret ?? 0) > 9) ? '-' : '')
      return sign(
        at(span) + metrics.fretSize * 0.3 * label.length,
        system.gripY - metrics.fretSize * 0.36,
        label,
      )
    })
  return [...notes, ...strokes, ...grips]
}
