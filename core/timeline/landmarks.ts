// By what a player finds a place in the song: cue words, everybody stopping, an entry somebody gives, a start
// before the section.
import { barStarts, orderedSections } from '../document/form'
import type { LANDMARKS, Section, Song, Spot } from '../document/schema'
import { barTicks, countWords } from '../time/meter'

type Landmark = (typeof LANDMARKS)[number]

const SAID: Record<Landmark, string> = {
  'cue words': 'cue',
  'stop time': 'stop time',
  'cued entry': 'entry on a cue',
  'starts before': 'starts before',
  'partial return': 'returns in part',
}
export interface LandmarkHere {
  spot: Spot
  /** Bar of the section, 0 the first. */
  bar: number
  /** "bar 3, the and of 2: cue “your line here”" */
  words: string
}

/** "bar 3, the and of 2". */
function barWords(section: Section, startTicks: number): { bar: number; words: string } {
  const starts = barStarts(section)
  const bar = Math.max(
    0,
    Math.min(
      section.bars.length - 1,
      starts.findLastIndex((start) => start <= startTicks),
    ),
  )
  const inside = startTicks - (starts[bar] ?? 0)
  const meter = section.bars[bar]?.meter ?? { beats: 4, unit: 4 as const }
  return { bar, words: inside === 0 ? `bar ${bar + 1}` : `bar ${bar + 1}, ${countWords(meter, inside)}` }
}

/** What a landmark says: words a person hears in quotation marks, else the kind and a remark. */
export function landmarkWords({ landmark = 'cue words', text }: Spot): string {
  if (!text) return SAID[landmark]
  return landmark === 'cue words' ? `${SAID[landmark]} “${text}”` : `${SAID[landmark]}: ${text}`
}

/** The landmarks of a section in their order; of one part, when it is given, those of everybody too. */
export function landmarksIn(song: Song, section: Section, partId?: string): LandmarkHere[] {
  return Object.values(song.spots)
    .filter(({ kind, place }) => kind === 'landmark' && place.sectionId === section.id)
    .filter(({ place }) => partId === undefined || place.partId === undefined || place.partId === partId)
    .sort((a, b) => a.place.startTicks - b.place.startTicks)
    .map((spot) => {
      const { bar, words } = barWords(section, spot.place.startTicks)
      return { spot, bar, words: `${words}: ${landmarkWords(spot)}` }
    })
}

/** "starts on the 4 before": a start so many ticks before a section, counted in the bar it lies in. */
export function startsBeforeWords(song: Song, section: Section, startTicks: number): string {
  if (startTicks >= 0) return ''
  const sections = orderedSections(song)
  const before = sections[sections.indexOf(section) - 1]
  const meter = before?.bars.at(-1)?.meter ?? section.bars[0]?.meter ?? { beats: 4, unit: 4 as const }
  const bar = barTicks(meter)
  const inBar = ((startTicks % bar) + bar) % bar
  const bars = Math.ceil(-startTicks / bar)
  const count = `${inBar === 0 ? '1' : countWords(meter, inBar)}`
  const on = count.startsWith('the') ? `on ${count}` : `on the ${count}`
  return bars === 1 ? `starts ${on} before` : `starts ${on}, ${bars} bars before`
}
