// Blocks laid on pages: what belongs together stays together, a heading is said again where its blocks go on,
// and the last page is never nearly empty.
import { moved, type Primitive } from './primitives'
import type { Block } from './sheet-blocks'

export interface PageRoom {
  /** mm from the left and the upper edge. */
  margin: number
  /** Of blocks on one page. */
  height: number
}

/** A last page is at least so full. */
const LEAST_FULL = 0.3
/** Shares of the air under blocks that are tried, to bring a nearly empty last page onto the one before. */
const AIRS = [0.75, 0.5, 0.25]

/** Blocks on one page, with what stands over the first. */
interface Laid {
  heads: Block[]
  blocks: Block[]
  height: number
}

const heightOf = ({ height, air = 0 }: Block, share: number): number => height - air * (1 - share)

/** The height of a block with all that must not be parted from it. */
function togetherHeight(blocks: readonly Block[], index: number, share: number): number {
  const block = blocks[index]
  if (!block) return 0
  const next = block.keepWithNext ? togetherHeight(blocks, index + 1, share) : 0
  return heightOf(block, share) + next
}

/** Blocks on as few pages as they need, none over `most` mm of it. */
function laidOut(blocks: readonly Block[], most: number, share: number): Laid[] {
  const pages: Laid[] = [{ heads: [], blocks: [], height: 0 }]
  blocks.forEach((block, index) => {
    let page = pages.at(-1)
    if (!page || (page.blocks.length && page.height + togetherHeight(blocks, index, share) > most)) {
      const heads = block.continues ? [block.continues] : []
      page = { heads, blocks: [], height: heads.reduce((sum, { height }) => sum + height, 0) }
      pages.push(page)
    }
    page.blocks.push(block)
    page.height += heightOf(block, share)
  })
  return pages
}

const nearlyEmpty = (pages: readonly Laid[], height: number): boolean =>
  pages.length > 1 && (pages.at(-1)?.height ?? 0) < LEAST_FULL * height

/**
 * The pages of a sheet. A nearly empty last page is brought onto the one before by less air; where there is
 * not enough, the pages are filled less, so that the last has more.
 */
export function pagesOf(blocks: readonly Block[], { margin, height }: PageRoom): Primitive[][] {
  const usual = laidOut(blocks, height, 1)
  if (!nearlyEmpty(usual, height)) return drawn(usual, margin, 1)
  for (const share of AIRS) {
    const closer = laidOut(blocks, height, share)
    if (closer.length < usual.length && !nearlyEmpty(closer, height)) return drawn(closer, margin, share)
  }
  for (let filled = 0.95; filled > 0.6; filled -= 0.05) {
    const wider = laidOut(blocks, height * filled, 1)
    if (wider.length === usual.length && !nearlyEmpty(wider, height)) return drawn(wider, margin, 1)
  }
  return drawn(usual, margin, 1)
}

function drawn(pages: readonly Laid[], margin: number, share: number): Primitive[][] {
  return pages.map(({ heads, blocks }) => {
    let y = margin
    return [...heads, ...blocks].flatMap((block) => {
      const shapes = moved(block.primitives, margin, y)
      y += heightOf(block, share)
      return shapes
    })
  })
}
