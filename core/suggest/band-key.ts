// A key to the band: who sits where on the record, about how high, from when, and where they rest. A side is
// given to the part that sits there in the document; where none does, one is offered.
import { listed } from '../words/words'
import { median } from 'd3-array'
import type { Analysis } from '../hear/analysis'
import { entrances, type BarActivity } from '../hear/features/activity'
import { mainSource, orderedParts, sectionPlaces } from '../document/form'
import type { Part, Song } from '../document/schema'
import { pretty, spellMidi, transposeKey } from '../music/pitch'
import { clock } from '../time/beat-grid'
import { nameSections } from './section-names'

type Seat = 'left' | 'right' | 'low'
export interface BandLine {
  seat: Seat
  /** Names of the parts that sit there. */
  parts: string[]
  /** About where, when and where not. */
  words: string
  /** A part that sits nowhere yet, and where it would. */
  offer?: { partId: string; name: string; pan: number }
}

/** Parts nearer to the middle than this sit in it. */
const MIDDLE_PAN = 0.15
const OFFERED_PAN = 0.7
/** A section of which this share is played is played; of which less than REST_SHARE, rested in. */
const PLAY_SHARE = 0.5
const REST_SHARE = 0.25
/** So many bars at the start or the end are left out without a word. */
const FEW_BARS = 2
/**
 * A section lies higher when it lies so many semitones over the rest: what is heard is rough. Lower is not
 * said, a quiet passage is too often taken for one.
 */
const APART_SEMITONES = 9
const MOST_NAMES = 4

interface Span {
  name: string
  firstBar: number
  endBar: number
}

/** The bars heard of each section: of the document, or as heard where it has none. */
function sectionSpans(song: Song, analysis: Analysis): Span[] {
  const { downbeats } = analysis
  const barAt = (seconds: number): number => {
    const bar = downbeats.findIndex((one) => one >= seconds - 0.2)
    return bar < 0 ? downbeats.length : bar
  }
  const grid = mainSource(song)?.grid
  const startOf = (bar: number): number => grid?.bars[bar]?.beatSeconds[0] ?? analysis.durationSeconds
  if (grid && song.sectionOrder.length > 1)
    return sectionPlaces(song).map(({ section, firstBar }) => ({
      name: section.name,
      firstBar: barAt(startOf(firstBar)),
      endBar: barAt(startOf(firstBar + section.bars.length)),
    }))
  const sections = analysis.sections ?? []
  const names = nameSections(sections)
  return sections.map((section, index) => ({
    name: names[index]!.name,
    firstBar: barAt(section.start),
    endBar: barAt(section.end),
  }))
}

const playing = (activity: readonly string[]): BarActivity[] =>
  activity.map((letters) => ({
    left: letters.includes('l'),
    centre: letters.includes('c'),
    right: letters.includes('r'),
    low: letters.includes('b'),
  }))
const list = (names: readonly string[]): string => {
  const more = names.length > MOST_NAMES ? [`${names.length - MOST_NAMES} more`] : []
  return listed([...names.slice(0, MOST_NAMES), ...more])
}

/** How much of a section is played. */
const shareOf = (played: readonly boolean[], { firstBar, endBar }: Span): number =>
  played.slice(firstBar, endBar).filter(Boolean).length / Math.max(1, endBar - firstBar)

/** When a seat is played in: its bars, and words for its beginning, its end and its rests. */
function whenWords(
  played: readonly boolean[],
  spans: readonly Span[],
  at: (bar: number) => number,
): string[] {
  const [first, last] = [played.indexOf(true), played.lastIndexOf(true)]
  const inside = spans.filter(({ firstBar, endBar }) => firstBar >= first && endBar <= last + 1)
  const rests = inside.filter(
    (span) => span.endBar - span.firstBar >= FEW_BARS && shareOf(played, span) < REST_SHARE,
  )
  const late = first >= FEW_BARS
  const early = last < played.length - 1 - FEW_BARS
  return [
    ...(late ? [`from ${clock(at(first))}`] : []),
    ...(early ? [`to ${clock(at(last + 1))}`] : []),
    ...(rests.length ? [`rests in ${list(rests.map(({ name }) => name))}`] : []),
    ...(late || early || rests.length ? [] : ['throughout']),
  ]
}

/** About which note a seat stands on, and the sections in which it lies clearly higher. */
function whereWords(
  notes: readonly number[],
  played: readonly boolean[],
  spans: readonly Span[],
  nameOf: (midi: number) => string,
): string[] {
  const heard = (from: number, to: number): number | undefined =>
    median(notes.slice(from, to).filter((note, index) => note > 0 && played[from + index]))
  const usual = heard(0, notes.length)
  if (usual === undefined) return []
  const higher = spans.filter((span) => {
    const own = heard(span.firstBar, span.endBar)
    return shareOf(played, span) >= PLAY_SHARE && own !== undefined && own - usual >= APART_SEMITONES
  })
  return [
    `around ${nameOf(Math.round(usual))}`,
    ...(higher.length ? [`higher in ${list(higher.map(({ name }) => name))}`] : []),
  ]
}

const sits = (part: Part, seat: Seat): boolean => {
  if (part.role === 'bass') return seat === 'low'
  return seat === 'left' ? part.pan <= -MIDDLE_PAN : seat === 'right' && part.pan >= MIDDLE_PAN
}

/**
 * A line for each place of the record where somebody plays; nothing where nobody does, or of mono. `song` is
 * laid over the recording that was heard; notes are named so many semitones from how they sound.
 */
export function bandKey(song: Song, analysis: Analysis, nameShift: number): BandLine[] {
  const { activity, registers, downbeats, durationSeconds } = analysis
  if (!activity || downbeats.length < 4) return []
  const bars = playing(activity)
  const spans = sectionSpans(song, analysis)
  const parts = orderedParts(song)
  const free = parts.filter((part) => part.role !== 'bass' && Math.abs(part.pan) < MIDDLE_PAN)
  const heardKey = analysis.key ?? { tonic: 'C', mode: 'major' as const }
  const key = transposeKey(heardKey, nameShift)
  const nameOf = (midi: number): string => pretty(spellMidi(midi + nameShift, key))
  return (['left', 'right', 'low'] as const).flatMap((seat): BandLine[] => {
    const stretches = entrances(bars, seat)
    if (!stretches.length) return []
    const played = bars.map((_, bar) => stretches.some((one) => bar >= one.firstBar && bar <= one.lastBar))
    const seated = parts.filter((part) => sits(part, seat))
    const offered = seat === 'low' || seated.length ? undefined : free.shift()
    const notes = seat === 'low' ? undefined : registers?.[seat]
    return [
      {
        seat,
        parts: seated.map(({ name }) => name),
        words: [
          ...whenWords(played, spans, (bar) => downbeats[bar] ?? durationSeconds),
          ...(notes ? whereWords(notes, played, spans, nameOf) : []),
        ].join(', '),
        ...(offered
          ? {
              offer: {
                partId: offered.id,
                name: offered.name,
                pan: seat === 'left' ? -OFFERED_PAN : OFFERED_PAN,
              },
            }
          : {}),
      },
    ]
  })
}
