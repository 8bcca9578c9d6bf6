// The neck as seen from above: string 1 on top, frets at their true distances.
import { fretDistanceMm } from '../instrument/neck'
import { line, text, type Primitive } from './primitives'

export interface NeckDot {
  string: number
  fret: number
  label: string
  role: 'action' | 'quiet'
}
export interface NeckDrawing {
  primitives: Primitive[]
  fretXs: number[]
  stringYs: number[]
  height: number
  left: number
}
const INLAYS = [3, 5, 7, 9, 15, 17, 19, 21]

/** `frets` fret spaces over `width`; `fretXs[0]` is the nut. Open strings are shown left of it. */
export function engraveNeck(input: {
  strings: number
  frets: number
  capo: number
  width: number
  dots: readonly NeckDot[]
  mutedStrings: readonly number[]
  stringNames: readonly string[]
}): NeckDrawing {
  const { strings, frets, width } = input
  const left = 62
  const gap = 19
  const top = 10
  const total = fretDistanceMm(frets, 1)
  const fretXs = Array.from(
    { length: frets + 1 },
    (_, fret) => left + ((width - left - 6) * fretDistanceMm(fret, 1)) / total,
  )
  const stringYs = Array.from({ length: strings }, (_, index) => top + gap * 0.6 + index * gap)
  const bottom = stringYs.at(-1)! + gap * 0.6
  const shapes: Primitive[] = [
    { kind: 'rect', x: left, y: top, width: fretXs.at(-1)! - left, height: bottom - top, fill: 'wood' },
  ]
  const middle = (fret: number): number => (fretXs[fret - 1]! + fretXs[fret]!) / 2
  for (let fret = 1; fret <= frets; fret++) {
    const inOctave = fret % 12 === 0
    if (inOctave || INLAYS.includes(fret))
      for (const y of inOctave
        ? [top + (bottom - top) * 0.3, top + (bottom - top) * 0.7]
        : [(top + bottom) / 2])
        shapes.push({ kind: 'circle', x: middle(fret), y, radius: 5, fill: 'rule' })
    shapes.push(
      line(fretXs[fret]!, top, fretXs[fret]!, bottom, 1.6, 'quiet'),
      text(middle(fret), bottom + 15, String(fret), 12, { anchor: 'middle', role: 'quiet', face: 'mono' }),
    )
  }
  shapes.push(line(left, top, left, bottom, 5, 'quiet'))
  stringYs.forEach((y, index) => {
    shapes.push(
      line(left - 26, y, fretXs.at(-1)!, y, 1 + index * 0.35, 'ink'),
      text(left - 44, y + 4.5, input.stringNames[index]!, 13, { anchor: 'end', role: 'quiet', face: 'mono' }),
    )
    if (input.mutedStrings.includes(index + 1))
      shapes.push(text(left - 33, y + 5, '×', 15, { anchor: 'middle', bold: true }))
  })
  if (input.capo > 0)
    shapes.push(
      { kind: 'rect', x: left + 5, y: top - 4, width: 9, height: bottom - top + 8, fill: 'ink', radius: 3 },
      text(left + 10, top - 6, `capo ${input.capo}`, 11, { role: 'quiet' }),
    )
  for (const dot of input.dots) {
    if (dot.fret > frets) continue
    const x = dot.fret === 0 ? left - 14 : middle(dot.fret)
    const y = stringYs[dot.string - 1]!
    shapes.push(
      dot.fret === 0
        ? { kind: 'circle', x, y, radius: 7, fill: 'paper', stroke: dot.role }
        : { kind: 'circle', x, y, radius: 9.5, fill: dot.role },
    )
    if (dot.label && dot.fret > 0)
      shapes.push(text(x, y + 4, dot.label, 11.5, { anchor: 'middle', role: 'paper', bold: true }))
  }
  return { primitives: shapes, fretXs, stringYs, height: bottom + 20, left }
}

/** String and fret under a point; fret 0 left of the nut. Undefined outside the neck. */
export function neckPlace(
  neck: NeckDrawing,
  x: number,
  y: number,
): { string: number; fret: number } | undefined {
  const string = neck.stringYs.reduce(
    (best, stringY, index) => (Math.abs(stringY - y) < Math.abs(neck.stringYs[best]! - y) ? index : best),
    0,
  )
  if (Math.abs(neck.stringYs[string]! - y) > 14 || x > neck.fretXs.at(-1)!) return undefined
  if (x < neck.left) return { string: string + 1, fret: 0 }
  return { string: string + 1, fret: neck.fretXs.findIndex((fretX) => fretX >= x) }
}
