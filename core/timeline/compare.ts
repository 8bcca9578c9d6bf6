// Any two stretches of charting side by side: two figures, two halves of one, exact against eased, this bar
// against the same bar of the other verses.
import { barTicks } from '../time/meter'
import { contentDifferences, type Difference } from '../document/differences'
import { sectionPlaces } from '../document/form'
import { figureContent } from '../document/figure-content'
import { playsOfPart } from './timeline'
import { EMPTY_CONTENT, type Content, type Figure, type Section, type Song } from '../document/schema'

/** The part of a content that starts within [from, to), moved to begin at 0. */
export function sliceContent(content: Content, from: number, to: number): Content {
  const cut = <T extends { startTicks: number; lengthTicks: number }>(list: readonly T[]): T[] =>
    list
      .filter((event) => event.startTicks >= from && event.startTicks < to)
      .map((event) => ({
        ...event,
        startTicks: event.startTicks - from,
        lengthTicks: Math.min(event.lengthTicks, to - event.startTicks),
      }))
  // A grip held from before still sounds here.
  const grips = content.grips
    .filter((span) => span.startTicks < to && span.startTicks + span.lengthTicks > from)
    .map((span) => ({
      ...span,
      startTicks: Math.max(0, span.startTicks - from),
      lengthTicks: Math.min(to, span.startTicks + span.lengthTicks) - Math.max(from, span.startTicks),
    }))
  return { grips, strokes: cut(content.strokes), notes: cut(content.notes), mutes: cut(content.mutes) }
}

export type Comparable =
  | { kind: 'whole' }
  | { kind: 'first half' }
  | { kind: 'second half' }
  | { kind: 'eased' }
  | { kind: 'figure'; figureId: string }

/** What one side of a comparison plays; undefined when it does not exist. */
export function comparable(song: Song, figure: Figure, side: Comparable): Content | undefined {
  const half = figure.lengthTicks / 2
  if (side.kind === 'eased') return figure.eased
  if (side.kind === 'figure') {
    const other = song.figures[side.figureId]
    return other && figureContent(song, other)
  }
  const whole = figureContent(song, figure)
  return side.kind === 'whole'
    ? whole
    : sliceContent(
        whole,
        side.kind === 'first half' ? 0 : half,
        side.kind === 'first half' ? half : figure.lengthTicks,
      )
}

export interface SameBar {
  sectionId: string
  sectionName: string
  barInSection: number
  figureId: string | undefined
  figureName: string
  pass: number
  differences: Difference[]
}

/** Sections that are the same in the form: of one kind and name without its number, or linked as returns. */
function kin(song: Song, section: Section): Section[] {
  const stem = (name: string): string => name.replace(/\s*\d+$/, '')
  const root = (one: Section): string => (one.returns ? root(song.sections[one.returns.sectionId]!) : one.id)
  return song.sectionOrder
    .map((id) => song.sections[id]!)
    .filter(
      (other) =>
        other.id !== section.id &&
        (root(other) === root(section) ||
          (other.kind === section.kind && stem(other.name) === stem(section.name))),
    )
}

/** What a part plays in one bar of the form. */
interface PlayedBar {
  content: Content
  figure: Figure | undefined
  pass: number
  rests: boolean
}

/** The n-th bar of a section as a part plays it; undefined where the section has no such bar. */
function playedBar(
  song: Song,
  partId: string,
  place: ReturnType<typeof sectionPlaces>[number] | undefined,
  barInSection: number,
): PlayedBar | undefined {
  const bar = place?.section.bars[barInSection]
  if (!place || !bar) return undefined
  const before = place.section.bars.slice(0, barInSection)
  const start = before.reduce((sum, one) => sum + barTicks(one.meter), place.startTicks)
  const end = start + barTicks(bar.meter)
  const play = playsOfPart(song, partId).find(
    (one) => one.startTicks < end && one.startTicks + one.lengthTicks > start,
  )
  if (!play?.figure)
    return { content: EMPTY_CONTENT, figure: undefined, pass: play?.pass ?? 1, rests: play !== undefined }
  const form = play.placement.kind === 'figure' ? play.placement.form : 'exact'
  const content = figureContent(song, play.figure, form)
  return {
    content: sliceContent(content, start - play.startTicks, end - play.startTicks),
    figure: play.figure,
    pass: play.pass,
    rests: false,
  }
}

/**
 * "What did I chart for this bar in the other verses?" One entry a section of the same kind; its
 * differences from this bar.
 */
export function sameBarElsewhere(
  song: Song,
  partId: string,
  sectionId: string,
  barInSection: number,
): SameBar[] {
  const places = new Map(sectionPlaces(song).map((place) => [place.section.id, place]))
  const barOf = (id: string): PlayedBar | undefined => playedBar(song, partId, places.get(id), barInSection)
  const here = barOf(sectionId)
  const section = song.sections[sectionId]
  if (!here || !section) return []
  return kin(song, section).flatMap((other): SameBar[] => {
    const there = barOf(other.id)
    if (!there) return []
    return [
      {
        sectionId: other.id,
        sectionName: other.name,
        barInSection,
        figureId: there.figure?.id,
        figureName: there.figure?.name ?? (there.rests ? 'rests' : 'not charted'),
        pass: there.pass,
        differences: contentDifferences(here.content, there.content, other.bars[barInSection]!.meter),
      },
    ]
  })
}
