// The words of marks over the strings: "vib", "tap", "trill". Words that would touch stand in rows over each
// other, and the system is as much higher.
import { signOf } from '../articulation'
import type { Note } from '../document/schema'
import { text, type Primitive } from './primitives'
import { inset, inSystem, tickToX, type TabInput, type TabMetrics, type TabSystem } from './tab-measures'

type Span = Pick<TabSystem, 'startTicks' | 'endTicks' | 'left' | 'right'>
interface Word {
  words: string
  x: number
  level: number
}

const SIZE = 0.85
/** Mean width of a letter as a share of the size. */
const LETTER = 0.54

export const wordHeight = ({ smallSize }: TabMetrics): number => smallSize * 1.05

/** Marks that are drawn at the string itself: ways to the note, and bends. */
function isSaid(note: Note, previous: boolean): Note['articulations'] {
  return note.articulations.filter((mark) => {
    if (mark.kind === 'bend') return false
    const way = mark.kind === 'hammer-on' || mark.kind === 'pull-off' || mark.kind === 'slide'
    return !(way && previous)
  })
}

/** The words of a system, each in the lowest row where it touches no other. */
function laidWords(span: Span, { content, metrics }: TabInput): Word[] {
  const ends: number[] = []
  const struck = new Set<number>()
  return content.notes
    .toSorted((a, b) => a.startTicks - b.startTicks)
    .flatMap((note): Word[] => {
      const previous = struck.has(note.string)
      struck.add(note.string)
      const words = isSaid(note, previous)
        .flatMap((mark) => signOf(mark) ?? [])
        .join(' ')
      if (!words || !inSystem(span as TabSystem, note)) return []
      const width = words.length * metrics.smallSize * SIZE * LETTER
      const x = tickToX(span as TabSystem, note.startTicks) + inset(metrics)
      const known = ends.findIndex((end) => end < x - width / 2)
      const level = known < 0 ? ends.length : known
      ends[level] = x + width / 2 + metrics.smallSize * 0.3
      return [{ words, x, level }]
    })
}

/** How many rows the words of a system need. */
export const wordLevels = (span: Span, input: TabInput): number =>
  laidWords(span, input).reduce((most, { level }) => Math.max(most, level + 1), 0)

export function markWords(system: TabSystem, input: TabInput): Primitive[] {
  const { metrics } = input
  // Clear of the frets on the first string.
  const clear = Math.max(metrics.stringGap * 0.45, metrics.fretSize * 0.34 + metrics.smallSize * 0.3)
  const lowest = system.stringYs[0]! - clear
  return laidWords(system, input).map(({ words, x, level }) =>
    text(x, lowest - level * wordHeight(metrics), words, metrics.smallSize * SIZE, { anchor: 'middle' }),
  )
}
