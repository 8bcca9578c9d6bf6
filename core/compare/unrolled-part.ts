// One part through the whole song, bar by bar in the order in which it is played.
import { sectionPlaces } from '../document/form'
import type { Song } from '../document/schema'
import { barTicks } from '../time/meter'
import { sectionSide, type SideBar } from './compare-sides'

/** A bar of a part with its place in the song. */
export interface UnrolledBar extends SideBar {
  sectionId: string
  sectionName: string
  /** From 1. */
  barInSection: number
  barsInSection: number
  startTicks: number
  endTicks: number
}

export function unrolledPart(song: Song, partId: string): UnrolledBar[] {
  return sectionPlaces(song).flatMap(({ section, startTicks }) => {
    let at = startTicks
    return (sectionSide(song, section.id, partId)?.bars ?? []).map((bar, index): UnrolledBar => {
      const start = at
      at += barTicks(bar.meter)
      return {
        ...bar,
        sectionId: section.id,
        sectionName: section.name,
        barInSection: index + 1,
        barsInSection: section.bars.length,
        startTicks: start,
        endTicks: at,
      }
    })
  })
}
