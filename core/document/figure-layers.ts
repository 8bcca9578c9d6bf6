// Writing a figure that stands on others: what was edited is the whole content as heard; what is stored is
// only what differs from the base it varies and from the hand pattern it follows. `figureContent` of the
// result is the edited content again.
import { sameInAnyOrder } from '../same'
import { barTicks, type Meter } from '../time/meter'
import { tilePattern } from './pattern'
import { figureContent, joinBars } from './figure-content'
import type { Content, Figure, Song } from './schema'

type Layer = keyof Content
const LAYERS: Layer[] = ['grips', 'strokes', 'notes', 'mutes']

const withoutId = ({ id: _id, ...event }: { id: string; startTicks: number }): object => event

/** Bars (by where events start) in which two contents differ, ids aside. */
export function differingBars(
  a: Content,
  b: Content,
  meter: Meter,
  layers: readonly Layer[] = LAYERS,
): number[] {
  const bar = barTicks(meter)
  const byBar = (content: Content): Map<number, { id: string; startTicks: number }[]> => {
    const bars = new Map<number, { id: string; startTicks: number }[]>()
    for (const layer of layers)
      for (const event of content[layer]) {
        const at = Math.floor(event.startTicks / bar)
        bars.set(at, [...(bars.get(at) ?? []), event])
      }
    return bars
  }
  const [left, right] = [byBar(a), byBar(b)]
  return [...new Set([...left.keys(), ...right.keys()])]
    .filter(
      (at) => !sameInAnyOrder((left.get(at) ?? []).map(withoutId), (right.get(at) ?? []).map(withoutId)),
    )
    .sort((x, y) => x - y)
}

/** What to set on a figure so that it plays `next`. */
export function storeContent(
  song: Song,
  figure: Figure,
  next: Content,
): Partial<Pick<Figure, 'content' | 'variationOf' | 'pattern'>> {
  const set: Partial<Pick<Figure, 'content' | 'variationOf' | 'pattern'>> = {}
  let content = next
  const pattern = figure.pattern && song.patterns[figure.pattern.patternId]
  if (pattern) {
    const tiled = { ...next, strokes: tilePattern(pattern, next.grips, figure.lengthTicks) }
    const ownBars = differingBars(tiled, next, figure.meter, ['strokes'])
    const own = new Set(ownBars)
    set.pattern = { patternId: pattern.id, ownBars }
    content = {
      ...next,
      strokes: next.strokes.filter((stroke) =>
        own.has(Math.floor(stroke.startTicks / barTicks(figure.meter))),
      ),
    }
  }
  const base = figure.variationOf && song.figures[figure.variationOf.figureId]
  if (base && base.id !== figure.id) {
    const inherited = figureContent(song, base)
    const replacedBars = differingBars(inherited, next, figure.meter).filter(
      (bar) => bar * barTicks(figure.meter) < figure.lengthTicks,
    )
    set.variationOf = { figureId: base.id, replacedBars }
    content = joinBars(
      figure,
      { grips: [], strokes: [], notes: [], mutes: [] },
      content,
      new Set(replacedBars),
    )
  }
  return { ...set, content }
}

/** A variation of a figure that at first plays the same; its licks are found again there, not named twice. */
export const variationOf = (figure: Figure, facts: { id: string; name: string }): Figure => {
  const { eased: _eased, derivedFrom: _derived, pattern: _pattern, licks: _licks, ...rest } = figure
  return {
    ...rest,
    ...facts,
    content: { grips: [], strokes: [], notes: [], mutes: [] },
    variationOf: { figureId: figure.id, replacedBars: [] },
  }
}
