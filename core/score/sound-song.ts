// The chart of a song as sounding events in seconds of its recording: placements unrolled, swing applied,
// laid on the beat grid.
import type { SongOrigin } from './origin'
import { secondsToTicks, ticksToSeconds, type TimeMap } from '../time/beat-grid'
import { swungTick } from '../time/meter'
import { STRAIGHT_MAP_SECONDS_PER_TICK } from '../timeline/tempo'
import { figureContent } from '../document/figure-content'
import { playsOfPart, type Play } from '../timeline/timeline'
import { songTimeMap } from '../document/form'
import type { Content, Figure, Part, Song } from '../document/schema'
import { throughRig } from './effects'
import { performContent, type PlayedNote } from './perform'
import { rigOf } from '../timeline/rig'
import type { SoundingEvent } from './sounding-event'

/** Seconds a note may ring past its written end before the hand damps it. */
const RELEASE_SECONDS = 0.09

/** Where the events of a figure come from, but for what each note says itself. */
type FigureOrigin = Pick<SongOrigin, 'figureId' | 'form' | 'placementId' | 'pass'>

function toEvent(
  note: PlayedNote,
  part: Part,
  from: FigureOrigin,
  toSeconds: (tick: number) => number,
): SoundingEvent {
  const start = toSeconds(note.startTicks) + note.strumShare * note.strumSeconds
  const end = Math.max(start + 0.03, toSeconds(note.endTicks))
  return {
    origin: { ...note.origin, ...from, figureTicks: note.startTicks },
    string: note.string,
    startSeconds: start,
    endSeconds: end,
    midi: note.midi,
    loudness: note.loudness,
    sound: part.sound,
    slurred: note.attack === 'slurred',
    dead: note.dead,
    ...(note.scraped ? { scraped: true } : {}),
    harmonic: note.harmonic,
    vibrato: note.vibrato,
    releaseSeconds: RELEASE_SECONDS,
    ...(note.palmMute ? { palmMute: note.palmMute } : {}),
    curve: note.curve.map((point) => ({
      seconds: toSeconds(note.startTicks + point.ticks) - toSeconds(note.startTicks),
      semitones: point.semitones,
    })),
  }
}

/** One pass of a figure from its start tick, through any map of ticks to seconds. */
export function soundFigure(
  song: Song,
  figure: Figure,
  options: {
    startTicks: number
    toSeconds: (tick: number) => number
    shiftFrets?: number
    form?: 'exact' | 'eased'
    placementId?: string
    pass?: number
    /** Heard instead of what the figure plays: a draft. */ content?: Content | undefined
  },
): SoundingEvent[] {
  const part = song.parts[figure.partId]
  if (!part) return []
  const swing = (tick: number): number =>
    options.toSeconds(options.startTicks + swungTick(tick, figure.feel.swing, figure.meter))
  const from: FigureOrigin = {
    figureId: figure.id,
    form: options.form ?? 'exact',
    ...(options.placementId === undefined ? {} : { placementId: options.placementId }),
    ...(options.pass === undefined ? {} : { pass: options.pass }),
  }
  const events = performContent(
    options.content ?? figureContent(song, figure, options.form),
    figure,
    part,
    options.shiftFrets,
  ).map((note) => toEvent(note, part, from, swing))
  return part.instrument.kind === 'guitar-12' ? events.flatMap((event) => [event, twin(event)]) : events
}

/** The second string of a course: an octave up on the lower four, in unison on the upper two. */
const twin = (event: SoundingEvent): SoundingEvent => ({
  ...event,
  string: event.string + 12,
  midi: event.midi + (event.string >= 3 ? 12 : 0) + 0.04,
  startSeconds: event.startSeconds + 0.006,
  loudness: event.loudness * 0.7,
})

function strikePlay(song: Song, play: Play, clock: Clock): SoundingEvent[] {
  if (!play.figure || play.placement.kind !== 'figure') return []
  return soundFigure(song, play.figure, {
    startTicks: play.startTicks,
    toSeconds: clock.toSeconds,
    shiftFrets: play.placement.shiftFrets,
    form: play.placement.form,
    placementId: play.placement.id,
    pass: play.pass,
  })
}
function soundPlay(song: Song, play: Play, clock: Clock): SoundingEvent[] {
  const struck = strikePlay(song, play, clock)
  const part = song.parts[play.placement.partId]
  return part ? throughRig(struck, rigOf(part, play.placement.sectionId), clock.secondsAfter) : struck
}

interface Clock {
  toSeconds: (tick: number) => number
  /** The moment so many ticks after a moment. */
  secondsAfter: (seconds: number, ticks: number) => number
}
const clockOver = (map: TimeMap | undefined): Clock =>
  map
    ? {
        toSeconds: (tick) => ticksToSeconds(map, tick),
        secondsAfter: (seconds, ticks) => ticksToSeconds(map, secondsToTicks(map, seconds) + ticks),
      }
    : {
        toSeconds: (tick) => tick * STRAIGHT_MAP_SECONDS_PER_TICK,
        secondsAfter: (seconds, ticks) => seconds + ticks * STRAIGHT_MAP_SECONDS_PER_TICK,
      }

/**
 * Everything a part has charted as it is heard through its rig, in recording seconds. Where a placement
 * overlaps a later start on the same string, the earlier note ends.
 */
export const soundPart = (song: Song, partId: string, map = songTimeMap(song)): SoundingEvent[] =>
  everyPlay(song, partId, map, soundPlay)
/** The same without the rig: what the hands do. */
export const strikePart = (song: Song, partId: string, map = songTimeMap(song)): SoundingEvent[] =>
  everyPlay(song, partId, map, strikePlay)

function everyPlay(
  song: Song,
  partId: string,
  map: TimeMap | undefined,
  sound: typeof soundPlay,
): SoundingEvent[] {
  const clock = clockOver(map)
  return playsOfPart(song, partId)
    .flatMap((play) => sound(song, play, clock))
    .sort((a, b) => a.startSeconds - b.startSeconds)
}

/** Gives the events of everything that starts before a moment, each once, as playing goes on. */
export type EventFlow = (untilSeconds: number) => SoundingEvent[]

/**
 * What a part sounds from a moment on, worked out pass by pass as it is asked for: a long song starts to play
 * as soon as a short one. Same events as `soundPart`.
 */
export function flowOfPart(
  song: Song,
  partId: string,
  map: TimeMap | undefined,
  fromSeconds: number,
): EventFlow {
  const clock = clockOver(map)
  const { toSeconds } = clock
  const plays = playsOfPart(song, partId)
  const ends = (play: Play): number => toSeconds(play.startTicks + play.lengthTicks) + LONGEST_RING_SECONDS
  let next = plays.findIndex((play) => ends(play) > fromSeconds)
  if (next === -1) next = plays.length
  return (untilSeconds) => {
    const events: SoundingEvent[] = []
    for (let play = plays[next]; play && toSeconds(play.startTicks) < untilSeconds; play = plays[next]) {
      events.push(...soundPlay(song, play, clock))
      next++
    }
    return events.sort((a, b) => a.startSeconds - b.startSeconds)
  }
}
/** A note may ring this long past the end of its figure. */
const LONGEST_RING_SECONDS = 8
