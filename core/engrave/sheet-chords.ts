// The chords of the song on the sheet: section by section, four bars a line; one that is played as another
// is said so.
import { same } from '../same'
import { barStarts, sectionPlaces } from '../document/form'
import { romanNumeral } from '../music/roman'
import { pretty, transposeKey } from '../music/pitch'
import { transposeSymbol } from '../music/chord-name'
import { bandShift } from '../document/part-pitch'
import type { Section, Song } from '../document/schema'
import { line, text, type Primitive } from './primitives'
import type { Block, SheetOptions } from './sheet-blocks'

const BARS_A_LINE = 4
const NAMES = 37
const LINE = 5.4
const SIZE = 3.4
/** Mean width of a letter as a share of the size. */
const LETTER = 0.6

/** A chord that begins this late in a bar is the next bar’s, pushed. */
const PUSHED = 7 / 8

/** The chords of each bar, in order: those that begin in it and the one that still sounds at its start. */
function barsOf({ harmony, bars }: Section): string[][] {
  const starts = barStarts({ bars } as Section)
  return bars.map((_, index) => {
    const [from, to] = [starts[index]!, starts[index + 1]!]
    const late = from + (to - from) * PUSHED
    return harmony
      .filter(({ startTicks, lengthTicks }) => startTicks < late && startTicks + lengthTicks > from)
      .filter((change, at, all) => all[at - 1]?.symbol !== change.symbol)
      .map(({ symbol }) => symbol)
  })
}

/** The chords of every section that has any; nothing where none is known. */
export function chordBlocks(song: Song, options: SheetOptions, inner: number): Block[] {
  const shift = options.naming === 'shape' ? (bandShift(song) ?? 0) : 0
  const key = transposeKey(song.key, shift)
  const named = (symbol: string): string => {
    const shown = shift ? transposeSymbol(symbol, shift, key) : symbol
    const numeral = options.numerals ? romanNumeral(shown, key) : undefined
    return numeral ? `${pretty(shown)} ${numeral}` : pretty(shown)
  }
  const seen: { bars: unknown; name: string }[] = []
  const sections = sectionPlaces(song)
    .map(({ section }) => section)
    .filter(({ id, harmony }) => harmony.length > 0 && (!options.sectionId || id === options.sectionId))
  const blocks = sections.map((section): Block => {
    const bars = barsOf(section)
    const known = seen.find((before) => same(before.bars, bars))
    if (!known) seen.push({ bars, name: section.name })
    return known ? sameAs(section.name, known.name) : chordLines(section.name, bars, { inner, named })
  })
  if (!blocks.length) return []
  const head: Block = {
    height: 8,
    keepWithNext: true,
    primitives: [text(0, 4.5, 'Chords', 5, { face: 'heading' }), line(0, 6.5, inner, 6.5, 0.25)],
  }
  return [head, ...blocks.map((block) => ({ ...block, continues: head })), { height: 4, primitives: [] }]
}

const sameAs = (name: string, other: string): Block => ({
  height: LINE,
  primitives: [text(0, 4, name, SIZE, { bold: true }), text(NAMES, 4, `as ${other}`, 3, { role: 'quiet' })],
})

function chordLines(
  name: string,
  bars: readonly string[][],
  { inner, named }: { inner: number; named: (symbol: string) => string },
): Block {
  const width = (inner - NAMES) / BARS_A_LINE
  const shapes: Primitive[] = bars.flatMap((symbols, index): Primitive[] => {
    const x = NAMES + (index % BARS_A_LINE) * width
    const y = 4 + Math.floor(index / BARS_A_LINE) * LINE
    const goesOn = symbols.length === 1 && symbols[0] === bars[index - 1]?.at(-1)
    const each = (width - 2) / Math.max(1, symbols.length)
    // Many or long names in a bar are set smaller, so that each keeps to its place.
    const longest = Math.max(0, ...symbols.map((symbol) => named(symbol).length))
    const size = Math.min(SIZE, (each - 1) / (longest * LETTER))
    return [
      line(x, y - 3.3, x, y + 0.8, 0.2),
      ...(goesOn && index % BARS_A_LINE
        ? [text(x + 2, y, '·', SIZE, { role: 'quiet' })]
        : symbols.map((symbol, place) => text(x + 2 + place * each, y, named(symbol), size))),
    ]
  })
  const lines = Math.ceil(bars.length / BARS_A_LINE)
  return {
    height: LINE * lines + 1.4,
    primitives: [text(0, 4, name, SIZE, { bold: true }), ...shapes],
  }
}
