// The lesson sheet: blocks in millimetres laid on pages. Title and tunings, the form, then each part's
// grips and figures, each once.
import { describeTuning, tuningLine } from '../instrument/tunings'
import { INSTRUMENTS } from '../instrument/instruments'
import { keyName, pretty, transposeKey } from '../music/pitch'
import { gripFacts, writeGrip } from '../fretboard/grips/grip'
import { shapeShift, stringName, type Naming } from '../document/part-pitch'
import { allBars, mainSource, orderedParts, sectionPlaces, songTimeMap } from '../document/form'
import { figureContent } from '../document/figure-content'
import { cellStretches } from '../timeline/cells'
import { clock, medianTempo, ticksToSeconds } from '../time/beat-grid'
import { barTicks, meterName } from '../time/meter'
import type { Figure, Grip, Part, Song } from '../document/schema'
import { chordGrid } from './chord-grid'
import { line, moved, text, type Primitive } from './primitives'
import { engraveTab, SHEET_METRICS } from './tab'

export const PAPERS = { A4: { width: 210, height: 297 }, Letter: { width: 215.9, height: 279.4 } } as const
export type Paper = keyof typeof PAPERS
export interface SheetOptions {
  paper: Paper
  partIds: readonly string[]
  naming: Naming
  strings: 'numbers' | 'letters'
  form: 'exact' | 'eased'
}
export interface SheetPage {
  width: number
  height: number
  primitives: Primitive[]
}

const MARGIN = 14
/** Mean width of a character as a share of the size; enough to break lines, not to set them. */
const CHARACTER = 0.5

/** A stretch of the sheet that is not broken over pages. */
interface Block {
  height: number
  primitives: Primitive[]
  keepWithNext?: boolean
}

/** Pages of the sheet. Every chosen part's figures appear once, in the order they are first played. */
export function engraveSheet(
  song: Song,
  options: SheetOptions,
  report: (fraction: number) => void = () => undefined,
): SheetPage[] {
  const { width, height } = PAPERS[options.paper]
  const inner = width - 2 * MARGIN
  const parts = orderedParts(song).filter((part) => options.partIds.includes(part.id))
  const blocks = [
    titleBlock(song, parts, options, inner),
    ...formBlocks(song, parts, inner),
    ...parts.flatMap((part, index) => {
      report(index / parts.length)
      return partBlocks(song, part, options, inner)
    }),
  ]
  const pages: Primitive[][] = [[]]
  let y = MARGIN
  blocks.forEach((block, index) => {
    const needed = block.height + (block.keepWithNext ? (blocks[index + 1]?.height ?? 0) : 0)
    if (y > MARGIN && y + needed > height - MARGIN - 8) {
      pages.push([])
      y = MARGIN
    }
    pages.at(-1)!.push(...moved(block.primitives, MARGIN, y))
    y += block.height
  })
  return pages.map((primitives, index) => ({
    width,
    height,
    primitives: [...primitives, ...footer(song, { width, height, number: index + 1, of: pages.length })],
  }))
}

function footer(
  song: Song,
  page: { width: number; height: number; number: number; of: number },
): Primitive[] {
  const y = page.height - 9
  return [
    line(MARGIN, y - 4, page.width - MARGIN, y - 4, 0.15, 'rule'),
    text(
      MARGIN,
      y,
      'Transcriptions can be under copyright: check the licence and local law before handing this on. Stop at pain; ease the grip.',
      2.5,
      { role: 'quiet' },
    ),
    text(page.width - MARGIN, y, `${song.title} · ${page.number} of ${page.of}`, 2.5, {
      role: 'quiet',
      anchor: 'end',
    }),
  ]
}

function titleBlock(song: Song, parts: readonly Part[], options: SheetOptions, inner: number): Block {
  const source = mainSource(song)
  const tempo = source?.grid ? medianTempo(allBars(song), source.grid) : undefined
  const shift = parts[0] && options.naming === 'shape' ? shapeShift(parts[0]) : 0
  const key = shift
    ? `${keyName(transposeKey(song.key, shift))} by shape, ${keyName(song.key)} as sounding`
    : keyName(song.key)
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
  let y = 21
  for (const part of parts) {
    const down = describeTuning(part.instrument.kind, part.tuning.openMidi)
    const same = down.every((string) => string.fromStandard === down[0]!.fromStandard)
    const way = same ? down[0]!.way.split(';')[0]! : 'string by string'
    shapes.push(
      text(0, y, part.name, 3.4, { bold: true }),
      text(
        30,
        y,
        `${INSTRUMENTS[part.instrument.kind].name}: ${tuningLine(part.instrument.kind, part.tuning.openMidi)} (low to high), ${tuningWords(part.tuning.name)}${same && down[0]!.fromStandard === 0 ? '' : `: ${way}`}${part.instrument.capo ? `, capo ${part.instrument.capo}` : ''}`,
        3.2,
      ),
    )
    y += 5
  }
  return { height: y + 2, primitives: shapes }
}

function formBlocks(song: Song, parts: readonly Part[], inner: number): Block[] {
  const map = songTimeMap(song)
  const columns = parts.slice(0, 3)
  const left = 76
  const columnWidth = columns.length ? (inner - left) / columns.length : 0
  const head: Block = {
    height: 8,
    keepWithNext: true,
    primitives: [
      text(0, 4.5, 'Form', 5, { face: 'heading' }),
      ...columns.map((part, index) => text(left + index * columnWidth, 4.5, part.name, 3.2, { bold: true })),
      line(0, 6.5, inner, 6.5, 0.25),
    ],
  }
  const rows = sectionPlaces(song).map(({ section, startTicks }): Block => {
    const notes = [
      section.returns ? `as ${song.sections[section.returns.sectionId]?.name ?? ''}` : '',
      section.bars.every((bar) => bar.free) ? 'free time' : '',
      section.passes > 1 ? `${section.passes} passes` : '',
      !section.bars[0]!.free && meterName(section.bars[0]!.meter) !== meterName(song.meter)
        ? meterName(section.bars[0]!.meter)
        : '',
    ]
      .filter(Boolean)
      .join(', ')
    const cells = columns.map((part) => wrap(cellWords(song, section.id, part), columnWidth - 2, 2.9))
    const lines = Math.max(1, ...cells.map((cell) => cell.length))
    const height = 1.6 + lines * 3.9
    const shapes: Primitive[] = [
      text(0, 4, section.name, 3.4, { bold: true }),
      text(37, 4, map ? clock(ticksToSeconds(map, startTicks)) : '', 3, { face: 'mono' }),
      text(48, 4, `${section.bars.length} ${section.bars.length === 1 ? 'bar' : 'bars'}`, 3),
      text(60, 4, notes, 2.5, { role: 'quiet' }),
      line(0, height, inner, height, 0.12, 'rule'),
    ]
    cells.forEach((cell, index) =>
      cell.forEach((words, row) =>
        shapes.push(
          text(left + index * columnWidth, 4 + row * 3.9, words, 2.9, {
            role: words === 'not charted' ? 'quiet' : 'ink',
          }),
        ),
      ),
    )
    // Long notes go under the name rather than into the next column.
    return notes.length > 11 && columns.length
      ? {
          height: height + 3.4,
          primitives: [
            ...shapes.filter(
              (shape) => !(shape.kind === 'text' && shape.text === notes) && shape.kind !== 'line',
            ),
            text(37, 7.6, notes, 2.5, { role: 'quiet' }),
            line(0, height + 3.4, inner, height + 3.4, 0.12, 'rule'),
          ],
        }
      : { height, primitives: shapes }
  })
  return [head, ...rows, { height: 4, primitives: [] }]
}

/**
 * "Half step down" inside a sentence; letters of pitches stay capitals ("B standard", "dropped low string
 * to D").
 */
const tuningWords = (name: string): string =>
  /^[A-Z][a-z]/.test(name) ? name[0]!.toLowerCase() + name.slice(1) : name

function cellWords(song: Song, sectionId: string, part: Part): string {
  return cellStretches(song, song.sections[sectionId]!, part.id)
    .map((stretch) =>
      stretch.kind === 'figure'
        ? `${stretch.figure.name}${stretch.placement.passes > 1 ? ` ×${stretch.placement.passes}` : ''}${stretch.placement.shiftFrets ? ` ${stretch.placement.shiftFrets > 0 ? '+' : ''}${stretch.placement.shiftFrets} frets` : ''}${(stretch.placement.passFigures ?? []).map((other) => ` (${other.pass}: ${song.figures[other.figureId]?.name ?? ''})`).join('')}`
        : stretch.kind === 'rests'
          ? 'rests'
          : 'not charted',
    )
    .join(', ')
}

function wrap(value: string, width: number, size: number): string[] {
  const most = Math.max(8, Math.floor(width / (size * CHARACTER)))
  return value.split(' ').reduce<string[]>(
    (lines, word) => {
      const last = lines.at(-1)!
      if (last && last.length + word.length + 1 > most) lines.push(word)
      else lines[lines.length - 1] = last ? `${last} ${word}` : word
      return lines
    },
    [''],
  )
}

/** A part's figures in the order of their first place; figures placed nowhere come last. */
function figuresInOrder(song: Song, part: Part): Figure[] {
  const first = new Map<string, number>()
  for (const place of sectionPlaces(song))
    for (const placement of Object.values(song.placements))
      if (
        placement.kind === 'figure' &&
        placement.sectionId === place.section.id &&
        placement.partId === part.id
      ) {
        for (const id of [
          placement.figureId,
          ...(placement.passFigures ?? []).map((other) => other.figureId),
        ])
          first.set(
            id,
            Math.min(first.get(id) ?? Number.POSITIVE_INFINITY, place.startTicks + placement.startTicks),
          )
      }
  return Object.values(song.figures)
    .filter((figure) => figure.partId === part.id)
    .sort((a, b) => (first.get(a.id) ?? Number.MAX_VALUE) - (first.get(b.id) ?? Number.MAX_VALUE))
}

function partBlocks(song: Song, part: Part, options: SheetOptions, inner: number): Block[] {
  const figures = figuresInOrder(song, part)
  if (figures.length === 0) return []
  const heading: Block = {
    height: 9,
    keepWithNext: true,
    primitives: [text(0, 6, part.name, 6, { face: 'heading' }), line(0, 8, inner, 8, 0.25)],
  }
  const named = (grip: Grip): string =>
    pretty(gripFacts(song, part, grip, options.naming).names[0]?.symbol ?? '') || writeGrip(grip)
  const grips = new Map<string, Grip>()
  for (const figure of figures)
    for (const span of figureContent(song, figure, options.form).grips)
      grips.set(writeGrip(span.grip), span.grip)
  return [
    heading,
    ...gripBlocks([...grips.values()], named, inner),
    ...figures.map((figure) => figureBlock(song, part, figure, options, inner, named)),
  ]
}

function gripBlocks(grips: readonly Grip[], named: (grip: Grip) => string, inner: number): Block[] {
  const each = 17.5
  const perRow = Math.floor(inner / (each + 2))
  const rows: Block[] = []
  for (let first = 0; first < grips.length; first += perRow) {
    const drawn = grips.slice(first, first + perRow).map((grip) => ({ grip, ...chordGrid(grip, each) }))
    rows.push({
      height: 8 + Math.max(...drawn.map((entry) => entry.height)),
      primitives: drawn.flatMap((entry, index) => [
        text(index * (each + 2) + each * 0.57, 4, named(entry.grip), 3.2, { anchor: 'middle', bold: true }),
        ...moved(entry.primitives, index * (each + 2), 4.6),
      ]),
    })
  }
  return rows
}

function figureBlock(
  song: Song,
  part: Part,
  figure: Figure,
  options: SheetOptions,
  inner: number,
  named: (grip: Grip) => string,
): Block {
  const content = figureContent(song, figure, options.form)
  const bars = figure.lengthTicks / barTicks(figure.meter)
  const where = [
    ...new Set(
      Object.values(song.placements)
        .filter(
          (placement) =>
            placement.kind === 'figure' &&
            (placement.figureId === figure.id ||
              placement.passFigures?.some((other) => other.figureId === figure.id)),
        )
        .map((placement) => placement.sectionId),
    ),
  ]
    .sort((a, b) => song.sectionOrder.indexOf(a) - song.sectionOrder.indexOf(b))
    .map((id) => song.sections[id]!.name)
  const tab = engraveTab({
    figure,
    content,
    width: inner,
    metrics: SHEET_METRICS,
    stringNames: part.tuning.openMidi.map((_, index) => stringName(song, part, index + 1, options)),
    gripNames: Object.fromEntries(content.grips.map((span) => [span.id, named(span.grip)])),
  })
  const words = `${Math.round(bars * 100) / 100} ${bars === 1 ? 'bar' : 'bars'} of ${meterName(figure.meter)}${figure.feel.swing.ratio === 0.5 ? '' : ', swung'}${options.form === 'eased' && figure.eased ? ', eased' : ''} · ${where.length ? `in ${where.join(', ')}` : 'not placed yet'}`
  const after = Math.max(52, figure.name.length * 4 * 0.58 + 4)
  const lines = wrap(words, inner - after, 2.8)
  const note = figure.note ? wrap(figure.note, inner, 2.8) : []
  const top = Math.max(6.5, lines.length * 3.6 + 2)
  return {
    height: top + note.length * 3.6 + tab.height + 5,
    primitives: [
      text(0, 4.5, figure.name, 4, { bold: true }),
      ...lines.map((value, index) => text(after, 4.3 + index * 3.6, value, 2.8, { role: 'quiet' })),
      ...note.map((value, index) => text(0, top + 2.4 + index * 3.6, value, 2.8)),
      ...moved(tab.primitives, 0, top + note.length * 3.6),
    ],
  }
}
