// Lines that follow another figure stay linked: when the first line changes, the second is made anew by its
// rule and its exceptions.
import { same } from '../../same'
import { ok, refuse, type Result } from '../../result'
import { figureContent } from '../../document/figure-content'
import { firstPlayOf } from '../../timeline/timeline'
import { sectionPlaces } from '../../document/form'
import type { Content, Figure, LineDerivation, Song } from '../../document/schema'
import { harmonyLine, type HarmonyLine } from './harmony-line'
import type { ChordAt } from './harmony-rule'

/**
 * The song's harmony over a figure where it is first placed, in ticks of the figure. Empty when it is
 * placed nowhere.
 */
export function chordsOver(song: Song, figure: Figure): ChordAt[] {
  const first = firstPlayOf(song, figure.id)
  if (!first) return []
  return sectionPlaces(song)
    .flatMap(({ section, startTicks }) =>
      section.harmony.map((chord) => ({
        symbol: chord.symbol,
        startTicks: startTicks + chord.startTicks - first.startTicks,
        lengthTicks: chord.lengthTicks,
      })),
    )
    .filter((chord) => chord.startTicks < figure.lengthTicks && chord.startTicks + chord.lengthTicks > 0)
}

/** What a derived figure should play now. */
export function derivedLine(
  song: Song,
  figure: { partId: string },
  rule: LineDerivation,
): Result<HarmonyLine> {
  const base = song.figures[rule.figureId]!
  const from = song.parts[base.partId]!
  return harmonyLine(
    figureContent(song, base),
    from,
    song.parts[figure.partId]!,
    rule,
    chordsOver(song, base),
  )
}

/** Muting that spans a line goes with it; grips and strokes are the first player's own. */
export const derivedContent = (base: Content, line: HarmonyLine): Content => ({
  grips: [],
  strokes: [],
  notes: line.notes,
  mutes: base.mutes,
})

/**
 * Reaction: makes every line anew whose first line, harmony, tuning or rule is no longer what it was. Refused
 * with the follower that can no longer be played; a first line without notes leaves its followers as they
 * are.
 */
export function remakeFollowers(before: Song, after: Song): Result<Song> {
  let next = after
  for (const figureId of followersInOrder(after)) {
    const figure = next.figures[figureId]!
    const rule = figure.derivedFrom!
    if (!isStale(before, next, figure)) continue
    const base = next.figures[rule.figureId]!
    const line = derivedLine(next, figure, rule)
    if (!line.ok && line.refusal.code === 'no-notes') continue
    if (!line.ok) {
      const why = `“${figure.name}” follows “${base.name}” and could not: ${line.refusal.message}`
      return refuse(line.refusal.code, `${why} Let it stand by itself first, or change its rule.`)
    }
    const content = derivedContent(figureContent(next, base), line.value)
    const remade = { ...figure, content, lengthTicks: base.lengthTicks }
    next = { ...next, figures: { ...next.figures, [figureId]: remade } }
  }
  return ok(next)
}

/** Figures that follow another, first lines before what follows them. */
function followersInOrder(song: Song): string[] {
  const order: string[] = []
  const seen = new Set<string>()
  const visit = (figureId: string): void => {
    const figure = song.figures[figureId]
    if (!figure?.derivedFrom || seen.has(figureId)) return
    seen.add(figureId)
    visit(figure.derivedFrom.figureId)
    if (song.figures[figure.derivedFrom.figureId]) order.push(figureId)
  }
  for (const figure of Object.values(song.figures)) visit(figure.id)
  return order
}

/** True when something a follower is made of changed, and it was not put in as it is by the change itself. */
function isStale(before: Song, after: Song, figure: Figure): boolean {
  const was = before.figures[figure.id]
  if (!was?.derivedFrom) return false
  const rule = figure.derivedFrom!
  const [oldBase, base] = [before.figures[was.derivedFrom.figureId], after.figures[rule.figureId]]
  if (!oldBase || !base || !after.parts[figure.partId]) return false
  return (
    figureContent(before, oldBase) !== figureContent(after, base) ||
    oldBase.lengthTicks !== base.lengthTicks ||
    !same(strings(before, oldBase.partId), strings(after, base.partId)) ||
    !same(strings(before, was.partId), strings(after, figure.partId)) ||
    was.derivedFrom !== rule ||
    !same(chordsOver(before, oldBase), chordsOver(after, base))
  )
}

/** What of a part decides which fret sounds what. */
function strings(song: Song, partId: string): unknown {
  const part = song.parts[partId]
  return part && [part.tuning.openMidi, part.instrument]
}
