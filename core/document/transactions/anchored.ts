// The grid moves under what was set: when bars and beats are corrected, sections, chords, figures, doubts and
// spots stay at the second of the recording at which they sound.
import { same } from '../../same'
import { leastIndex } from 'd3-array'
import { ok, refuse, type Result } from '../../result'
import { secondsToTicks, ticksToSeconds, timeMap, type BeatGrid, type TimeMap } from '../../time/beat-grid'
import { beatTicks } from '../../time/meter'
import { allBars, sectionPlaces, songTimeMap } from '../form'
import type { Bar, Section, Song, Source } from '../schema'
import { withPlacesMoved } from './anchored-places'
import { withEntity } from './transaction'

/** Bars and their beats in the main recording. */
export interface Laid {
  bars: Bar[]
  grid: BeatGrid
}

/** Where sections begin among new bars: the index of the first bar, and the lead-in before it. */
interface Start {
  section: Section
  firstBar: number
  pickupTicks: number
}

/** Further than this share of a beat from a bar line, a section begins before the bar: with a lead-in. */
const ON_THE_LINE = 0.45

/** The song over new bars, everything where it sounds. Needs a song with a grid and sections. */
export function anchored(song: Song, source: Source, laid: Laid): Result<Song> {
  const before = songTimeMap(song)!
  if (sameCount(song, source, laid)) return ok(withGrid(song, source, laid.grid))
  const after = timeMap(laid.bars, laid.grid)
  const starts = placeStarts(song, before, after, laid)
  if (!starts.ok) return starts
  const sections = { ...song.sections }
  starts.value.forEach(({ section, firstBar, pickupTicks }, index) => {
    const bars = laid.bars.slice(firstBar, starts.value[index + 1]?.firstBar ?? laid.bars.length)
    sections[section.id] = { ...section, bars, pickupTicks }
  })
  const formed: Song = { ...withGrid(song, source, laid.grid), sections }
  const moved = withPlacesMoved({ song, formed, before, after, laid })
  return ok(withOtherGrids(moved, source, laid, song))
}

/** Whether only the times of beats change: then everything stays on its beat. */
function sameCount(song: Song, source: Source, { bars, grid }: Laid): boolean {
  const counts = (one: readonly Bar[], times: BeatGrid): string =>
    times.bars.map((bar, index) => `${bar.beatSeconds.length}${one[index]?.free ? 'f' : ''}`).join()
  return (
    source.grid !== undefined &&
    counts(allBars(song), source.grid) === counts(bars, grid) &&
    sameBars(song, bars)
  )
}
const sameBars = (song: Song, bars: readonly Bar[]): boolean =>
  same(
    allBars(song).map((bar) => bar.meter),
    bars.map((bar) => bar.meter),
  )

const withGrid = (song: Song, source: Source, grid: BeatGrid): Song => ({
  ...song,
  sources: withEntity(song.sources, source.id, { ...source, grid }),
})

function placeStarts(song: Song, before: TimeMap, after: TimeMap, laid: Laid): Result<Start[]> {
  const lines = laid.grid.bars.map((bar) => bar.beatSeconds[0]!)
  const starts: Start[] = []
  for (const { section, startTicks } of sectionPlaces(song)) {
    if (starts.length === 0) {
      starts.push({ section, firstBar: 0, pickupTicks: section.pickupTicks })
      continue
    }
    const seconds = ticksToSeconds(before, startTicks - section.pickupTicks)
    const least = starts.at(-1)!.firstBar + 1
    const firstBar = Math.max(least, lineFor(lines, seconds, laid))
    if (firstBar >= lines.length)
      return refuse('section-lost', `"${section.name}" would be left without a bar: merge it first.`)
    starts.push({ section, firstBar, pickupTicks: leadIn(after, laid, firstBar, seconds) })
  }
  return ok(starts)
}

/** Seconds from beat to beat around a bar. */
function beatGap({ grid }: Laid, bar: number): number {
  const times = grid.bars[bar]!.beatSeconds
  const end = grid.bars[bar + 1]?.beatSeconds[0] ?? grid.endSeconds
  return (end - times[0]!) / times.length
}

/** The bar line at a moment, or the next one after it. */
function lineFor(lines: readonly number[], seconds: number, laid: Laid): number {
  const nearest = leastIndex(lines, (a, b) => Math.abs(a - seconds) - Math.abs(b - seconds))!
  const gap = Math.min(beatGap(laid, nearest), beatGap(laid, Math.max(0, nearest - 1)))
  if (Math.abs(lines[nearest]! - seconds) < ON_THE_LINE * gap) return nearest
  return lines[nearest]! < seconds ? nearest + 1 : nearest
}

/** What a section plays before its first bar, to the quarter of a beat. */
function leadIn(after: TimeMap, laid: Laid, firstBar: number, seconds: number): number {
  const line = after.barStartTicks[firstBar]!
  const beat = beatTicks(laid.bars[Math.max(0, firstBar - 1)]!.meter)
  const quarters = Math.round(((line - secondsToTicks(after, seconds)) / beat) * 4)
  return (Math.max(0, quarters) * beat) / 4
}

/** The same bars in the other recordings of the song: their beats fall where the same music sounds there. */
function withOtherGrids(song: Song, main: Source, { bars, grid }: Laid, formerly: Song): Song {
  const before = songTimeMap(formerly)!
  let { sources } = song
  for (const source of Object.values(song.sources)) {
    if (source.id === main.id || !source.grid || source.grid.bars.length === 0) continue
    const own = timeMap(allBars(formerly), source.grid)
    const there = (seconds: number): number => ticksToSeconds(own, secondsToTicks(before, seconds))
    const beats = bars.map((_, bar) => grid.bars[bar]!.beatSeconds.map(there))
    if (beats[0]![0]! < 0) continue
    const moved: BeatGrid = {
      bars: beats.map((beatSeconds) => ({ beatSeconds })),
      endSeconds: there(grid.endSeconds),
    }
    sources = withEntity(sources, source.id, { ...source, grid: moved })
  }
  return sources === song.sources ? song : { ...song, sources }
}
