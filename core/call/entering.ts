// Where a call goes: over what stands at the cursor, after it, on top of it, into a variation, or wherever
// this is played.
import { barTicks } from '../time/meter'
import type { Content, Figure, Song } from '../document/schema'
import { firstPlayOf, playsOfPart, timelineOf, type Play } from '../timeline/timeline'
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

/**
 * The figures that sound where this one does in every section of the kind it stands in: what a part plays at
 * that place of each verse. The figure itself first; each once.
 */
export function everywhere(song: Song, figure: Figure, tick: number): SamePlace[] {
  const here: SamePlace = { figureId: figure.id, tick }
  const starts = new Map(timelineOf(song).places.map(({ section, startTicks }) => [section.id, startTicks]))
  const own = firstPlayOf(song, figure.id)
  const section = own && song.sections[own.placement.sectionId]
  if (!own || !section) return [here]
  const inSection = (play: Play): number => play.startTicks - (starts.get(play.placement.sectionId) ?? 0)
  const place = inSection(own) + tick
  const found = new Map<string, SamePlace>([[figure.id, here]])
  for (const play of playsOfPart(song, figure.partId)) {
    const within = place - inSection(play)
    const isHere = within >= 0 && within < play.lengthTicks
    if (!play.figure || !isHere || song.sections[play.placement.sectionId]?.kind !== section.kind) continue
    if (!found.has(play.figure.id)) found.set(play.figure.id, { figureId: play.figure.id, tick: within })
  }
  return [...found.values()]
}
