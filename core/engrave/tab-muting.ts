// The row of muting under the strings: how hard the palm lies on, what rings, what is struck dead.
import { hasMark, markOf } from '../marks/marks-of'
import type { Content, Pressure, Stroke } from '../document/schema'
import { line, text, type Primitive } from './primitives'
import { inset, tickToX, type TabMetrics, type TabSystem } from './tab-measures'

const PRESSURE_WIDTH: Record<Pressure, number> = { light: 0.1, medium: 0.2, firm: 0.34 }

const PALM = 'palm mute'
/** In sizes of its letters, with a little air. */
const PALM_WIDTH = 5
/** In sizes of the letters. */
const LABELS_APART = 30

interface MuteRun {
  start: number
  end: number
  pressure: Pressure
}

const runOf = (event: { startTicks: number; lengthTicks: number }, pressure: Pressure): MuteRun => ({
  start: event.startTicks,
  end: event.startTicks + event.lengthTicks,
  pressure,
})

/** Palm mutes of spans, strokes and notes together, joined where they touch. */
export function muteRuns(content: Content): MuteRun[] {
  const runs: MuteRun[] = [
    ...content.mutes.flatMap((span) =>
      span.mark.kind === 'palm mute' ? [runOf(span, span.mark.pressure)] : [],
    ),
    ...[...content.strokes, ...content.notes].flatMap((event) => {
      const palm = markOf(event, 'palm mute')
      return palm ? [runOf(event, palm.pressure)] : []
    }),
  ].sort((a, b) => a.start - b.start)
  return runs.reduce<MuteRun[]>((joined, run) => {
    const last = joined.at(-1)
    if (last && last.pressure === run.pressure && run.start <= last.end)
      last.end = Math.max(last.end, run.end)
    else joined.push({ ...run })
    return joined
  }, [])
}

export function muting(system: TabSystem, content: Content, metrics: TabMetrics): Primitive[] {
  const row = { system, metrics }
  const dead = deadWords(content.strokes).flatMap(({ tick, words }): Primitive[] =>
    tick >= system.startTicks && tick < system.endTicks ? [deadText(system, metrics, tick, words)] : [],
  )
  return [...palms(content, row), ...rings(content, row), ...dead]
}

interface Row {
  system: TabSystem
  metrics: TabMetrics
}

/** Where something of the figure lies in a system; undefined where none of it does. */
function clip(
  { system, metrics }: Row,
  start: number,
  end: number,
): [left: number, right: number] | undefined {
  const from = Math.max(start, system.startTicks)
  const to = Math.min(end, system.endTicks)
  if (from >= to) return undefined
  return [tickToX(system, from) + inset(metrics) * 0.3, tickToX(system, to) - inset(metrics) * 0.3]
}

/** A bar as high as the palm is firm; before it its name, where a row begins and again after a while. */
function palms(content: Content, row: Row): Primitive[] {
  const { system, metrics } = row
  const size = metrics.smallSize * 0.9
  let named = Number.NEGATIVE_INFINITY
  return muteRuns(content).flatMap((run): Primitive[] => {
    const span = clip(row, run.start, run.end)
    if (!span) return []
    const [left, right] = span
    const height = metrics.rowGap * PRESSURE_WIDTH[run.pressure]
    const says = left > named + LABELS_APART * size && right - left > PALM_WIDTH * size
    if (says) named = left
    const x = says ? left + PALM_WIDTH * size : left
    const y = system.mutingY - height
    return [
      ...(says ? [text(left, system.mutingY, PALM, size, { role: 'quiet' })] : []),
      { kind: 'rect', x, y, width: right - x, height, fill: 'quiet' },
    ]
  })
}

function rings({ mutes }: Content, row: Row): Primitive[] {
  const { system, metrics } = row
  const size = metrics.smallSize
  return mutes.flatMap((ring): Primitive[] => {
    const span =
      ring.mark.kind === 'let ring' && clip(row, ring.startTicks, ring.startTicks + ring.lengthTicks)
    if (!span) return []
    const [x, right] = span
    const y = system.mutingY - size * 0.3
    const dashes = {
      ...line(x + size * 3.6, y, right, y, metrics.hairline, 'quiet'),
      dashed: true,
    } as Primitive
    return [text(x, system.mutingY, 'let ring', size * 0.9, { role: 'quiet' }), dashes]
  })
}

/** Where the line ends, the words end with it. */
function deadText(system: TabSystem, metrics: TabMetrics, tick: number, words: string): Primitive {
  const x = tickToX(system, tick) + inset(metrics) * 0.4
  const size = metrics.smallSize * 0.9
  const over = x + words.length * size * 0.5 > system.right
  return text(over ? system.right : x, system.mutingY, words, size, {
    role: 'ink',
    halo: true,
    ...(over ? { anchor: 'end' } : {}),
  })
}

const NUMBER = [
  '',
  'dead',
  'two dead',
  'three dead',
  'four dead',
  'five dead',
  'six dead',
  'seven dead',
  'eight dead',
]

/** Dead strokes are counted aloud: "two dead". */
export function deadWords(strokes: readonly Stroke[]): { tick: number; words: string }[] {
  const found: { tick: number; words: string; count: number }[] = []
  strokes.forEach((stroke, index) => {
    if (!hasMark(stroke, 'dead')) return
    const before = strokes[index - 1]
    if (before && hasMark(before, 'dead')) found.at(-1)!.count++
    else found.push({ tick: stroke.startTicks, words: '', count: 1 })
  })
  return found.map(({ tick, count }) => ({ tick, words: NUMBER[count] ?? `${count} dead` }))
}
