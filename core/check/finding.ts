// What the check finds: a kind, a place, words, how bad it is, what would mend it. Computed from the document
// (and, where there is one, from what its recording was heard to play), never stored in it.
import { firstPlayOf } from '../timeline/timeline'
import type { ArgsOf, TransactionName } from '../document/transactions'
import { barStarts, sectionPlaces, songTimeMap } from '../document/form'
import type { Section, Song } from '../document/schema'
import { ticksToSeconds } from '../time/beat-grid'
import { barTicks, countWords, type Meter } from '../time/meter'

export const FINDING_KINDS = [
  'damaged',
  'not laid out',
  'form total',
  'beats of a bar',
  'odd bar',
  'not charted',
  'empty figure',
  'unplaced',
  'length of a figure',
  'over the end',
  'two at once',
  'overlapping notes',
  'reach',
  'playing',
  'leap',
  'chord not understood',
  'chord outside the key',
  'grip against chord',
  'line against chord',
  'outside note',
  'return',
  'linked line',
  'clash',
  'doubled line',
  'not as heard',
  'silent on the record',
  'not checked',
  'heard, not charted',
] as const
export type FindingKind = (typeof FINDING_KINDS)[number]

/** Cannot be so; is not done yet; may be wanted. */
export const SEVERITIES = ['wrong', 'missing', 'look'] as const
export type Severity = (typeof SEVERITIES)[number]

export interface FindingPlace {
  sectionId?: string
  partId?: string
  figureId?: string
  /** Within the figure where one is named, else within the section. */
  startTicks?: number
}

/** One named transaction that would mend it. */
export interface Fix {
  words: string
  name: TransactionName
  args: ArgsOf<TransactionName>
}

export interface Finding {
  /** The same as long as what was found is the same: by it a finding is excused. */
  id: string
  kind: FindingKind
  severity: Severity
  words: string
  place: FindingPlace
  fix?: Fix
  /** Why somebody wants it so. */
  excused?: string
}

/** A transaction with its arguments checked where it is written. */
export const fix = <Name extends TransactionName>(words: string, name: Name, args: ArgsOf<Name>): Fix => ({
  words,
  name,
  args: args as ArgsOf<TransactionName>,
})

/** A short name for a text, the same for the same text (FNV-1a, Fowler, Noll and Vo 1991, in two halves). */
export function digest(text: string): string {
  const half = (start: number): string => {
    let hash = start
    for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 16_777_619) >>> 0
    return hash.toString(36)
  }
  return `${half(2_166_136_261)}-${half(3_735_928_559)}`
}

/** An excuse keeps at most so many characters of what it excuses. */
const LONGEST_ID = 1500
const bounded = (id: string): string =>
  id.length <= LONGEST_ID ? id : `${id.slice(0, LONGEST_ID - 40)}/${digest(id)}`

/** A finding; `facts` are what must stay the same for an excuse to hold. */
export function finding(
  [kind, severity]: [FindingKind, Severity],
  words: string,
  place: FindingPlace,
  more: { facts?: readonly (string | number)[]; fix?: Fix | undefined } = {},
): Finding {
  const { sectionId = '', partId = '', figureId = '', startTicks = '' } = place
  const facts = more.facts ?? []
  return {
    id: bounded([kind, sectionId, partId, figureId, startTicks, ...facts].join('/')),
    kind,
    severity,
    words,
    place,
    ...(more.fix ? { fix: more.fix } : {}),
  }
}

/** "bar 3, the and of 2": a place in a figure. */
export const figureWords = ({ meter }: { meter: Meter }, tick: number): string =>
  `bar ${Math.floor(tick / barTicks(meter)) + 1}, ${countWords(meter, tick % barTicks(meter))}`

/** "bar 3, the and of 2": a place in a section, which may change its meter. */
export function sectionWords(section: Section, tick: number): string {
  const starts = barStarts(section)
  const bar = Math.max(
    0,
    Math.min(
      section.bars.length - 1,
      starts.findLastIndex((start) => start <= tick),
    ),
  )
  const inBar = tick - starts[bar]!
  const count = inBar === 0 ? '' : `, ${countWords(section.bars[bar]!.meter, inBar)}`
  return `bar ${bar + 1}${count}`
}

const nameOf = (row: { name: string } | undefined): string[] => (row ? [row.name] : [])

/** A place in words: "Verse 2, bar 3 · Guitar 1 · Verse chug". */
export function placeWords(song: Song, place: FindingPlace): string {
  const { sectionId, partId, figureId, startTicks } = place
  const section = sectionId === undefined ? undefined : song.sections[sectionId]
  const figure = figureId === undefined ? undefined : song.figures[figureId]
  const part = partId === undefined ? undefined : song.parts[partId]
  const inSection = section && !figure && startTicks !== undefined ? [sectionWords(section, startTicks)] : []
  const inFigure = figure && startTicks !== undefined ? [figureWords(figure, startTicks)] : []
  return [
    [...nameOf(section), ...inSection].join(', '),
    ...nameOf(part),
    [...nameOf(figure), ...inFigure].join(', '),
  ]
    .filter((words) => words !== '')
    .join(' · ')
}

/** The second of the recording at which a finding lies; undefined where it lies nowhere. */
export function findingSeconds(song: Song, place: FindingPlace): number | undefined {
  const map = songTimeMap(song)
  if (!map) return undefined
  const figure = place.figureId === undefined ? undefined : song.figures[place.figureId]
  const ticks = place.startTicks ?? 0
  if (figure) {
    const play = firstPlayOf(song, figure.id)
    return play && ticksToSeconds(map, Math.max(0, play.startTicks + ticks))
  }
  const at = sectionPlaces(song).find(({ section }) => section.id === place.sectionId)
  return at && ticksToSeconds(map, Math.max(0, at.startTicks + ticks))
}
