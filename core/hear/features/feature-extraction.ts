// The slow half of listening: everything that is measured once for a recording and on which every reading
// of it stands.
import { readings, type BeatTrack } from '../decode/beats'
import { believed, clickReadings } from '../decode/click-readings'
import { steadyClick } from '../decode/steady-click'
import type { JobContext } from '../job'
import { onsetStrength, type OnsetStrength } from './onset-strength'
import { chromaOf, notesIn, PITCHES, pitchSpectrum, spectrumOf, type PitchSpectrum } from './pitch-spectrum'
import { lowNoteOf, lowNotes } from './low-note'
import { hear, type Recording, type RecordingInPieces } from './recording'
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

/** Notes of any stretch, each heard once and remembered. */
function remembered(pitches: PitchSpectrum): Pick<Sound, 'notesAt' | 'chromaAt'> {
  const notes = new Map<string, Float32Array>()
  const notesAt = (start: number, end: number): Float32Array => {
    const name = `${start.toFixed(3)}/${end.toFixed(3)}`
    let known = notes.get(name)
    if (!known) notes.set(name, (known = notesIn(spectrumOf(pitches, start, end))))
    return known
  }
  return { notesAt, chromaAt: (start, end) => chromaOf(notesAt(start, end)) }
}

/** What there is of a recording without a sound. */
function silence(durationSeconds: number, onsets: OnsetStrength): Sound {
  return {
    durationSeconds,
    silent: true,
    onsets,
    tracks: [],
    tuning: { cents: undefined, confidence: 0, histogram: [], pitched: false, overTime: [] },
    pitches: { framesPerSecond: 20, frames: [] },
    sides: undefined,
    notesAt: () => new Float32Array(PITCHES),
    chromaAt: () => chromaOf(new Float32Array(PITCHES)),
    lowAt: () => undefined,
  }
}

/**
 * `onPulse` is called as soon as beats can be shown, before pitches are heard. Throws `Cancelled` when the
 * job is.
 */
export async function takeIn(
  recording: Recording | RecordingInPieces,
  makeFft: MakeFft,
  job: JobContext,
  onPulse?: (onsets: OnsetStrength, tracks: BeatTrack[], durationSeconds: number) => void,
): Promise<Sound> {
  const { mono, side, sampleRate, durationSeconds, rises } = await hear(recording)
  const onsets = await onsetStrength(mono, sampleRate, makeFft, job)
  if (durationSeconds < SHORTEST_SECONDS || onsets.loudness.every((value) => value < SILENT_LOUDNESS))
    return silence(durationSeconds, onsets)
  const click = believed(await steadyClick(rises, makeFft, job))
  const tracks = click
    ? clickReadings(click, durationSeconds, onsets.framesPerSecond)
    : await readings(onsets, job)
  onPulse?.(onsets, tracks, durationSeconds)
  const tuning = await measureTuning(mono, sampleRate, makeFft, job)
  const tuned = { sampleRate, tuningCents: tuning.cents ?? 0 }
  const pitches = await pitchSpectrum(mono, tuned, makeFft, job)
  const stereo = side && { middle: mono, side, ...tuned }
  const sides = stereo && (await measureSides(stereo, makeFft, job))
  const low = stereo && (await lowNotes(stereo, makeFft, job))
  return {
    durationSeconds,
    silent: false,
    onsets,
    tracks,
    tuning,
    pitches,
    sides,
    ...remembered(pitches),
    lowAt: (start, end) => low && lowNoteOf(low, start, end),
  }
}
