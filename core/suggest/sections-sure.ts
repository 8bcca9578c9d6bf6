// How sure the beginnings of sections are, and which may lie elsewhere.
import { mean } from 'd3-array'
import type { HeardSection } from '../hear/analysis'
import { clock } from '../time/beat-grid'

/** Of beginnings less sure than this at most two in three proved right, of the others nineteen in twenty. */
const DOUBTFUL = 0.6
const MOST_NAMED = 4

/** That a section begins with the song, or where its free opening ends, is no news. */
export const tellingBeginnings = (sections: readonly HeardSection[]): HeardSection[] =>
  sections.slice(1).filter((_, index) => sections[index]?.label !== 'free')

/** The mean over all beginnings but the first; undefined where there is no other. */
export const sectionsSure = (sections: readonly HeardSection[]): number | undefined =>
  mean(tellingBeginnings(sections), ({ confidence }) => confidence)

/** "Least sure of the beginnings at 1:12, 2:40.", or nothing where all are sure. */
export function doubtfulBeginnings(sections: readonly HeardSection[]): string {
  const doubtful = tellingBeginnings(sections)
    .filter(({ confidence }) => confidence < DOUBTFUL)
    .sort((a, b) => a.confidence - b.confidence)
    .slice(0, MOST_NAMED)
    .sort((a, b) => a.start - b.start)
  if (!doubtful.length) return ''
  return `Least sure of the beginnings at ${doubtful.map(({ start }) => clock(start)).join(', ')}.`
}
