// What is to be proved, in the order of the song: findings of the check, doubts, spots to hear, remarks.
import type { Doubt, Place, Song, Spot } from '../document/schema'
import { songTimeMap } from '../document/form'
import { ticksToSeconds } from '../time/beat-grid'
import { TICKS_PER_QUARTER } from '../time/meter'
import type { Check } from '../check/check'
import { findingSeconds, sectionWords, type Finding } from '../check/finding'
import { placeTicks } from './charted-note'

interface Listed {
  key: string
  /** Where, in words; empty where it is nowhere. */
  where: string
  seconds: number | undefined
  /** Nothing is to be done about it any more. */
  done: boolean
}
export type ProveItem = Listed &
  (
    | { kind: 'finding'; finding: Finding }
    | { kind: 'doubt'; doubt: Doubt }
    | { kind: 'to hear' | 'remark' | 'landmark'; spot: Spot }
  )
export type ProveKind = ProveItem['kind']

/** "Pre-chorus 1, bar 4 · Guitar 2". */
function proveWhere(song: Song, place: Place): string {
  const section = song.sections[place.sectionId]
  const part = place.partId === undefined ? undefined : song.parts[place.partId]
  const where = section ? `${section.name}, ${sectionWords(section, place.startTicks)}` : ''
  return [where, part?.name ?? ''].filter((words) => words !== '').join(' · ')
}

function secondsOf(song: Song, place: Place): number | undefined {
  const map = songTimeMap(song)
  const ticks = placeTicks(song, place, TICKS_PER_QUARTER)
  return map && ticks ? ticksToSeconds(map, Math.max(0, ticks.from)) : undefined
}

function findingItem(song: Song, finding: Finding): ProveItem {
  const { sectionId, partId, figureId } = finding.place
  const named = [sectionId && song.sections[sectionId]?.name, partId && song.parts[partId]?.name]
  return {
    kind: 'finding',
    key: `finding/${finding.id}`,
    where: named.filter((words) => words).join(' · '),
    seconds:
      figureId !== undefined || sectionId !== undefined ? findingSeconds(song, finding.place) : undefined,
    done: finding.excused !== undefined,
    finding,
  }
}

/** Remarks and landmarks stay: there is nothing to do about them. */
export const isRemark = (kind: ProveKind | undefined): boolean => kind === 'remark' || kind === 'landmark'

/** Everything, what is done among it. */
export function proveItems(song: Song, check: Check | undefined): ProveItem[] {
  const findings = check ? [...check.open, ...check.excused].map((one) => findingItem(song, one)) : []
  const doubts = Object.values(song.doubts).map((doubt): ProveItem => ({
    kind: 'doubt',
    key: `doubt/${doubt.id}`,
    where: proveWhere(song, doubt.place),
    seconds: secondsOf(song, doubt.place),
    done: doubt.status === 'settled',
    doubt,
  }))
  const spots = Object.values(song.spots).map((spot): ProveItem => ({
    kind: spot.kind ?? 'to hear',
    key: `spot/${spot.id}`,
    where: proveWhere(song, spot.place),
    seconds: secondsOf(song, spot.place),
    done: spot.done || isRemark(spot.kind),
    spot,
  }))
  return [...findings, ...doubts, ...spots].sort((a, b) => (a.seconds ?? -1) - (b.seconds ?? -1))
}

/** How many things are open, and how many there are in all: remarks are no work. */
export function proveSums(items: readonly ProveItem[]): { open: number; all: number } {
  const work = items.filter(({ kind }) => !isRemark(kind))
  return { open: work.filter(({ done }) => !done).length, all: work.length }
}
