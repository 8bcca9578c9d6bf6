// Single notes on the strings: the fret, how it is reached, how long it sounds, what is done to it.
import { signOf } from '../marks'
import { hasMark } from '../marks/marks-of'
import type { Mark, Note } from '../document/schema'
import { barTicks } from '../time/meter'
import { line, text, type Primitive } from './primitives'
import { inset, inSystem, tickToX, type TabInput, type TabMetrics, type TabSystem } from './tab-measures'
import { bendShapes, type BendPlace } from './tab-bends'
import { looseSlide } from './tab-slides'
import { ARROW } from './tab-strokes'
import { markWords } from './tab-words'

/** The fret as it is written: dead, ghosted, as a harmonic, or plain. */
function fretSign(note: Pick<Note, 'fret' | 'marks'>): string {
  const kinds = new Set(note.marks.map((mark) => mark.kind))
  if (kinds.has('dead') || kinds.has('scrape')) return '×'
  if (kinds.has('ghost')) return `(${note.fret})`
  const harmonic = kinds.has('natural harmonic') || kinds.has('pinched harmonic')
  return harmonic ? `<${note.fret}>` : String(note.fret)
}

type Slur = Extract<Mark, { kind: 'hammer-on' | 'pull-off' | 'slide' }>

const isSlur = (mark: Mark): mark is Slur =>
  mark.kind === 'hammer-on' || mark.kind === 'pull-off' || mark.kind === 'slide'
const joins = (slur: Slur): boolean => slur.kind !== 'slide' || slur.how === 'legato' || slur.how === 'shift'

/** The arc from the note before to one that is hammered, pulled or slid to, and its letter. */
function slurArc(
  slur: Slur,
  notes: { from: Note; to: Note },
  span: { from: number; x: number; y: number },
  metrics: TabMetrics,
): Primitive[] {
  const { from, x, y } = span
  const { fretSize, stringGap, hairline, smallSize } = metrics
  const rise = stringGap * (notes.from.fret < notes.to.fret ? 0.18 : -0.18)
  return [
    {
      kind: 'curve',
      x1: from,
      y1: y - fretSize * 0.5,
      cx: (from + x) / 2,
      cy: y - stringGap * 1.15,
      x2: x,
      y2: y - fretSize * 0.5,
      width: hairline * 1.2,
      role: 'ink',
    },
    ...(slur.kind === 'slide'
      ? [line(from + fretSize * 0.55, y + rise, x - fretSize * 0.55, y - rise, hairline)]
      : []),
    text((from + x) / 2, y - stringGap * 0.62 - hairline, signOf(slur)!, smallSize * 0.85, {
      anchor: 'middle',
      role: 'ink',
      halo: true,
    }),
  ]
}

/** What sounds on past its step: a thin line to where it ends. */
function soundingLine(
  note: Note,
  x: number,
  y: number,
  { system, input }: { system: TabSystem; input: TabInput },
): Primitive[] {
  const { metrics, figure } = input
  const end = Math.min(system.endTicks, note.startTicks + note.lengthTicks)
  if (note.lengthTicks < barTicks(figure.meter) || end <= note.startTicks) return []
  const above = y - metrics.stringGap * 0.22
  const until = tickToX(system, end) - metrics.fretSize * 0.3
  return [
    {
      ...line(x + metrics.fretSize * 0.7, above, until, above, metrics.hairline, 'quiet'),
      dashed: true,
    } as Primitive,
  ]
}

/** A scrape along its string: a jagged line for as long as it lasts. */
function rasp(
  x: number,
  y: number,
  until: number,
  { fretSize, stringGap, hairline }: TabMetrics,
): Primitive[] {
  const from = x + fretSize * 0.6
  const tooth = stringGap * 0.3
  const teeth = Math.max(2, Math.floor((until - fretSize * 0.6 - from) / tooth))
  return Array.from({ length: teeth }, (_, index) => {
    const up = index % 2 === 0 ? tooth / 2 : -tooth / 2
    return line(from + index * tooth, y + up, from + (index + 1) * tooth, y - up, hairline)
  })
}

/** Accent and pick in the hand row. */
function noteSigns(note: Note, x: number, system: TabSystem, { smallSize }: TabMetrics): Primitive[] {
  const over = note.pick ? smallSize * 1.02 : 0
  return [
    ...(hasMark(note, 'accent')
      ? [text(x, system.handY - over, '>', smallSize * 0.8, { anchor: 'middle' as const, bold: true })]
      : []),
    ...(note.pick
      ? [text(x, system.handY, ARROW[note.pick], smallSize * 1.15, { anchor: 'middle' as const })]
      : []),
  ]
}

function noteShapes(note: Note, previous: Note | undefined, system: TabSystem, input: TabInput): Primitive[] {
  const { metrics, marked } = input
  const { fretSize } = metrics
  const y = system.stringYs[note.string - 1]
  if (y === undefined) return []
  const x = tickToX(system, note.startTicks) + inset(metrics)
  const slur = note.marks.find(isSlur)
  const reached = slur && previous && inSystem(system, previous) && joins(slur)
  const from = previous ? tickToX(system, previous.startTicks) + inset(metrics) : x
  const under = y + fretSize * 0.62
  return [
    ...(reached ? slurArc(slur, { from: previous, to: note }, { from, x, y }, metrics) : []),
    ...(slur?.kind === 'slide' ? looseSlide(slur.how, x, y, metrics) : []),
    ...(isBent(note) ? bendShapes(note, bendPlace(note, { x, y, system, input }), metrics) : []),
    text(x, y + fretSize * 0.36, fretSign(note), fretSize, {
      anchor: 'middle',
      face: 'mono',
      halo: true,
      bold: true,
    }),
    ...(marked?.has(note.id)
      ? [line(x - fretSize * 0.6, under, x + fretSize * 0.6, under, metrics.hairline * 2, 'attention')]
      : []),
    ...soundingLine(note, x, y, { system, input }),
    ...(hasMark(note, 'scrape') ? rasp(x, y, soundsUntil(note, system, input), metrics) : []),
    ...noteSigns(note, x, system, metrics),
  ]
}

/** Where a bend is drawn, and the place where its string is let down after others were struck. */
function bendPlace(
  note: Note,
  { x, y, system, input }: { x: number; y: number; system: TabSystem; input: TabInput },
): BendPlace {
  const next = nextOnString(note, input.content.notes)
  const letDown = next?.marks.some((mark) => mark.kind === 'bend' && mark.shape === 'release')
  const at = next && tickToX(system, Math.min(system.endTicks, next.startTicks)) + inset(input.metrics)
  return { x, y, until: soundsUntil(note, system, input), ...(letDown && at ? { heldTo: at } : {}) }
}
const nextOnString = ({ string, startTicks }: Note, notes: readonly Note[]): Note | undefined =>
  notes.reduce<Note | undefined>((first, note) => {
    if (note.string !== string || note.startTicks <= startTicks) return first
    return first && first.startTicks <= note.startTicks ? first : note
  }, undefined)

const isBent = (note: Note): boolean => hasMark(note, 'bend')
/** Where a note ends, or the next begins on its string, whichever comes first. */
function soundsUntil(note: Note, system: TabSystem, { content, metrics }: TabInput): number {
  const end = note.startTicks + note.lengthTicks
  const next = Math.min(end, nextOnString(note, content.notes)?.startTicks ?? end)
  return tickToX(system, Math.min(system.endTicks, next)) + inset(metrics)
}

export function notes(system: TabSystem, input: TabInput): Primitive[] {
  const before = new Map<number, Note>()
  const shapes = input.content.notes
    .toSorted((a, b) => a.startTicks - b.startTicks)
    .flatMap((note) => {
      const previous = before.get(note.string)
      before.set(note.string, note)
      return inSystem(system, note) ? noteShapes(note, previous, system, input) : []
    })
  return [...shapes, ...markWords(system, input)]
}
