// The pages of a part on the lesson sheet: its grips, then its figures in the order they are played.
import { pretty } from '../music/pitch'
import { gripFacts, writeGrip } from '../neck/grips/grip'
import { stringName } from '../document/part-pitch'
import { sectionPlaces } from '../document/form'
import { figureContent } from '../document/figure-content'
import type { Content, Figure, Grip, Part, Song } from '../document/schema'
import { barTicks, countWords, meterName } from '../time/meter'
import { startInBar } from '../timeline/start-in-bar'
import { sliceContent } from '../timeline/compare'
import { chordGrid } from './chord-grid'
import { moved, text } from './primitives'
import { continuedHeading, partHeading, wrap, type Block, type SheetOptions } from './sheet-blocks'
import { rigBlocks } from './sheet-rig'
import { engraveTab } from './tab'
import { accentsWithin } from './tab-accents'
import { SHEET_METRICS, type Tab } from './tab-measures'

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

/** The room on a page, mm. */
export interface Room {
  inner: number
  /** No block may be higher. */
  tallest: number
}

/** Whether a figure is played in a section. */
const playedIn = (song: Song, figure: Figure, sectionId: string): boolean =>
  Object.values(song.placements).some(
    (placement) =>
      placement.kind === 'figure' &&
      placement.sectionId === sectionId &&
      (placement.figureId === figure.id ||
        placement.passFigures?.some((other) => other.figureId === figure.id)),
  )

/** A heading, the grips, and the figures of a part; nothing when it has none that are wanted. */
export function partBlocks(song: Song, part: Part, options: SheetOptions, room: Room): Block[] {
  const { inner } = room
  const { figureId, sectionId } = options
  const figures = figuresInOrder(song, part).filter(
    (figure) => (!figureId || figure.id === figureId) && (!sectionId || playedIn(song, figure, sectionId)),
  )
  if (figures.length === 0) return []
  const shown = new Set(figures.map(({ id }) => id))
  const heading = partHeading(part.name, inner)
  const named = (grip: Grip): string =>
    pretty(gripFacts(song, part, grip, options.naming).names[0]?.symbol ?? '') || writeGrip(grip)
  const grips = new Map<string, Grip>()
  for (const figure of figures)
    for (const span of figureContent(song, figure, options.form).grips)
      grips.set(writeGrip(span.grip), span.grip)
  return [
    heading,
    ...(options.only === 'grips' || figureId ? [] : rigBlocks(song, part, inner, sectionId)),
    ...gripBlocks([...grips.values()], named, { inner, leftHanded: options.leftHanded }),
    ...(options.only === 'grips'
      ? []
      : figures.flatMap((figure) => figureBlocks(figure, { song, part, options, room, named, shown }))),
  ]
}

function gripBlocks(
  grips: readonly Grip[],
  named: (grip: Grip) => string,
  { inner, leftHanded }: { inner: number; leftHanded: boolean | undefined },
): Block[] {
  const each = 17.5
  const perRow = Math.floor(inner / (each + 2))
  const rows: Block[] = []
  for (let first = 0; first < grips.length; first += perRow) {
    const drawn = grips
      .slice(first, first + perRow)
      .map((grip) => ({ grip, ...chordGrid(grip, each, leftHanded) }))
    rows.push({
      keepWithNext: true,
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
  room: Room
  named: (grip: Grip) => string
  /** Ids of the figures on this sheet. */
  shown: ReadonlySet<string>
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

/** Everything of a figure so many ticks later. */
function later(content: Content, by: number): Content {
  const move = <T extends { startTicks: number }>(one: T): T => ({ ...one, startTicks: one.startTicks + by })
  return {
    grips: content.grips.map(move),
    strokes: content.strokes.map(move),
    notes: content.notes.map(move),
    mutes: content.mutes.map(move),
  }
}

/** "4 bars of 4/4, swung · in Verse 1, Verse 2". */
function figureWords(figure: Figure, { song, options }: FigureContext): string {
  const bars = Math.round((100 * figure.lengthTicks) / barTicks(figure.meter)) / 100
  const where = placedIn(song, figure)
  const inBar = startInBar(song, figure)
  const from = inBar ? countWords(figure.meter, inBar) : ''
  const facts = [
    `${bars === 0.5 ? 'half a' : bars} ${bars <= 1 ? 'bar' : 'bars'} of ${meterName(figure.meter)}`,
    from && `from ${from.startsWith('the') ? from : `the ${from}`}`,
    figure.feel.swing.ratio === 0.5 ? '' : 'swung',
    options.form === 'eased' && figure.eased ? 'eased' : '',
  ]
  const places = where.length ? `in ${where.join(', ')}` : 'not placed yet'
  return `${facts.filter(Boolean).join(', ')} · ${places}`
}

/** Bars of a figure that are drawn, from one to another, and what is said of them. */
interface Stretch {
  from: number
  to: number
  label?: string
}

const barsWords = (from: number, to: number): string =>
  to - from > 1 ? `bars ${from + 1} to ${to}` : `bar ${from + 1}`

/** All of a figure; of a variation whose base is on the sheet too, only the bars that differ. */
function stretchesOf(figure: Figure, { song, options, shown }: FigureContext): Stretch[] {
  const bars = Math.max(1, Math.ceil(figure.lengthTicks / barTicks(figure.meter)))
  const base = figure.variationOf && song.figures[figure.variationOf.figureId]
  const whole = [{ from: 0, to: bars }]
  if (!base || !shown.has(base.id) || (options.form === 'eased' && figure.eased)) return whole
  const replaced = figure.variationOf!.replacedBars.filter((bar) => bar < bars).sort((a, b) => a - b)
  if (!replaced.length || replaced.length >= bars) return whole
  const runs: Stretch[] = []
  for (const bar of replaced) {
    const last = runs.at(-1)
    if (last?.to === bar) last.to = bar + 1
    else runs.push({ from: bar, to: bar + 1 })
  }
  return runs.map((run, index) => ({
    ...run,
    label: `${index ? 'and' : `as ${base.name}, but`} ${barsWords(run.from, run.to)}`,
  }))
}

/** Under a figure, mm. */
const AIR = 5

/** A figure as one block, or as several where it is higher than a page or only some bars are drawn. */
function figureBlocks(figure: Figure, context: FigureContext): Block[] {
  const whole = stretchesOf(figure, context)
  const drawn = whole.flatMap((stretch) => onPages(figure, stretch, context))
  const continues = continuedHeading(context.part.name, context.room.inner)
  return drawn.map(({ stretch, tab }, index) => {
    const head = index === 0 ? headOf(figure, context) : { primitives: [], height: 0 }
    const label = stretch.label ? 4.2 : 0
    return {
      height: head.height + label + tab.height + AIR,
      air: AIR,
      continues,
      primitives: [
        ...head.primitives,
        ...(stretch.label ? [text(0, head.height + 2.8, stretch.label, 3, { bold: true })] : []),
        ...moved(tab.primitives, 0, head.height + label),
      ],
    }
  })
}

/** Kept for a figure’s name and note, mm. */
const HEAD_ROOM = 30

/** A stretch with its tablature, cut so that no piece is higher than a page. */
function onPages(figure: Figure, stretch: Stretch, context: FigureContext): { stretch: Stretch; tab: Tab }[] {
  const tab = tabOf(figure, stretch, context)
  const { systems, height } = tab
  const most = context.room.tallest - HEAD_ROOM
  if (height <= most) return [{ stretch, tab }]
  const perPage = Math.max(1, Math.floor(systems.length / Math.ceil(height / most)))
  const first = systems.filter((_, index) => index % perPage === 0)
  return first.map(({ firstBar }, index) => {
    const from = stretch.from + firstBar
    const next = first[index + 1]
    const to = next ? stretch.from + next.firstBar : stretch.to
    const piece = { from, to, label: index || stretch.label ? `from bar ${from + 1}` : '' }
    return { stretch: piece, tab: tabOf(figure, piece, context) }
  })
}

/** Some bars of a figure are drawn no wider than they would be in all of it. */
const USUAL_BARS = 4
const widthOf = (bars: number, inner: number): number =>
  bars >= USUAL_BARS ? inner : SHEET_METRICS.left + ((inner - SHEET_METRICS.left) * bars) / USUAL_BARS
const drawnBars = (lengthTicks: number, bar: number): number => Math.max(1, Math.ceil(lengthTicks / bar))

function tabOf(figure: Figure, { from, to }: Stretch, context: FigureContext): Tab {
  const { song, part, options, room, named } = context
  const bar = barTicks(figure.meter)
  const content = figureContent(song, figure, options.form)
  const until = Math.min(figure.lengthTicks, to * bar)
  const all = from === 0 && until === figure.lengthTicks
  const sliced = all ? content : sliceContent(content, from * bar, until)
  const accents = accentsWithin(figure.accentLines, from * bar, until)
  // A pickup stands where it starts in its bar.
  const begins = all && !figure.freeTime ? startInBar(song, figure) : 0
  const drawn = begins ? later(sliced, begins) : sliced
  const lengthTicks = until - from * bar + begins
  return engraveTab({
    figure: {
      ...figure,
      lengthTicks,
      accentLines: accents?.map((one) => ({ ...one, at: one.at.map((tick) => tick + begins) })),
    },
    content: drawn,
    begins,
    width: all ? room.inner : widthOf(drawnBars(lengthTicks, bar), room.inner),
    metrics: SHEET_METRICS,
    stringNames: part.tuning.openMidi.map((_, index) => pretty(stringName(song, part, index + 1, options))),
    gripNames: Object.fromEntries(drawn.grips.map((span) => [span.id, named(span.grip)])),
  })
}

/** "Licks: his usual line from bar 2". */
function lickWords({ licks = [], meter }: Figure): string {
  const each = licks.map(
    ({ name, startTicks }) => `“${name}” from bar ${Math.floor(startTicks / barTicks(meter)) + 1}`,
  )
  return each.length ? `Licks: ${each.join(', ')}` : ''
}

/** Its name, what it is and where, and what is noted of it. */
function headOf(figure: Figure, context: FigureContext): Block {
  const { inner } = context.room
  const after = Math.max(52, figure.name.length * 4 * 0.58 + 4)
  const lines = wrap(figureWords(figure, context), inner - after, 2.8)
  const note = [figure.note ?? '', lickWords(figure)].flatMap((words) =>
    words ? wrap(words, inner, 2.8) : [],
  )
  const top = Math.max(6.5, lines.length * 3.6 + 2)
  return {
    height: top + note.length * 3.6,
    primitives: [
      text(0, 4.5, figure.name, 4, { bold: true }),
      ...lines.map((value, index) => text(after, 4.3 + index * 3.6, value, 2.8, { role: 'quiet' })),
      ...note.map((value, index) => text(0, top + 2.4 + index * 3.6, value, 2.8)),
    ],
  }
}
