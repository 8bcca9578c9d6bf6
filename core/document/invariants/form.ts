// Sections, parts, sources, doubts and spots: what they name exists, what they count is inside.
import { barStarts, sectionTicks } from '../form'
import type { Part, Section, Song, Source } from '../schema'
import { MOST_BARS } from '../../time/meter'
import { own, type Problem } from './problem'

export function* sectionProblems(song: Song): Generator<Problem> {
  const bars = Object.values(song.sections).reduce((sum, section) => sum + section.bars.length, 0)
  if (bars > MOST_BARS) yield { message: `there are more than ${MOST_BARS} bars`, table: 'song', id: 'bars' }
  const order = new Map(song.sectionOrder.map((id, index) => [id, index]))
  for (const section of Object.values(song.sections)) {
    const message = returnProblem(song, section, order) ?? harmonyProblem(section)
    if (message) yield { message: `"${section.name}" ${message}`, table: 'sections', id: section.id }
  }
}

function returnProblem(song: Song, section: Section, order: Map<string, number>): string | undefined {
  if (!section.returns) return undefined
  const { sectionId, firstBar = 0, barCount } = section.returns
  const target = own(song.sections, sectionId)
  if (!target) return 'returns a section that is missing'
  // Also what keeps returns from going round in a circle.
  if (order.get(sectionId)! >= order.get(section.id)!) return 'returns a section that is not before it'
  return firstBar + (barCount ?? 1) > target.bars.length
    ? `returns bars that "${target.name}" does not have`
    : undefined
}

function harmonyProblem(section: Section): string | undefined {
  const end = sectionTicks(section)
  return section.harmony.some((chord) => chord.startTicks >= end)
    ? 'has a chord after its last bar'
    : undefined
}

export function* partProblems(song: Song): Generator<Problem> {
  for (const part of Object.values(song.parts)) {
    const message = partProblem(song, part)
    if (message) yield { message: `"${part.name}" ${message}`, table: 'parts', id: part.id }
  }
}

function partProblem(song: Song, part: Part): string | undefined {
  const { capo, fretCount, gauges } = part.instrument
  if (capo >= fretCount) return 'has its capo beyond the neck'
  if (gauges && gauges.length > part.tuning.openMidi.length) return 'has more gauges than strings'
  if (!part.derivedFrom) return undefined
  const seen = new Set([part.id])
  for (let at: Part | undefined = part; at?.derivedFrom;) {
    const next: string = at.derivedFrom.partId
    if (seen.has(next)) return 'is derived from itself'
    seen.add(next)
    at = own(song.parts, next)
    if (!at) return 'is derived from a part that is missing'
  }
  return undefined
}

export function* sourceProblems(song: Song): Generator<Problem> {
  for (const source of Object.values(song.sources)) {
    const message = gridProblem(source)
    if (message) yield { message: `source "${source.name}" ${message}`, table: 'sources', id: source.id }
  }
}

/** Beats rise strictly to the end of the grid: only then does every place have one time and back. */
function gridProblem({ grid }: Source): string | undefined {
  if (!grid) return undefined
  let before = Number.NEGATIVE_INFINITY
  for (const bar of grid.bars)
    for (const seconds of bar.beatSeconds) {
      if (!(seconds > before)) return 'has beats that do not follow each other in time'
      before = seconds
    }
  return grid.endSeconds > before ? undefined : 'has a grid that ends before its last beat'
}

export function* noteProblems(song: Song): Generator<Problem> {
  for (const table of ['doubts', 'spots'] as const)
    for (const { id, place } of Object.values<{ id: string; place: Song['spots'][string]['place'] }>(
      song[table],
    )) {
      const section = own(song.sections, place.sectionId)
      const name = table === 'doubts' ? 'a doubt' : 'a spot'
      if (!section) yield { message: `${name} lies in a section that is missing`, table, id }
      else if (place.startTicks >= barStarts(section).at(-1)!)
        yield { message: `${name} lies after the end of "${section.name}"`, table, id }
      if (place.partId !== undefined && !own(song.parts, place.partId))
        yield { message: `${name} is about a part that is missing`, table, id }
    }
  yield* doubtProblems(song)
}

function* doubtProblems(song: Song): Generator<Problem> {
  for (const doubt of Object.values(song.doubts)) {
    const readings = new Set(doubt.readings.map((reading) => reading.id))
    const about = { table: 'doubts', id: doubt.id } as const
    if (doubt.decision !== undefined && !readings.has(doubt.decision))
      yield { message: 'a doubt is settled for a reading it does not have', ...about }
    if (doubt.status === 'settled' && doubt.decision === undefined)
      yield { message: 'a settled doubt does not say which reading holds', ...about }
    if (doubt.readings.some(({ sourceId }) => sourceId !== undefined && !own(song.sources, sourceId)))
      yield { message: 'a reading of a doubt names a source that is missing', ...about }
  }
}
