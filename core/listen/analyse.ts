// The analysis of a recording: evidence, never a decision. Stages in the order in which they stand on each other: onsets, pulse, tuning, pitches, bars,
// chords and key, form. What is not known is absent.
import { z } from 'zod'
import { countedBeats, type Meter } from '../time/meter'
import type { FlatBeat } from '../time/flat-beats'
import { beatDescriptions, oneScores, placeInBar, type PlaceInBar } from './bars'
import { medianBpm, readings, type BeatTrack } from './beats'
import { writeLabel } from './chord-labels'
import { chordEvidence, decodeChords, joinChords, type HeardChord, type Span } from './chords'
import { divisionOf, type Division } from './feel'
import { describeBars, findBoundaries, labelSections, likenessMatrix } from './form'
import { checkpoint, type JobContext } from './job'
import { findKey, spellKey, type HeardKey } from './key'
import { onsetStrength, type OnsetStrength } from './onsets'
import { chromaOf, notesIn, pitchSpectrum, spectrumOf, type PitchSpectrum } from './pitch-spectrum'
import { pulseScore } from './pulse'
import { pulsedRange } from './pulsed-range'
import { hear, type Recording } from './recording'
import type { MakeFft } from './spectrum'
import { measureTuning } from './tuning'

export const ANALYSIS_VERSION = 'listen-2'
const share = z.number().min(0).max(1)
export const analysisSchema = z.object({
  version: z.string(), beats: z.array(z.number()), downbeats: z.array(z.number()), tempo: z.number().optional(), durationSeconds: z.number(),
  key: z.object({ tonic: z.string(), mode: z.enum(['major', 'minor']) }).optional(), keyConfidence: share.optional(), keyRivals: z.array(z.object({ tonic: z.string(), mode: z.enum(['major', 'minor']), share })).optional(),
  tuningCents: z.number().optional(), tuningConfidence: share.optional(), tuningOverTime: z.array(z.object({ seconds: z.number(), cents: z.number() })).optional(), tuningHistogram: z.array(z.number()).optional(),
  meter: z.object({ beats: z.number(), unit: z.union([z.literal(4), z.literal(8)]) }).optional(), swing: z.number().optional(),
  /** Other ways to count, best first: beats a minute and how likely beside the one taken. */
  tempoRivals: z.array(z.object({ bpm: z.number(), share })).optional(),
  chords: z.array(z.object({ start: z.number(), end: z.number(), label: z.string(), confidence: share, rivals: z.array(z.object({ label: z.string(), share })) })).optional(),
  sections: z.array(z.object({
    start: z.number(), end: z.number(), label: z.string(), bars: z.number(), confidence: share, key: z.object({ tonic: z.string(), mode: z.enum(['major', 'minor']) }).optional(),
    returns: z.object({ section: z.number(), shift: z.number(), likeness: z.number(), differs: z.array(z.number()) }).optional(),
  })).optional(),
})
export type Analysis = z.infer<typeof analysisSchema>

const round = (value: number): number => Math.round(value * 1e4) / 1e4
const hundredth = (value: number): number => Math.round(Math.max(0, Math.min(1, value)) * 100) / 100

/** Beats of the likeliest reading, without the stretch at either end that has no pulse. Too few: no pulse at all. */
function choosePulse(tracks: readonly BeatTrack[], onsets: OnsetStrength): { track: BeatTrack; rivals: { bpm: number; share: number }[] } | undefined {
  const scored = tracks.map((track) => ({ track, score: pulseScore(track, onsets) })).sort((a, b) => b.score - a.score)
  const best = scored[0]
  if (!best) return undefined
  const sum = scored.reduce((total, { score }) => total + Math.exp(score - best.score), 0)
  const [start, end] = pulsedRange(best.track, onsets)
  const track = { ...best.track, beatFrames: best.track.beatFrames.slice(start, end) }
  if (track.beatFrames.length < 6) return undefined
  return { track, rivals: scored.map((entry) => ({ bpm: Math.round(medianBpm(entry.track) * 10) / 10, share: hundredth(Math.exp(entry.score - best.score) / sum) })).filter((entry) => entry.share >= 0.02) }
}

const FREE_SPAN_SECONDS = 0.45
/** Stretches that chords are heard in: halves or thirds of beats, and a plain raster where there is no pulse. */
export function chordSpans(beats: readonly number[], places: readonly PlaceInBar[], division: Division, durationSeconds: number): Span[] {
  const spans: Span[] = []
  const fill = (from: number, to: number): void => { const count = Math.round((to - from) / FREE_SPAN_SECONDS); for (let k = 0; k < count; k++) spans.push({ start: from + ((to - from) * k) / count, end: from + ((to - from) * (k + 1)) / count, at: k % 2 ? 'between' : 'beat', early: false }) }
  if (beats.length < 2) { fill(0, durationSeconds); return spans }
  fill(0, beats[0]!)
  const cuts = division.compound ? [0, 1 / 3, 2 / 3] : [0, division.swing ?? 0.5]
  beats.forEach((beat, index) => {
    const next = beats[index + 1] ?? Math.min(durationSeconds, beat + (beat - beats[index - 1]!))
    const { place, length } = places[index]!
    const nextPlace = (place + 1) % length
    cuts.forEach((cut, step) => {
      const start = beat + (next - beat) * cut
      const end = beat + (next - beat) * (cuts[step + 1] ?? 1)
      if (end - start < 0.04) return
      spans.push({ start, end, at: step > 0 ? 'between' : place === 0 ? 'one' : place * 2 === length ? 'middle' : 'beat', early: step === cuts.length - 1 && (nextPlace === 0 || nextPlace * 2 === length) })
    })
  })
  const end = spans.at(-1)!.end
  if (durationSeconds - end > 1) fill(end, durationSeconds)
  return spans
}

/** Chords and key: decoded once freely, then again with the key that came out. */
function listenToChords(pitches: PitchSpectrum, spans: readonly Span[], starts: readonly number[]): { chords: HeardChord[]; key: HeardKey | undefined } {
  const evidence = chordEvidence(pitches, spans)
  const silent = evidence.map((entry) => entry.loud < 1e-3)
  evidence.forEach((entry, index) => { if (silent[index]) { entry.logs.fill(-12); entry.logs[entry.logs.length - 1] = 0 } })
  const free = joinChords(spans, evidence, decodeChords(spans, evidence))
  const first = findKey(free, starts)
  const chords = first ? joinChords(spans, evidence, decodeChords(spans, evidence, first), spellKey(first.tonic, first.mode)) : free
  return { chords, key: findKey(chords, starts) }
}

/** Half steps by which bars beyond the first are longer than heard: the end of the last bar. */
const medianGap = (beats: readonly number[]): number => { const gaps = beats.slice(1).map((beat, index) => beat - beats[index]!).sort((a, b) => a - b); return gaps[gaps.length >> 1] ?? 0.5 }

/**
 * Everything that is heard in a recording. Silence and noise give no beats rather than invented ones. `job.found` receives what is known so far
 * after each stage. Throws `Cancelled` when the job is.
 */
export async function analyse(recording: Recording, makeFft: MakeFft, job: JobContext): Promise<Analysis> {
  const heard = hear(recording)
  const { mono, sampleRate, durationSeconds } = heard
  let result: Analysis = { version: ANALYSIS_VERSION, beats: [], downbeats: [], durationSeconds }
  const onsets = await onsetStrength(mono, sampleRate, makeFft, job)
  if (durationSeconds < 2 || onsets.loudness.every((value) => value < 1e-4)) return result
  const pulse = choosePulse(await readings(onsets, job), onsets)
  const beats = pulse ? pulse.track.beatFrames.map((frame) => round(frame / pulse.track.framesPerSecond)) : []
  if (pulse) result = { ...result, beats, tempo: Math.round(6000 / medianGap(beats)) / 100, tempoRivals: pulse.rivals }
  job.found?.(result)

  const tuning = await measureTuning(mono, sampleRate, makeFft, job)
  if (tuning.cents !== undefined && tuning.confidence > 0.08) result = { ...result, tuningCents: tuning.cents, tuningConfidence: hundredth(tuning.confidence), tuningOverTime: tuning.overTime, tuningHistogram: tuning.histogram.map((value) => Math.round(value)) }
  const pitches = await pitchSpectrum(mono, { sampleRate, tuningCents: tuning.cents ?? 0 }, makeFft, job)
  await checkpoint(job, 'bars', 0)
  const places = pulse ? placeInBar(oneScores(beatDescriptions(pulse.track, onsets, pitches))) : []
  const division = divisionOf(beats, onsets)
  const downbeats = beats.filter((_, index) => places[index]!.place === 0)
  if (pulse) {
    const lengths = places.filter((place) => place.place === 0).map((place) => place.length).sort((a, b) => a - b)
    const length = lengths[lengths.length >> 1] ?? 4
    result = { ...result, downbeats, meter: division.compound ? { beats: 3 * length, unit: 8 } : { beats: length, unit: 4 }, ...(division.swing === undefined ? {} : { swing: Math.max(0.5, Math.min(0.7, division.swing)) }) }
  }
  job.found?.(result)

  // Form first: the key listens to where sections begin.
  await checkpoint(job, 'form', 0)
  const end = beats.length ? Math.min(durationSeconds, beats.at(-1)! + medianGap(beats)) : durationSeconds
  const form = downbeats.length >= 4 ? sectionsOf(downbeats, end, onsets, pitches) : []
  await checkpoint(job, 'chords', 0)
  const spans = chordSpans(beats, places, division, durationSeconds)
  const { chords, key } = listenToChords(pitches, spans, form.length ? form.map((section) => section.start) : [0])
  const confident = chords.some((chord) => chord.chord)
  const spelled = key && spellKey(key.tonic, key.mode)
  if (confident) result = { ...result, chords: chords.map((chord) => ({ start: round(chord.start), end: round(chord.end), label: writeLabel(chord.chord, spelled), confidence: hundredth(chord.confidence), rivals: chord.rivals })) }
  if (key && spelled) result = { ...result, key: { tonic: spelled.tonic, mode: key.mode }, keyConfidence: hundredth(key.confidence), keyRivals: key.rivals.map((rival) => ({ tonic: spellKey(rival.tonic, rival.mode).tonic, mode: rival.mode, share: hundredth(rival.share) })) }
  if (form.length) result = { ...result, sections: withOpening(form, beats, heard.durationSeconds, onsets).map((section) => ({ ...section, ...keyOfSection(chords, section) })) }
  await checkpoint(job, 'form', 1)
  return result
}

type HeardSection = NonNullable<Analysis['sections']>[number]

function sectionsOf(downbeats: readonly number[], end: number, onsets: OnsetStrength, pitches: PitchSpectrum): HeardSection[] {
  const bars = describeBars(downbeats, end, onsets, (from, to) => chromaOf(notesIn(spectrumOf(pitches, from, to))))
  const boundaries = findBoundaries(bars, likenessMatrix(bars))
  return labelSections(bars, boundaries).map((section) => ({
    start: round(bars[section.firstBar]!.start), end: round(bars[section.firstBar + section.barCount - 1]!.end), label: section.letter, bars: section.barCount, confidence: hundredth(1 / (1 + Math.exp(-section.odds))),
    ...(section.returns ? { returns: { ...section.returns, likeness: hundredth(section.returns.likeness) } } : {}),
  }))
}

/** Longer than this before the pulse and not silent: an opening of its own, in free time. */
const OPENING_SECONDS = 3.5
function withOpening(sections: HeardSection[], beats: readonly number[], durationSeconds: number, onsets: OnsetStrength): HeardSection[] {
  const first = beats[0]!
  const loudest = onsets.loudness.reduce((top, value) => Math.max(top, value), 0)
  const sounds = onsets.loudness.findIndex((value) => value > loudest * 1e-4) / onsets.framesPerSecond
  if (first - sounds < OPENING_SECONDS) return sections
  const moved = sections.map((section) => (section.returns ? { ...section, returns: { ...section.returns, section: section.returns.section + 1 } } : section))
  return [{ start: round(sounds), end: moved[0]!.start, label: 'free', bars: 0, confidence: 0.8 }, ...moved]
}

/** A section's own key, when its chords speak for one clearly. */
function keyOfSection(chords: readonly HeardChord[], { start, end }: HeardSection): { key?: { tonic: string; mode: 'major' | 'minor' } } {
  const inside = chords.filter((chord) => chord.end > start + 0.2 && chord.start < end - 0.2).map((chord) => ({ ...chord, start: Math.max(start, chord.start), end: Math.min(end, chord.end) }))
  const key = findKey(inside, [start])
  return key && key.confidence > 0.6 ? { key: { tonic: spellKey(key.tonic, key.mode).tonic, mode: key.mode } } : {}
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
