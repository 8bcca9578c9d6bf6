// The head of the lesson sheet: title, tunings, and the song's form with what each part plays.
import { counted } from '../words/words'
import { describeTuning, hasOwnSet, tuningLine } from '../instrument/tunings'
import { INSTRUMENTS } from '../instrument/instruments'
import { keyName, transposeKey } from '../music/pitch'
import { shapeShift } from '../document/part-pitch'
import { allBars, mainSource, sectionPlaces, songTimeMap } from '../document/form'
import type { Part, Section, Song } from '../document/schema'
import { clock, medianTempo, ticksToSeconds } from '../time/beat-grid'
import { meterName } from '../time/meter'
import { landmarksIn, startsBeforeWords } from '../timeline/landmarks'
import { cellStretches, type Stretch } from '../timeline/cells'
import { line, text, type Primitive } from './primitives'
import { wrap, type Block, type SheetOptions } from './sheet-blocks'

const keyWords = (song: Song, shift: number): string =>
  shift
    ? `${keyName(transposeKey(song.key, shift))} by shape, ${keyName(song.key)} as sounding`
    : keyName(song.key)

/** Title, key (once it is known) and tempo, and how each part is tuned. */
export function titleBlock(song: Song, parts: readonly Part[], options: SheetOptions, inner: number): Block {
  const source = mainSource(song)
  const tempo = source?.grid ? medianTempo(allBars(song), source.grid) : undefined
  const shift = parts[0] && options.naming === 'shape' ? shapeShift(parts[0]) : 0
  const key = song.keyUnknown ? '' : keyWords(song, shift)
  const shapes: Primitive[] = [
    text(0, 8, song.title, 8.5, { face: 'heading' }),
    text(0, 14, song.artist, 4, { role: 'quiet' }),
    text(inner, 8, key, 3.6, { anchor: 'end' }),
    text(
      inner,
      13,
      [
        tempo ? `about ${Math.round(tempo)} beats a minute` : '',
        meterName(song.meter),
        song.feel.swing.ratio === 0.5 ? 'straight' : 'swung',
        source?.durationSeconds ? clock(source.durationSeconds) : '',
      ]
        .filter(Boolean)
        .join(' · '),
      3.2,
      { anchor: 'end', role: 'quiet' },
    ),
  ]
  return {
    height: 23 + 5 * parts.length,
    primitives: [
      ...shapes,
      ...parts.flatMap((part, index) => [
        text(0, 21 + 5 * index, part.name, 3.4, { bold: true }),
        text(30, 21 + 5 * index, tunedWords(part, song), 3.2),
      ]),
    ],
  }
}

/** "Guitar: E A D G B E (low to high), standard"; how it gets there, and a capo. */
function tunedWords(part: Part, song: Song): string {
  const { kind, capo } = part.instrument
  const { openMidi, name } = part.tuning
  const words = [
    `${INSTRUMENTS[kind].name}: ${tuningLine(openMidi, song.key)} (low to high)`,
    [tuningWords(name), wayWords(part)].filter(Boolean).join(': '),
    capo ? `capo ${capo}` : '',
  ]
  return words.filter(Boolean).join(', ')
}

/** How the strings get there from standard; nothing where they are there, or are made for it. */
function wayWords({ instrument, tuning }: Part): string {
  const strings = describeTuning(instrument.kind, tuning.openMidi)
  const first = strings[0]
  if (!first || hasOwnSet(tuning)) return ''
  if (!strings.every(({ fromStandard }) => fromStandard === first.fromStandard)) return 'string by string'
  return first.fromStandard === 0 ? '' : (first.way.split(';')[0] ?? '')
}

/**
 * "Half step down" inside a sentence; letters of pitches stay capitals ("B standard", "dropped low string
 * to D").
 */
const tuningWords = (name: string): string =>
  /^[A-Z][a-z]/.test(name) ? name[0]!.toLowerCase() + name.slice(1) : name

/** Where the columns of the parts begin, mm. */
const COLUMNS_FROM = 76
/** Notes longer than this go under the section's name rather than into the next column. */
const LONGEST_NOTES = 11
type Place = ReturnType<typeof sectionPlaces>[number]

/** What is out of the ordinary about a section. */
function sectionNotes(song: Song, { bars, passes, returns }: Section): string {
  const { meter, free } = bars[0]!
  const words = [
    returns ? `as ${song.sections[returns.sectionId]?.name ?? ''}` : '',
    bars.every((bar) => bar.free) ? 'free time' : '',
    passes > 1 ? `${passes} passes` : '',
    !free && meterName(meter) !== meterName(song.meter) ? meterName(meter) : '',
  ]
  return words.filter(Boolean).join(', ')
}

function formRow(
  song: Song,
  { section }: Place,
  row: { columns: readonly Part[]; columnWidth: number; inner: number; seconds: number | undefined },
): Block {
  const { columns, columnWidth, inner, seconds } = row
  const notes = sectionNotes(song, section)
  const under = notes.length > LONGEST_NOTES && columns.length > 0
  const cells = columns.map((part) => wrap(cellWords(song, section.id, part), columnWidth - 2, 2.9))
  const landmarks = landmarksIn(song, section)
    .filter(({ spot }) => spot.onSheet)
    .flatMap(({ words }) => wrap(words, COLUMNS_FROM - 4, 2.5))
  const lines = Math.max(1, ...cells.map((cell) => cell.length))
  const top = 7.6 + (under ? 3.4 : 0)
  const height = Math.max(1.6 + lines * 3.9 + (under ? 3.4 : 0), top - 2.4 + landmarks.length * 3.4)
  const place = under ? { x: 37, y: 7.6 } : { x: 60, y: 4 }
  return {
    height,
    primitives: [
      text(0, 4, section.name, 3.4, { bold: true }),
      text(37, 4, seconds === undefined ? '' : clock(seconds), 3, { face: 'mono' }),
      text(48, 4, `${counted(section.bars.length, 'bar')}`, 3),
      text(place.x, place.y, notes, 2.5, { role: 'quiet' }),
      ...landmarks.map((words, row) => text(0, top + row * 3.4, words, 2.5)),
      line(0, height, inner, height, 0.12, 'rule'),
      ...cells.flatMap((cell, index) =>
        cell.map((words, at) =>
          text(COLUMNS_FROM + index * columnWidth, 4 + at * 3.9, words, 2.9, {
            role: words === 'not charted' ? 'quiet' : 'ink',
          }),
        ),
      ),
    ],
  }
}

/** "Verse chug ×4 +2 frets (4: with the run)"; "rests"; "not charted". */
function stretchWords(song: Song, stretch: Stretch): string {
  if (stretch.kind === 'rests') return 'rests'
  if (stretch.kind === 'open') return 'not charted'
  const { passes, shiftFrets, passFigures = [] } = stretch.placement
  const section = song.sections[stretch.placement.sectionId]
  const words = [
    stretch.figure.name,
    section ? startsBeforeWords(song, section, stretch.startTicks) : '',
    passes > 1 ? `×${passes}` : '',
    shiftFrets ? `${shiftFrets > 0 ? '+' : ''}${shiftFrets} frets` : '',
    ...passFigures.map((other) => `(${other.pass}: ${song.figures[other.figureId]?.name ?? ''})`),
  ]
  return words.filter(Boolean).join(' ')
}

const cellWords = (song: Song, sectionId: string, part: Part): string =>
  cellStretches(song, song.sections[sectionId]!, part.id)
    .map((stretch) => stretchWords(song, stretch))
    .join(', ')

/** So many parts have room beside the sections; further ones get a table of their own. */
const MOST_COLUMNS = 3

/** Parts in tables of nearly the same size: five as three and two. */
function tablesOf(parts: readonly Part[]): Part[][] {
  const count = Math.max(1, Math.ceil(parts.length / MOST_COLUMNS))
  const size = Math.ceil(parts.length / count)
  return Array.from({ length: count }, (_, index) => parts.slice(index * size, (index + 1) * size))
}

/** The form, a row a section, with every part beside it: as many tables as that takes. */
export function formBlocks(song: Song, parts: readonly Part[], inner: number, sectionId?: string): Block[] {
  return tablesOf(parts).flatMap((columns, index) =>
    formTable(song, { columns, title: index ? 'Form, further parts' : 'Form', inner, sectionId }),
  )
}

function formTable(
  song: Song,
  table: { columns: readonly Part[]; title: string; inner: number; sectionId: string | undefined },
): Block[] {
  const { columns, title, inner, sectionId } = table
  const map = songTimeMap(song)
  const columnWidth = columns.length ? (inner - COLUMNS_FROM) / columns.length : 0
  const head: Block = {
    height: 8,
    keepWithNext: true,
    primitives: [
      text(0, 4.5, title, 5, { face: 'heading' }),
      ...columns.map((part, index) =>
        text(COLUMNS_FROM + index * columnWidth, 4.5, part.name, 3.2, { bold: true }),
      ),
      line(0, 6.5, inner, 6.5, 0.25),
    ],
  }
  const rows = sectionPlaces(song)
    .filter(({ section }) => !sectionId || section.id === sectionId)
    .map((place) => ({
      ...formRow(song, place, {
        columns,
        columnWidth,
        inner,
        seconds: map && ticksToSeconds(map, place.startTicks),
      }),
      continues: head,
    }))
  return [head, ...rows, { height: 4, primitives: [] }]
}
