// What a figure plays, through the figures it varies and the hand pattern it follows.
import { barTicks } from '../time/meter'
import { tilePattern } from './pattern'
import type { Content, Figure, Pattern, Placement, Song } from './schema'

/** Length of a placement in ticks: all passes of its figure, or the rest. 0 when the figure is missing. */
export function placementTicks(song: Song, placement: Placement): number {
  return placement.kind === 'rests'
    ? placement.lengthTicks
    : (song.figures[placement.figureId]?.lengthTicks ?? 0) * placement.passes
}

/** Whether nothing is written in a figure: then it is a name, and nothing is charted. */
export function isEmptyFigure(song: Song, figure: Figure, form: 'exact' | 'eased' = 'exact'): boolean {
  const { notes, strokes, grips } = figureContent(song, figure, form)
  return notes.length + strokes.length + grips.length === 0
}

interface Played {
  base: Content | undefined
  pattern: Pattern | undefined
  content: Content
}
const played = new WeakMap<Figure, Played>()

/**
 * What a figure plays: its own bars over those of the figure it varies, its strokes from its hand pattern
 * except in bars of its own. The same object as long as neither figure, base nor pattern is another.
 */
export function figureContent(song: Song, figure: Figure, form: 'exact' | 'eased' = 'exact'): Content {
  if (form === 'eased' && figure.eased) return figure.eased
  const varied = figure.variationOf && song.figures[figure.variationOf.figureId]
  const base = varied && varied.id !== figure.id ? figureContent(song, varied) : undefined
  const pattern = figure.pattern && song.patterns[figure.pattern.patternId]
  if (!base && !pattern) return figure.content
  const known = played.get(figure)
  if (known && known.base === base && known.pattern === pattern) return known.content
  const inherited = base
    ? joinBars(figure, base, figure.content, new Set(figure.variationOf!.replacedBars))
    : figure.content
  const content = pattern ? withPattern(pattern, figure, inherited) : inherited
  played.set(figure, { base, pattern, content })
  return content
}

/** `theirs`, with the given bars (by where events start) taken from `own`. */
export function joinBars(
  figure: Pick<Figure, 'meter' | 'lengthTicks'>,
  theirs: Content,
  own: Content,
  replaced: ReadonlySet<number>,
): Content {
  const bar = barTicks(figure.meter)
  const isOwn = (event: { startTicks: number }): boolean => replaced.has(Math.floor(event.startTicks / bar))
  const join = <T extends { startTicks: number }>(a: T[], b: T[]): T[] =>
    [...a.filter((event) => event.startTicks < figure.lengthTicks && !isOwn(event)), ...b.filter(isOwn)].sort(
      (x, y) => x.startTicks - y.startTicks,
    )
  return {
    grips: join(theirs.grips, own.grips),
    strokes: join(theirs.strokes, own.strokes),
    notes: join(theirs.notes, own.notes),
    mutes: join(theirs.mutes, own.mutes),
  }
}

function withPattern(pattern: Pattern, figure: Figure, content: Content): Content {
  const bar = barTicks(figure.meter)
  const own = new Set(figure.pattern!.ownBars)
  const isOwn = (stroke: { startTicks: number }): boolean => own.has(Math.floor(stroke.startTicks / bar))
  const tiled = tilePattern(pattern, content.grips, figure.lengthTicks)
  return {
    ...content,
    strokes: [...tiled.filter((stroke) => !isOwn(stroke)), ...content.strokes.filter(isOwn)].sort(
      (a, b) => a.startTicks - b.startTicks,
    ),
  }
}
