// A written chart typed as chords: a heading names a section, the lines under it its chords. "|" stands
// between bars; without it each chord is a bar. "%" is the bar before again; "x2" after a line is the line
// twice. A chord that does not stand evenly in its bar says its beat: "G@4.5".
import type { Section, Song } from '../../document/schema'
import { readChordSymbol } from '../../music/chord-name'
import { readPlacedChord, type PlacedChord } from '../../timeline/placed-chord'

/** What is written of one section, chords by bar. */
export interface WrittenSection {
  name: string
  bars: PlacedChord[][]
}
export interface WrittenChart {
  sections: WrittenSection[]
  /** What could not be read, a sentence each. */
  problems: string[]
}

/** Of a line whose spaces are single ones. */
const AGAIN = / ?[x×] ?(\d{1,2})$/i
const isChord = (word: string): boolean => readChordSymbol(readPlacedChord(word).symbol) !== undefined
const words = (text: string): string[] => text.split(/\s+/).filter(Boolean)
/** A line of chords has nothing else but bars, repeats and rests. */
const isChordLine = (line: string): boolean => {
  const found = words(line.replace(AGAIN, '').replaceAll('|', ' '))
  return found.length > 0 && found.every((word) => isChord(word) || word === '%' || word === '-')
}

/** Reads typed chords. Never fails: what is not understood is said and left out. */
export function readWrittenChart(text: string): WrittenChart {
  const sections: WrittenSection[] = []
  const problems: string[] = []
  for (const [index, raw] of text.split(/\r?\n/).entries()) {
    const line = raw.trim().replaceAll(/\s+/g, ' ')
    if (line === '') continue
    const [, heading, rest = ''] = /^([^:|]+):(.*)$/.exec(line) ?? []
    const chords = heading === undefined ? line : rest.trim()
    if (heading !== undefined) sections.push({ name: heading.trim(), bars: [] })
    if (chords === '') continue
    if (!isChordLine(chords)) {
      problems.push(`Line ${index + 1}: “${chords.slice(0, 60)}” is not a line of chords.`)
      continue
    }
    const section = sections.at(-1) ?? { name: '', bars: [] }
    if (sections.length === 0) sections.push(section)
    section.bars.push(...barsOf(chords, section.bars.at(-1)))
  }
  return { sections, problems }
}

function barsOf(line: string, before: PlacedChord[] | undefined): PlacedChord[][] {
  const times = Math.min(16, Number(AGAIN.exec(line)?.[1] ?? 1))
  const plain = line.replace(AGAIN, '')
  const written = plain.includes('|')
    ? plain
        .split('|')
        .map(words)
        .filter((bar) => bar.length > 0)
    : words(plain).map((word) => [word])
  const bars: PlacedChord[][] = []
  for (const bar of written) {
    const repeated = bar.length === 1 && bar[0] === '%'
    const own = bar.filter((word) => word !== '-').map(readPlacedChord)
    bars.push(repeated ? [...(bars.at(-1) ?? before ?? [])] : own)
  }
  return Array.from({ length: times }, () => bars).flat()
}

const plainName = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, ' ')
    .trim()
const stem = (name: string): string => plainName(name).replace(/ \d+$/, '')

/**
 * What a chart has for a section: under its own name, or under the name without a number, which stands for
 * all of them. A chart without headings is about the whole song and has nothing for one section.
 */
export function writtenFor(chart: WrittenChart, song: Song, section: Section): WrittenSection | undefined {
  const own = chart.sections.find(({ name }) => plainName(name) === plainName(section.name))
  if (own) return own
  const sameStem = Object.values(song.sections).filter(({ name }) => stem(name) === stem(section.name))
  const numbered = chart.sections.filter(({ name }) => stem(name) === stem(section.name))
  return numbered.length === 1 || sameStem.length === 1 ? numbered[0] : undefined
}
