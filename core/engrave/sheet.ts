// The lesson sheet: blocks in millimetres laid on pages. Title and tunings, the form, then each part's
// grips and figures, each once.
import { orderedParts } from '../document/form'
import type { Song } from '../document/schema'
import { line, moved, text, type Primitive } from './primitives'
import { PAPERS, type SheetOptions, type SheetPage } from './sheet-blocks'
import { formBlocks, titleBlock } from './sheet-form'
import { noteBlocks } from './sheet-notes'
import { partBlocks } from './sheet-parts'

const MARGIN = 14
/** Pages of the sheet. Every chosen part's figures appear once, in the order they are first played. */
export function engraveSheet(
  song: Song,
  options: SheetOptions,
  report: (fraction: number) => void = () => undefined,
): SheetPage[] {
  const { width, height } = PAPERS[options.paper]
  const inner = width - 2 * MARGIN
  const parts = orderedParts(song).filter((part) => options.partIds.includes(part.id))
  const blocks = [
    titleBlock(song, parts, options, inner),
    ...formBlocks(song, parts, inner),
    ...parts.flatMap((part, index) => {
      report(index / parts.length)
      return partBlocks(song, part, options, inner)
    }),
    ...noteBlocks(song, parts, inner),
  ]
  const pages: Primitive[][] = [[]]
  let y = MARGIN
  blocks.forEach((block, index) => {
    const needed = block.height + (block.keepWithNext ? (blocks[index + 1]?.height ?? 0) : 0)
    if (y > MARGIN && y + needed > height - MARGIN - 8) {
      pages.push([])
      y = MARGIN
    }
    pages.at(-1)!.push(...moved(block.primitives, MARGIN, y))
    y += block.height
  })
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
