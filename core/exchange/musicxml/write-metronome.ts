// The tempo as a player reads it: a mark at the beginning, and at sections that are clearly faster or slower.
// (The tempo of every beat stands beside, for what plays the file.)
import { isCompound, TICKS_PER_QUARTER } from '../../time/meter'
import { secondsByTempo } from '../score/tempo-seconds'
import type { WrittenBar, WrittenScore } from '../score/written-score'
import { element, type XmlNode } from './xml'

/** A section is said to have another tempo from this share on. */
const OTHER = 0.06

interface Mark {
  bar: number
  quartersPerMinute: number
}

/** Free time has no tempo to count in. */
function marksOf({ bars, tempo }: WrittenScore): Mark[] {
  const seconds = secondsByTempo(tempo)
  const starts = bars.flatMap(({ section, free }, bar) =>
    bar === 0 || section !== undefined || free ? [bar] : [],
  )
  const marks: Mark[] = []
  for (const [index, bar] of starts.entries()) {
    const first = bars[bar]
    const last = bars[(starts[index + 1] ?? bars.length) - 1]
    if (!first || !last || first.free) continue
    const end = last.startTicks + last.lengthTicks
    const minutes = (seconds(end) - seconds(first.startTicks)) / 60
    const quartersPerMinute = (end - first.startTicks) / TICKS_PER_QUARTER / minutes
    const before = marks.at(-1)?.quartersPerMinute
    if (before === undefined || Math.abs(quartersPerMinute / before - 1) > OTHER)
      marks.push({ bar, quartersPerMinute })
  }
  return marks
}

const known = new WeakMap<WrittenScore, Mark[]>()

/** The mark over a bar, in the counted beat of its meter; none where the tempo goes on. */
export function metronomeNodes(score: WrittenScore, index: number): XmlNode[] {
  if (!score.tempo.length) return []
  const marks = known.get(score) ?? marksOf(score)
  known.set(score, marks)
  const mark = marks.find(({ bar }) => bar === index)
  const bar = score.bars[index]
  if (!mark || !bar || !Number.isFinite(mark.quartersPerMinute)) return []
  // What plays the file goes by the tempo of this very beat, not by the rounded mark.
  const exact = score.tempo.findLast(({ startTicks }) => startTicks <= bar.startTicks)
  const tempo = exact?.quartersPerMinute ?? mark.quartersPerMinute
  return [
    element(
      'direction',
      [
        element('direction-type', [metronome(mark, bar)]),
        element('sound', [], { tempo: Math.round(tempo * 1e6) / 1e6 }),
      ],
      { placement: 'above' },
    ),
  ]
}

function metronome({ quartersPerMinute }: Mark, { meter }: WrittenBar): XmlNode {
  const dotted = isCompound(meter)
  return element('metronome', [
    element('beat-unit', 'quarter'),
    ...(dotted ? [element('beat-unit-dot')] : []),
    element('per-minute', Math.round(quartersPerMinute / (dotted ? 1.5 : 1))),
  ])
}
