// What is played: which events or which score, from where, looped how, with how many beats counted in.
import { inTune, type Score, type Tuning } from '#core/sound/score'
import { click } from '#core/sound/click'
import { soundCandidate } from '#core/score/candidate-chord'
import { soundFigure } from '#core/score/sound-song'
import type { SoundingEvent } from '#core/score/sounding-event'
import { STRAIGHT_MAP_SECONDS_PER_TICK } from '#core/timeline/tempo'
import { playsOfPart } from '#core/timeline/timeline'
import { barAtTick, secondsToTicks, ticksToSeconds, type TimeMap } from '#core/time/beat-grid'
import { countedBeats } from '#core/time/meter'
import type { Content, Part, Section, Song, Source } from '#core/document/schema'

export interface Loop {
  startSeconds: number
  endSeconds: number
}
export type Scope =
  | { kind: 'candidate'; symbol: string; startSeconds: number; endSeconds: number }
  | { kind: 'song' }
  /** Readings of a doubt against the record: each with its events and where it stands in the sound field. */
  | {
      kind: 'readings'
      name: string
      stems: readonly { id: string; pan: number; events: readonly SoundingEvent[] }[]
      startSeconds: number
      endSeconds: number
    }
  /** The record with a click on these beats, in seconds: another way to count it. */
  | { kind: 'count'; beats: readonly number[]; ones: readonly number[] }
  | { kind: 'part'; partId: string }
  /** The record, and of one part what is known of it, each figure in its form. */
  | { kind: 'so far'; partId: string; forms: Readonly<Record<string, 'exact' | 'eased'>> }
  | {
      kind: 'figure'
      figureId: string
      form?: 'exact' | 'eased'
      /** A draft heard in its place. */
      draft?: Content
    }
type ScopeOf<K extends Scope['kind']> = Extract<Scope, { kind: K }>

/** The open song, as far as playing needs it. */
export interface OpenSong {
  song: Song | undefined
  map: TimeMap | undefined
  parts: readonly Part[]
  sections: readonly Section[]
  source: Source | undefined
  heardSourceId: string | undefined
}
export interface PlayPlan {
  stems: { id: string; events: SoundingEvent[] }[]
  score: Score | undefined
  fromSeconds: number
  speed: number
  loop: Loop | undefined
  leadSeconds: number
  clickSeconds: number[]
  withRecording: boolean
}
interface Wanted {
  from: number
  scope: Scope
  loop: Loop | undefined
  speed: number
  withRecording: boolean
  countInBars: number
  humanFeel: boolean
  /** A click on every beat. */
  click?: boolean
  open: OpenSong
}
/** What sounds, and what the scope makes of place, loop and recording. */
type Sounding = Partial<Pick<PlayPlan, 'stems' | 'score' | 'fromSeconds' | 'loop' | 'withRecording'>>

export interface FigurePlace {
  startTicks: number
  lengthTicks: number
  placed: boolean
}
/** A figure's own loop: its first place in the recording, or a straight pulse when it is placed nowhere. */
export function placeOfFigure({ song, map }: OpenSong, figureId: string): FigurePlace | undefined {
  const figure = song?.figures[figureId]
  if (!song || !figure) return undefined
  const first = map
    ? playsOfPart(song, figure.partId).find((play) => play.figure?.id === figureId && play.startTicks >= 0)
    : undefined
  return { startTicks: first?.startTicks ?? 0, lengthTicks: figure.lengthTicks, placed: Boolean(first) }
}

/** The chart at the pitch of the recording. */
const tuningOf = ({ open: { source }, humanFeel }: Wanted): Tuning => ({
  semitones: (source?.offsetSemitones ?? 0) + (source?.offsetCents ?? 0) / 100,
  humanFeel,
})

function soundChord(scope: ScopeOf<'candidate'>, { open }: Wanted): Sounding {
  const { symbol, startSeconds, endSeconds } = scope
  const events = soundCandidate(symbol, startSeconds, endSeconds, open.source?.offsetCents ?? 0)
  return {
    stems: [{ id: 'candidate', events }],
    fromSeconds: startSeconds,
    loop: { startSeconds, endSeconds },
  }
}

function soundReadings(scope: ScopeOf<'readings'>, wanted: Wanted): Sounding {
  const { stems, startSeconds, endSeconds } = scope
  return {
    stems: stems.map(({ id, events }) => ({ id, events: inTune([...events], tuningOf(wanted)) })),
    fromSeconds: startSeconds,
    loop: { startSeconds, endSeconds },
  }
}

function soundOneFigure(scope: ScopeOf<'figure'>, wanted: Wanted): Sounding {
  const { song, map } = wanted.open
  const figure = song?.figures[scope.figureId]
  const place = placeOfFigure(wanted.open, scope.figureId)
  if (!song || !figure || !place) return {}
  const toSeconds = (tick: number): number =>
    place.placed && map ? ticksToSeconds(map, tick) : tick * STRAIGHT_MAP_SECONDS_PER_TICK
  const startSeconds = toSeconds(place.startTicks)
  const events = soundFigure(song, figure, {
    startTicks: place.startTicks,
    toSeconds,
    ...(scope.form ? { form: scope.form } : {}),
    content: scope.draft,
  })
  return {
    stems: [{ id: figure.partId, events: inTune(events, tuningOf(wanted)) }],
    fromSeconds: startSeconds,
    loop: { startSeconds, endSeconds: toSeconds(place.startTicks + place.lengthTicks) },
    withRecording: wanted.withRecording && place.placed,
  }
}

/** Every pass of a figure that is known; the rest of the part is silent. */
function soundSoFar({ partId, forms }: ScopeOf<'so far'>, wanted: Wanted): Sounding {
  const { song, map } = wanted.open
  if (!song || !map) return {}
  const events = playsOfPart(song, partId).flatMap(({ figure, placement, startTicks }) => {
    const form = figure && forms[figure.id]
    if (!form || placement.kind !== 'figure') return []
    const { shiftFrets } = placement
    const toSeconds = (tick: number): number => ticksToSeconds(map, tick)
    return soundFigure(song, figure, { startTicks, toSeconds, shiftFrets, form })
  })
  return { stems: [{ id: partId, events: inTune(events, tuningOf(wanted)) }] }
}

function soundChart(only: string | undefined, wanted: Wanted): Sounding {
  const { song, map, parts, heardSourceId } = wanted.open
  if (!song || !map) return {}
  const partIds = parts.map((part) => part.id).filter((id) => !only || id === only)
  return { score: { partIds, sourceId: heardSourceId, tuning: tuningOf(wanted) } }
}

function soundScope(wanted: Wanted): Sounding {
  const { scope } = wanted
  if (scope.kind === 'candidate') return soundChord(scope, wanted)
  if (scope.kind === 'figure') return soundOneFigure(scope, wanted)
  if (scope.kind === 'readings') return soundReadings(scope, wanted)
  if (scope.kind === 'so far') return soundSoFar(scope, wanted)
  if (scope.kind === 'count') return { stems: [clickStem(scope.beats, new Set(scope.ones))] }
  return soundChart(scope.kind === 'part' ? scope.partId : undefined, wanted)
}

/** A click on every beat of the bars; none in free time. */
function clicksOver({ map, sections }: OpenSong): PlayPlan['stems'] {
  if (!map) return []
  const bars = sections.flatMap((section) => section.bars)
  const lines = new Map(map.barStartTicks.map((tick, bar) => [tick, bar]))
  const ones = new Set<number>()
  const beats: number[] = []
  let free = false
  map.ticks.slice(0, -1).forEach((tick, index) => {
    const bar = lines.get(tick)
    const seconds = map.seconds[index] ?? 0
    if (bar !== undefined) free = Boolean(bars[bar]?.free)
    if (free) return
    beats.push(seconds)
    if (bar !== undefined) ones.add(seconds)
  })
  return [clickStem(beats, ones)]
}
const clickStem = (beats: readonly number[], ones: ReadonlySet<number>): PlayPlan['stems'][number] => ({
  id: 'click',
  events: beats.map((seconds) => click(seconds, ones.has(seconds))),
})

/** Seconds from beat to beat of the bar at a moment. */
function beatGap({ song, map, sections }: OpenSong, at: number): number {
  if (!map || !song) return 0.6
  const bar = Math.max(0, barAtTick(map, secondsToTicks(map, at)))
  const { meter } = sections.flatMap((section) => section.bars)[bar]!
  const start = ticksToSeconds(map, map.barStartTicks[bar]!)
  const end = ticksToSeconds(map, map.barStartTicks[bar + 1] ?? map.endTicks)
  return (end - start) / countedBeats(meter)
}

/** Everything the sound needs to start. */
export function planPlaying(wanted: Wanted): PlayPlan {
  const { open, speed, countInBars } = wanted
  const sounding = soundScope(wanted)
  const clicks = wanted.click && wanted.scope.kind !== 'count' ? clicksOver(open) : []
  const fromSeconds = sounding.fromSeconds ?? wanted.from
  const meter = open.sections[0]?.bars.find((bar) => !bar.free)?.meter ?? { beats: 4, unit: 4 }
  const beats = countInBars * countedBeats(meter)
  const gap = beatGap(open, fromSeconds) / speed
  return {
    stems: [...(sounding.stems ?? []), ...clicks],
    score: sounding.score,
    fromSeconds,
    speed,
    loop: sounding.loop ?? wanted.loop,
    leadSeconds: beats * gap,
    clickSeconds: Array.from({ length: beats }, (_, beat) => beat * gap),
    withRecording: sounding.withRecording ?? wanted.withRecording,
  }
}
