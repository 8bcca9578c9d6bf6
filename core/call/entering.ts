// Where a call goes: over what stands at the cursor, after it, on top of it, into a variation, or wherever
// this is played.
import { barTicks } from '../time/meter'
import { placementTicks } from '../document/figure-content'
import type { Content, Figure, Placement, Song } from '../document/schema'
import { callReach } from './enter'
import type { ParsedCall } from './reading'

export const CALL_GOES = ['here', 'after', 'over', 'variation', 'every'] as const
export type CallGoes = (typeof CALL_GOES)[number]

/** The bars a figure needs so that a call ends inside it. */
export function lengthFor(figure: Pick<Figure, 'lengthTicks' | 'meter'>, call: ParsedCall): number {
  const bar = barTicks(figure.meter)
  return Math.max(figure.lengthTicks, Math.ceil(callReach(call) / bar) * bar)
}

/** A call on top of what stands there: nothing goes but what is on the same string at the same time. */
export function layCall(content: Content, call: ParsedCall, newId: () => string): Content {
  const named = <T extends { id: string }>(list: readonly T[]): T[] =>
    list.map((one) => ({ ...one, id: newId() }))
  const byTime = <T extends { startTicks: number }>(list: T[]): T[] =>
    list.sort((a, b) => a.startTicks - b.startTicks)
  const { content: said } = call
  const struck = new Set(said.strokes.map((stroke) => stroke.startTicks))
  const gripped = new Set(said.grips.map((span) => span.startTicks))
  const sounds = (note: { string: number; startTicks: number }): string => `${note.string}@${note.startTicks}`
  const taken = new Set(said.notes.map(sounds))
  return {
    notes: byTime([...content.notes.filter((note) => !taken.has(sounds(note))), ...named(said.notes)]),
    strokes: byTime([
      ...content.strokes.filter((stroke) => !struck.has(stroke.startTicks)),
      ...named(said.strokes),
    ]),
    grips: byTime([...content.grips.filter((span) => !gripped.has(span.startTicks)), ...named(said.grips)]),
    mutes: byTime([...content.mutes, ...named(said.mutes)]),
  }
}

/** A figure with the place in it that sounds at a place of another. */
export interface SamePlace {
  figureId: string
  tick: number
}

const figureAt = (song: Song, placement: Placement, tick: number): SamePlace | undefined => {
  if (placement.kind !== 'figure') return undefined
  const figure = song.figures[placement.figureId]
  if (!figure) return undefined
  const within = tick - placement.startTicks
  if (within < 0 || within >= placementTicks(song, placement)) return undefined
  const pass = Math.floor(within / figure.lengthTicks) + 1
  const other = placement.passFigures?.find((one) => one.pass === pass)
  return { figureId: other?.figureId ?? placement.figureId, tick: within % figure.lengthTicks }
}

/**
 * The figures that sound where this one does in every section of the kind it stands in: what a part plays at
 * that place of each verse. The figure itself first; each once.
 */
export function everywhere(song: Song, figure: Figure, tick: number): SamePlace[] {
  const own = Object.values(song.placements).find(
    (placement) => placement.kind === 'figure' && placement.figureId === figure.id,
  )
  const here: SamePlace = { figureId: figure.id, tick }
  const section = own && song.sections[own.sectionId]
  if (!own || !section) return [here]
  const places = Object.values(song.placements)
    .filter(
      (placement) =>
        placement.partId === figure.partId && song.sections[placement.sectionId]?.kind === section.kind,
    )
    .flatMap((placement) => figureAt(song, placement, own.startTicks + tick) ?? [])
  const found = new Map([here, ...places].toReversed().map((place) => [place.figureId, place]))
  return [...found.values()].toReversed()
}
