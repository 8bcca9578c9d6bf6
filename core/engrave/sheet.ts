// The lesson sheet: blocks in millimetres laid on pages. Title and tunings, the form, then each part's
// grips and figures, each once.
import { orderedParts } from '../document/form'
import type { Song } from '../document/schema'
import { line, text, type Primitive } from './primitives'
import { PAPERS, type SheetOptions, type SheetPage } from './sheet-blocks'
import { chordBlocks } from './sheet-chords'
import { formBlocks, titleBlock } from './sheet-form'
import { noteBlocks } from './sheet-notes'
import { pagesOf } from './sheet-pages'
import { partBlocks } from './sheet-parts'
import { scaleBlocks } from './sheet-scales'

const MARGIN = 14
/** Kept free for the foot of the page. */
const FOOT = 8

/** Pages of the sheet. Every chosen part's figures appear once, in the order they are first played. */
export function engraveSheet(
  song: Song,
  options: SheetOptions,
  report: (fraction: number) => void = () => undefined,
): SheetPage[] {
  const { width, height } = PAPERS[options.paper]
  const inner = width - 2 * MARGIN
  const parts = orderedParts(song).filter((part) => options.partIds.includes(part.id))
  const room = { inner, tallest: height - 2 * MARGIN - FOOT }
  // One figure is handed out by itself: its part’s name, and it.
  const about =
    options.figureId || options.only === 'scales'
      ? []
      : [...formBlocks(song, parts, inner, options.sectionId), ...chordBlocks(song, options, inner)]
  const blocks = [
    titleBlock(song, parts, options, inner),
    ...about,
    ...parts.flatMap((part, index) => {
      report(index / parts.length)
      return options.only === 'scales'
        ? scaleBlocks(song, part, options, inner)
        : partBlocks(song, part, options, room)
    }),
    ...(options.figureId || options.only === 'scales' ? [] : noteBlocks(song, parts, inner, options)),
  ]
  const pages = pagesOf(blocks, { margin: MARGIN, height: room.tallest })
  return pages.map((primitives, index) => ({
    width,
    height,
    primitives: [...primitives, ...footer(song, { width, height, number: index + 1, of: pages.length })],
  }))
}

function footer(
  song: Song,
  page: { width: number; height: number; number: number; of: number },
): Primitive[] {
  const y = page.height - 9
  return [
    line(MARGIN, y - 4, page.width - MARGIN, y - 4, 0.15, 'rule'),
    text(
      MARGIN,
      y,
      'Transcriptions can be under copyright: check the licence and local law before handing this on. ' +
        'Stop at pain; ease the grip.',
      2.5,
      { role: 'quiet' },
    ),
    text(page.width - MARGIN, y, `${song.title} · ${page.number} of ${page.of}`, 2.5, {
      role: 'quiet',
      anchor: 'end',
    }),
  ]
}
