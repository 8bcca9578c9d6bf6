// Reading the form: bars in order, where sections start, the time map over a recording.
import { barTicks } from '../time/meter'
import { timeMap, type TimeMap } from '../time/beat-grid'
import type { Bar, Section, Song, Source } from './schema'
import { placementsOver } from './versions'

export const orderedSections = (song: Song): Section[] => song.sectionOrder.map((id) => song.sections[id]!)
export const orderedParts = (song: Song) => song.partOrder.map((id) => song.parts[id]!)
export const allBars = (song: Song): Bar[] => orderedSections(song).flatMap((section) => section.bars)
export const sectionTicks = (section: Section): number =>
  section.bars.reduce((sum, bar) => sum + barTicks(bar.meter), 0)

/** True while nobody has said what a section is. */
export const isUnnamed = (section: Pick<Section, 'kind' | 'name'>): boolean =>
  section.kind === 'other' && /^(Whole song|Section \d+)$/.test(section.name)

export interface SectionPlace {
  section: Section
  firstBar: number
  startTicks: number
  lengthTicks: number
}

const formPlaces = new WeakMap<Song['sections'], { order: Song['sectionOrder']; places: SectionPlace[] }>()

/** Each section with its first bar's index in the song and its span in ticks. */
export function sectionPlaces(song: Song): SectionPlace[] {
  const known = formPlaces.get(song.sections)
  if (known?.order === song.sectionOrder) return known.places
  let firstBar = 0
  let startTicks = 0
  const places = orderedSections(song).map((section) => {
    const lengthTicks = sectionTicks(section)
    const place = { section, firstBar, startTicks, lengthTicks }
    firstBar += section.bars.length
    startTicks += lengthTicks
    return place
  })
  formPlaces.set(song.sections, { order: song.sectionOrder, places })
  return places
}

/** The recording the song is laid over: the highest-ranked source with a grid. */
export function mainSource(song: Song): Source | undefined {
  return song.sourceOrder
    .map((id) => song.sources[id]!)
    .filter((source) => source.audioHash !== undefined || source.grid)
    .sort((a, b) => a.rank - b.rank)[0]
}

/**
 * The song as if one of its sources were the main one: for listening to another recording, with the versions
 * of figures that it has.
 */
export function overSource(song: Song, sourceId: string): Song {
  const source = song.sources[sourceId]
  if (!source) return song
  const sources = { ...song.sources, [sourceId]: { ...source, rank: 0 } }
  return { ...song, sources, placements: placementsOver(song, sourceId) }
}

const maps = new WeakMap<Song, TimeMap | null>()
/**
 * Time map of the song over its main recording; undefined before there is a grid. Remembered per document.
 */
export function songTimeMap(song: Song): TimeMap | undefined {
  let map = maps.get(song)
  if (map === undefined) {
    const grid = mainSource(song)?.grid
    map = grid && grid.bars.length > 0 ? timeMap(allBars(song), grid) : null
    maps.set(song, map)
  }
  return map ?? undefined
}

/** Tick offset of each bar within a section, plus its end. */
export function barStarts(section: Section): number[] {
  const starts = [0]
  for (const bar of section.bars) starts.push(starts.at(-1)! + barTicks(bar.meter))
  return starts
}
