import type { Figure, Song } from '#core/document/schema'

/** "Bass: Root eighths": a figure among those of other parts. */
export const figureTitle = (song: Song, figure: Figure): string =>
  `${song.parts[figure.partId]?.name}: ${figure.name}`
