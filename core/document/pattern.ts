// Hand patterns: a movement of the striking hand that is learned once and tiled over whatever grips are
// held. Strings are said relative to the grip ("the bass string, then the others"), so the same pattern
// follows the root from grip to grip.
import { same } from '../same'
import type { Content, Grip, GripSpan, Pattern, PatternStroke, Stroke } from './schema'

const gripUnder = (grips: readonly GripSpan[], tick: number): Grip | undefined =>
  grips.findLast((span) => span.startTicks <= tick && tick < span.startTicks + span.lengthTicks)?.grip

/** Sounding strings of a grip, the lowest in pitch first (string numbers fall). */
export const soundingStrings = (grip: Grip): number[] =>
  grip.strings.flatMap((string, index) => (string.fret === null ? [] : [index + 1])).reverse()

/**
 * The strings a pattern's stroke takes on a grip; undefined = the whole grip. Empty when there is nothing
 * to strike.
 */
export function stringsOn(on: PatternStroke['on'], grip: Grip | undefined): number[] | undefined {
  if (on === 'all') return undefined
  const sounding = grip ? soundingStrings(grip) : []
  if (sounding.length === 0) return []
  if (on === 'bass') return [sounding[0]!]
  if (on === 'upper') return sounding.length > 1 ? sounding.slice(1).reverse() : sounding
  // A string that is muted in this grip gives way to the nearest that sounds.
  return [
    ...new Set(
      on.map((string) =>
        sounding.reduce((best, next) => (Math.abs(next - string) < Math.abs(best - string) ? next : best)),
      ),
    ),
  ].sort((a, b) => a - b)
}

/**
 * The strokes of a pattern laid over grips, round after round, up to a length. Ids are made of the place,
 * so they stay the same.
 */
export function tilePattern(
  pattern: Pick<Pattern, 'lengthTicks' | 'strokes'>,
  grips: readonly GripSpan[],
  lengthTicks: number,
): Stroke[] {
  const strokes: Stroke[] = []
  for (let round = 0; round * pattern.lengthTicks < lengthTicks; round++) {
    for (const { on, ...stroke } of pattern.strokes) {
      const startTicks = round * pattern.lengthTicks + stroke.startTicks
      if (startTicks >= lengthTicks) continue
      const strings = stringsOn(on, gripUnder(grips, startTicks))
      if (strings?.length === 0) continue
      strokes.push({
        ...stroke,
        id: `t${startTicks}`,
        startTicks,
        lengthTicks: Math.min(stroke.lengthTicks, lengthTicks - startTicks),
        ...(strings ? { strings } : {}),
      })
    }
  }
  return strokes
}

/** What a charted stroke does relative to the grip it is played on: the opposite of `stringsOn`. */
function strokeOn(stroke: Stroke, grip: Grip | undefined): PatternStroke['on'] {
  if (!stroke.strings) return 'all'
  const sounding = grip ? soundingStrings(grip) : []
  const struck = [...stroke.strings].sort((a, b) => b - a)
  if (struck.length === 1 && struck[0] === sounding[0]) return 'bass'
  if (struck.length > 1 && struck.join() === sounding.slice(1).join()) return 'upper'
  return [...stroke.strings].sort((a, b) => a - b)
}

/** The strokes of [from, to) of a content as a pattern's. */
export function patternStrokes(content: Content, span: { from: number; to: number }): PatternStroke[] {
  return content.strokes
    .filter((stroke) => stroke.startTicks >= span.from && stroke.startTicks < span.to)
    .map(({ id: _id, strings: _strings, ...stroke }) => ({
      ...stroke,
      startTicks: stroke.startTicks - span.from,
      lengthTicks: Math.min(stroke.lengthTicks, span.to - stroke.startTicks),
      on: strokeOn(
        { ...stroke, id: '', ...(_strings ? { strings: _strings } : {}) },
        gripUnder(content.grips, stroke.startTicks),
      ),
    }))
}

/**
 * The shortest run of whole bars that, repeated, gives all strokes of a content: what the pattern of a
 * figure is. In bars.
 */
export function patternPeriod(content: Content, lengthTicks: number, barTicks: number): number {
  const bars = Math.max(1, Math.round(lengthTicks / barTicks))
  const strokes = Array.from({ length: bars }, (_, bar) =>
    patternStrokes(content, { from: bar * barTicks, to: (bar + 1) * barTicks }),
  )
  const repeats = (period: number): boolean =>
    bars % period === 0 && strokes.every((own, bar) => same(own, strokes[bar % period]))
  return strokes.findIndex((_, index) => repeats(index + 1)) + 1
}
