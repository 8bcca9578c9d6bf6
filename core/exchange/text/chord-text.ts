// Chords as plain text, a heading a section, four bars a line: what the written chart reads.
import { timelineOf } from '../../timeline/timeline'
import type { Section, Song } from '../../document/schema'
import { barStarts } from '../../document/form'
import { writePlacedChord } from '../../timeline/placed-chord'
import { dropped, type Dropped } from '../score/written-score'

const BARS_A_LINE = 4

/**
 * The chords that begin in each bar of a section, as words; a bar in which none begins goes on with the last.
 */
export function chordsByBar({ harmony, bars }: Section): string[][] {
  const starts = barStarts({ bars, harmony } as Section)
  return bars.map(({ meter }, index) => {
    const [from, to] = [starts[index] ?? 0, starts[index + 1] ?? 0]
    const begins = harmony
      .filter(({ startTicks }) => startTicks >= from && startTicks < to)
      .map(({ startTicks, symbol }) => ({ tick: startTicks - from, symbol }))
    const held = harmony.findLast(
      ({ startTicks, lengthTicks }) => startTicks < from && startTicks + lengthTicks > from,
    )
    const atStart = begins.some(({ tick }) => tick === 0)
    const all = [...(held && !atStart ? [{ tick: 0, symbol: held.symbol }] : []), ...begins]
    return all.map((chord, place) => writePlacedChord(chord, { index: place, count: all.length, meter }))
  })
}

/** A colon ends a heading and a bar line begins a line of bars: in a name they are neither. */
const heading = (name: string): string => `${name.replaceAll(/[:|\s]+/g, ' ').trim()}:`

function lineOf(bars: readonly string[][], before: readonly string[] | undefined): string {
  let last = before?.join(' ')
  const written = bars.map((chords) => {
    const text = chords.join(' ')
    const same = text !== '' && text === last
    last = text
    if (same) return '%'
    return text || '-'
  })
  return `| ${written.join(' | ')} |`
}

export function writeChordText(song: Song, sectionId?: string): string {
  const places = timelineOf(song).places.filter(({ section }) => !sectionId || section.id === sectionId)
  const blocks = places.map(({ section }) => {
    const bars = chordsByBar(section)
    const lines: string[] = []
    for (let first = 0; first < bars.length; first += BARS_A_LINE)
      lines.push(lineOf(bars.slice(first, first + BARS_A_LINE), bars[first - 1]))
    return [heading(section.name), ...lines].join('\n')
  })
  return `${blocks.join('\n\n')}\n`
}

/** What lines of chords cannot say. */
export function chordTextDropped(song: Song): Dropped[] {
  const sections = Object.values(song.sections)
  return dropped([
    {
      what: 'sections with a meter of their own',
      count: sections.filter(({ bars }) =>
        bars.some(({ meter }) => meter.beats / meter.unit !== song.meter.beats / song.meter.unit),
      ).length,
      why: 'the text has bars, not their lengths',
    },
    { what: 'charted figures', count: Object.keys(song.figures).length, why: 'the text has chords only' },
  ])
}
