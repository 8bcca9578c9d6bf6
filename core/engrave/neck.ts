// The neck as seen from above: string 1 on top, frets at their true distances.
import type { NeckPlace } from '../neck/zones'
import { pretty } from '../music/pitch'
import { fretDistanceMm } from '../instrument/neck'
import { line, mirrored, text, type Primitive } from './primitives'

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
  /** The nut is on the right: so wide is the drawing. */
  mirroredOver?: number
}
/** Places of a scale as dots: its root stands out, the rest say their degree. */
export const degreeDots = (places: readonly NeckPlace[]): NeckDot[] =>
  places.map(({ string, fret, degree }) => ({
    string,
    fret,
    label: degree === '1' ? 'R' : pretty(degree),
    role: degree === '1' ? 'action' : 'quiet',
  }))
/** On the wood, counted from the nut: a capo does not move them. */
const INLAYS = [3, 5, 7, 9, 15, 17, 19, 21, 27, 29, 31, 33]

interface NeckInput {
  strings: number
  frets: number
  capo: number
  width: number
  dots: readonly NeckDot[]
  mutedStrings: readonly number[]
  stringNames: readonly string[]
  leftHanded?: boolean
}
const LEFT = 62
const STRING_GAP = 19
const TOP = 10

interface NeckMeasures {
  fretXs: number[]
  stringYs: number[]
  bottom: number
}
function measureNeck({ strings, frets, width }: NeckInput): NeckMeasures {
  const total = fretDistanceMm(frets, 1)
  const fretXs = Array.from(
    { length: frets + 1 },
    (_, fret) => LEFT + ((width - LEFT - 6) * fretDistanceMm(fret, 1)) / total,
  )
  const stringYs = Array.from({ length: strings }, (_, index) => TOP + STRING_GAP * (0.6 + index))
  return { fretXs, stringYs, bottom: stringYs.at(-1)! + STRING_GAP * 0.6 }
}
/** The middle of a fret's space. */
const middleOf = ({ fretXs }: NeckMeasures, fret: number): number => (fretXs[fret - 1]! + fretXs[fret]!) / 2

/** A fret: its wire, its number, its inlay. */
function fretShapes(measures: NeckMeasures, fret: number, capo: number): Primitive[] {
  const { fretXs, bottom } = measures
  const x = middleOf(measures, fret)
  const height = bottom - TOP
  const octave = [TOP + height * 0.3, TOP + height * 0.7]
  const fromNut = fret + capo
  const single = INLAYS.includes(fromNut) ? [TOP + height / 2] : []
  const inlays = fromNut % 12 === 0 ? octave : single
  return [
    ...inlays.map((y): Primitive => ({ kind: 'circle', x, y, radius: 5, fill: 'rule' })),
    line(fretXs[fret]!, TOP, fretXs[fret]!, bottom, 1.6, 'quiet'),
    text(x, bottom + 15, String(fret), 12, { anchor: 'middle', role: 'quiet', face: 'mono' }),
  ]
}

function stringShapes(input: NeckInput, { fretXs, stringYs }: NeckMeasures): Primitive[] {
  return stringYs.flatMap((y, index) => {
    const muted = input.mutedStrings.includes(index + 1)
    return [
      line(LEFT - 26, y, fretXs.at(-1)!, y, 1 + index * 0.35, 'ink'),
      text(LEFT - 44, y + 4.5, input.stringNames[index]!, 13, { anchor: 'end', role: 'quiet', face: 'mono' }),
      ...(muted ? [text(LEFT - 33, y + 5, '×', 15, { anchor: 'middle' as const, bold: true })] : []),
    ]
  })
}

function dotShapes(dot: NeckDot, measures: NeckMeasures): Primitive[] {
  const y = measures.stringYs[dot.string - 1]!
  if (dot.fret === 0) return [{ kind: 'circle', x: LEFT - 14, y, radius: 7, fill: 'paper', stroke: dot.role }]
  const x = middleOf(measures, dot.fret)
  const circle: Primitive = { kind: 'circle', x, y, radius: 9.5, fill: dot.role }
  if (!dot.label) return [circle]
  return [circle, text(x, y + 4, dot.label, 11.5, { anchor: 'middle', role: 'paper', bold: true })]
}

function capoShapes(capo: number, bottom: number): Primitive[] {
  if (capo <= 0) return []
  const height = bottom - TOP + 8
  return [
    { kind: 'rect', x: LEFT + 5, y: TOP - 4, width: 9, height, fill: 'ink', radius: 3 },
    text(LEFT + 10, TOP - 6, `capo ${capo}`, 11, { role: 'quiet' }),
  ]
}

/** `frets` fret spaces over `width`; `fretXs[0]` is the nut. Open strings are shown left of it. */
export function engraveNeck(input: NeckInput): NeckDrawing {
  const measures = measureNeck(input)
  const { fretXs, stringYs, bottom } = measures
  const frets = Array.from({ length: input.frets }, (_, index) => index + 1)
  const width = fretXs.at(-1)! - LEFT
  const primitives: Primitive[] = [
    { kind: 'rect', x: LEFT, y: TOP, width, height: bottom - TOP, fill: 'wood' },
    ...frets.flatMap((fret) => fretShapes(measures, fret, input.capo)),
    line(LEFT, TOP, LEFT, bottom, 5, 'quiet'),
    ...stringShapes(input, measures),
    ...capoShapes(input.capo, bottom),
    ...input.dots.filter((dot) => dot.fret <= input.frets).flatMap((dot) => dotShapes(dot, measures)),
  ]
  const drawing = { fretXs, stringYs, height: bottom + 20, left: LEFT }
  return input.leftHanded
    ? { ...drawing, primitives: mirrored(primitives, input.width), mirroredOver: input.width }
    : { ...drawing, primitives }
}

/** String and fret under a point; fret 0 left of the nut. Undefined outside the neck. */
export function neckPlace(
  neck: NeckDrawing,
  pointX: number,
  y: number,
): { string: number; fret: number } | undefined {
  const x = neck.mirroredOver === undefined ? pointX : neck.mirroredOver - pointX
  const string = neck.stringYs.reduce(
    (best, stringY, index) => (Math.abs(stringY - y) < Math.abs(neck.stringYs[best]! - y) ? index : best),
    0,
  )
  if (Math.abs(neck.stringYs[string]! - y) > 14 || x > neck.fretXs.at(-1)!) return undefined
  if (x < neck.left) return { string: string + 1, fret: 0 }
  return { string: string + 1, fret: neck.fretXs.findIndex((fretX) => fretX >= x) }
}
