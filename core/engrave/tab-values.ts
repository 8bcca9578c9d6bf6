// How long what begins sounds, under the strings: stems, beamed within a beat, with dots and the numbers of
// tuplets; a small square where nothing sounds.
import { barTicks, beatTicks } from '../time/meter'
import { writtenValues, type NoteValue } from '../time/note-values'
import type { Content } from '../document/schema'
import { unstruckGrips } from '../score/unstruck-grips'
import { line, text, type Primitive } from './primitives'
import { inset, tickToX, type TabInput, type TabMetrics, type TabSystem } from './tab-measures'

interface Onset {
  tick: number
  value: NoteValue
  rest: boolean
  /** Held from the value before: tied to it. */
  tied?: boolean
}

/** Beams or flags of a value: one for an eighth, two for a sixteenth. */
const BEAMS: Record<string, number> = { eighth: 1, '16th': 2, '32nd': 3, '64th': 4, '128th': 5 }
const beamsOf = ({ type }: NoteValue): number => BEAMS[type] ?? 0
/** Shorter silences than this share of a beat are the hand's, not the chart's. */
const LEAST_REST = 1 / 8

const known = new WeakMap<Content, { lengthTicks: number; onsets: Onset[] }>()
/** Every system of a figure asks for the same. */
function onsetsIn(content: Content, figure: TabInput['figure']): Onset[] {
  const made = known.get(content)
  if (made?.lengthTicks === figure.lengthTicks) return made.onsets
  const onsets = onsetsOf(content, figure)
  known.set(content, { lengthTicks: figure.lengthTicks, onsets })
  return onsets
}

/** Everything that begins, each to where the next begins or all of it has ended, and the rests between. */
function onsetsOf(content: Content, figure: TabInput['figure']): Onset[] {
  const ends = new Map<number, number>()
  for (const { startTicks, lengthTicks } of [...content.notes, ...content.strokes, ...unstruckGrips(content)])
    ends.set(startTicks, Math.max(ends.get(startTicks) ?? 0, startTicks + lengthTicks))
  const bar = barTicks(figure.meter)
  const starts = [...ends.keys()].filter((tick) => tick < figure.lengthTicks).sort((a, b) => a - b)
  const least = beatTicks(figure.meter) * LEAST_REST
  return [
    ...restsBefore(starts, ends, { bar, lengthTicks: figure.lengthTicks }),
    ...starts.flatMap((tick, index): Onset[] => {
      const next = starts[index + 1] ?? figure.lengthTicks
      const end = Math.min(ends.get(tick) ?? next, next)
      const until = next - end < least ? next : end
      // What is silent over the bar line is that bar's own rest.
      const silent = Math.min(next, (Math.floor((until - 1) / bar) + 1) * bar)
      const held = heldValues(tick, until, bar)
      return until < silent ? [...held, restOf(until, silent)] : held
    }),
  ].sort((a, b) => a.tick - b.tick)
}

/** A sound as it is written: cut at the bar lines, and where no one value says it, all of it tied. */
function heldValues(from: number, to: number, bar: number): Onset[] {
  const held: Onset[] = []
  for (let at = from; at < to;) {
    const until = Math.min(to, (Math.floor(at / bar) + 1) * bar)
    for (const { value, lengthTicks } of writtenValues(until - at)) {
      held.push({ tick: at, value, rest: false, ...(held.length ? { tied: true } : {}) })
      at += lengthTicks
    }
  }
  return held
}

const restOf = (tick: number, until: number): Onset => ({
  tick,
  value: writtenValues(until - tick)[0]!.value,
  rest: true,
})

/** Bars that begin with silence. */
function restsBefore(
  starts: readonly number[],
  ends: ReadonlyMap<number, number>,
  { bar, lengthTicks }: { bar: number; lengthTicks: number },
): Onset[] {
  const rests: Onset[] = []
  let sounding = 0
  let index = 0
  for (let from = 0; from < lengthTicks; from += bar) {
    while (index < starts.length && starts[index]! < from)
      sounding = Math.max(sounding, ends.get(starts[index++]!)!)
    const first = Math.min(starts[index] ?? lengthTicks, from + bar, lengthTicks)
    if (first > from && sounding <= from) rests.push(restOf(from, first))
  }
  return rests
}

/** The row of one system; `y` is where its stems begin. */
export function values(system: TabSystem, { content, figure, metrics, begins = 0 }: TabInput): Primitive[] {
  if (figure.freeTime || system.valuesY === undefined) return []
  const own = onsetsIn(content, figure).filter(
    ({ tick }) => tick >= Math.max(system.startTicks, begins) && tick < system.endTicks,
  )
  const drawn = own.map((onset): Drawn => ({ ...onset, x: tickToX(system, onset.tick) + inset(metrics) }))
  return [
    ...drawn.flatMap((onset) =>
      onset.rest ? restSign(onset.x, system.valuesY!, metrics) : stem(onset, system.valuesY!, metrics),
    ),
    ...ties(drawn, system, metrics),
    ...groups(drawn, beatTicks(figure.meter)).flatMap((group) => beams(group, system.valuesY!, metrics)),
  ]
}

type Drawn = Onset & { x: number }

const heightOf = ({ rowGap }: TabMetrics): number => rowGap * 0.62

/** An arc under the stems from each value to the one it goes on in; into the system from one before. */
function ties(drawn: readonly Drawn[], { left, valuesY = 0 }: TabSystem, metrics: TabMetrics): Primitive[] {
  const y = valuesY + heightOf(metrics) + metrics.smallSize * 0.2
  return drawn.flatMap((onset, index): Primitive[] => {
    if (!onset.tied) return []
    const from = drawn[index - 1]?.x ?? left
    const [x1, x2] = [from + metrics.smallSize * 0.2, onset.x - metrics.smallSize * 0.2]
    const cy = y + metrics.smallSize * 0.7
    return [
      {
        kind: 'curve',
        x1,
        y1: y,
        cx: (x1 + x2) / 2,
        cy,
        x2,
        y2: y,
        width: metrics.hairline * 1.3,
        role: 'ink',
      },
    ]
  })
}

function restSign(x: number, y: number, metrics: TabMetrics): Primitive[] {
  const side = metrics.smallSize * 0.3
  return [
    {
      kind: 'rect',
      x: x - side / 2,
      y: y + heightOf(metrics) * 0.4,
      width: side,
      height: side,
      fill: 'quiet',
    },
  ]
}

function stem({ x, value }: Drawn, y: number, metrics: TabMetrics): Primitive[] {
  const height = heightOf(metrics)
  const radius = metrics.smallSize * 0.17
  const foot = y + height
  const open: Primitive = { kind: 'circle', x, y: foot - radius, radius, stroke: 'ink' }
  const dots = Array.from({ length: value.dots }, (_, index): Primitive => ({
    kind: 'circle',
    x: x + metrics.smallSize * (0.36 + 0.28 * index),
    y: foot - radius,
    radius: metrics.smallSize * 0.09,
    fill: 'ink',
  }))
  if (value.type === 'whole') return [open, ...dots]
  const to = value.type === 'half' ? foot - 2 * radius : foot
  return [line(x, y, x, to, metrics.hairline * 1.6), ...(value.type === 'half' ? [open] : []), ...dots]
}

/** Neighbours of a beat that are beamed; a rest or a long note between them parts them. */
function groups(onsets: readonly Drawn[], beat: number): Drawn[][] {
  const found: Drawn[][] = []
  let open: Drawn[] = []
  const close = (): void => {
    if (open.length) found.push(open)
    open = []
  }
  for (const onset of onsets) {
    const joins = !onset.rest && beamsOf(onset.value) > 0
    const before = open.at(-1)
    if (before && (!joins || Math.floor(before.tick / beat) !== Math.floor(onset.tick / beat))) close()
    if (joins) open.push(onset)
  }
  close()
  return found
}

function beams(group: readonly Drawn[], y: number, metrics: TabMetrics): Primitive[] {
  const foot = y + heightOf(metrics)
  const thick = metrics.hairline * 3.4
  const gap = metrics.smallSize * 0.3
  const shapes: Primitive[] = []
  group.forEach((onset, index) => {
    const next = group[index + 1]
    const before = group[index - 1]
    for (let level = 0; level < beamsOf(onset.value); level++) {
      const at = foot - level * gap
      const joined = next !== undefined && beamsOf(next.value) > level
      const reached = before !== undefined && beamsOf(before.value) > level
      const stub = metrics.smallSize * 0.5
      if (joined) shapes.push(line(onset.x, at, next.x, at, thick))
      // Alone in its beat a flag, else a stub towards its neighbour.
      else if (!reached) shapes.push(line(onset.x, at, onset.x + (before ? -stub : stub), at, thick))
    }
  })
  const tuplet = group[0]?.value.tuplet
  if (!tuplet) return shapes
  const middle = (group[0]!.x + group.at(-1)!.x) / 2
  const number = text(
    middle,
    foot + metrics.smallSize * 0.85,
    String(tuplet.actual),
    metrics.smallSize * 0.75,
    {
      anchor: 'middle',
      role: 'quiet',
    },
  )
  return [...shapes, number]
}
