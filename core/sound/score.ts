// From what is to be heard to a plan of stems: the parts of a document over one of its recordings.
import { humanised } from '../score/human-feel'
import { flowOfPart } from '../score/sound-song'
import type { SoundingEvent } from '../score/sounding-event'
import { overSource, songTimeMap } from '../document/form'
import type { Song } from '../document/schema'
import type { Stem } from './stems'

/** Parts of the song that is open, as they are heard over one of its recordings. */
export interface Score {
  partIds: readonly string[]
  /** The recording that is listened to when it is not the main one. */
  sourceId?: string | undefined
  /** How far that recording is off the chart, and whether the chart is played a little unevenly. */
  tuning: Tuning
}
export interface Tuning {
  semitones: number
  humanFeel: boolean
}

/**
 * The chart at the pitch of the recording that is heard: a tape that runs flat, a take two semitones
 * lower.
 */
export function inTune(events: SoundingEvent[], { semitones, humanFeel }: Tuning): SoundingEvent[] {
  const played = humanFeel ? humanised(events) : events
  return semitones === 0 ? played : played.map((event) => ({ ...event, midi: event.midi + semitones }))
}

/** One stem a part, its events worked out as they are needed. */
export function stemsOf(song: Song, score: Score): Stem[] {
  const heard = score.sourceId ? overSource(song, score.sourceId) : song
  const map = songTimeMap(heard)
  return score.partIds.map((id) => ({
    id,
    flowFrom: (fromSeconds) => {
      const flow = flowOfPart(heard, id, map, fromSeconds)
      return (untilSeconds) => inTune(flow(untilSeconds), score.tuning)
    },
  }))
}
