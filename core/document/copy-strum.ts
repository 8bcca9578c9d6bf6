// The strokes of one bar given to others; what is held there stays.
import type { Content, Stroke } from './schema'

/** Strokes of bar `from` (0 the first) in the bars `to`, in place of what was struck there. */
export function copyStrum(
  content: Content,
  bars: { from: number; to: readonly number[]; barTicks: number; lengthTicks: number },
  newId: () => string,
): Content {
  const barOf = (stroke: Stroke): number => Math.floor(stroke.startTicks / bars.barTicks)
  const own = content.strokes.filter((stroke) => barOf(stroke) === bars.from)
  const targets = new Set(bars.to.filter((bar) => bar !== bars.from))
  const kept = content.strokes.filter((stroke) => !targets.has(barOf(stroke)))
  const copied = [...targets].flatMap((bar) =>
    own.map((stroke) => ({
      ...stroke,
      id: newId(),
      startTicks: stroke.startTicks + (bar - bars.from) * bars.barTicks,
    })),
  )
  const inside = copied.filter(({ startTicks }) => startTicks < bars.lengthTicks)
  return { ...content, strokes: [...kept, ...inside].sort((a, b) => a.startTicks - b.startTicks) }
}
