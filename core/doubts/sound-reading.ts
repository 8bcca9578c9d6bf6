// How a reading of a doubt would sound at its place: what the part has charted there, changed as the reading
// says; or the chord or note alone where nothing is charted.
import type { DoubtReading, Place, Song } from '../document/schema'
import { songTimeMap } from '../document/form'
import { soundCandidate } from '../score/candidate-chord'
import { soundFigure, strikePart } from '../score/sound-song'
import type { SoundingEvent } from '../score/sounding-event'
import { playsOfPart, timelineOf } from '../timeline/timeline'
import { ticksToSeconds } from '../time/beat-grid'
import { TICKS_PER_QUARTER } from '../time/meter'
import { placeTicks } from './charted-note'

/** A muted note lasts so long. */
const SHORT_SECONDS = 0.12
/** A bend arrives after so much of its note. */
const BEND_SHARE = 0.4

interface Span {
  start: number
  end: number
}

const plainNote = (midi: number, { start, end }: Span): SoundingEvent => ({
  string: 1,
  startSeconds: start,
  endSeconds: end,
  midi,
  curve: [],
  loudness: 0.72,
  sound: 'clean',
  slurred: false,
  dead: false,
  harmonic: false,
  vibrato: 'none',
  releaseSeconds: 0.09,
})

/** Events of a reading over the seconds of its place; empty for silence and where nothing can be heard. */
export function soundReading(song: Song, place: Place, reading: DoubtReading, span: Span): SoundingEvent[] {
  const { claim, content } = reading
  if (content) return soundContent(song, place, reading)
  if (!claim || claim.kind === 'silence' || claim.kind === 'passes') return []
  if (claim.kind === 'chord') return soundCandidate(claim.symbol, span.start, span.end)
  const charted = chartedIn(song, place)
  if (claim.kind === 'string') return charted
  const isMeant = (event: SoundingEvent): boolean => Math.round(event.midi) === claim.midi
  if (claim.kind === 'note' || !charted.some(isMeant)) return [changed(plainNote(claim.midi, span), claim)]
  return charted.map((event) => (isMeant(event) ? changed(event, claim) : event))
}

type NoteClaim = Extract<NonNullable<DoubtReading['claim']>, { midi: number }>

/** One note as a reading has it. */
function changed(event: SoundingEvent, claim: NoteClaim): SoundingEvent {
  if (claim.kind === 'attack') return { ...event, slurred: !claim.picked }
  if (claim.kind === 'mute')
    return claim.short
      ? { ...event, endSeconds: Math.min(event.endSeconds, event.startSeconds + SHORT_SECONDS) }
      : event
  if (claim.kind !== 'bend') return event
  const arrives = BEND_SHARE * (event.endSeconds - event.startSeconds)
  return {
    ...event,
    curve: [
      { seconds: 0, semitones: 0 },
      { seconds: arrives, semitones: claim.semitones },
    ],
  }
}

/** What the place's part has charted to begin in it. */
function chartedIn(song: Song, place: Place): SoundingEvent[] {
  const ticks = placeTicks(song, place, TICKS_PER_QUARTER)
  if (!ticks || place.partId === undefined) return []
  const startOf = new Map(
    playsOfPart(song, place.partId).map((play) => [`${play.placement.id}/${play.pass}`, play.startTicks]),
  )
  return strikePart(song, place.partId).filter(({ origin }) => {
    const start = origin && startOf.get(`${origin.placementId ?? ''}/${origin.pass ?? 1}`)
    const tick = (start ?? Number.NEGATIVE_INFINITY) + (origin?.figureTicks ?? 0)
    return tick >= ticks.from && tick < ticks.to
  })
}

/** A reading that is written out, from the beginning of its place. */
function soundContent(song: Song, place: Place, { content }: DoubtReading): SoundingEvent[] {
  const ticks = placeTicks(song, place, TICKS_PER_QUARTER)
  const map = songTimeMap(song)
  const figure = timelineOf(song)
    .playsByPart.get(place.partId ?? '')
    ?.find((play) => play.figure && ticks && play.startTicks + play.lengthTicks > ticks.from)?.figure
  if (!ticks || !map || !figure) return []
  return soundFigure(song, figure, {
    startTicks: ticks.from,
    toSeconds: (tick) => ticksToSeconds(map, tick),
    content,
  })
}
