// The pages of a part on the lesson sheet: its grips, then its figures in the order they are played.
import { pretty } from '../music/pitch'
import { gripFacts, writeGrip } from '../fretboard/grips/grip'
import { stringName } from '../document/part-pitch'
import { sectionPlaces } from '../document/form'
import { figureContent } from '../document/figure-content'
import type { Figure, Grip, Part, Song } from '../document/schema'
import { barTicks, meterName } from '../time/meter'
import { chordGrid } from './chord-grid'
import { line, moved, text } from './primitives'
import { wrap, type Block, type SheetOptions } from './sheet-blocks'
import { engraveTab } from './tab'
import { SHEET_METRICS } from './tab-measures'

/** A part's figures in the order of their first place; figures placed nowhere come last. */
function figuresInOrder(song: Song, part: Part): Figure[] {
  const first = new Map<string, number>()
  const starts = new Map(sectionPlaces(song).map((place) => [place.section.id, place.startTicks]))
  for (const placement of Object.values(song.placements)) {
    if (placement.kind !== 'figure' || placement.partId !== part.id) continue
    const at = starts.get(placement.sectionId)! + placement.startTicks
    const placed = [placement.figureId, ...(placement.passFigures ?? []).map((other) => other.figureId)]
    for (const id of placed) first.set(id, Math.min(first.get(id) ?? Number.POSITIVE_INFINITY, at))
  }
  return Object.values(song.figures)
    .filter((figure) => figure.partId === part.id)
    .sort((a, b) => (first.get(a.id) ?? Number.MAX_VALUE) - (first.get(b.id) ?? Number.MAX_VALUE))
}

/** A heading, the grips, and the figures of a part; nothing when it has none. */
export function partBlocks(song: Song, part: Part, options: SheetOptions, inner: number): Block[] {
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
    ...figures.map((figure) => figureBlock(figure, { song, part, options, inner, named })),
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

interface FigureContext {
  song: Song
  part: Part
  options: SheetOptions
  inner: number
  named: (grip: Grip) => string
}

/** The sections a figure is placed in, in the order of the form. */
function placedIn(song: Song, figure: Figure): string[] {
  const sections = new Set(
    Object.values(song.placements)
      .filter(
        (placement) =>
          placement.kind === 'figure' &&
          (placement.figureId === figure.id ||
            placement.passFigures?.some((other) => other.figureId === figure.id)),
      )
      .map((placement) => placement.sectionId),
  )
  return song.sectionOrder.filter((id) => sections.has(id)).map((id) => song.sections[id]!.name)
}

/** "4 bars of 4/4, swung · in Verse 1, Verse 2". */
function figureWords(figure: Figure, { song, options }: FigureContext): string {
  const bars = Math.round((100 * figure.lengthTicks) / barTicks(figure.meter)) / 100
  const where = placedIn(song, figure)
  const facts = [
    `${bars} ${bars === 1 ? 'bar' : 'bars'} of ${meterName(figure.meter)}`,
    figure.feel.swing.ratio === 0.5 ? '' : 'swung',
    options.form === 'eased' && figure.eased ? 'eased' : '',
  ]
  const places = where.length ? `in ${where.join(', ')}` : 'not placed yet'
  return `${facts.filter(Boolean).join(', ')} · ${places}`
}

function figureBlock(figure: Figure, context: FigureContext): Block {
  const { song, part, options, inner, named } = context
  const content = figureContent(song, figure, options.form)
  const tab = engraveTab({
    figure,
    content,
    width: inner,
    metrics: SHEET_METRICS,
    stringNames: part.tuning.openMidi.map((_, index) => stringName(song, part, index + 1, options)),
    gripNames: Object.fromEntries(content.grips.map((span) => [span.id, named(span.grip)])),
  })
  const after = Math.max(52, figure.name.length * 4 * 0.58 + 4)
  const lines = wrap(figureWords(figure, context), inner - after, 2.8)
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
