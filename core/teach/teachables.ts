// What there is to learn of a part: its figures as they are played in the song, how much of the song each
// opens up, and what of a variation is new when its base is known.
import { figureContent, isEmptyFigure } from '../document/figure-content'
import { differingBars } from '../document/figure-layers'
import { songTimeMap } from '../document/form'
import type { Content, Figure, Part, Song } from '../document/schema'
import { ticksToSeconds } from '../time/beat-grid'
import { barTicks } from '../time/meter'
import { STRAIGHT_MAP_SECONDS_PER_TICK } from '../timeline/tempo'
import { coverage } from '../timeline/coverage'
import { playsOfPart, type Play } from '../timeline/timeline'
import { demandsOf, type Demands } from './demands'

export type Form = 'exact' | 'eased'
export interface Teachable {
  figure: Figure
  /** How often it is played. */
  times: number
  /** Of all that the part plays in the song, what is not charted yet included, 0 to 1. */
  share: number
  /** Where it comes first, in ticks of the song. */
  firstTicks: number
  /** Seconds a tick takes where it comes first. */
  secondsPerTick: number
  bars: number
  /** Bars that are new to who knows its base: all of them where it varies nothing. */
  newBars: number
  /** The figure it varies, where that is played too. */
  baseId: string | undefined
  /** Chords and strokes, or a line. */
  isRhythm: boolean
}

/** Of a part, in the order of the song. Empty where nothing is charted: an empty figure teaches nothing. */
export function teachablesOf(song: Song, partId: string): Teachable[] {
  const plays = playsOfPart(song, partId).filter(({ figure }) => figure && !isEmptyFigure(song, figure))
  const played = plays.reduce((sum, { lengthTicks }) => sum + lengthTicks, 0)
  const all = played + unchartedTicks(song, partId)
  const byFigure = new Map<string, Play[]>()
  for (const play of plays) byFigure.set(play.figure!.id, [...(byFigure.get(play.figure!.id) ?? []), play])
  return [...byFigure.values()].map((own) => teachableOf(song, own, { all, played: byFigure }))
}

/** What of the form nobody has charted for a part: who can play all figures there are cannot play it. */
function unchartedTicks(song: Song, partId: string): number {
  const own = coverage(song).find((one) => one.partId === partId)
  return own ? Math.max(0, own.totalTicks - own.chartedTicks) : 0
}

function teachableOf(
  song: Song,
  own: readonly Play[],
  { all, played }: { all: number; played: ReadonlyMap<string, unknown> },
): Teachable {
  const [first] = own
  const figure = first!.figure!
  const bars = Math.max(1, Math.round(figure.lengthTicks / barTicks(figure.meter)))
  const base = figure.variationOf && song.figures[figure.variationOf.figureId]
  const known = base && played.has(base.id) ? base : undefined
  const content = figureContent(song, figure)
  const newBars = known ? differingBars(figureContent(song, known), content, figure.meter).length : bars
  return {
    figure,
    times: own.length,
    share: own.reduce((sum, { lengthTicks }) => sum + lengthTicks, 0) / Math.max(1, all),
    firstTicks: first!.startTicks,
    secondsPerTick: secondsPerTick(song, first!),
    bars,
    newBars: Math.max(1, Math.min(bars, newBars)),
    baseId: known?.id,
    isRhythm: isRhythm(content),
  }
}

function secondsPerTick(song: Song, { startTicks, lengthTicks }: Play): number {
  const map = songTimeMap(song)
  if (!map) return STRAIGHT_MAP_SECONDS_PER_TICK
  const [from, to] = [Math.max(0, startTicks), Math.min(map.endTicks, startTicks + lengthTicks)]
  if (to <= from) return STRAIGHT_MAP_SECONDS_PER_TICK
  return (ticksToSeconds(map, to) - ticksToSeconds(map, from)) / (to - from)
}

/** Played in strokes over grips, or mostly in notes struck together. */
function isRhythm({ strokes, notes }: Content): boolean {
  if (strokes.length > 0) return strokes.length >= notes.length
  const onsets = new Set(notes.map(({ startTicks }) => startTicks)).size
  return onsets > 0 && notes.length >= 1.5 * onsets
}

/** Which form of a figure a hand plays, and what that asks of it. Tempo is a share of the song's. */
export function demandsOfForm(
  song: Song,
  { figure, secondsPerTick }: Pick<Teachable, 'figure' | 'secondsPerTick'>,
  { form, speed = 1 }: { form: Form; speed?: number },
): Demands {
  const part = song.parts[figure.partId] as Part
  return demandsOf(figureContent(song, figure, form), figure, part, secondsPerTick / speed)
}
