// The slow half of listening: everything that is measured once for a recording and on which every reading
// of it stands.
import { readings, type BeatTrack } from '../decode/beats'
import { believed, clickReadings } from '../decode/click-readings'
import { attackRises, steadyClick, type SteadyClick } from '../decode/steady-click'
import type { JobContext } from '../job'
import { onsetStrength, type OnsetStrength } from './onset-strength'
import { chromaOf, notesIn, pitchSpectrum, spectrumOf, type PitchSpectrum } from './pitch-spectrum'
import { lowNoteOf, lowNotes } from './low-note'
import { hear, type Recording } from './recording'
import { measureSides, type Sides } from './stereo-field'
import type { MakeFft } from './spectrum'
import { measureTuning, type Tuning } from './tuning'

export interface Sound {
  durationSeconds: number
  silent: boolean
  onsets: OnsetStrength
  tracks: BeatTrack[]
  tuning: Tuning
  pitches: PitchSpectrum
  sides: Sides | undefined
  /** Notes and chroma of a stretch, remembered. */
  notesAt: (start: number, end: number) => Float32Array
  chromaAt: (start: number, end: number) => Float32Array
  /** The guitars' lowest note in a stretch: strengths of pitch classes, undefined where it is not heard. */
  lowAt: (start: number, end: number) => Float32Array | undefined
}

/** Shorter recordings hold no song. */
const SHORTEST_SECONDS = 2
const SILENT_LOUDNESS = 1e-4

/** The recording's channels as one, at its own rate: attacks are sharpest in its highest octave. */
function monoOf({ channels }: Recording): Float32Array {
  const [left, right] = channels
  if (!left || !right) return left ?? new Float32Array(0)
  const mono = new Float32Array(left.length)
  for (let i = 0; i < mono.length; i++) mono[i] = ((left[i] ?? 0) + (right[i] ?? 0)) / 2
  return mono
}
/** The ways to count: of the click when there is one, else as the attacks are followed. */
async function tracksOf(
  heard: {
    silent: boolean
    click: SteadyClick | undefined
    onsets: OnsetStrength
    durationSeconds: number
  },
  job: JobContext,
): Promise<BeatTrack[]> {
  const { silent, click, onsets, durationSeconds } = heard
  if (silent) return []
  return click ? clickReadings(click, durationSeconds, onsets.framesPerSecond) : readings(onsets, job)
}

/**
 * `onPulse` is called as soon as beats can be shown, before pitches are heard. Throws `Cancelled` when the
 * job is.
 */
export async function takeIn(
  recording: Recording,
  makeFft: MakeFft,
  job: JobContext,
  onPulse?: (onsets: OnsetStrength, tracks: BeatTrack[], durationSeconds: number) => void,
): Promise<Sound> {
  const { mono, left, right, sampleRate, durationSeconds } = hear(recording)
  const onsets = await onsetStrength(mono, sampleRate, makeFft, job)
  const silent =
    durationSeconds < SHORTEST_SECONDS || onsets.loudness.every((value) => value < SILENT_LOUDNESS)
  const click = silent
    ? undefined
    : believed(steadyClick(attackRises(monoOf(recording), recording.sampleRate)))
  const tracks = await tracksOf({ silent, click, onsets, durationSeconds }, job)
  if (!silent) onPulse?.(onsets, tracks, durationSeconds)
  const tuning: Tuning = silent
    ? { cents: undefined, confidence: 0, histogram: [], pitched: false, overTime: [] }
    : await measureTuning(mono, sampleRate, makeFft, job)
  const pitches = silent
    ? { framesPerSecond: 20, frames: [] }
    : await pitchSpectrum(mono, { sampleRate, tuningCents: tuning.cents ?? 0 }, makeFft, job)
  const sides =
    !silent && left && right ? await measureSides(left, right, sampleRate, makeFft, job) : undefined
  const low =
    !silent && left && right
      ? await lowNotes({ left, right, sampleRate, tuningCents: tuning.cents ?? 0 }, makeFft, job)
      : undefined
  const notes = new Map<string, Float32Array>()
  const notesAt = (start: number, end: number): Float32Array => {
    const name = `${start.toFixed(3)}/${end.toFixed(3)}`
    let known = notes.get(name)
    if (!known) notes.set(name, (known = notesIn(spectrumOf(pitches, start, end))))
    return known
  }
  return {
    durationSeconds,
    silent,
    onsets,
    tracks,
    tuning,
    pitches,
    sides,
    notesAt,
    chromaAt: (start, end) => chromaOf(notesAt(start, end)),
    lowAt: (start, end) => low && lowNoteOf(low, start, end),
  }
}
