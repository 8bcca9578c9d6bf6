// Which reading of the pulse is the likeliest, and what the others are.
import type { Given } from './analysis'
import { decode, medianBpm, type BeatTrack } from './decode/beats'
import { pulseScore } from './decode/pulse'
import { isPulse, pulsedRange, clickRange } from './decode/pulsed-range'
import type { OnsetStrength } from './features/onset-strength'
import type { Sound } from './features/feature-extraction'
import type { JobContext } from './job'
import { hundredth, round } from './rounding'

/** Fewer beats than this are no pulse. */
const FEWEST_BEATS = 6
/** Nor are beats over less than this share of a recording: a few notes come evenly by chance. */
const LEAST_SHARE = 0.15

export interface Pulse {
  track: BeatTrack
  beats: number[]
  rivals: { bpm: number; share: number }[]
}

/** A reading is weighed once, however often beats are asked for anew. */
const weighed = new WeakMap<BeatTrack, number>()
function oddsOf(track: BeatTrack, onsets: OnsetStrength): number {
  let odds = weighed.get(track)
  if (odds === undefined) weighed.set(track, (odds = pulseScore(track, onsets) + (track.click?.prior ?? 0)))
  return odds
}

/**
 * Beats of the likeliest reading, without the stretch at either end that has no pulse and without what was
 * said to be free.
 */
export function choosePulse(
  tracks: readonly BeatTrack[],
  onsets: OnsetStrength,
  given: Given = {},
): Pulse | undefined {
  const scored = tracks
    .map((track) => ({ track, score: oddsOf(track, onsets) }))
    .sort((a, b) => b.score - a.score)
  const best = scored[0]
  if (!best) return undefined
  const sum = scored.reduce((total, { score }) => total + Math.exp(score - best.score), 0)
  const [start, end] = best.track.click ? clickRange(best.track, onsets) : pulsedRange(best.track, onsets)
  const { framesPerSecond } = best.track
  const inFree = (seconds: number): boolean =>
    given.free?.some((span) => seconds >= span.start - 0.05 && seconds < span.end - 0.05) ?? false
  const beatFrames = best.track.beatFrames
    .slice(start, end)
    .filter((frame) => !inFree(frame / framesPerSecond))
  const track = { ...best.track, beatFrames }
  const counted = (beatFrames.at(-1) ?? 0) - (beatFrames[0] ?? 0)
  if (beatFrames.length < FEWEST_BEATS || counted < LEAST_SHARE * onsets.all.length) return undefined
  if (!best.track.click && !isPulse(track, onsets)) return undefined
  // Readings of one tempo differ only in where the beat lies: for a person choosing a tempo they are one.
  const rivals: { bpm: number; share: number }[] = []
  for (const { track, score } of scored) {
    const bpm = medianBpm(track)
    const share = Math.exp(score - best.score) / sum
    const known = rivals.find((rival) => Math.abs(rival.bpm / bpm - 1) < 0.05)
    if (known) known.share += share
    else rivals.push({ bpm: Math.round(bpm * 10) / 10, share })
  }
  return {
    track: { ...best.track, beatFrames },
    beats: beatFrames.map((frame) => round(frame / framesPerSecond)),
    rivals: rivals
      .map((rival) => ({ ...rival, share: hundredth(rival.share) }))
      .filter((rival) => rival.share >= 0.02),
  }
}

/** The pulse as heard, or as it is given. */
export async function pulseOf(sound: Sound, given: Given, job: JobContext): Promise<Pulse | undefined> {
  const { onsets } = sound
  const rate = onsets.framesPerSecond
  if (given.beats)
    return given.beats.length < 2
      ? undefined
      : {
          track: { beatFrames: given.beats.map((seconds) => seconds * rate), framesPerSecond: rate },
          beats: given.beats.slice(),
          rivals: [],
        }
  if (!given.bpmRange) return choosePulse(sound.tracks, onsets, given)
  const [slowest, fastest] = given.bpmRange
  const track = await decode(onsets, { slowest: slowest * 0.97, fastest: fastest * 1.03 }, job)
  return choosePulse([track], onsets, given)
}
