// A written score as a song: parts, sections with their bars and chords, and for each part one figure a
// section; sections that a part plays alike share it. The tempo becomes the grid of a source of its own.
import { newSong } from '../../document/new-song'
import { readSong } from '../../document/migrations'
import { withKey } from '../../document/song-key'
import { SECTION_KINDS } from '../../document/schema'
import type { Part, Section, SectionKind, Song, Source } from '../../document/schema'
import { gridBeats } from '../../time/beat-grid'
import { barTicks, type Meter } from '../../time/meter'
import { refuse, ok, type Result } from '../../result'
import { chartPart, type Span } from './chart-part'
import { ownName, partOf } from './part-of'
import { secondsByTempo } from './tempo-seconds'
import type { Dropped, WrittenBar, WrittenPart, WrittenScore } from './written-score'

export interface SongFacts {
  id: string
  /** Of the source that keeps the tempo: what was brought in. */
  sourceName: string
}

const SOURCE_ID = 'score'

export interface MadeSong {
  song: Song
  /** What the file says that no part can play. */
  dropped: Dropped[]
}

/** A whole song of a score. Refused when it would be none that can be opened again. */
export function songFromScore(score: WrittenScore, facts: SongFacts): Result<MadeSong> {
  const spans = spansOf(score.bars)
  const sections = spans.map((span, index) => sectionOf(score, span, index))
  const parts = withOwnNames(score.parts)
  const charted = parts.map((part, index) =>
    chartPart(part, score.parts[index]!, { sections, spans, feel: score.feel, rests: true }),
  )
  const source = sourceOf(score, facts.sourceName)
  const fresh = newSong({ id: facts.id, title: score.title, artist: score.artist })
  const song: Song = {
    ...(score.keyUnknown ? fresh : withKey(fresh, score.key)),
    meter: usualMeter(score.bars),
    feel: score.feel,
    sources: { [source.id]: source },
    sourceOrder: [source.id],
    sections: byId(sections),
    sectionOrder: sections.map(({ id }) => id),
    parts: byId(parts),
    partOrder: parts.map(({ id }) => id),
    figures: byId(charted.flatMap(({ figures }) => figures)),
    placements: byId(charted.flatMap(({ placements }) => placements)),
  }
  const read = readSong(song)
  if (!read.ok)
    return refuse('score', `This score is too much for one song. ${tooMuch(read.refusal.message)}`)
  return ok({ song: read.value, dropped: charted.flatMap(({ dropped: lost }) => lost) })
}

/** What was too much, in the words of the check, without calling the file damaged. */
function tooMuch(message: string): string {
  const said = message.replace(/^The song is damaged: /, '')
  return `${said.charAt(0).toUpperCase()}${said.slice(1)} Export fewer parts or bars.`
}

const byId = <T extends { id: string }>(list: readonly T[]): Record<string, T> =>
  Object.fromEntries(list.map((entry) => [entry.id, entry]))

function spansOf(bars: readonly WrittenBar[]): Span[] {
  const starts = sectionStarts(bars)
  return starts.map((first, index): Span => {
    const own = bars.slice(first, starts[index + 1] ?? bars.length)
    const name = own[0]!.section ?? (starts.length > 1 ? 'Beginning' : 'Whole song')
    const lengthTicks = own.reduce((sum, bar) => sum + bar.lengthTicks, 0)
    return { name, first, bars: own, startTicks: own[0]!.startTicks, lengthTicks }
  })
}

/** Where sections begin: at the marks; what is longer than a section can be is cut at its thousandth bars. */
function sectionStarts(bars: readonly WrittenBar[]): number[] {
  const starts: number[] = []
  for (const [index, bar] of bars.entries())
    if (bar.section !== undefined || index - (starts.at(-1) ?? -MOST_SECTION_BARS) >= MOST_SECTION_BARS)
      starts.push(index)
  return starts.slice(0, MOST_SECTIONS)
}
const MOST_SECTION_BARS = 1000
const MOST_SECTIONS = 1000

const MOST_CHORDS = 2000
/** "Verse 2" is a verse. */
function kindOf(name: string): SectionKind {
  const words = name.toLowerCase().replaceAll(/[\s_]+/g, '-')
  const longestFirst = SECTION_KINDS.toSorted((a, b) => b.length - a.length)
  return longestFirst.find((kind) => words.startsWith(kind.replaceAll(' ', '-'))) ?? 'other'
}

function sectionOf({ harmony, key }: WrittenScore, span: Span, index: number): Section {
  const end = span.startTicks + span.lengthTicks
  const own = span.bars[0]!.key
  const other = own && (own.tonic !== key.tonic || own.mode !== key.mode)
  return {
    id: `section-${index + 1}`,
    kind: kindOf(span.name),
    name: span.name,
    bars: span.bars.map(({ meter, free }) => ({ meter, ...(free ? { free } : {}) })),
    passes: 1,
    pickupTicks: 0,
    ...(other ? { key: own } : {}),
    harmony: harmony
      .filter(({ startTicks }) => startTicks >= span.startTicks && startTicks < end)
      .slice(0, MOST_CHORDS)
      .map(({ startTicks, lengthTicks, symbol }) => ({
        startTicks: startTicks - span.startTicks,
        lengthTicks: Math.max(1, Math.min(lengthTicks, end - startTicks)),
        symbol,
      })),
  }
}

function usualMeter(bars: readonly WrittenBar[]): Meter {
  const counts = new Map<string, { meter: Meter; count: number }>()
  for (const { meter } of bars) {
    const name = `${meter.beats}/${meter.unit}`
    counts.set(name, { meter, count: (counts.get(name)?.count ?? 0) + 1 })
  }
  const most = [...counts.values()].sort((a, b) => b.count - a.count)[0]
  return most?.meter ?? { beats: 4, unit: 4 }
}

/** Two parts of one name could not be told apart: the second is "Guitar 2". */
function withOwnNames(parts: readonly WrittenPart[]): Part[] {
  const taken = new Set<string>()
  return parts.map((part, index) => {
    const name = ownName(part.name, taken)
    taken.add(name)
    return partOf(part, { id: `part-${index + 1}`, name })
  })
}

/** The seconds of every counted beat by the tempo of the score. */
function sourceOf({ bars, tempo, endTicks, firstSeconds = 0 }: WrittenScore, name: string): Source {
  const fromStart = secondsByTempo(tempo)
  const seconds = (ticks: number): number => firstSeconds + fromStart(ticks)
  return {
    id: SOURCE_ID,
    kind: 'written chart',
    name: name.slice(0, 200),
    rank: 1,
    offsetSemitones: 0,
    offsetCents: 0,
    offsetSeconds: 0,
    durationSeconds: seconds(endTicks),
    grid: {
      bars: bars.map((bar) => {
        const beats = gridBeats(bar)
        const step = barTicks(bar.meter) / beats
        return {
          beatSeconds: Array.from({ length: beats }, (_, beat) => seconds(bar.startTicks + beat * step)),
        }
      }),
      endSeconds: seconds(endTicks),
    },
  }
}
