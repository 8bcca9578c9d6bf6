// The form as a table: a row a section with its time on the record, its bars and chords. Comma-separated
// values by the library, for any spreadsheet.
import Papa from 'papaparse'
import { songTimeMap } from '../../document/form'
import type { Song } from '../../document/schema'
import { ticksToSeconds } from '../../time/beat-grid'
import { barTicks, meterName, MOST_BARS, STRAIGHT, TICKS_PER_QUARTER, type Meter } from '../../time/meter'
import { timelineOf } from '../../timeline/timeline'
import { ok, refuse, type Result } from '../../result'
import { readChordSymbol } from '../../music/chord-name'
import {
  chordsInBar,
  dropped,
  heldOn,
  type Dropped,
  type WrittenBar,
  type WrittenHarmony,
  type WrittenScore,
} from '../score/written-score'
import { readPlacedChord } from '../../timeline/placed-chord'
import { chordsByBar } from './chord-text'

const COLUMNS = ['section', 'start', 'seconds', 'first bar', 'bars', 'meter', 'passes', 'chords'] as const
type Row = Record<(typeof COLUMNS)[number], string>

/** "1:02.350". */
function clockOf(seconds: number): string {
  const minutes = Math.floor(seconds / 60)
  return `${minutes}:${(seconds - minutes * 60).toFixed(3).padStart(6, '0')}`
}

/** A field that a spreadsheet would take for a formula is text. */
const asText = (value: string): string => (/^[=+\-@\t\r]/.test(value) ? `'${value}` : value)

export function writeCueSheet(song: Song): string {
  const map = songTimeMap(song)
  const rows = timelineOf(song).places.map(({ section, firstBar, startTicks }): Row => {
    const seconds = map && ticksToSeconds(map, startTicks)
    const meters = [...new Set(section.bars.map(({ meter }) => meterName({ ...meter, grouping: undefined })))]
    return {
      section: asText(section.name),
      start: seconds === undefined ? '' : clockOf(seconds),
      seconds: seconds === undefined ? '' : seconds.toFixed(3),
      'first bar': String(firstBar + 1),
      bars: String(section.bars.length),
      meter: meters.join(' '),
      passes: String(section.passes),
      chords: chordsByBar(section)
        .map((chords) => chords.join(' ') || '-')
        .join(' | '),
    }
  })
  const data = rows.map((row) => COLUMNS.map((column) => row[column]))
  return `${Papa.unparse({ fields: [...COLUMNS], data })}\r\n`
}

export function cueSheetDropped(song: Song): Dropped[] {
  const mixed = Object.values(song.sections).filter(
    ({ bars }) => new Set(bars.map(({ meter }) => meterName(meter))).size > 1,
  )
  return dropped([
    {
      what: 'sections of several meters',
      count: mixed.length,
      why: 'the table names the meters, not their bars',
    },
    { what: 'charted figures', count: Object.keys(song.figures).length, why: 'the table has the form only' },
  ])
}

const MOST_CHARACTERS = 2_000_000
const MOST_ROWS = 1000
const METER = /^(\d{1,2})\/(2|4|8|16)$/

function meterOf(text: string): Meter {
  const [, beats, unit] = METER.exec(text.trim().split(/\s+/)[0] ?? '') ?? []
  const counted = Number(beats)
  return counted >= 1 && counted <= 32
    ? { beats: counted, unit: Number(unit) as Meter['unit'] }
    : { beats: 4, unit: 4 }
}

/** "1:02.35" or "62.35"; undefined for anything else. */
function secondsOf(text: string): number | undefined {
  const match = /^(?:(\d{1,3}):)?(\d{1,5}(?:[.,]\d+)?)$/.exec(text.trim())
  const seconds = match && Number(match[1] ?? 0) * 60 + Number(match[2]!.replace(',', '.'))
  return seconds !== null && Number.isFinite(seconds) ? seconds : undefined
}

interface Cue {
  name: string
  meter: Meter
  bars: string[][]
  seconds: number | undefined
}

/** A cue sheet, ours or one with columns of these names, as a score without parts. */
export function readCueSheet(text: string): Result<{ score: WrittenScore; dropped: Dropped[] }> {
  if (text.length > MOST_CHARACTERS) return refuse('csv', 'This table is too large for a form.')
  const parsed = Papa.parse<Record<string, string | undefined>>(text.trim(), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (header) => header.trim().toLowerCase(),
  })
  const fields = parsed.meta.fields ?? []
  if (!fields.includes('section'))
    return refuse('csv', 'This table has no column "section". The first line must name the columns.')
  const rows = parsed.data.slice(0, MOST_ROWS)
  const cues = rows.flatMap((row) => cueOf(row) ?? [])
  if (!cues.length) return refuse('csv', 'There are no sections in this table.')
  const count = cues.reduce((sum, { bars }) => sum + bars.length, 0)
  if (count > MOST_BARS) return refuse('csv', `This table has more than ${MOST_BARS} bars.`)
  const unread = cues
    .flatMap(({ bars }) => bars.flat())
    .filter((word) => !readChordSymbol(readPlacedChord(word).symbol))
  return ok({
    score: scoreOf(cues),
    dropped: dropped([
      {
        what: 'rows without a section',
        count: rows.length - cues.length,
        why: 'they have no name or no bars',
      },
      {
        what: 'words that are no chords',
        count: unread.length,
        why: `not understood: ${unread.slice(0, 5).join(', ')}`,
      },
    ]),
  })
}

function cueOf(row: Record<string, string | undefined>): Cue | undefined {
  const name = (row.section ?? '')
    .trim()
    .replace(/^'(?=[=+\-@])/, '')
    .slice(0, 80)
  const chords = (row.chords ?? '')
    .split('|')
    .map((bar) => bar.split(/\s+/).filter((word) => word && word !== '-'))
  const said = Math.min(2000, Math.max(0, Math.round(Number(row.bars ?? ''))) || 0)
  const count = said || (row.chords?.trim() ? chords.length : 0)
  if (!name || count === 0) return undefined
  return {
    name,
    meter: meterOf(row.meter ?? ''),
    bars: Array.from({ length: count }, (_, index) => chords[index] ?? []),
    seconds: secondsOf(row.seconds ?? '') ?? secondsOf(row.start ?? ''),
  }
}

function scoreOf(cues: readonly Cue[]): WrittenScore {
  const bars: WrittenBar[] = []
  const harmony: WrittenHarmony[] = []
  const starts: { startTicks: number; seconds: number | undefined }[] = []
  let at = 0
  for (const { name, meter, bars: written, seconds } of cues) {
    starts.push({ startTicks: at, seconds })
    const lengthTicks = barTicks(meter)
    written.forEach((chords, index) => {
      const known = chords.map(readPlacedChord).filter(({ symbol }) => readChordSymbol(symbol))
      harmony.push(...chordsInBar({ startTicks: at, lengthTicks, meter }, known))
      bars.push({
        startTicks: at,
        lengthTicks,
        meter,
        free: false,
        ...(index === 0 ? { section: name } : {}),
      })
      at += lengthTicks
    })
  }
  return {
    title: 'A cue sheet brought in',
    artist: '',
    key: { tonic: 'C', mode: 'major' },
    keyUnknown: true,
    feel: { subdivision: 'eighths', swing: STRAIGHT },
    bars,
    harmony: heldOn(harmony, bars),
    tempo: tempoOf(starts),
    ...(starts[0]?.seconds ? { firstSeconds: starts[0].seconds } : {}),
    parts: [],
    endTicks: at,
  }
}

const TICKS_TO_QUARTERS_PER_MINUTE = 60 / TICKS_PER_QUARTER
/** The tempo at which every section with a time begins there. */
function tempoOf(
  starts: readonly { startTicks: number; seconds: number | undefined }[],
): WrittenScore['tempo'] {
  const known = starts.flatMap(({ startTicks, seconds }) =>
    seconds === undefined ? [] : [{ startTicks, seconds }],
  )
  return known.flatMap(({ startTicks, seconds }, index) => {
    const next = known[index + 1]
    if (!next || next.seconds <= seconds) return []
    const quartersPerMinute =
      ((next.startTicks - startTicks) / (next.seconds - seconds)) * TICKS_TO_QUARTERS_PER_MINUTE
    return [{ startTicks, quartersPerMinute }]
  })
}
