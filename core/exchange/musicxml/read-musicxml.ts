// A MusicXML file as a written score, whoever wrote it: repeats played out, tied notes joined, notes
// without a string laid on the neck. What is not read is counted.
import { ok, refuse, type Result } from '../../result'
import { keyOfSignature, MODES, pretty, spellMidi, type Key, type Mode } from '../../music/pitch'
import { barTicks, STRAIGHT, TICKS_PER_QUARTER, type Meter } from '../../time/meter'
import type { Feel } from '../../document/schema'
import type { ImportAnswers, ImportQuestion } from '../import-questions'
import { barOfTick, dropped, type Dropped, type WrittenBar, type WrittenScore } from '../score/written-score'
import { scoreText } from './packed-score'
import { playOrder } from './play-order'
import { readMeasure, type ReadMeasure } from './read-measure'
import { readPart, type Differing, type PartMeasures, type ReadPart } from './read-part'
import { withMeasureRepeats } from './measure-repeats'
import { FREE_TIME, IN_TIME } from './write-part'
import { SOFTWARE } from './write-musicxml'
import { childOf, childrenOf, numberOf, readXml, textOf, type XmlNode } from './xml'

export interface ReadScore {
  score: WrittenScore
  dropped: Dropped[]
  questions: ImportQuestion[]
}
export interface ReadWish {
  report?: ((share: number) => void) | undefined
  answers?: ImportAnswers | undefined
}

const WHAT = 'MusicXML file'
const MOST_BYTES = 40_000_000
const MOST_PARTS = 40
/** Of all parts, repeats played out. */
const MOST_NOTES = 100_000
/** How the page looks, and what is sung: none of it is read. */
const UNREAD: ReadonlySet<string> = new Set([
  'appearance',
  'beam',
  'credit',
  'defaults',
  'lyric',
  'print',
  'stem',
])
const MOST_SECTION = 80

/** A `.musicxml` or `.mxl` file. Refused when it is none, damaged, or holds nothing to read. */
export function readMusicXml(bytes: Uint8Array, wish: ReadWish = {}): Result<ReadScore> {
  if (bytes.length > MOST_BYTES) return refuse('musicxml', `This ${WHAT} is too large: export fewer parts.`)
  const text = scoreText(bytes, WHAT)
  if (!text.ok) return text
  const root = readXml(text.value, WHAT, UNREAD)
  if (!root.ok) return root
  if (root.value.name === 'score-timewise')
    return refuse('musicxml', 'This score is written measure by measure: export it again part by part.')
  if (root.value.name !== 'score-partwise')
    return refuse('musicxml', `This is no ${WHAT}: its first element is <${root.value.name.slice(0, 40)}>.`)
  wish.report?.(0.3)
  return scoreOf(root.value, wish)
}

/** A file of our own: the chords that stand with a diagram are the grips of a part, not those of the song. */
const isOwn = (root: XmlNode): boolean =>
  childrenOf(childOf(childOf(root, 'identification'), 'encoding'), 'software').some(
    ({ text }) => text.trim() === SOFTWARE,
  )

function scoreOf(root: XmlNode, { report, answers }: ReadWish): Result<ReadScore> {
  const parts = childrenOf(root, 'part').filter((part) => childrenOf(part, 'measure').length > 0)
  if (!parts.length) return refuse('musicxml', 'There are no measures in this score.')
  if (parts.length > MOST_PARTS)
    return refuse('musicxml', `This score has more than ${MOST_PARTS} parts: export fewer.`)
  const { order, unclearJump } = playOrder(childrenOf(parts[0], 'measure'))
  if (!order.length)
    return refuse(
      'musicxml',
      'The endings of this score leave no measure to play: mend them and export it anew.',
    )
  const read = parts.map((part) => measuresOf(part, order))
  const count = read.reduce((sum, part) => part.reduce((all, { notes }) => all + notes.length, sum), 0)
  if (count > MOST_NOTES)
    return refuse(
      'musicxml',
      `This score has ${count} notes when its repeats are played out, and ${MOST_NOTES} are read at most: ` +
        'export fewer parts.',
    )
  const bars = barsOf(childrenOf(parts[0], 'measure'), order, read)
  const listed = new Map(
    childrenOf(childOf(root, 'part-list'), 'score-part').map((node) => [node.attributes.id, node]),
  )
  const own = isOwn(root)
  const ofSong = chordsIn(read.find((part) => part.some(({ harmony }) => harmony.length)) ?? [], bars)
  const laid = parts.map((part, index) => {
    report?.(0.3 + (0.7 * index) / parts.length)
    const ofPart = chordsIn(read[index]!, bars)
    return readPart(
      read[index]!,
      { bars, chords: ofPart.length ? ofPart : ofSong, pitches: answers?.pitches ?? 'frets' },
      { part, listed: listed.get(part.attributes.id), number: index + 1 },
    )
  })
  const endTicks = bars.reduce((sum, { lengthTicks }) => sum + lengthTicks, 0)
  const title = textOf(childOf(root, 'work'), 'work-title') || textOf(root, 'movement-title')
  const creators = childrenOf(childOf(root, 'identification'), 'creator')
  const score: WrittenScore = {
    title: title.slice(0, 200) || 'A score brought in',
    artist: (creators[0]?.text.trim() ?? '').slice(0, 200),
    key: bars[0]?.key ?? { tonic: 'C', mode: 'major' },
    ...(bars[0]?.key ? {} : { keyUnknown: true }),
    feel: feelOf(parts[0]!),
    bars: bars.map(({ key, ...bar }, index) => (index && key ? { ...bar, key } : bar)),
    harmony: ofSong
      .filter(({ frame }) => !(own && frame))
      .map(({ startTicks, symbol }) => ({ startTicks, symbol, lengthTicks: 0 })),
    tempo: laidOut(read[0]!, bars, 'tempo'),
    parts: laid.flatMap(({ part }) => part ?? []),
    endTicks,
  }
  return ok({
    score: withLengths(score),
    dropped: leftOut(read, laid, { order, unclearJump, own }),
    questions: pitchQuestion(
      laid.flatMap(({ differing }) => differing),
      bars,
      answers,
    ),
  })
}

const chordsIn = (measures: PartMeasures, bars: readonly WrittenBar[]): ReadMeasure['harmony'] =>
  laidOut(measures, bars, 'harmony')

/** Asked where strings and frets say another pitch than the notes do. */
function pitchQuestion(
  differing: readonly Differing[],
  bars: readonly WrittenBar[],
  answers: ImportAnswers | undefined,
): ImportQuestion[] {
  const first = differing[0]
  if (!first) return []
  const bar = bars.indexOf(barOfTick(bars, first.startTicks)) + 1
  const { partName, string, fret, fretMidi, midi } = first
  const key = bars[0]?.key ?? { tonic: 'C', mode: 'major' }
  const count = differing.length === 1 ? 'One note is' : `${differing.length} notes are`
  return [
    {
      id: 'pitches',
      text:
        `${count} another in the tablature than on the staff, first in bar ${bar} of ${partName}: ` +
        `fret ${fret} on string ${string} is ${pretty(spellMidi(fretMidi, key))}, the note is ${pretty(spellMidi(midi, key))}. ` +
        'Which is meant?',
      taken: answers?.pitches ?? 'frets',
      options: [
        { value: 'frets', words: 'the strings and frets' },
        { value: 'pitches', words: 'the notes, laid on the neck anew' },
      ],
    },
  ]
}

function measuresOf(part: XmlNode, order: readonly number[]): PartMeasures {
  const running = { divisions: 1, transpose: 0, slashes: false }
  const written = childrenOf(part, 'measure')
  const measures = withMeasureRepeats(
    written,
    written.map((measure) => readMeasure(measure, running)),
  )
  return order.map((index) => measures[index] ?? EMPTY)
}
const EMPTY: ReadMeasure = {
  notes: [],
  harmony: [],
  tempo: [],
  rehearsal: undefined,
  words: [],
  lengthTicks: 0,
  unpitched: 0,
  cues: 0,
}

const UNITS = [2, 4, 8, 16] as const
const isUnit = (unit: number | undefined): unit is Meter['unit'] => UNITS.some((one) => one === unit)
const MOST_BEATS = 32

/** The meter said in a measure; one that cannot be counted here is passed over. */
function meterIn(measure: XmlNode): Meter | undefined {
  const time = childrenOf(measure, 'attributes')
    .map((node) => childOf(node, 'time'))
    .find(Boolean)
  const beats = textOf(time, 'beats')
    .split('+')
    .reduce((sum, text) => sum + Number(text), 0)
  const unit = numberOf(time, 'beat-type')
  return time && Number.isInteger(beats) && beats >= 1 && beats <= MOST_BEATS && isUnit(unit)
    ? { beats, unit }
    : undefined
}

function keyIn(measure: XmlNode): Key | undefined {
  const node = childrenOf(measure, 'attributes')
    .map((attributes) => childOf(attributes, 'key'))
    .find(Boolean)
  const fifths = numberOf(node, 'fifths')
  if (fifths === undefined || !Number.isInteger(fifths) || Math.abs(fifths) > 7) return undefined
  const mode = MODES.find((one) => one === textOf(node, 'mode')) ?? ('major' satisfies Mode)
  const key = keyOfSignature(fifths, mode)
  return /^[A-G](#{0,2}|b{0,2})$/.test(key.tonic) ? key : undefined
}

/** A bar shorter or longer than its meter says, as a pickup is. */
function meterOfLength(lengthTicks: number): Meter | undefined {
  const unit = ([4, 8, 16] as const).find((one) => lengthTicks % ((TICKS_PER_QUARTER * 4) / one) === 0)
  const beats = unit && (lengthTicks * unit) / (TICKS_PER_QUARTER * 4)
  return beats && beats <= MOST_BEATS ? { beats, unit } : undefined
}

function barsOf(
  measures: readonly XmlNode[],
  order: readonly number[],
  read: readonly PartMeasures[],
): WrittenBar[] {
  let meter: Meter = { beats: 4, unit: 4 }
  let [startTicks, free] = [0, false]
  const meters = measures.map((measure) => (meter = meterIn(measure) ?? meter))
  let key: Key | undefined
  const keys = measures.map((measure) => (key = keyIn(measure) ?? key))
  let sung: Key | undefined
  return order.map((index, place): WrittenBar => {
    const own = read[0]![place]!
    if (own.words.includes(FREE_TIME)) free = true
    if (own.words.includes(IN_TIME)) free = false
    const nominal = meters[index]!
    const filled = Math.max(...read.map((part) => part[place]?.lengthTicks ?? 0))
    const short = filled > 0 && (measures[index]!.attributes.implicit === 'yes' || filled > barTicks(nominal))
    const actual = (short ? meterOfLength(filled) : undefined) ?? nominal
    const lengthTicks = barTicks(actual)
    const now = keys[index]
    const changed = now && (!sung || now.tonic !== sung.tonic || now.mode !== sung.mode)
    if (changed) sung = now
    const bar = {
      startTicks,
      lengthTicks,
      meter: actual,
      free,
      ...(own.rehearsal ? { section: own.rehearsal.slice(0, MOST_SECTION) } : {}),
      ...(changed ? { key: now } : {}),
    }
    startTicks += lengthTicks
    return bar
  })
}

/** Chords or tempos of all measures at their places in the song. */
function laidOut<K extends 'harmony' | 'tempo'>(
  measures: PartMeasures,
  bars: readonly WrittenBar[],
  what: K,
): ReadMeasure[K][number][] {
  const all = measures.flatMap((measure, place) => {
    const bar = bars[place]!
    const entries: readonly ReadMeasure[K][number][] = measure[what]
    return entries
      .filter(({ startTicks }) => startTicks < bar.lengthTicks)
      .map((entry) => ({ ...entry, startTicks: entry.startTicks + bar.startTicks }))
  })
  return all.sort((a, b) => a.startTicks - b.startTicks)
}

/** Each chord holds until the next. */
function withLengths(score: WrittenScore): WrittenScore {
  const last = new Map(score.harmony.map((change) => [change.startTicks, change]))
  const changes = [...last.values()]
  const harmony = changes.map((change, index) => ({
    ...change,
    lengthTicks: (changes[index + 1]?.startTicks ?? score.endTicks) - change.startTicks,
  }))
  return { ...score, harmony: harmony.filter(({ lengthTicks }) => lengthTicks > 0) }
}

function feelOf(part: XmlNode): Feel {
  const swing = childrenOf(part, 'measure')
    .slice(0, 2)
    .flatMap((measure) => measure.children)
    .flatMap((node) => (node.name === 'sound' ? [node] : childrenOf(node, 'sound')))
    .map((sound) => childOf(sound, 'swing'))
    .find(Boolean)
  const [first, second] = [numberOf(swing, 'first') ?? 1, numberOf(swing, 'second') ?? 1]
  const ratio = Math.max(0.5, Math.min(0.75, Math.round((1000 * first) / (first + second)) / 1000))
  const level = textOf(swing, 'swing-type') === '16th' ? 'sixteenths' : 'eighths'
  return { subdivision: 'eighths', swing: ratio > 0.5 ? { ratio, level } : STRAIGHT }
}

/** What was passed over. */
function leftOut(
  read: readonly PartMeasures[],
  laid: readonly ReadPart[],
  { order, unclearJump, own }: { order: readonly number[]; unclearJump: boolean; own: boolean },
): Dropped[] {
  const sum = (count: (measure: ReadMeasure) => number): number =>
    read.reduce((all, part) => part.reduce((total, measure) => total + count(measure), all), 0)
  return dropped([
    {
      what: 'jumps (da capo, dal segno)',
      count: unclearJump ? 1 : 0,
      why: 'the sign or the coda they lead to is missing: lay the rest out on the map',
    },
    { what: 'notes without a pitch', count: sum(({ unpitched }) => unpitched), why: 'drums are not charted' },
    { what: 'cue notes', count: sum(({ cues }) => cues), why: 'they show what somebody else plays' },
    {
      what: 'slashes',
      count: laid.reduce((all, { slashes }) => all + slashes, 0),
      why: 'no chord that can be gripped is written over them',
    },
    {
      what: 'chord frames',
      count: sum(({ harmony }) => harmony.filter(({ frame }) => frame).length),
      why: own
        ? 'the notes are kept, the grips they were struck from are not'
        : 'their chords are kept, their shapes only where slashes are struck from them',
    },
    {
      what: 'notes off the neck',
      count: laid.reduce((all, { offNeck }) => all + offNeck, 0),
      why: 'no string of the instrument reaches them',
    },
    {
      what: 'measures after the five thousandth',
      count: order.length >= 5000 ? 1 : 0,
      why: 'a song holds at most five thousand bars',
    },
  ])
}
