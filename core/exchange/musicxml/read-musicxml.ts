// A MusicXML file as a written score, whoever wrote it: repeats played out, tied notes joined, notes
// without a string laid on the neck. What is not read is counted.
import { ok, refuse, type Result } from '../../result'
import { STRAIGHT } from '../../time/meter'
import type { Feel } from '../../document/schema'
import type { ImportAnswers, ImportQuestion } from '../import-questions'
import type { Dropped, WrittenBar, WrittenScore } from '../score/written-score'
import { scoreText } from './packed-score'
import { playOrder, type PlayOrder } from './play-order'
import { barsOf } from './read-bars'
import { readMeasure, type ReadMeasure } from './read-measure'
import { readPart, type PartMeasures } from './read-part'
import { leftOut, pitchQuestion } from './read-report'
import { withMeasureRepeats } from './measure-repeats'
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

/** The parts of a score with measures, and the order in which these are played. */
function playedParts(root: XmlNode): Result<{ parts: XmlNode[]; read: PartMeasures[] } & PlayOrder> {
  const parts = childrenOf(root, 'part').filter((part) => childrenOf(part, 'measure').length > 0)
  if (!parts.length) return refuse('musicxml', 'There are no measures in this score.')
  if (parts.length > MOST_PARTS)
    return refuse('musicxml', `This score has more than ${MOST_PARTS} parts: export fewer.`)
  const played = playOrder(childrenOf(parts[0], 'measure'))
  if (!played.order.length)
    return refuse(
      'musicxml',
      'The endings of this score leave no measure to play: mend them and export it anew.',
    )
  const read = parts.map((part) => measuresOf(part, played.order))
  const count = read.reduce((sum, part) => part.reduce((all, { notes }) => all + notes.length, sum), 0)
  if (count > MOST_NOTES)
    return refuse(
      'musicxml',
      `This score has ${count} notes when its repeats are played out, and ${MOST_NOTES} are read at most: ` +
        'export fewer parts.',
    )
  return ok({ parts, read, ...played })
}

function scoreOf(root: XmlNode, { report, answers }: ReadWish): Result<ReadScore> {
  const played = playedParts(root)
  if (!played.ok) return played
  const { parts, read, order, unclearJump } = played.value
  const [first] = parts
  const bars = barsOf(childrenOf(first, 'measure'), order, read)
  const listed = new Map(
    childrenOf(childOf(root, 'part-list'), 'score-part').map((node) => [node.attributes.id, node]),
  )
  const own = isOwn(root)
  const ofSong = chordsIn(read.find((part) => part.some(({ harmony }) => harmony.length)) ?? [], bars)
  const laid = parts.map((part, index) => {
    report?.(0.3 + (0.7 * index) / parts.length)
    const measures = read[index] ?? []
    const ofPart = chordsIn(measures, bars)
    return readPart(
      measures,
      { bars, chords: ofPart.length ? ofPart : ofSong, pitches: answers?.pitches ?? 'frets' },
      { part, listed: listed.get(part.attributes.id), number: index + 1 },
    )
  })
  const score: WrittenScore = {
    ...namesOf(root),
    key: bars[0]?.key ?? { tonic: 'C', mode: 'major' },
    ...(bars[0]?.key ? {} : { keyUnknown: true }),
    feel: feelOf(first),
    bars: bars.map(({ key, ...bar }, index) => (index && key ? { ...bar, key } : bar)),
    harmony: ofSong
      .filter(({ frame }) => !(own && frame))
      .map(({ startTicks, symbol }) => ({ startTicks, symbol, lengthTicks: 0 })),
    tempo: laidOut(read[0] ?? [], bars, 'tempo'),
    parts: laid.flatMap(({ part }) => part ?? []),
    endTicks: bars.reduce((sum, { lengthTicks }) => sum + lengthTicks, 0),
  }
  const differing = laid.flatMap((part) => part.differing)
  return ok({
    score: withLengths(score),
    dropped: leftOut(read, laid, { order, unclearJump, own }),
    questions: pitchQuestion(differing, bars, answers),
  })
}

function namesOf(root: XmlNode): Pick<WrittenScore, 'title' | 'artist'> {
  const title = textOf(childOf(root, 'work'), 'work-title') || textOf(root, 'movement-title')
  const creators = childrenOf(childOf(root, 'identification'), 'creator')
  return {
    title: title.slice(0, 200) || 'A score brought in',
    artist: (creators[0]?.text.trim() ?? '').slice(0, 200),
  }
}

const chordsIn = (measures: PartMeasures, bars: readonly WrittenBar[]): ReadMeasure['harmony'] =>
  laidOut(measures, bars, 'harmony')

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

/** Chords or tempos of all measures at their places in the song. */
function laidOut<K extends 'harmony' | 'tempo'>(
  measures: PartMeasures,
  bars: readonly WrittenBar[],
  what: K,
): ReadMeasure[K][number][] {
  const all = measures.flatMap((measure, place) => {
    const bar = bars[place]
    const entries: readonly ReadMeasure[K][number][] = measure[what]
    if (!bar) return []
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

function feelOf(part: XmlNode | undefined): Feel {
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
