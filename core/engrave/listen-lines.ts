// The recording as ruled lines of bars: a new section starts a new line, every bar is equally wide, each
// with its outline and beat ticks.
import type { Outline } from '../listen/features/waveform'
import { heardReturn } from '../review/heard'
import type { Analysis } from '../listen/analysis'
import { sectionPlaces, mainSource } from '../document/form'
import { clock } from '../time/beat-grid'
import { barTicks, meterName } from '../time/meter'
import type { Song } from '../document/schema'

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

/**
 * Lays the song's bars out in lines of `perLine` bars (8 where each is at least 78 wide, else 4). Needs a
 * grid; undefined without one.
 */
export function layoutListenLines(
  song: Song,
  width: number,
  hearing: Hearing = {},
): ListenLayout | undefined {
  const grid = mainSource(song)?.grid
  if (!grid) return undefined
  const left = 172
  const perLine = (width - left) / 8 >= 78 ? 8 : 4
  const barWidth = (width - left) / perLine
  const lines: ListenLine[] = []
  const { accepted = song, analysis } = hearing
  const barsSuggested = !mainSource(accepted)?.grid
  let meterBefore = ''
  for (const place of sectionPlaces(song)) {
    const { section, firstBar } = place
    const starts = grid.bars.slice(firstBar, firstBar + section.bars.length).map((bar) => bar.beatSeconds[0]!)
    const endOf = (index: number): number => grid.bars[index + 1]?.beatSeconds[0] ?? grid.endSeconds
    const target = section.returns && song.sections[section.returns.sectionId]
    const heard = analysis && heardReturn(song, section, analysis)
    const differs = new Set(heard?.differs)
    const own = accepted.sections[section.id]
    const chordsSuggested = (own?.harmony.length ?? 0) === 0
    const sectionSuggested = !own || own.name !== section.name
    let tick = 0
    for (let first = 0; first < section.bars.length; first += perLine) {
      const bars = section.bars.slice(first, first + perLine).map((bar, column): BarBox => {
        const barIndex = firstBar + first + column
        const beatSeconds = grid.bars[barIndex]?.beatSeconds ?? [0]
        const startSeconds = beatSeconds[0]!
        const endSeconds = endOf(barIndex)
        const x = left + column * barWidth
        const name = bar.free ? 'free' : meterName(bar.meter)
        const meterChange = name === meterBefore ? undefined : name
        meterBefore = name
        const barLength = barTicks(bar.meter)
        const startTick = tick
        tick += barLength
        return {
          barIndex,
          x,
          width: barWidth,
          startSeconds,
          endSeconds,
          free: Boolean(bar.free),
          meterChange,
          beatSeconds,
          beatXs: beatSeconds.map(
            (seconds) =>
              x + (barWidth * (seconds - startSeconds)) / Math.max(1e-6, endSeconds - startSeconds),
          ),
          chords: section.harmony
            .filter(
              (chord) =>
                (chord.startTicks >= startTick - 1 && chord.startTicks < tick - 1) ||
                (chord.startTicks < 0 && startTick === 0),
            )
            .map((chord) => ({
              x: x + (barWidth * Math.max(0, chord.startTicks - startTick)) / barLength,
              symbol: chord.symbol,
              sure: sureness(chord.confidence, chordsSuggested),
            })),
          differs: differs.has(first + column),
        }
      })
      lines.push({
        sectionId: section.id,
        top: lines.length * LINE_HEIGHT,
        bars,
        suggested: barsSuggested,
        continued: first > 0 ? `${clock(starts[first]!)} + ${first}` : undefined,
        heading:
          first > 0
            ? undefined
            : {
                name: section.name,
                kind: section.kind,
                time: clock(starts[0]!),
                bars: `${section.bars.length} ${section.bars.length === 1 ? 'bar' : 'bars'}`,
                suggested: sectionSuggested,
                returns: target
                  ? returnWords(target.name, section.returns!.shiftSemitones, heard)
                  : undefined,
              },
      })
    }
  }
  return { lines, height: lines.length * LINE_HEIGHT + 8, lineHeight: LINE_HEIGHT, perLine, left, barWidth }
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
