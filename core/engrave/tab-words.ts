// The words of marks over the strings: "vib", "tap", "trill". Words that would touch stand in rows over each
// other, and the system is as much higher.
import { signOf } from '../marks'
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
function isSaid(note: Note, previous: boolean): Note['marks'] {
  return note.marks.filter((mark) => {
    if (mark.kind === 'bend') return false
    const way = mark.kind === 'hammer-on' || mark.kind === 'pull-off' || mark.kind === 'slide'
    return !(way && previous)
  })
}

/** What is drawn over the first string itself: arcs to a note there, bends of it. */
function overFirstString(notes: readonly Note[], at: (tick: number) => number, metrics: TabMetrics): Reach[] {
  const own = notes.filter(({ string }) => string === 1)
  return own.flatMap((note, index): Reach[] => {
    const before = own[index - 1]
    const x = at(note.startTicks)
    const bent = note.marks.some(({ kind }) => kind === 'bend')
    return [
      ...(before && isWay(note) ? [{ from: at(before.startTicks), to: x }] : []),
      ...(bent ? [{ from: x, to: x + metrics.fretSize * 2.6 }] : []),
    ]
  })
}
interface Reach {
  from: number
  to: number
}
const isWay = (note: Note): boolean =>
  note.marks.some(({ kind }) => kind === 'hammer-on' || kind === 'pull-off' || kind === 'slide')

/** The words of a system, each in the lowest row where it touches no other. */
function laidWords(span: Span, { content, metrics }: TabInput): Word[] {
  const ends: number[] = []
  const struck = new Set<number>()
  const sorted = content.notes.toSorted((a, b) => a.startTicks - b.startTicks)
  const at = (tick: number): number => tickToX(span as TabSystem, tick) + inset(metrics)
  const drawn = overFirstString(sorted, at, metrics)
  return sorted.flatMap((note): Word[] => {
    const previous = struck.has(note.string)
    struck.add(note.string)
    const words = isSaid(note, previous)
      .flatMap((mark) => signOf(mark) ?? [])
      .join(' ')
    if (!words || !inSystem(span as TabSystem, note)) return []
    const width = words.length * metrics.smallSize * SIZE * LETTER
    const x = tickToX(span as TabSystem, note.startTicks) + inset(metrics)
    const [left, right] = [x - width / 2, x + width / 2]
    const covered = drawn.some(({ from, to }) => from < right && to > left)
    const known = ends.findIndex((end, row) => end < left && !(covered && row === 0))
    // Nothing stands in the lowest row where something is drawn.
    const level = known < 0 ? Math.max(ends.length, covered ? 1 : 0) : known
    if (level > 0) ends[0] ??= Number.NEGATIVE_INFINITY
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
