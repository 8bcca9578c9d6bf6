// A bar of a section as a place, and where the record has it.
import { barStarts } from '#core/document/form'
import type { Place, Song } from '#core/document/schema'
import { findingSeconds } from '#core/check/finding'
import { barTicks } from '#core/time/meter'

/** Bars count from 1. Undefined where the section has no such bar. */
export function sectionBarPlace(
  song: Song | undefined,
  sectionId: string,
  bar: number,
  partId?: string,
): Place | undefined {
  const section = song?.sections[sectionId]
  const start = section && barStarts(section)[bar - 1]
  const meter = section?.bars[bar - 1]?.meter
  if (start === undefined || !meter) return undefined
  const part = partId === undefined ? {} : { partId }
  return { sectionId, ...part, startTicks: start, lengthTicks: barTicks(meter) }
}

/** Seconds of the recording at which a bar begins; undefined where nothing is laid out. */
export function secondsOfBar(song: Song | undefined, sectionId: string, bar: number): number | undefined {
  const place = sectionBarPlace(song, sectionId, bar)
  return song && place && findingSeconds(song, place)
}
