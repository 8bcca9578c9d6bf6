// The row of muting under the strings: how hard the palm lies on, what rings, what is struck dead.
import type { Content, Pressure, Stroke } from '../document/schema'
import { line, text, type Primitive } from './primitives'
import { inset, tickToX, type TabMetrics, type TabSystem } from './tab-measures'

const PRESSURE_WIDTH: Record<Pressure, number> = { light: 0.1, medium: 0.2, firm: 0.34 }

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
      span.kind === 'palm mute' ? [runOf(span, span.pressure ?? 'medium')] : [],
    ),
    ...content.strokes.flatMap((stroke) => (stroke.palmMute ? [runOf(stroke, stroke.palmMute)] : [])),
    ...content.notes.flatMap((note) =>
      note.articulations.flatMap((mark) => (mark.kind === 'palm mute' ? [runOf(note, mark.pressure)] : [])),
    ),
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
  const clip = (start: number, end: number): [number, number] | undefined => {
    const from = Math.max(start, system.startTicks)
    const to = Math.min(end, system.endTicks)
    return from < to
      ? [tickToX(system, from) + inset(metrics) * 0.3, tickToX(system, to) - inset(metrics) * 0.3]
      : undefined
  }
  const bars = muteRuns(content).flatMap((run): Primitive[] => {
    const span = clip(run.start, run.end)
    if (!span) return []
    const height = metrics.rowGap * PRESSURE_WIDTH[run.pressure]
    return [
      {
        kind: 'rect',
        x: span[0],
        y: system.mutingY - height,
        width: span[1] - span[0],
        height,
        fill: 'quiet',
      },
    ]
  })
  const rings = content.mutes
    .filter((span) => span.kind === 'let ring')
    .flatMap((ring): Primitive[] => {
      const span = clip(ring.startTicks, ring.startTicks + ring.lengthTicks)
      return span
        ? [
            text(span[0], system.mutingY, 'let ring', metrics.smallSize * 0.9, { role: 'quiet' }),
            {
              ...line(
                span[0] + metrics.smallSize * 3.6,
                system.mutingY - metrics.smallSize * 0.3,
                span[1],
                system.mutingY - metrics.smallSize * 0.3,
                metrics.hairline,
                'quiet',
              ),
              dashed: true,
            } as Primitive,
          ]
        : []
    })
  const dead = deadWords(content.strokes).flatMap(({ tick, words }): Primitive[] =>
    tick >= system.startTicks && tick < system.endTicks ? [deadText(system, metrics, tick, words)] : [],
  )
  return [...bars, ...rings, ...dead]
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
    if (!stroke.dead) return
    if (index > 0 && strokes[index - 1]!.dead) found.at(-1)!.count++
    else found.push({ tick: stroke.startTicks, words: '', count: 1 })
  })
  return found.map(({ tick, count }) => ({ tick, words: NUMBER[count] ?? `${count} dead` }))
}
