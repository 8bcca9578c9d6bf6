// Where a sounding note is written: from what is heard back to the words that entered it, by ids alone.
import { figureContent } from '../document/figure-content'
import type { Figure, GripSpan, Note, Placement, Song, Stroke } from '../document/schema'

/** The entry of a figure's content that a note comes from. */
export interface NoteOrigin {
  /** A grip that nothing strikes is struck once and held: its notes come from the grip itself. */
  layer: 'notes' | 'strokes' | 'grips'
  id: string
  string: number
  /** As it is stopped there, moved with its placement; undefined where only damped strings are struck. */
  fret: number | undefined
}

/** The same with its place in the song. */
export interface SongOrigin extends NoteOrigin {
  figureId: string
  /** Within the figure, as written: before any swing. */
  figureTicks: number
  form: 'exact' | 'eased'
  /** Undefined for a figure heard by itself. */
  placementId?: string
  /** From 1. */
  pass?: number
}

export interface Written {
  figure: Figure
  placement: Placement | undefined
  note: Note | undefined
  stroke: Stroke | undefined
  grip: GripSpan | undefined
}

/** What stands written where a note comes from; undefined when the figure is gone or plays it no more. */
export function writtenAt(song: Song, origin: SongOrigin): Written | undefined {
  const figure = song.figures[origin.figureId]
  if (!figure) return undefined
  const content = figureContent(song, figure, origin.form)
  const inLayer = <T extends { id: string }>(
    list: readonly T[],
    layer: NoteOrigin['layer'],
  ): T | undefined => (origin.layer === layer ? list.find(({ id }) => id === origin.id) : undefined)
  const [note, stroke, grip] = [
    inLayer(content.notes, 'notes'),
    inLayer(content.strokes, 'strokes'),
    inLayer(content.grips, 'grips'),
  ]
  if (!note && !stroke && !grip) return undefined
  const placement = origin.placementId === undefined ? undefined : song.placements[origin.placementId]
  return { figure, placement, note, stroke, grip }
}
