// The recording as ruled lines of bars: a new section starts a new line, every bar is equally wide, each
// with its outline and beat ticks.
import type { Outline } from '../listen/features/waveform'
import { heardReturn } from '../review/heard'
import type { Analysis } from '../listen/analysis'
import { sectionPlaces, mainSource } from '../document/form'
import { clock } from '../time/beat-grid'
import { barTicks, meterName } from '../time/meter'
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
  chords: { x: number; symbol: string; sure: 'set' | 'firm' | 'likely' | 'unsure' }[]
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
  bars: BarBox[]
}
export interface ListenLayout {
  lines: ListenLine[]
  height: number
  lineHeight: number
  perLine: number
  left: number
  barWidth: number
}

const LINE_HEIGHT = 82
export const OUTLINE_HEIGHT = 40

/** What was heard, for drawing: the document without the suggestions that are in `song`, and the analysis. */
export interface Hearing {
  accepted?: Song | undefined
  analysis?: Analysis | undefined
}
/**
 * From these confidences on a heard chord is drawn firm, or likely (dotted); below it carries a question
 * mark.
 */
const FIRM = 0.7
const LIKELY = 0.45
const sureness = (
  confidence: number | undefined,
  suggested: boolean,
): 'set' | 'firm' | 'likely' | 'unsure' => {
  if (confidence === undefined || (!suggested && confidence >= FIRM)) return 'set'
  if (confidence >= FIRM) return 'firm'
  return confidence >= LIKELY ? 'likely' : 'unsure'
}

const LEFT = 172
/** A bar is drawn at least this wide where eight of them stand in a line. */
const LEAST_BAR_WIDTH = 78

type Place = ReturnType<typeof sectionPlaces>[number]

interface LineLayout {
  song: Song
  grid: NonNullable<Source['grid']>
  hearing: Hearing & { accepted: Song }
  perLine: number
  barWidth: number
}

/** The chords that begin in a bar; those before the section's first bar are drawn at its start. */
function chordsInBar(
  harmony: Section['harmony'],
  span: { start: number; end: number },
  box: { x: number; width: number; suggested: boolean },
): BarBox['chords'] {
  const { start, end } = span
  return harmony
    .filter(
      ({ startTicks }) =>
        (startTicks >= start - 1 && startTicks < end - 1) || (startTicks < 0 && start === 0),
    )
    .map((chord) => ({
      x: box.x + (box.width * Math.max(0, chord.startTicks - start)) / (end - start),
      symbol: chord.symbol,
      sure: sureness(chord.confidence, box.suggested),
    }))
}

/** The bars of one section, each with its place in the line; meter changes are filled in afterwards. */
function sectionBars(layout: LineLayout, place: Place, heard: ReturnType<typeof heardReturn>): BarBox[] {
  const { grid, hearing, perLine, barWidth } = layout
  const { section, firstBar } = place
  const suggested = (hearing.accepted.sections[section.id]?.harmony.length ?? 0) === 0
  const differs = new Set(heard?.differs)
  let end = 0
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
      chords: chordsInBar(section.harmony, { start, end }, { x, width: barWidth, suggested }),
      differs: differs.has(index),
    }
  })
}

function sectionLines(layout: LineLayout, place: Place): Omit<ListenLine, 'top'>[] {
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
    bars: `${section.bars.length} ${section.bars.length === 1 ? 'bar' : 'bars'}`,
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
    }
  })
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
): ListenLayout | undefined {
  const grid = mainSource(song)?.grid
  if (!grid) return undefined
  const perLine = (width - LEFT) / 8 >= LEAST_BAR_WIDTH ? 8 : 4
  const barWidth = (width - LEFT) / perLine
  const layout = { song, grid, hearing: { accepted: song, ...hearing }, perLine, barWidth }
  const lines = sectionPlaces(song)
    .flatMap((place) => sectionLines(layout, place))
    .map((one, index): ListenLine => ({ ...one, top: index * LINE_HEIGHT }))
  onlyMeterChanges(lines)
  return {
    lines,
    height: lines.length * LINE_HEIGHT + 8,
    lineHeight: LINE_HEIGHT,
    perLine,
    left: LEFT,
    barWidth,
  }
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
  const line = layout.lines[Math.floor(y / layout.lineHeight)]
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
