// Lines that follow another figure stay linked: when the first line changes, the second is made anew by its rule and its exceptions.
import { ok, type Result } from '../result'
import { figureContent, occurrences } from '../song/unroll'
import { sectionPlaces } from '../song/form'
import type { Content, Figure, LineDerivation, Song } from '../song/schema'
import { harmonyLine, type ChordAt, type HarmonyLine } from './harmony-line'

/** The song's harmony over a figure where it is first placed, in ticks of the figure. Empty when it is placed nowhere. */
export function chordsOver(song: Song, figure: Figure): ChordAt[] {
  const first = occurrences(song, figure.partId).find((play) => play.figure?.id === figure.id)
  if (!first) return []
  return sectionPlaces(song).flatMap(({ section, startTicks }) => section.harmony.map((chord) => ({ symbol: chord.symbol, startTicks: startTicks + chord.startTicks - first.startTicks, lengthTicks: chord.lengthTicks })))
    .filter((chord) => chord.startTicks < figure.lengthTicks && chord.startTicks + chord.lengthTicks > 0)
}

/** What a derived figure should play now. */
export function derivedLine(song: Song, figure: { partId: string }, rule: LineDerivation): Result<HarmonyLine> {
  const base = song.figures[rule.figureId]!
  const from = song.parts[base.partId]!
  return harmonyLine(figureContent(song, base), from, song.parts[figure.partId]!, rule, chordsOver(song, base))
}

/** Muting that spans a line goes with it; grips and strokes are the first player's own. */
export const derivedContent = (base: Content, line: HarmonyLine): Content => ({ grips: [], strokes: [], notes: line.notes, mutes: base.mutes })

export interface FigureChange { figureId: string; set: Partial<Omit<Figure, 'id' | 'partId'>> }

/** A change of a figure together with what follows from it in the figures derived from it. Refused with the follower that can no longer be played. */
export function withFollowers(song: Song, change: FigureChange): Result<FigureChange[]> {
  const figure = song.figures[change.figureId]
  const followers = Object.values(song.figures).filter((other) => other.derivedFrom?.figureId === change.figureId && other.id !== change.figureId)
  if (!figure || followers.length === 0 || !('content' in change.set)) return ok([change])
  const next: Song = { ...song, figures: { ...song.figures, [figure.id]: { ...figure, ...change.set } } }
  const changes = [change]
  for (const follower of followers) {
    const line = derivedLine(next, follower, follower.derivedFrom!)
    // A first line without notes for the moment leaves its followers as they are.
    if (!line.ok) { if (line.refusal.code === 'no-notes') continue; return { ok: false, refusal: { code: line.refusal.code, message: `“${follower.name}” follows this line and could not: ${line.refusal.message}` } } }
    changes.push({ figureId: follower.id, set: { content: derivedContent(figureContent(next, next.figures[figure.id]!), line.value), ...(change.set.lengthTicks ? { lengthTicks: change.set.lengthTicks } : {}) } })
  }
  return ok(changes)
}
