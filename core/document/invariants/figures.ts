// Figures and patterns: what they stand on exists and does not go round, what they play fits their part.
import { barTicks, MOST_FIGURE_BARS, MOST_FIGURE_TICKS, TICKS_PER_QUARTER } from '../../time/meter'
import { figureContent } from '../figure-content'
import type { Content, Figure, Part, Pattern, Song } from '../schema'
import { contentProblem } from './content'
import { own, type Problem } from './problem'

/** A stroke shorter than this cannot be told from the next; it also bounds how often a pattern repeats. */
const SHORTEST_PATTERN_TICKS = TICKS_PER_QUARTER / 8
const MOST_TILED_STROKES = 20_000

export function* figureProblems(song: Song): Generator<Problem> {
  for (const figure of Object.values(song.figures)) {
    const message =
      lengthProblem(figure) ??
      linkProblem(song, figure) ??
      tilingProblem(song, figure) ??
      fitProblem(song, figure)
    if (message) yield { message: `figure "${figure.name}" ${message}`, table: 'figures', id: figure.id }
  }
}

/** No figure is shorter: it also bounds how many of them a section holds. */
const SHORTEST_FIGURE_TICKS = TICKS_PER_QUARTER / 16

/** Why a figure cannot be that long or short, undefined when it can. */
export function lengthProblem(figure: Pick<Figure, 'lengthTicks' | 'meter'>): string | undefined {
  if (figure.lengthTicks < SHORTEST_FIGURE_TICKS) return 'is shorter than a sixty-fourth note'
  return figure.lengthTicks > Math.min(MOST_FIGURE_TICKS, MOST_FIGURE_BARS * barTicks(figure.meter))
    ? `is longer than ${MOST_FIGURE_BARS} bars: make several figures of it`
    : undefined
}

function linkProblem(song: Song, figure: Figure): string | undefined {
  if (!own(song.parts, figure.partId)) return 'belongs to no part'
  if (figure.variationOf && !own(song.figures, figure.variationOf.figureId))
    return 'varies a figure that is missing'
  if (goesRound(song, figure.id, 'variationOf')) return 'varies itself'
  if (figure.derivedFrom && !own(song.figures, figure.derivedFrom.figureId))
    return 'follows a line that is missing'
  if (goesRound(song, figure.id, 'derivedFrom')) return 'follows itself'
  if (figure.pattern && !own(song.patterns, figure.pattern.patternId))
    return 'follows a hand pattern that is missing'
  return figure.sourceId && !own(song.sources, figure.sourceId) ? 'names a source that is missing' : undefined
}

/** True when following a link of a figure leads back to it. */
export function goesRound(song: Song, figureId: string, link: 'variationOf' | 'derivedFrom'): boolean {
  const seen = new Set([figureId])
  let at = own(song.figures, figureId)?.[link]?.figureId
  while (at !== undefined) {
    if (seen.has(at)) return true
    seen.add(at)
    at = own(song.figures, at)?.[link]?.figureId
  }
  return false
}

function tilingProblem(song: Song, figure: Figure): string | undefined {
  const pattern = figure.pattern && own(song.patterns, figure.pattern.patternId)
  if (!pattern) return undefined
  const rounds = Math.ceil(figure.lengthTicks / pattern.lengthTicks)
  return rounds * pattern.strokes.length > MOST_TILED_STROKES
    ? `would be struck more than ${MOST_TILED_STROKES} times by its hand pattern`
    : undefined
}

interface Checked {
  part: Part
  lengthTicks: number
  problem: string | undefined
}
const checked = new WeakMap<Content, Checked>()
/** The problem of a content on a part, worked out once for each content. */
function fits(content: Content, part: Part, lengthTicks: number): string | undefined {
  const known = checked.get(content)
  if (known?.part === part && known.lengthTicks === lengthTicks) return known.problem
  const problem = contentProblem(content, part, lengthTicks)
  checked.set(content, { part, lengthTicks, problem })
  return problem
}

function fitProblem(song: Song, figure: Figure): string | undefined {
  const part = song.parts[figure.partId]!
  for (const content of [figure.content, figure.eased, figureContent(song, figure)]) {
    const problem = content && fits(content, part, figure.lengthTicks)
    if (problem) return `cannot be played: ${problem}`
  }
  return undefined
}

export function* patternProblems(song: Song): Generator<Problem> {
  for (const pattern of Object.values(song.patterns)) {
    const message = patternProblem(pattern)
    if (message)
      yield { message: `hand pattern "${pattern.name}" ${message}`, table: 'patterns', id: pattern.id }
  }
}

export function patternProblem(pattern: Pattern): string | undefined {
  if (pattern.lengthTicks < SHORTEST_PATTERN_TICKS) return 'is shorter than a thirty-second note'
  return pattern.strokes.some((stroke) => stroke.startTicks >= pattern.lengthTicks)
    ? 'has a stroke that starts after its end'
    : undefined
}
