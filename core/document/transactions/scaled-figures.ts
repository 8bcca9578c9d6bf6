// When the pulse is doubled or halved, what is charted is written in twice or half the note values: it sounds
// as it did, over twice or half as many bars.
import { figureContent } from '../figure-content'
import { storeContent } from '../figure-layers'
import type { Content, Figure, Pattern, Song } from '../schema'

export type Scaling = 'double' | 'halve'

interface Timed {
  startTicks: number
  lengthTicks: number
}

/** Every figure and pattern in the other note values, with the placements as many passes as before. */
export function withFiguresScaled(song: Song, scaling: Scaling): Song {
  const factor = scaling === 'double' ? 2 : 0.5
  const ticks = (value: number): number => Math.max(1, Math.round(value * factor))
  const timed = <T extends Timed>(event: T): T => ({
    ...event,
    startTicks: Math.round(event.startTicks * factor),
    lengthTicks: ticks(event.lengthTicks),
  })
  const content = (one: Content): Content => ({
    grips: one.grips.map(timed),
    strokes: one.strokes.map(timed),
    notes: one.notes.map(timed),
    mutes: one.mutes.map(timed),
  })
  const pattern = (one: Pattern): Pattern => ({
    ...one,
    lengthTicks: ticks(one.lengthTicks),
    strokes: one.strokes.map(timed),
  })
  const follows = (line: NonNullable<Figure['derivedFrom']>): typeof line => ({
    ...line,
    exceptions: line.exceptions.map((one) => ({ ...one, startTicks: Math.round(one.startTicks * factor) })),
  })
  const scaled = (figure: Figure): Figure => ({
    ...figure,
    lengthTicks: ticks(figure.lengthTicks),
    content: content(figureContent(song, figure)),
    ...(figure.eased ? { eased: content(figure.eased) } : {}),
    ...(figure.derivedFrom ? { derivedFrom: follows(figure.derivedFrom) } : {}),
  })
  const whole: Song = {
    ...song,
    patterns: mapped(song.patterns, pattern),
    figures: mapped(song.figures, scaled),
  }
  return { ...whole, figures: storedAgain(song, whole) }
}

const mapped = <T>(table: Record<string, T>, change: (entry: T) => T): Record<string, T> =>
  Object.fromEntries(Object.entries(table).map(([id, entry]) => [id, change(entry)]))

/** Variations and patterned figures as differences again; what they stand on comes first. */
function storedAgain(before: Song, whole: Song): Song['figures'] {
  const figures: Song['figures'] = {}
  const store = (id: string): void => {
    if (figures[id]) return
    const figure = whole.figures[id]!
    figures[id] = figure
    const base = figure.variationOf?.figureId
    if (base && before.figures[base]) store(base)
    figures[id] = {
      ...figure,
      ...storeContent({ ...whole, figures: { ...whole.figures, ...figures } }, figure, figure.content),
    }
  }
  for (const id of Object.keys(whole.figures)) store(id)
  return figures
}
