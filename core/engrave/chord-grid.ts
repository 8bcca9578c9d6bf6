// A chord grid: the grip as it looks on the neck, low string left; for a left hand that plucks, right.
import type { Grip } from '../document/schema'
import { line, mirrored, text, type Primitive } from './primitives'

interface GridMeasures {
  /** The lowest fret drawn: 1 shows the nut. */
  first: number
  frets: number
  gap: number
  fretGap: number
  left: number
  top: number
  xOf: (stringNumber: number) => number
}

function measureGrid(grip: Grip, width: number): GridMeasures {
  const strings = grip.strings.length
  const fretted = grip.strings.flatMap((string) => (string.fret ? [string.fret] : []))
  const lowest = fretted.length ? Math.min(...fretted) : 1
  const highest = fretted.length ? Math.max(...fretted) : 1
  const first = highest <= 4 ? 1 : lowest
  const left = width * 0.2
  const gap = (width - left - width * 0.06) / (strings - 1)
  return {
    first,
    frets: Math.max(4, highest - first + 1),
    gap,
    fretGap: gap * 1.15,
    left,
    top: gap * 1.3,
    xOf: (stringNumber) => left + (strings - stringNumber) * gap,
  }
}

function gridLines(
  { first, frets, gap, fretGap, left, top, xOf }: GridMeasures,
  strings: number,
): Primitive[] {
  const shapes: Primitive[] = []
  for (let fret = 0; fret <= frets; fret++) {
    const y = top + fret * fretGap
    shapes.push(line(left, y, xOf(1), y, fret === 0 && first === 1 ? gap * 0.28 : gap * 0.07, 'ink'))
  }
  for (let string = 1; string <= strings; string++)
    shapes.push(line(xOf(string), top, xOf(string), top + frets * fretGap, gap * 0.07, 'ink'))
  if (first > 1)
    shapes.push(
      text(left - gap * 0.55, top + fretGap * 0.72, String(first), gap * 0.95, {
        anchor: 'end',
        face: 'mono',
      }),
    )
  return shapes
}

/** What a string of the grip shows: damped, open, or a finger in a fret. */
function stringSign(string: Grip['strings'][number], x: number, measures: GridMeasures): Primitive[] {
  const { first, gap, fretGap, top } = measures
  const above = top - gap * 0.6
  if (string.fret === null) {
    const r = gap * 0.22
    return [
      line(x - r, above - r, x + r, above + r, gap * 0.11),
      line(x - r, above + r, x + r, above - r, gap * 0.11),
    ]
  }
  if (string.fret === 0) return [{ kind: 'circle', x, y: above, radius: gap * 0.24, stroke: 'ink' }]
  const y = top + (string.fret - first + 0.5) * fretGap
  const dot: Primitive = { kind: 'circle', x, y, radius: gap * 0.38, fill: 'ink' }
  if (!string.finger) return [dot]
  return [
    dot,
    text(x, y + gap * 0.24, string.finger, gap * 0.66, { anchor: 'middle', role: 'paper', bold: true }),
  ]
}

/**
 * Shapes of a grid `width` wide with its top left at 0,0 (markers above the nut included), and its height.
 */
export function chordGrid(
  grip: Grip,
  width: number,
  leftHanded = false,
): { primitives: Primitive[]; height: number } {
  const measures = measureGrid(grip, width)
  const { top, frets, fretGap, gap, xOf } = measures
  const primitives = [
    ...gridLines(measures, grip.strings.length),
    ...grip.strings.flatMap((string, index) => stringSign(string, xOf(index + 1), measures)),
  ]
  return {
    primitives: leftHanded ? mirrored(primitives, width) : primitives,
    height: top + frets * fretGap + gap * 0.1,
  }
}
