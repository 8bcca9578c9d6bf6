// The analysis of a recording: evidence, never a decision. Fields that are not computed are absent.
import { z } from 'zod'
import { countedBeats, type Meter } from '../time/meter'
import type { FlatBeat } from '../time/flat-beats'
import { trackBeats } from './beats'
import { beatFeatures, placeInBar, pulsedRange } from './downbeats'
import { checkpoint, type JobContext } from './job'
import { onsetStrength } from './onsets'
import { lowerRate, type MakeFft } from './spectrum'

export const ANALYSIS_VERSION = 'beats-1'

export const analysisSchema = z.object({
  version: z.string(), beats: z.array(z.number()), downbeats: z.array(z.number()), tempo: z.number().optional(), durationSeconds: z.number(),
  key: z.object({ tonic: z.string(), mode: z.enum(['major', 'minor']) }).optional(), tuningCents: z.number().optional(),
  chords: z.array(z.object({ start: z.number(), end: z.number(), label: z.string() })).optional(), sections: z.array(z.object({ start: z.number(), end: z.number(), label: z.string() })).optional(),
})
export type Analysis = z.infer<typeof analysisSchema>

/** Beats and ones of a mono recording. Silence and noise give no beats rather than invented ones. Throws `Cancelled` when the job is. */
export async function analyse(recording: { mono: Float32Array; sampleRate: number }, makeFft: MakeFft, job: JobContext): Promise<Analysis> {
  const durationSeconds = recording.mono.length / recording.sampleRate
  const { mono, sampleRate } = lowerRate(recording.mono, recording.sampleRate)
  const onsets = await onsetStrength(mono, sampleRate, makeFft, job)
  const nothing: Analysis = { version: ANALYSIS_VERSION, beats: [], downbeats: [], durationSeconds }
  if (durationSeconds < 2 || onsets.loudness.every((value) => value < 1e-4)) return nothing
  const track = await trackBeats(onsets, job)
  const [start, end] = pulsedRange(track, onsets)
  const pulsed = { ...track, beatFrames: track.beatFrames.slice(start, end) }
  if (pulsed.beatFrames.length < 4) return nothing
  const places = placeInBar(beatFeatures(pulsed, onsets))
  await checkpoint(job, 'bars', 1)
  const beats = pulsed.beatFrames.map((frame) => Math.round((frame / track.framesPerSecond) * 1e4) / 1e4)
  const gaps = beats.slice(1).map((beat, index) => beat - beats[index]!).sort((a, b) => a - b)
  return { version: ANALYSIS_VERSION, durationSeconds, beats, downbeats: beats.filter((_, index) => places[index]!.place === 0), tempo: Math.round(6000 / gaps[gaps.length >> 1]!) / 100 }
}

/** An analysis as beats to lay out: a free bar before the pulse where there is more than a bar of it, then bars as heard. */
export function beatsFromAnalysis(analysis: Analysis, meter: Meter): { beats: FlatBeat[]; endSeconds: number } {
  const ones = new Set(analysis.downbeats)
  const gap = analysis.beats.length > 1 ? (analysis.beats.at(-1)! - analysis.beats[0]!) / (analysis.beats.length - 1) : 2
  const beats: FlatBeat[] = analysis.beats.map((seconds, index) => (index === 0 || ones.has(seconds) ? { seconds, one: true, meter: { beats: countedBeats(meter), unit: 4 } } : { seconds, one: false }))
  const first = beats[0]?.seconds
  if (first === undefined) return { beats: [{ seconds: 0, one: true, free: true, meter }], endSeconds: analysis.durationSeconds }
  if (first > 4 * gap) beats.unshift({ seconds: 0, one: true, free: true, meter })
  return { beats, endSeconds: Math.min(analysis.durationSeconds, beats.at(-1)!.seconds + gap) }
}
