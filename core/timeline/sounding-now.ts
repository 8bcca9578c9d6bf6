// What a part plays at a moment of the song, and what of a figure is struck there and next.
import type { Content, Note, Song } from '../document/schema'
import { playsOfPart, type Play } from './timeline'

/** The pass that sounds at a tick of the song; of several (a pickup over the end of another) the later. */
export const playAt = (song: Song, partId: string, tick: number): Play | undefined =>
  playsOfPart(song, partId).findLast(
    (play) => play.startTicks <= tick && tick < play.startTicks + play.lengthTicks,
  )

/** The pass of one figure that sounds at a tick, else its next one, else its first. */
export function playOfFigure(song: Song, partId: string, figureId: string, tick: number): Play | undefined {
  const plays = playsOfPart(song, partId).filter((play) => play.figure?.id === figureId)
  return (
    plays.findLast((play) => play.startTicks <= tick && tick < play.startTicks + play.lengthTicks) ??
    plays.find((play) => play.startTicks >= tick) ??
    plays[0]
  )
}

export interface Fretted {
  now: Note[]
  next: Note[]
}
/**
 * The notes that sound at a tick of a figure, and those struck next; after the last of it the first
 * again.
 */
export function frettedAt(content: Content, tick: number): Fretted {
  const now = content.notes.filter(
    (note) => note.startTicks <= tick && tick < note.startTicks + note.lengthTicks,
  )
  const later = content.notes.map((note) => note.startTicks).filter((start) => start > tick)
  const first = content.notes.map((note) => note.startTicks)
  const start = Math.min(...(later.length ? later : first))
  return { now, next: content.notes.filter((note) => note.startTicks === start) }
}

/**
 * The ticks at which something of a figure begins or ends: between two of them nothing on the neck
 * changes.
 */
export function changesOf(content: Content): number[] {
  const ticks = [...content.notes, ...content.grips].flatMap((event) => [
    event.startTicks,
    event.startTicks + event.lengthTicks,
  ])
  return [...new Set([0, ...ticks])].sort((a, b) => a - b)
}
