// One part of a score as measures: what holds from here on, what is said over the staff, its voices.
import { INSTRUMENTS } from '../../instrument/instruments'
import { signatureOf, type Key, type Mode } from '../../music/pitch'
import { TICKS_PER_QUARTER, type Meter } from '../../time/meter'
import type { WrittenBar, WrittenNote, WrittenPart, WrittenScore } from '../score/written-score'
import { noteOrder } from '../score/written-score'
import { PROGRAM_OF_SOUND } from '../score/midi-programs'
import { wayTo, type Joins } from './write-marks'
import { metronomeNodes } from './write-metronome'
import { pitchNodes, sounding } from './write-voices'
import { harmonyNode } from './write-harmony'
import { voicesByBar } from './voices'
import { element, type XmlNode } from './xml'

export interface PartContext {
  score: WrittenScore
  part: WrittenPart
  /** The first part says what is said of the song: sections, harmony, tempo. */
  leads: boolean
}

/** The measures of a part. */
export function measuresOf(context: PartContext): XmlNode[] {
  const { score, part } = context
  const voices = voicesByBar(part.notes, score.bars, score.endTicks)
  const joins = joinsOf(part.notes)
  return score.bars.map((bar, index) =>
    element(
      'measure',
      [
        ...attributes(context, index),
        ...saidOver(context, index),
        ...sounding(voices[index]!, bar, { key: keyAt(score, index), joins }),
      ],
      { number: index + 1 },
    ),
  )
}

function keyAt({ bars, key }: WrittenScore, index: number): Key {
  return bars.slice(0, index + 1).findLast((bar) => bar.key)?.key ?? key
}

/** Which note on the same string each is reached from, and which it leads to. */
function joinsOf(notes: readonly WrittenNote[]): Map<WrittenNote, Joins> {
  const joins = new Map<WrittenNote, Joins>()
  const before = new Map<number, WrittenNote>()
  for (const note of notes.toSorted(noteOrder)) {
    const previous = before.get(note.string)
    const way = wayTo(note)
    if (previous && way) joins.set(previous, { ...joins.get(previous)!, next: way })
    joins.set(note, { hasPrevious: previous !== undefined })
    before.set(note.string, note)
  }
  return joins
}

const sameMeter = (a: Meter, b: Meter): boolean => a.beats === b.beats && a.unit === b.unit

function attributes({ score, part }: PartContext, index: number): XmlNode[] {
  const bar = score.bars[index]!
  const before = score.bars[index - 1]
  const timed = !before || !sameMeter(before.meter, bar.meter)
  const inside = [
    ...(before ? [] : [element('divisions', TICKS_PER_QUARTER)]),
    ...(!before || bar.key ? [keyNode(keyAt(score, index))] : []),
    ...(timed
      ? [element('time', [element('beats', bar.meter.beats), element('beat-type', bar.meter.unit)])]
      : []),
    ...(before ? [] : [clef(part), staffDetails(part)]),
  ]
  return inside.length ? [element('attributes', inside)] : []
}

const keyNode = (key: Key): XmlNode =>
  element('key', [element('fifths', signatureOf(key)), element('mode', key.mode satisfies Mode)])

const clef = ({ tuning }: WrittenPart): XmlNode =>
  element('clef', [element('sign', 'TAB'), element('line', Math.ceil((tuning.openMidi.length + 3) / 2))])

/** Lines are counted from the bottom, where the lowest string is. */
function staffDetails({ tuning, instrument }: WrittenPart): XmlNode {
  const lowestFirst = tuning.openMidi.toReversed()
  return element('staff-details', [
    element('staff-lines', lowestFirst.length),
    ...lowestFirst.map((midi, index) =>
      element('staff-tuning', pitchNodes(midi, C, 'tuning-'), { line: index + 1 }),
    ),
    ...(instrument.capo ? [element('capo', instrument.capo)] : []),
  ])
}
const C: Key = { tonic: 'C', mode: 'major' }

/** Section, tempo, swing and harmony of a bar; free time where it begins and ends. */
function saidOver({ score, part, leads }: PartContext, index: number): XmlNode[] {
  const bar = score.bars[index]!
  const inBar = ({ startTicks }: { startTicks: number }): boolean =>
    startTicks >= bar.startTicks && startTicks < bar.startTicks + bar.lengthTicks
  const grips = part.grips.filter(inBar)
  const offset = (startTicks: number): XmlNode[] =>
    startTicks > bar.startTicks ? [element('offset', startTicks - bar.startTicks)] : []
  return [
    ...(leads && bar.section ? [direction(element('rehearsal', bar.section))] : []),
    ...[...(leads ? (score.words ?? []) : []), ...(part.words ?? [])]
      .filter(inBar)
      .map(({ text, startTicks }) => direction(element('words', text), offset(startTicks))),
    ...freeWords(score, index).map((words) => direction(element('words', words))),
    ...(leads ? metronomeNodes(score, index) : []),
    ...(leads ? tempoNodes(score, bar, index) : []),
    ...(leads ? score.harmony.filter(inBar) : []).map(({ symbol, startTicks }) =>
      withEnd(harmonyNode(symbol), offset(startTicks)),
    ),
    ...grips.map((grip) => withEnd(harmonyNode(grip.symbol, grip), offset(grip.startTicks))),
  ]
}

const withEnd = (node: XmlNode, more: readonly XmlNode[]): XmlNode => ({
  ...node,
  children: [...node.children, ...more],
})
const direction = (what: XmlNode, more: readonly XmlNode[] = []): XmlNode =>
  element('direction', [element('direction-type', [what]), ...more], { placement: 'above' })

export const FREE_TIME = 'free time'
export const IN_TIME = 'in time'
function freeWords({ bars }: WrittenScore, index: number): string[] {
  const [now, before] = [bars[index]!.free, bars[index - 1]?.free ?? false]
  if (now === before) return []
  return [now ? FREE_TIME : IN_TIME]
}

function tempoNodes(score: WrittenScore, bar: WrittenBar, index: number): XmlNode[] {
  const changes = score.tempo.filter(
    ({ startTicks }) => startTicks >= bar.startTicks && startTicks < bar.startTicks + bar.lengthTicks,
  )
  return changes.map(({ startTicks, quartersPerMinute }, rank) => {
    const offset = startTicks - bar.startTicks
    const swing = index === 0 && rank === 0 ? swingNodes(score) : []
    return element('sound', [...swing, ...(offset ? [element('offset', offset)] : [])], {
      tempo: Math.round(quartersPerMinute * 1e6) / 1e6,
    })
  })
}

/**
 * The share of the first of a pair as the nearest whole numbers, and the share itself rounded to a hundredth.
 */
function swingNodes({ feel: { swing } }: WrittenScore): XmlNode[] {
  if (swing.ratio === 0.5) return [element('swing', [element('straight')])]
  const first = Math.round(swing.ratio * 100)
  return [
    element('swing', [
      element('first', first),
      element('second', 100 - first),
      element('swing-type', swing.level === 'eighths' ? 'eighth' : '16th'),
    ]),
  ]
}

/** What a part is listed as: its name, its instrument, the sound that fits it. */
export function partListNode(part: WrittenPart, id: string): XmlNode {
  return element(
    'score-part',
    [
      element('part-name', part.name),
      element('score-instrument', [element('instrument-name', INSTRUMENTS[part.instrument.kind].name)], {
        id: `${id}-I1`,
      }),
      element('midi-instrument', [element('midi-program', PROGRAM_OF_SOUND[part.sound] + 1)], {
        id: `${id}-I1`,
      }),
    ],
    { id },
  )
}
