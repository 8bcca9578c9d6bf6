// Listening to a whole recording, and its result as beats to lay out.
import { countedBeats, type Meter } from '../time/meter'
import type { FlatBeat } from '../time/flat-beats'
import { ANALYSIS_VERSION, type Analysis, type Given } from './analysis'
import { choosePulse, interpret } from './interpret'
import type { JobContext } from './job'
import type { Recording } from './recording'
import type { MakeFft } from './spectrum'
import { takeIn, type Sound } from './take-in'

/** Everything that is heard in a recording; `onTaken` receives what further readings can start from. Throws `Cancelled` when the job is. */
export async function analyse(recording: Recording, makeFft: MakeFft, job: JobContext, given: Given = {}, onTaken?: (sound: Sound) => void): Promise<Analysis> {
  const sound = await takeIn(recording, makeFft, job, (onsets, tracks, durationSeconds) => {
    const pulse = choosePulse(tracks, onsets)
    job.found?.({ version: ANALYSIS_VERSION, durationSeconds, beats: pulse?.beats ?? [], downbeats: [] })
  })
  onTaken?.(sound)
  return interpret(sound, given, job)
}

/** An analysis as beats to lay out: a free bar before the pulse where there is more than a bar of it, then bars as heard. */
export function beatsFromAnalysis(analysis: Analysis, usual: Meter): { beats: FlatBeat[]; endSeconds: number } {
  const meter: Meter = analysis.meter ?? usual
  const ones = new Set(analysis.downbeats)
  const gap = analysis.beats.length > 1 ? (analysis.beats.at(-1)! - analysis.beats[0]!) / (analysis.beats.length - 1) : 2
  const beats: FlatBeat[] = analysis.beats.map((seconds, index) => (index === 0 || ones.has(seconds) ? { seconds, one: true, meter: { beats: meter.unit === 8 ? meter.beats : countedBeats(meter), unit: meter.unit } } : { seconds, one: false }))
  const first = beats[0]?.seconds
  if (first === undefined) return { beats: [{ seconds: 0, one: true, free: true, meter: usual }], endSeconds: analysis.durationSeconds }
  if (first > 4 * gap) beats.unshift({ seconds: 0, one: true, free: true, meter: usual })
  return { beats, endSeconds: Math.min(analysis.durationSeconds, beats.at(-1)!.seconds + gap) }
}
