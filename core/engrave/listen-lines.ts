// The recording as ruled lines of bars: a new section starts a new line, every bar is equally wide, each
// with its outline and beat ticks.
import { counted } from '../words/words'
import type { Outline } from '../hear/features/waveform'
import { heardReturn } from '../suggest/heard'
import type { Analysis } from '../hear/analysis'
import { chordsOfSong, chordWidth, placeChords, type DrawnChord, type SongChord } from './listen-chords'
import { sectionPlaces, mainSource } from '../document/form'
import { clock } from '../time/beat-grid'
import { barTicks, beatTicks, meterName } from '../time/meter'
import type { Section, Song, Source } from '../document/schema'

export interface BarBox {
  barIndex: number
  x: number
  width: number
  startSeconds: number
  endSeconds: number
  free: boolean
  beatXs: number[]
  beatSeconds: number[]
  meterChange: string | undefined
  chords: DrawnChord[]
  /** Drawn where no chord stands in its way. */
  number: boolean
  /** This bar is not as in the section it returns. */ differs: boolean
}
export interface ListenLine {
  sectionId: string
  heading:
    | {
        name: string
        kind: string
        time: string
        bars: string
        returns: string | undefined
        /** Nobody has accepted this section yet. */ suggested: boolean
      }
    | undefined
  /** The bars themselves are still a suggestion. */ suggested: boolean
  continued: string | undefined
  top: number
  /** Higher where chords need a second row. */
  height: number
  /** How far before its first bar the section begins, in words. */
  leadIn: string | undefined
  bars: BarBox[]
}
export interface ListenLayout {
  lines: ListenLine[]
  height: number
  perLine: number
  left: number
  barWidth: number
}

/** Room for the number of a bar. */
const NUMBER_WIDTH = 26
const CHORD_INDENT = 5
const LINE_HEIGHT = 82
/** How much lower the second row of chords stands. */
export const SECOND_ROW = 17
export const OUTLINE_HEIGHT = 40

/** What was heard, for drawing: the document without the suggestions that are in `song`, and the analysis. */
export interface Hearing {
  accepted?: Song | undefined
  analysis?: Analysis | undefined
}
const LEFT = 172
/** A bar is drawn at least this wide where eight of them stand in a line. */
const LEAST_BAR_WIDTH = 78

type Place = ReturnType<typeof sectionPlaces>[number]

interface LineLayout {
  song: Song
  chords: readonly SongChord[]
  grid: NonNullable<Source['grid']>
  hearing: Hearing & { accepted: Song }
  perLine: number
  barWidth: number
}

/** The bars of one section, each with its place in the line; meter changes are filled in afterwards. */
function sectionBars(layout: LineLayout, place: Place, heard: ReturnType<typeof heardReturn>): BarBox[] {
  const { grid, perLine, barWidth } = layout
  const { section, firstBar } = place
  const differs = new Set(heard?.differs)
  let end = place.startTicks
  return section.bars.map((bar, index): BarBox => {
    const barIndex = firstBar + index
    const beatSeconds = grid.bars[barIndex]?.beatSeconds ?? [0]
    const startSeconds = beatSeconds[0]!
    const endSeconds = grid.bars[barIndex + 1]?.beatSeconds[0] ?? grid.endSeconds
    const x = LEFT + (index % perLine) * barWidth
    const perSecond = barWidth / Math.max(1e-6, endSeconds - startSeconds)
    const start = end
    end += barTicks(bar.meter)
    return {
      barIndex,
      x,
      width: barWidth,
      startSeconds,
      endSeconds,
      free: Boolean(bar.free),
      meterChange: bar.free ? 'free' : meterName(bar.meter),
      beatSeconds,
      beatXs: beatSeconds.map((seconds) => x + perSecond * (seconds - startSeconds)),
      chords: layout.chords
        .filter((chord) => chord.tick >= start - 1 && chord.tick < end - 1)
        .map((chord) => ({
          ...chord,
          x: x + CHORD_INDENT + (barWidth * Math.max(0, chord.tick - start)) / (end - start),
          row: 0,
          squeezed: undefined,
        })),
      number: true,
      differs: differs.has(index),
    }
  })
}

function sectionLines(layout: LineLayout, place: Place): Omit<ListenLine, 'top' | 'height'>[] {
  const { song, hearing, perLine } = layout
  const { section } = place
  const target = section.returns && song.sections[section.returns.sectionId]
  const heard = hearing.analysis && heardReturn(song, section, hearing.analysis)
  const own = hearing.accepted.sections[section.id]
  const bars = sectionBars(layout, place, heard)
  const suggested = !mainSource(hearing.accepted)?.grid
  const heading = {
    name: section.name,
    kind: section.kind,
    time: clock(bars[0]!.startSeconds),
    bars: `${counted(section.bars.length, 'bar')}`,
    suggested: !own || own.name !== section.name,
    returns: target ? returnWords(target.name, section.returns!.shiftSemitones, heard) : undefined,
  }
  return Array.from({ length: Math.ceil(bars.length / perLine) }, (_, index) => {
    const first = index * perLine
    return {
      sectionId: section.id,
      bars: bars.slice(first, first + perLine),
      suggested,
      continued: first > 0 ? `${clock(bars[first]!.startSeconds)} + ${first}` : undefined,
      heading: first > 0 ? undefined : heading,
      leadIn: first > 0 ? undefined : leadInWords(section),
    }
  })
}

/** "begins a beat before": how far before its first bar a section begins. */
function leadInWords(section: Section): string | undefined {
  if (section.pickupTicks === 0) return undefined
  const beats = section.pickupTicks / beatTicks(section.bars[0]?.meter ?? { beats: 4, unit: 4 })
  const count = Math.round(beats * 100) / 100
  return count === 1 ? 'begins a beat before' : `begins ${count} beats before`
}

/** A meter is written only where it is another than in the bar before. */
function onlyMeterChanges(lines: readonly ListenLine[]): void {
  let before: string | undefined
  for (const bar of lines.flatMap((one) => one.bars)) {
    const name = bar.meterChange
    if (name === before) bar.meterChange = undefined
    before = name
  }
}

/**
 * Lays the song's bars out in lines of `perLine` bars (8 where each is wide enough, else 4). Needs a grid;
 * undefined without one.
 */
export function layoutListenLines(
  song: Song,
  width: number,
  hearing: Hearing = {},
  shown: (symbol: string) => string = (symbol) => symbol,
): ListenLayout | undefined {
  const grid = mainSource(song)?.grid
  if (!grid) return undefined
  const perLine = (width - LEFT) / 8 >= LEAST_BAR_WIDTH ? 8 : 4
  const barWidth = (width - LEFT) / perLine
  const accepted = hearing.accepted ?? song
  const chords = chordsOfSong(song, accepted)
  const layout = { song, chords, grid, hearing: { ...hearing, accepted }, perLine, barWidth }
  const widthOf = (chord: DrawnChord): number => chordWidth(shown(chord.symbol), chord)
  let top = 0
  const lines = sectionPlaces(song)
    .flatMap((place) => sectionLines(layout, place))
    .map((one): ListenLine => {
      const right = Math.max(...one.bars.map((bar) => bar.x + bar.width))
      const chords = one.bars.flatMap((bar) => bar.chords)
      const height = placeChords(chords, right, widthOf) ? LINE_HEIGHT + SECOND_ROW : LINE_HEIGHT
      for (const bar of one.bars)
        bar.number = !chords.some(
          (chord) => chord.x < bar.x + NUMBER_WIDTH && chord.x + widthOf(chord) > bar.x,
        )
      const line = { ...one, top, height }
      top += height
      return line
    })
  onlyMeterChanges(lines)
  return { lines, height: top + 8, perLine, left: LEFT, barWidth }
}

/** "as Verse 1", or with what was heard: "≈ Verse 1, 94 %, bar 7 differs". */
function returnWords(name: string, shift: number, heard: ReturnType<typeof heardReturn>): string {
  const moved = shift ? `, ${shift > 0 ? '+' : ''}${shift} semitones` : ''
  if (!heard) return `as ${name}${moved}`
  const { differs } = heard
  return `≈ ${name}${moved}, ${Math.round(heard.likeness * 100)} %${
    differs.length
      ? `, ${differs.length === 1 ? 'bar' : 'bars'} ${differs
          .slice(0, 4)
          .map((bar) => bar + 1)
          .join(', ')}${differs.length > 4 ? ' …' : ''} ${differs.length === 1 ? 'differs' : 'differ'}`
      : ''
  }`
}

/**
 * Closed polygon (x, y pairs) of the outline between two times, standing on `baseY`. At most one point for
 * two units of width.
 */
export function outlinePolygon(
  outline: Outline,
  band: 'peaks' | 'lows',
  span: { fromSeconds: number; toSeconds: number; x: number; width: number; baseY: number; height: number },
): number[] {
  const values = outline[band]
  const columns = Math.max(2, Math.floor(span.width / 2))
  const points = [span.x, span.baseY]
  for (let column = 0; column < columns; column++) {
    const from = Math.floor(
      (span.fromSeconds + ((span.toSeconds - span.fromSeconds) * column) / columns) * outline.ratePerSecond,
    )
    const to = Math.max(
      from + 1,
      Math.floor(
        (span.fromSeconds + ((span.toSeconds - span.fromSeconds) * (column + 1)) / columns) *
          outline.ratePerSecond,
      ),
    )
    let peak = 0
    for (let slice = Math.max(0, from); slice < Math.min(values.length, to); slice++)
      peak = Math.max(peak, values[slice]!)
    points.push(span.x + (span.width * (column + 0.5)) / columns, span.baseY - (span.height * peak) / 255)
  }
  points.push(span.x + span.width, span.baseY)
  return points
}

/**
 * Place under a point: the line, the bar, and the time within it. Undefined left of the bars or below the
 * last line.
 */
export function listenPlace(
  layout: ListenLayout,
  x: number,
  y: number,
): { line: ListenLine; bar: BarBox; seconds: number } | undefined {
  const line = layout.lines.find((one) => y >= one.top && y < one.top + one.height)
  const bar = line?.bars.find((box) => x >= box.x && x < box.x + box.width)
  if (!line || !bar) return undefined
  return {
    line,
    bar,
    seconds: bar.startSeconds + ((x - bar.x) / bar.width) * (bar.endSeconds - bar.startSeconds),
  }
}

/** Where a time is drawn. Undefined outside the bars. */
export function listenPoint(
  layout: ListenLayout,
  seconds: number,
): { x: number; top: number; bar: BarBox } | undefined {
  for (const line of layout.lines)
    for (const bar of line.bars)
      if (seconds >= bar.startSeconds && seconds < bar.endSeconds)
        return {
          x: bar.x + (bar.width * (seconds - bar.startSeconds)) / (bar.endSeconds - bar.startSeconds),
          top: line.top,
          bar,
        }
  return undefined
}
