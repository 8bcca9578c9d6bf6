// Chords, figures, rests, doubts and spots over corrected bars: each goes to the tick that sounds when it
// sounded before, and to the section that now lies there.
import { leastIndex } from 'd3-array'
import { secondsToTicks, ticksToSeconds, type TimeMap } from '../../time/beat-grid'
import { barTicks, beatTicks, isCompound } from '../../time/meter'
import { placementTicks } from '../figure-content'
import { barStarts, sectionPlaces, type SectionPlace } from '../form'
import type { Section, Song } from '../schema'
import type { Laid } from './anchored'

export interface Moving {
  song: Song
  formed: Song
  before: TimeMap
  after: TimeMap
  laid: Laid
}

/** The song over its new bars, everything with a place moved to where it sounds now. */
export function withPlacesMoved(moving: Moving): Song {
  const { song, formed, before, after } = moving
  const was = new Map(sectionPlaces(song).map((place) => [place.section.id, place]))
  const now = sectionPlaces(formed)
  const tickNow = (sectionId: string, ticks: number): number =>
    snapped(moving, secondsToTicks(after, ticksToSeconds(before, was.get(sectionId)!.startTicks + ticks)))
  const placeNow: PlaceNow = (sectionId, ticks, reachTicks) =>
    inSection(now, sectionId, { tick: tickNow(sectionId, ticks), reachTicks })
  return {
    ...formed,
    sections: movedSections(formed, was, now, tickNow),
    placements: movedPlacements(song, { placeNow, tickNow }),
    doubts: movedPlaces(formed.doubts, placeNow, tickNow),
    spots: movedPlaces(formed.spots, placeNow, tickNow),
  }
}

/** The shares of a beat at which things are played, each with how near to it counts as there. */
const SHARES: readonly (readonly [share: number, within: number])[] = [
  [0, 0.17],
  [1, 0.17],
  [1 / 2, 0.1],
  [1 / 4, 0.05],
  [3 / 4, 0.05],
  [1 / 3, 0.05],
  [2 / 3, 0.05],
]
const THIRDS: typeof SHARES = [
  [0, 0.17],
  [1, 0.17],
  [1 / 3, 0.1],
  [2 / 3, 0.1],
  [1 / 2, 0.06],
]

/** The place a player would mean: on the beat, on its half, a third, a quarter; else the nearest twelfth. */
function snapped({ before, after, laid }: Moving, tick: number): number {
  const at = barIndex(after, tick)
  const bar = laid.bars[at]
  const start = after.barStartTicks[at]
  if (!bar || start === undefined) return Math.round(tick)
  const beat = beatTicks(bar.meter)
  const whole = start + Math.floor((tick - start) / beat) * beat
  const share = (tick - whole) / beat
  if (stood(before, ticksToSeconds(after, whole)) && stood(before, ticksToSeconds(after, whole + beat)))
    return Math.round(tick)
  const near = (isCompound(bar.meter) ? THIRDS : SHARES).find(
    ([to, within]) => Math.abs(share - to) <= within,
  )
  return Math.round(whole + (near ? near[0] : Math.round(share * 12) / 12) * beat)
}
/**
 * Whether a moment lay on a beat before, or on a half or quarter of one: then nothing around it was
 * moved.
 */
function stood({ seconds }: TimeMap, moment: number): boolean {
  const at = Math.max(
    0,
    Math.min(
      seconds.length - 2,
      seconds.findLastIndex((one) => one <= moment + 0.001),
    ),
  )
  const share = ((moment - seconds[at]!) / (seconds[at + 1]! - seconds[at]!)) * 4
  return Math.abs(share - Math.round(share)) < 0.004
}
function barIndex({ barStartTicks }: TimeMap, tick: number): number {
  const at = barStartTicks.findLastIndex((start) => start <= tick + 1e-6)
  return Math.max(0, at)
}

/** A moment said from its own section, or from the one it lies in when that is another. */
function inSection(
  places: readonly SectionPlace[],
  sectionId: string,
  { tick, reachTicks = 0 }: { tick: number; reachTicks?: number | undefined },
): { sectionId: string; startTicks: number } {
  const own = places.find(({ section }) => section.id === sectionId)!
  const inside = tick - own.startTicks
  const earliest = Math.max(own.section.pickupTicks + barBefore(own), reachTicks)
  if (inside >= -earliest && inside < own.lengthTicks) return { sectionId, startTicks: inside }
  const now = places.findLast((place) => place.startTicks - place.section.pickupTicks <= tick) ?? places[0]!
  return {
    sectionId: now.section.id,
    startTicks: Math.min(tick - now.startTicks, now.lengthTicks - 1),
  }
}
/** Something may begin a bar before its section and still belong to it. */
const barBefore = ({ section }: SectionPlace): number => barTicks(section.bars[0]!.meter)

type TickNow = (sectionId: string, ticks: number) => number
type PlaceNow = (
  sectionId: string,
  ticks: number,
  /** How far before its section it may begin and still belong to it, when more than a bar. */
  reachTicks?: number,
) => { sectionId: string; startTicks: number }

function movedSections(
  song: Song,
  was: ReadonlyMap<string, SectionPlace>,
  now: readonly SectionPlace[],
  tickNow: TickNow,
): Song['sections'] {
  const sections = { ...song.sections }
  const harmony = new Map<string, Section['harmony']>(now.map(({ section }) => [section.id, []]))
  for (const { section } of now)
    for (const chord of section.harmony) {
      const start = tickNow(section.id, chord.startTicks)
      const end = tickNow(section.id, chord.startTicks + chord.lengthTicks)
      const { sectionId, startTicks } = inSection(now, section.id, { tick: start })
      harmony.get(sectionId)!.push({ ...chord, startTicks, lengthTicks: Math.max(1, end - start) })
    }
  for (const place of now) {
    const chords = harmony.get(place.section.id)!.sort((a, b) => a.startTicks - b.startTicks)
    const returns = movedReturn(place.section.returns, was, now, tickNow)
    sections[place.section.id] = { ...place.section, harmony: chords, ...(returns ? { returns } : {}) }
  }
  return sections
}

/** The bars of another section that a return speaks of, counted as its bars are now. */
function movedReturn(
  returns: Section['returns'],
  was: ReadonlyMap<string, SectionPlace>,
  now: readonly SectionPlace[],
  tickNow: TickNow,
): Section['returns'] {
  if (!returns || (returns.firstBar === undefined && returns.barCount === undefined)) return returns
  const target = was.get(returns.sectionId)
  const place = now.find(({ section }) => section.id === returns.sectionId)
  if (!target || !place) return returns
  const { firstBar = 0, barCount = target.section.bars.length - firstBar } = returns
  const [from, to] = [firstBar, firstBar + barCount].map((bar) =>
    barAfter(place, tickNow(returns.sectionId, ticksBefore(target.section, bar)) - place.startTicks),
  ) as [number, number]
  const first = Math.min(from, place.section.bars.length - 1)
  return {
    ...returns,
    firstBar: first,
    barCount: Math.max(1, Math.min(to, place.section.bars.length) - first),
  }
}
const ticksBefore = (section: Section, bar: number): number =>
  barStarts(section)[Math.min(bar, section.bars.length)]!
/** The bar line nearest to a place in a section. */
const barAfter = ({ section }: SectionPlace, ticks: number): number =>
  leastIndex(barStarts(section), (a, b) => Math.abs(a - ticks) - Math.abs(b - ticks)) ?? 0

function movedPlacements(
  song: Song,
  { placeNow, tickNow }: { placeNow: PlaceNow; tickNow: TickNow },
): Song['placements'] {
  const moved: Song['placements'] = {}
  for (const placement of Object.values(song.placements)) {
    const { sectionId, startTicks } = placement
    const place = placeNow(sectionId, startTicks, placementTicks(song, placement))
    if (placement.kind === 'figure') {
      moved[placement.id] = { ...placement, ...place }
      continue
    }
    const length =
      tickNow(sectionId, startTicks + placementTicks(song, placement)) - tickNow(sectionId, startTicks)
    moved[placement.id] = { ...placement, ...place, lengthTicks: Math.max(1, length) }
  }
  return moved
}

type Noted = { id: string; place: Song['spots'][string]['place'] }

function movedPlaces<T extends Noted>(
  table: Record<string, T>,
  placeNow: PlaceNow,
  tickNow: TickNow,
): Record<string, T> {
  const moved = (entry: T): T => {
    const { sectionId, startTicks, lengthTicks } = entry.place
    const place = { ...entry.place, ...placeNow(sectionId, startTicks) }
    if (lengthTicks === undefined) return { ...entry, place }
    const length = tickNow(sectionId, startTicks + lengthTicks) - tickNow(sectionId, startTicks)
    return { ...entry, place: { ...place, lengthTicks: Math.max(1, length) } }
  }
  return Object.fromEntries(Object.entries(table).map(([id, entry]) => [id, moved(entry)]))
}
