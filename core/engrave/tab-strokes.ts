// The strumming hand: its strokes in the hand row, and what they strike on the strings.
import { hasMark, markOf } from '../marks/marks-of'
import type { Grip, GripSpan, Stroke } from '../document/schema'
import { struckStrings } from '../document/struck-strings'
import { line, text, type Primitive } from './primitives'
import { gripSlide } from './tab-slides'
import { inset, inSystem, tickToX, type TabInput, type TabMetrics, type TabSystem } from './tab-measures'

/** How a stroke is written in the hand row. */
export const ARROW: Record<Stroke['direction'], string> = { down: '↓', up: '↑', thumb: 'T', fingers: 'f' }

/** A stroke that is slid to without striking has no arrow. */
const handSign = (stroke: Stroke): string =>
  markOf(stroke, 'slide')?.how === 'legato' ? 'sl' : ARROW[stroke.direction]

/** A stroke's arrow with its accents and what goes against its school. */
function handSigns(stroke: Stroke, x: number, system: TabSystem, { metrics, marked }: TabInput): Primitive[] {
  const { smallSize, stringGap, hairline } = metrics
  const wrong = marked?.has(stroke.id) ?? false
  const under = system.handY + smallSize * 0.32
  const sign = (dx: number, y: number, value: string, size: number): Primitive =>
    text(x + dx, y, value, size, { anchor: 'middle', bold: true })
  return [
    text(x, system.handY, handSign(stroke), smallSize * 1.15, {
      anchor: 'middle',
      bold: hasMark(stroke, 'accent') || wrong,
      role: wrong ? 'attention' : 'ink',
    }),
    ...(wrong
      ? [line(x - smallSize * 0.45, under, x + smallSize * 0.45, under, hairline * 1.8, 'attention')]
      : []),
    ...(hasMark(stroke, 'staccato') ? [sign(smallSize * 0.55, system.handY, '·', smallSize)] : []),
    ...(hasMark(stroke, 'accent') ? [sign(0, system.handY - smallSize * 1.02, '>', smallSize * 0.8)] : []),
    ...(hasMark(stroke, 'choke')
      ? [
          text(x, system.stringYs[0]! - stringGap * 0.4, 'choke', smallSize * 0.8, {
            anchor: 'middle',
            role: 'quiet',
          }),
        ]
      : []),
  ]
}

/** Frets of the grip that a stroke strikes; quiet where the grip was struck before. */
function struckSigns(
  stroke: Stroke,
  span: GripSpan | undefined,
  drawn: { x: number; repeated: boolean; system: TabSystem; metrics: TabMetrics },
): Primitive[] {
  const { x, repeated, system, metrics } = drawn
  return struckStrings(stroke, span, system.stringYs.length).flatMap((string): Primitive[] => {
    const y = (system.stringYs[string - 1] ?? 0) + metrics.fretSize * 0.36
    const fret = span?.grip.strings[string - 1]?.fret ?? null
    if (hasMark(stroke, 'dead'))
      return [text(x, y, '×', metrics.fretSize, { anchor: 'middle', halo: true, bold: true })]
    if (fret === null) return []
    return [
      text(x, y, String(fret), metrics.fretSize, {
        anchor: 'middle',
        face: 'mono',
        halo: true,
        role: repeated ? 'quiet' : 'ink',
        bold: !repeated,
      }),
    ]
  })
}

type SlidFrom = { x: number; strings: Grip['strings'] }
/** The strings of a grip that a stroke takes; the others as if they were muted. */
const struckOf = ({ strings }: Stroke, { grip }: GripSpan): Grip['strings'] =>
  grip.strings.map((string, index) => (strings && !strings.includes(index + 1) ? { fret: null } : string))

export function strokes(system: TabSystem, input: TabInput): Primitive[] {
  const { content, metrics } = input
  let shown: string | undefined
  let before: SlidFrom | undefined
  return content.strokes.flatMap((stroke) => {
    const span = content.grips.findLast(
      (grip) =>
        grip.startTicks <= stroke.startTicks && stroke.startTicks < grip.startTicks + grip.lengthTicks,
    )
    const repeated = span !== undefined && span.id === shown && !stroke.strings
    if (!hasMark(stroke, 'dead')) shown = span?.id
    if (!inSystem(system, stroke)) return []
    const x = tickToX(system, stroke.startTicks) + inset(metrics)
    const from = before
    const slide = markOf(stroke, 'slide')
    before = span && { x, strings: span.grip.strings }
    return [
      ...(slide && span
        ? gripSlide(
            { how: slide.how, strings: struckOf(stroke, span), from, x, stringYs: system.stringYs },
            metrics,
          )
        : []),
      ...handSigns(stroke, x, system, input),
      ...struckSigns(stroke, span, { x, repeated, system, metrics }),
    ]
  })
}
