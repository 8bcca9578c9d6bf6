// A chord grid: the grip as it looks on the neck, low string left.
import type { Grip } from '../document/schema'
import { line, text, type Primitive } from './primitives'

/**
 * Shapes of a grid `width` wide with its top left at 0,0 (markers above the nut included), and its height.
 */
export function chordGrid(grip: Grip, width: number): { primitives: Primitive[]; height: number } {
  const strings = grip.strings.length
  const fretted = grip.strings.flatMap((string) => (string.fret ? [string.fret] : []))
  const lowest = fretted.length ? Math.min(...fretted) : 1
  const highest = fretted.length ? Math.max(...fretted) : 1
  const first = highest <= 4 ? 1 : lowest
  const frets = Math.max(4, highest - first + 1)
  const left = width * 0.2
  const gap = (width - left - width * 0.06) / (strings - 1)
  const fretGap = gap * 1.15
  const top = gap * 1.3
  const xOf = (stringNumber: number): number => left + (strings - stringNumber) * gap
  const shapes: Primitive[] = []
  for (let fret = 0; fret <= frets; fret++)
    shapes.push(
      line(
        left,
        top + fret * fretGap,
        xOf(1),
        top + fret * fretGap,
        fret === 0 && first === 1 ? gap * 0.28 : gap * 0.07,
        'ink',
      ),
    )
  for (let string = 1; string <= strings; string++)
    shapes.push(line(xOf(string), top, xOf(string), top + frets * fretGap, gap * 0.07, 'ink'))
  if (first > 1)
    shapes.push(
      text(left - gap * 0.55, top + fretGap * 0.72, String(first), gap * 0.95, {
        anchor: 'end',
        face: 'mono',
      }),
    )
  grip.strings.forEach((string, index) => {
    const x = xOf(index + 1)
    if (string.fret === null) {
      const r = gap * 0.22
      const y = top - gap * 0.6
      shapes.push(line(x - r, y - r, x + r, y + r, gap * 0.11), line(x - r, y + r, x + r, y - r, gap * 0.11))
    } else if (string.fret === 0)
      shapes.push({ kind: 'circle', x, y: top - gap * 0.6, radius: gap * 0.24, stroke: 'ink' })
    else {
      const y = top + (string.fret - first + 0.5) * fretGap
      shapes.push({ kind: 'circle', x, y, radius: gap * 0.38, fill: 'ink' })
      if (string.finger)
        shapes.push(
          text(x, y + gap * 0.24, string.finger, gap * 0.66, { anchor: 'middle', role: 'paper', bold: true }),
        )
    }
  })
  return { primitives: shapes, height: top + frets * fretGap + gap * 0.1 }
}
