// A figure as tablature over a ruler: grips above, notes on the strings, muting, strokes and counts below.
// All to one time axis, several systems when it is long. Used by the bench (pixels) and the sheet
// (millimetres): only the metrics differ.
import { signOf } from '../articulation'
import { barTicks, countBar } from '../time/meter'
import type { Content, Figure, Note, Pressure, Stroke } from '../document/schema'
import { line, text, type Primitive } from './primitives'

export interface TabMetrics {
  stringGap: number
  fretSize: number
  smallSize: number
  rowGap: number
  leastStep: number
  left: number
  gripRow: number
  outlineRow: number
  hairline: number
  /** Leave out rows that have nothing to show. */ compact: boolean
}
export const BENCH_METRICS: TabMetrics = {
  stringGap: 22,
  fretSize: 15,
  smallSize: 12.5,
  rowGap: 27,
  leastStep: 21,
  left: 44,
  gripRow: 26,
  outlineRow: 34,
  hairline: 1,
  compact: false,
}
/** A second reading under the bench, to the same ruler, without what both share. */
export const BESIDE_METRICS: TabMetrics = {
  ...BENCH_METRICS,
  stringGap: 15,
  fretSize: 13,
  rowGap: 22,
  gripRow: 24,
  outlineRow: 0,
  compact: true,
}
export const SHEET_METRICS: TabMetrics = {
  stringGap: 2.5,
  fretSize: 2.9,
  smallSize: 2.2,
  rowGap: 3.5,
  leastStep: 3.6,
  left: 9,
  gripRow: 4.6,
  outlineRow: 0,
  hairline: 0.12,
  compact: true,
}

export interface TabSystem {
  firstBar: number
  startTicks: number
  endTicks: number
  left: number
  right: number
  top: number
  stringYs: number[]
  outlineY: number
  gripY: number
  mutingY: number
  handY: number
  countY: number
  bottom: number
}
export interface Tab {
  systems: TabSystem[]
  primitives: Primitive[]
  height: number
  width: number
}
export interface TabInput {
  figure: Pick<Figure, 'lengthTicks' | 'meter' | 'feel' | 'freeTime'>
  content: Content
  stringNames: string[]
  /** Symbol of each grip span by id, as named by the caller's choice of naming. */
  gripNames: Record<string, string>
  width: number
  metrics: TabMetrics
  /** Not entered yet: what the call line or a path would put there. */
  draft?: Partial<Content>
  /**
   * Ids of notes and strokes to point at: what differs, what goes against the school, what cannot be
   * played.
   */
  marked?: ReadonlySet<string>
}

export const tickToX = (system: TabSystem, tick: number): number =>
  system.left +
  ((tick - system.startTicks) / (system.endTicks - system.startTicks)) * (system.right - system.left)
export const xToTick = (system: TabSystem, x: number): number =>
  system.startTicks +
  ((x - system.left) / (system.right - system.left)) * (system.endTicks - system.startTicks)

/**
 * Notes sit a little after their step's left edge, so that the bar line does not strike through the first
 * of a bar.
 */
const inset = (metrics: TabMetrics): number => metrics.leastStep * 0.45

const PRESSURE_WIDTH: Record<Pressure, number> = { light: 0.1, medium: 0.2, firm: 0.34 }

export function engraveTab(input: TabInput): Tab {
  const { figure, metrics, width } = input
  const bar = barTicks(figure.meter)
  const steps = countBar(figure.meter, figure.feel.subdivision).length
  const bars = Math.max(1, Math.ceil(figure.lengthTicks / bar))
  const perSystem = Math.max(
    1,
    Math.min(bars, Math.floor((width - metrics.left) / (steps * metrics.leastStep))),
  )
  const { content } = input
  const always = !metrics.compact
  const shown = {
    grips: always || content.grips.length > 0,
    muting:
      always ||
      muteRuns(content).length > 0 ||
      content.mutes.length > 0 ||
      content.strokes.some((stroke) => stroke.dead),
    hand: always || content.strokes.length > 0 || content.notes.some((note) => note.accent || note.pick),
  }
  const systems: TabSystem[] = []
  let top = 0
  for (let firstBar = 0; firstBar < bars; firstBar += perSystem) {
    const outlineY = top
    const gripY = outlineY + metrics.outlineRow + metrics.gripRow * 0.7
    const firstString =
      outlineY + metrics.outlineRow + (shown.grips ? metrics.gripRow : 0) + metrics.stringGap * 0.9
    const stringYs = input.stringNames.map((_, index) => firstString + index * metrics.stringGap)
    const mutingY =
      stringYs.at(-1)! +
      metrics.stringGap * 0.55 +
      (shown.muting ? metrics.rowGap * 0.55 : -metrics.rowGap * 0.25)
    const handY = mutingY + (shown.hand ? metrics.rowGap : 0)
    const countY = handY + metrics.rowGap
    const startTicks = firstBar * bar
    // Every system has the same scale; the last one may be shorter.
    const right = metrics.left + ((width - metrics.left) * Math.min(perSystem, bars - firstBar)) / perSystem
    const endTicks = Math.min(bars, firstBar + perSystem) * bar
    const bottom = countY + metrics.rowGap * 0.6
    systems.push({
      firstBar,
      startTicks,
      endTicks,
      left: metrics.left,
      right,
      top,
      stringYs,
      outlineY,
      gripY,
      mutingY,
      handY,
      countY,
      bottom,
    })
    top = bottom + metrics.rowGap * 0.5
  }
  return {
    systems,
    primitives: systems.flatMap((system) => engraveSystem(system, input, bar)),
    height: systems.at(-1)!.bottom,
    width,
  }
}

const inSystem = (system: TabSystem, event: { startTicks: number }): boolean =>
  event.startTicks >= system.startTicks && event.startTicks < system.endTicks

function engraveSystem(system: TabSystem, input: TabInput, bar: number): Primitive[] {
  const { metrics, content, figure } = input
  const shapes: Primitive[] = []
  system.stringYs.forEach((y, index) => {
    shapes.push(line(system.left, y, system.right, y, metrics.hairline * (1 + index * 0.12), 'quiet'))
    shapes.push(
      text(
        system.left - metrics.smallSize * 0.7,
        y + metrics.smallSize * 0.35,
        input.stringNames[index]!,
        metrics.smallSize,
        { anchor: 'end', role: 'quiet', face: 'mono' },
      ),
    )
  })
  for (let tick = system.startTicks; tick <= system.endTicks; tick += bar) {
    const x = tickToX(system, tick)
    const last = tick >= figure.lengthTicks && tick - bar < figure.lengthTicks
    shapes.push(
      line(
        x,
        system.stringYs[0]!,
        x,
        system.stringYs.at(-1)!,
        metrics.hairline * (last || tick === 0 ? 2.2 : 1.3),
        'ink',
      ),
    )
  }
  shapes.push(
    ...counts(system, input, bar),
    ...gripRow(system, input),
    ...strokes(system, input),
    ...notes(system, input),
    ...muting(system, content, metrics),
    ...drafts(system, input),
  )
  if (figure.lengthTicks < system.endTicks) {
    const x = tickToX(system, figure.lengthTicks)
    shapes.push({
      kind: 'rect',
      x,
      y: system.stringYs[0]!,
      width: system.right - x,
      height: system.stringYs.at(-1)! - system.stringYs[0]!,
      fill: 'wood',
    })
  }
  return shapes
}

/** Drafts in the colour of what the user is doing, on top of what is there. */
function drafts(system: TabSystem, { draft, metrics }: TabInput): Primitive[] {
  const sign = (x: number, y: number, label: string): Primitive[] => [
    {
      kind: 'rect',
      x: x - metrics.fretSize * 0.34 * Math.max(1.8, label.length),
      y: y - metrics.fretSize * 0.6,
      width: metrics.fretSize * 0.68 * Math.max(1.8, label.length),
      height: metrics.fretSize * 1.2,
      fill: 'selection',
      radius: 3,
    },
    text(x, y + metrics.fretSize * 0.36, label, metrics.fretSize, {
      anchor: 'middle',
      face: 'mono',
      role: 'action',
      bold: true,
    }),
  ]
  const at = (event: { startTicks: number }): number => tickToX(system, event.startTicks) + inset(metrics)
  const notes = (draft?.notes ?? [])
    .filter((note) => inSystem(system, note))
    .flatMap((note) => {
      const y = system.stringYs[note.string - 1]
      return y === undefined
        ? []
        : sign(at(note), y, note.articulations.some((mark) => mark.kind === 'dead') ? '×' : String(note.fret))
    })
  const strokes = (draft?.strokes ?? [])
    .filter((stroke) => inSystem(system, stroke))
    .flatMap((stroke) =>
      sign(at(stroke), system.handY - metrics.smallSize * 0.36, stroke.dead ? '×' : ARROW[stroke.direction]),
    )
  const grips = (draft?.grips ?? [])
    .filter((span) => inSystem(system, span))
    .flatMap((span) => {
      const label = span.grip.strings
        .map((string) => string.fret ?? 'x')
        .reverse()
        .join(span.grip.strings.some((string) => (string.fret ?? 0) > 9) ? '-' : '')
      return sign(
        at(span) + metrics.fretSize * 0.3 * label.length,
        system.gripY - metrics.fretSize * 0.36,
        label,
      )
    })
  return [...notes, ...strokes, ...grips]
}

function counts(system: TabSystem, { figure, metrics }: TabInput, bar: number): Primitive[] {
  const shapes: Primitive[] = []
  if (figure.freeTime)
    return [
      text(
        system.left + inset(metrics),
        system.countY,
        'free time: the order counts, lengths are rough',
        metrics.smallSize,
        { role: 'quiet' },
      ),
    ]
  for (let start = system.startTicks; start < system.endTicks; start += bar) {
    for (const count of countBar(figure.meter, figure.feel.subdivision)) {
      if (start + count.tick >= figure.lengthTicks) continue
      const beat = count.strength !== 'between'
      shapes.push(
        text(
          tickToX(system, start + count.tick) + inset(metrics),
          system.countY,
          count.text,
          metrics.smallSize * (beat ? 1.1 : 1),
          { anchor: 'middle', role: beat ? 'ink' : 'quiet', bold: beat, face: 'mono' },
        ),
      )
    }
  }
  return shapes
}

function gripRow(system: TabSystem, { content, metrics, gripNames }: TabInput): Primitive[] {
  return content.grips
    .filter((span) => inSystem(system, span))
    .flatMap((span): Primitive[] => {
      const x = tickToX(system, span.startTicks)
      const end = tickToX(system, Math.min(system.endTicks, span.startTicks + span.lengthTicks))
      return [
        text(x + inset(metrics) * 0.5, system.gripY, gripNames[span.id] ?? '', metrics.fretSize, {
          bold: true,
        }),
        line(
          x + inset(metrics) * 0.5,
          system.gripY + metrics.smallSize * 0.35,
          end - inset(metrics) * 0.5,
          system.gripY + metrics.smallSize * 0.35,
          metrics.hairline,
          'rule',
        ),
      ]
    })
}

const ARROW: Record<Stroke['direction'], string> = { down: '↓', up: '↑', thumb: 'T', fingers: 'f' }

function strokes(system: TabSystem, { content, metrics, marked }: TabInput): Primitive[] {
  const shapes: Primitive[] = []
  let shown: string | undefined
  for (const stroke of content.strokes) {
    const span = content.grips.findLast(
      (grip) =>
        grip.startTicks <= stroke.startTicks && stroke.startTicks < grip.startTicks + grip.lengthTicks,
    )
    const repeated = span !== undefined && span.id === shown && !stroke.strings
    if (!stroke.dead) shown = span?.id
    if (!inSystem(system, stroke)) continue
    const x = tickToX(system, stroke.startTicks) + inset(metrics)
    const wrong = marked?.has(stroke.id) ?? false
    shapes.push(
      text(x, system.handY, ARROW[stroke.direction], metrics.smallSize * 1.15, {
        anchor: 'middle',
        bold: stroke.accent || wrong,
        role: wrong ? 'attention' : 'ink',
      }),
    )
    if (wrong)
      shapes.push(
        line(
          x - metrics.smallSize * 0.45,
          system.handY + metrics.smallSize * 0.32,
          x + metrics.smallSize * 0.45,
          system.handY + metrics.smallSize * 0.32,
          metrics.hairline * 1.8,
          'attention',
        ),
      )
    if (stroke.staccato)
      shapes.push(
        text(x + metrics.smallSize * 0.55, system.handY, '·', metrics.smallSize, {
          anchor: 'middle',
          bold: true,
        }),
      )
    if (stroke.accent)
      shapes.push(
        text(x, system.handY - metrics.rowGap * 0.5, '>', metrics.smallSize * 0.75, {
          anchor: 'middle',
          bold: true,
        }),
      )
    if (stroke.choke)
      shapes.push(
        text(x, system.stringYs[0]! - metrics.stringGap * 0.4, 'choke', metrics.smallSize * 0.8, {
          anchor: 'middle',
          role: 'quiet',
        }),
      )
    const strings = span?.grip.strings ?? system.stringYs.map(() => ({ fret: null }))
    strings.forEach((string, index) => {
      const y = system.stringYs[index]! + metrics.fretSize * 0.36
      const struck = stroke.strings ? stroke.strings.includes(index + 1) : string.fret !== null
      if (stroke.dead && (struck || (!span && index >= strings.length - 3)))
        shapes.push(text(x, y, '×', metrics.fretSize, { anchor: 'middle', halo: true, bold: true }))
      else if (struck && string.fret !== null)
        shapes.push(
          text(x, y, String(string.fret), metrics.fretSize, {
            anchor: 'middle',
            face: 'mono',
            halo: true,
            role: repeated ? 'quiet' : 'ink',
            bold: !repeated,
          }),
        )
    })
  }
  return shapes
}

/** The fret as it is written: dead, ghosted, as a harmonic, or plain. */
function fretSign(note: Pick<Note, 'fret' | 'articulations'>): string {
  const kinds = new Set(note.articulations.map((articulation) => articulation.kind))
  if (kinds.has('dead')) return '×'
  if (kinds.has('ghost')) return `(${note.fret})`
  const harmonic = kinds.has('natural harmonic') || kinds.has('pinched harmonic')
  return harmonic ? `<${note.fret}>` : String(note.fret)
}

function notes(system: TabSystem, { content, metrics, marked, figure }: TabInput): Primitive[] {
  const shapes: Primitive[] = []
  const before = new Map<number, Note>()
  for (const note of [...content.notes].sort((a, b) => a.startTicks - b.startTicks)) {
    const previous = before.get(note.string)
    before.set(note.string, note)
    if (!inSystem(system, note)) continue
    const x = tickToX(system, note.startTicks) + inset(metrics)
    const y = system.stringYs[note.string - 1]
    if (y === undefined) continue
    const sign = fretSign(note)
    const slur = note.articulations.find(
      (articulation) =>
        articulation.kind === 'hammer-on' ||
        articulation.kind === 'pull-off' ||
        articulation.kind === 'slide',
    )
    const arcTop = y - metrics.stringGap * 0.62
    if (
      slur &&
      previous &&
      inSystem(system, previous) &&
      !(slur.kind === 'slide' && slur.how !== 'legato' && slur.how !== 'shift')
    ) {
      const from = tickToX(system, previous.startTicks) + inset(metrics)
      shapes.push({
        kind: 'curve',
        x1: from,
        y1: y - metrics.fretSize * 0.5,
        cx: (from + x) / 2,
        cy: y - metrics.stringGap * 1.15,
        x2: x,
        y2: y - metrics.fretSize * 0.5,
        width: metrics.hairline * 1.2,
        role: 'ink',
      })
      if (slur.kind === 'slide')
        shapes.push(
          line(
            from + metrics.fretSize * 0.55,
            y + metrics.stringGap * (previous.fret < note.fret ? 0.18 : -0.18),
            x - metrics.fretSize * 0.55,
            y - metrics.stringGap * (previous.fret < note.fret ? 0.18 : -0.18),
            metrics.hairline,
          ),
        )
      shapes.push(
        text((from + x) / 2, arcTop - metrics.hairline, signOf(slur)!, metrics.smallSize * 0.85, {
          anchor: 'middle',
          role: 'ink',
          halo: true,
        }),
      )
    }
    if (slur?.kind === 'slide' && slur.how.startsWith('in'))
      shapes.push(
        line(
          x - metrics.fretSize * 1.2,
          y + metrics.stringGap * (slur.how.endsWith('below') ? 0.3 : -0.3),
          x - metrics.fretSize * 0.5,
          y,
          metrics.hairline * 1.2,
        ),
      )
    if (slur?.kind === 'slide' && slur.how === 'out')
      shapes.push(
        line(
          x + metrics.fretSize * 0.5,
          y,
          x + metrics.fretSize * 1.3,
          y + metrics.stringGap * 0.3,
          metrics.hairline * 1.2,
        ),
      )
    shapes.push(
      text(x, y + metrics.fretSize * 0.36, sign, metrics.fretSize, {
        anchor: 'middle',
        face: 'mono',
        halo: true,
        bold: true,
      }),
    )
    if (marked?.has(note.id))
      shapes.push(
        line(
          x - metrics.fretSize * 0.6,
          y + metrics.fretSize * 0.62,
          x + metrics.fretSize * 0.6,
          y + metrics.fretSize * 0.62,
          metrics.hairline * 2,
          'attention',
        ),
      )
    // What sounds on past its step: a thin line to where it ends.
    const end = Math.min(system.endTicks, note.startTicks + note.lengthTicks)
    if (note.lengthTicks >= barTicks(figure.meter) && end > note.startTicks)
      shapes.push({
        ...line(
          x + metrics.fretSize * 0.7,
          y - metrics.stringGap * 0.22,
          tickToX(system, end) - metrics.fretSize * 0.3,
          y - metrics.stringGap * 0.22,
          metrics.hairline,
          'quiet',
        ),
        dashed: true,
      } as Primitive)
    if (note.accent)
      shapes.push(
        text(x, system.handY - metrics.rowGap * 0.3, '>', metrics.smallSize, {
          anchor: 'middle',
          bold: true,
        }),
      )
    if (note.pick)
      shapes.push(text(x, system.handY, ARROW[note.pick], metrics.smallSize * 1.15, { anchor: 'middle' }))
    const words = note.articulations
      .filter((articulation) => articulation !== slur || !previous)
      .flatMap((articulation) => signOf(articulation) ?? [])
    if (words.length)
      shapes.push(
        text(x, system.stringYs[0]! - metrics.stringGap * 0.45, words.join(' '), metrics.smallSize * 0.85, {
          anchor: 'middle',
          role: 'ink',
        }),
      )
  }
  return shapes
}

interface MuteRun {
  start: number
  end: number
  pressure: Pressure
}

/** Palm mutes of spans, strokes and notes together, joined where they touch. */
function muteRuns(content: Content): MuteRun[] {
  const runs: MuteRun[] = [
    ...content.mutes.flatMap((span) =>
      span.kind === 'palm mute'
        ? [
            {
              start: span.startTicks,
              end: span.startTicks + span.lengthTicks,
              pressure: span.pressure ?? 'medium',
            },
          ]
        : [],
    ),
    ...content.strokes.flatMap((stroke) =>
      stroke.palmMute
        ? [
            {
              start: stroke.startTicks,
              end: stroke.startTicks + stroke.lengthTicks,
              pressure: stroke.palmMute,
            },
          ]
        : [],
    ),
    ...content.notes.flatMap((note) =>
      note.articulations.flatMap((articulation) =>
        articulation.kind === 'palm mute'
          ? [
              {
                start: note.startTicks,
                end: note.startTicks + note.lengthTicks,
                pressure: articulation.pressure,
              },
            ]
          : [],
      ),
    ),
  ].sort((a, b) => a.start - b.start)
  return runs.reduce<MuteRun[]>((joined, run) => {
    const last = joined.at(-1)
    if (last && last.pressure === run.pressure && run.start <= last.end)
      last.end = Math.max(last.end, run.end)
    else joined.push({ ...run })
    return joined
  }, [])
}

function muting(system: TabSystem, content: Content, metrics: TabMetrics): Primitive[] {
  const clip = (start: number, end: number): [number, number] | undefined => {
    const from = Math.max(start, system.startTicks)
    const to = Math.min(end, system.endTicks)
    return from < to
      ? [tickToX(system, from) + inset(metrics) * 0.3, tickToX(system, to) - inset(metrics) * 0.3]
      : undefined
  }
  const bars = muteRuns(content).flatMap((run): Primitive[] => {
    const span = clip(run.start, run.end)
    if (!span) return []
    const height = metrics.rowGap * PRESSURE_WIDTH[run.pressure]
    return [
      {
        kind: 'rect',
        x: span[0],
        y: system.mutingY - height,
        width: span[1] - span[0],
        height,
        fill: 'quiet',
      },
    ]
  })
  const rings = content.mutes
    .filter((span) => span.kind === 'let ring')
    .flatMap((ring): Primitive[] => {
      const span = clip(ring.startTicks, ring.startTicks + ring.lengthTicks)
      return span
        ? [
            text(span[0], system.mutingY, 'let ring', metrics.smallSize * 0.9, { role: 'quiet' }),
            {
              ...line(
                span[0] + metrics.smallSize * 3.6,
                system.mutingY - metrics.smallSize * 0.3,
                span[1],
                system.mutingY - metrics.smallSize * 0.3,
                metrics.hairline,
                'quiet',
              ),
              dashed: true,
            } as Primitive,
          ]
        : []
    })
  const dead = deadWords(content.strokes).flatMap(({ tick, words }): Primitive[] =>
    tick >= system.startTicks && tick < system.endTicks ? [deadText(system, metrics, tick, words)] : [],
  )
  return [...bars, ...rings, ...dead]
}

/** Where the line ends, the words end with it. */
function deadText(system: TabSystem, metrics: TabMetrics, tick: number, words: string): Primitive {
  const x = tickToX(system, tick) + inset(metrics) * 0.4
  const size = metrics.smallSize * 0.9
  const over = x + words.length * size * 0.5 > system.right
  return text(over ? system.right : x, system.mutingY, words, size, {
    role: 'ink',
    halo: true,
    ...(over ? { anchor: 'end' } : {}),
  })
}

const NUMBER = [
  '',
  'dead',
  'two dead',
  'three dead',
  'four dead',
  'five dead',
  'six dead',
  'seven dead',
  'eight dead',
]

/** Dead strokes are counted aloud: "two dead". */
export function deadWords(strokes: readonly Stroke[]): { tick: number; words: string }[] {
  const found: { tick: number; words: string; count: number }[] = []
  strokes.forEach((stroke, index) => {
    if (!stroke.dead) return
    if (index > 0 && strokes[index - 1]!.dead) found.at(-1)!.count++
    else found.push({ tick: stroke.startTicks, words: '', count: 1 })
  })
  return found.map(({ tick, count }) => ({ tick, words: NUMBER[count] ?? `${count} dead` }))
}
