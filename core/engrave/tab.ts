// A figure as tablature over a ruler: grips above, notes on the strings, muting, strokes and counts below.
// All to one time axis, several systems when it is long. Used by the bench (pixels) and the sheet
// (millimetres): only the metrics differ.
import { hasMark } from '../marks/marks-of'
import { barTicks, countBar } from '../time/meter'
import { line, text, type Primitive } from './primitives'
import { mostBars } from './bench-metrics'
import { accentRows, accentRowsHeight } from './tab-accents'
import { drafts } from './tab-drafts'
import { inset, inSystem, tickToX, type Tab, type TabInput, type TabSystem } from './tab-measures'
import { muteRuns, muting } from './tab-muting'
import { notes } from './tab-notes'
import { values } from './tab-values'
import { wordHeight, wordLevels } from './tab-words'
import { strokes } from './tab-strokes'

/** Which rows there is something to show in. */
function rowsShown({ content, metrics }: TabInput): Record<'grips' | 'muting' | 'hand' | 'accents', boolean> {
  const always = !metrics.compact
  const steady = always || Boolean(metrics.steady)
  const dead = content.strokes.some((stroke) => hasMark(stroke, 'dead'))
  return {
    grips: always || content.grips.length > 0,
    muting: steady || dead || muteRuns(content).length > 0 || content.mutes.length > 0,
    hand:
      steady ||
      content.strokes.length > 0 ||
      content.notes.some((note) => hasMark(note, 'accent') || note.pick),
    accents:
      Boolean(metrics.steady) ||
      content.strokes.some((stroke) => hasMark(stroke, 'accent')) ||
      content.notes.some((note) => hasMark(note, 'accent')),
  }
}

/** The rows of one system under its top. */
function rowsOf(
  top: number,
  levels: number,
  input: TabInput,
): Omit<TabSystem, 'firstBar' | 'startTicks' | 'endTicks' | 'left' | 'right'> {
  const { metrics, stringNames } = input
  const shown = rowsShown(input)
  const upper = top + metrics.outlineRow
  const words = levels > 0 ? (levels - 1) * wordHeight(metrics) + metrics.smallSize * 0.35 : 0
  const firstString = upper + (shown.grips ? metrics.gripRow : 0) + words + metrics.stringGap * 0.9
  const stringYs = stringNames.map((_, index) => firstString + index * metrics.stringGap)
  const lowest = stringYs.at(-1)! + metrics.stringGap * 0.55
  const valued = metrics.values && !input.figure.freeTime
  const underStrings = lowest + (valued ? metrics.rowGap : 0)
  const mutingRow = shown.muting ? metrics.rowGap * 0.55 : -metrics.rowGap * 0.25
  const mutingY = underStrings + mutingRow
  const accents = shown.accents ? metrics.smallSize * 0.55 : 0
  const handY = mutingY + (shown.hand ? metrics.rowGap + accents : 0)
  const countY = handY + metrics.rowGap
  return {
    top,
    outlineY: top,
    gripY: upper + metrics.gripRow * 0.7,
    stringYs,
    valuesY: valued ? lowest + metrics.stringGap * 0.1 : undefined,
    mutingY,
    handY,
    countY,
    bottom: countY + accentRowsHeight(input) + metrics.rowGap * 0.6,
  }
}

/** The figure over as many systems as it needs, all to one scale; the last one may be shorter. */
export function engraveTab(input: TabInput): Tab {
  const { figure, metrics, width } = input
  const bar = barTicks(figure.meter)
  const steps = countBar(figure.meter, figure.feel.subdivision).length
  const bars = Math.max(1, Math.ceil(figure.lengthTicks / bar))
  const room = width - metrics.left
  const most = mostBars(room, steps, bars, metrics)
  // As many in every system: seven bars stand as four and three, not as six and one.
  const perSystem = Math.ceil(bars / Math.ceil(bars / most))
  const systems: TabSystem[] = []
  let top = 0
  for (let firstBar = 0; firstBar < bars; firstBar += perSystem) {
    const held = Math.min(perSystem, bars - firstBar)
    const span = {
      firstBar,
      startTicks: firstBar * bar,
      endTicks: (firstBar + held) * bar,
      left: metrics.left,
      right: metrics.left + (room * held) / perSystem,
    }
    const levels = Math.max(metrics.steady ? 1 : 0, wordLevels(span, input))
    const system: TabSystem = { ...rowsOf(top, levels, input), ...span }
    systems.push(system)
    top = system.bottom + metrics.rowGap * 0.5
  }
  return {
    systems,
    primitives: systems.flatMap((system) => engraveSystem(system, input, bar)),
    height: systems.at(-1)!.bottom,
    width,
  }
}

function engraveSystem(system: TabSystem, input: TabInput, bar: number): Primitive[] {
  const { metrics, content, figure } = input
  const shapes: Primitive[] = []
  shapes.push(...strings(system, input))
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
    ...values(system, input),
    ...muting(system, content, metrics),
    ...accentRows(system, input),
    ...drafts(system, input),
  )
  const begins = input.begins ?? 0
  if (begins > system.startTicks) shapes.push(notOwn(system, system.left, tickToX(system, begins)))
  if (figure.lengthTicks < system.endTicks)
    shapes.push(notOwn(system, tickToX(system, figure.lengthTicks), system.right))
  return shapes
}

/** Over the strings before a pickup and behind the end. */
function notOwn({ stringYs }: TabSystem, from: number, to: number): Primitive {
  const [first = 0] = stringYs
  return {
    kind: 'rect',
    x: from,
    y: first,
    width: to - from,
    height: (stringYs.at(-1) ?? first) - first,
    fill: 'wood',
  }
}

/** The strings with their names. */
function strings(system: TabSystem, { metrics, stringNames }: TabInput): Primitive[] {
  return system.stringYs.flatMap((y, index) => [
    line(system.left, y, system.right, y, metrics.hairline * (1 + index * 0.12), 'quiet'),
    text(
      system.left - metrics.smallSize * 0.7,
      y + metrics.smallSize * 0.35,
      stringNames[index]!,
      metrics.smallSize,
      { anchor: 'end', role: 'quiet', face: 'mono' },
    ),
  ])
}

function counts(system: TabSystem, { figure, metrics, begins = 0 }: TabInput, bar: number): Primitive[] {
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
      if (start + count.tick < begins || start + count.tick >= figure.lengthTicks) continue
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
