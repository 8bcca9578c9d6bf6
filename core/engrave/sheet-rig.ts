// The box that says what a part is played through, and in which sections through something else.
import { orderedSections } from '../document/form'
import type { Part, Song } from '../document/schema'
import { rigLines } from '../timeline/rig'
import { line, text, type Primitive } from './primitives'
import { wrap, type Block } from './sheet-blocks'

const SIZE = 2.8
const LINE = 3.8
const PADDING = 2.5
const INDENT = 26
const HAIRLINE = 0.15

interface Entry {
  head: string
  lines: string[]
}

/** Sections with the same words together: "Chorus 1, Chorus 2". */
function entriesOf(song: Song, part: Part, sectionId: string | undefined): Entry[] {
  const entries: Entry[] = []
  const usual = part.rig ? rigLines(song, part, undefined) : []
  const own = part.sectionRigs?.some((one) => one.sectionId === sectionId)
  if (usual.length && !own) entries.push({ head: 'Rig', lines: usual })
  for (const { id, name } of orderedSections(song)) {
    if (sectionId !== undefined && id !== sectionId) continue
    if (!part.sectionRigs?.some((one) => one.sectionId === id)) continue
    const lines = rigLines(song, part, id)
    const same = entries.find((entry) => entry.head !== 'Rig' && entry.lines.join() === lines.join())
    if (same) same.head += `, ${name}`
    else entries.push({ head: name, lines: lines.length ? lines : ['nothing'] })
  }
  return entries
}

/** Nothing where no rig is told. */
export function rigBlocks(song: Song, part: Part, inner: number, sectionId?: string): Block[] {
  const entries = entriesOf(song, part, sectionId)
  if (entries.length === 0) return []
  const shapes: Primitive[] = []
  let y = PADDING
  for (const { head, lines } of entries) {
    const heads = wrap(head, INDENT - 3, SIZE)
    const words = lines.flatMap((one) => wrap(one, inner - INDENT - 2 * PADDING, SIZE))
    for (const [row, value] of heads.entries())
      shapes.push(text(PADDING, y + LINE * row + SIZE, value, SIZE, { bold: true }))
    for (const [row, value] of words.entries())
      shapes.push(text(PADDING + INDENT, y + LINE * row + SIZE, value, SIZE))
    y += LINE * Math.max(heads.length, words.length) + 0.6
  }
  const height = y + PADDING - 1
  const corners = [0, height].map((at) => line(0, at, inner, at, HAIRLINE, 'quiet'))
  const sides = [0, inner].map((at) => line(at, 0, at, height, HAIRLINE, 'quiet'))
  return [{ height: height + 3, keepWithNext: true, primitives: [...corners, ...sides, ...shapes] }]
}
