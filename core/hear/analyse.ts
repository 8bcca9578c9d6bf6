// Listening to a whole recording.
import { ANALYSIS_VERSION, type Analysis, type Given } from './analysis'
import { interpret } from './interpret'
import { choosePulse } from './pulse-choice'
import type { JobContext } from './job'
import type { Recording, RecordingInPieces } from './features/recording'
import type { MakeFft } from './features/spectrum'
import { takeIn, type Sound } from './features/feature-extraction'

/**
 * Everything that is heard in a recording; `onTaken` receives what further readings can start from. Throws
 * `Cancelled` when the job is.
 */
export async function analyse(
  recording: Recording | RecordingInPieces,
  makeFft: MakeFft,
  job: JobContext,
  given: Given = {},
  onTaken?: (sound: Sound) => void,
): Promise<Analysis> {
  const sound = await takeIn(recording, makeFft, job, (onsets, tracks, durationSeconds) => {
    const pulse = choosePulse(tracks, onsets)
    job.found?.({ version: ANALYSIS_VERSION, durationSeconds, beats: pulse?.beats ?? [], downbeats: [] })
  })
  onTaken?.(sound)
  return interpret(sound, given, job)
}
