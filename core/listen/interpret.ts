// The quick half of listening: beats, bars, form, chords and key from what was taken in, around what a
// person has already said. Runs again in a second or two when a beat, a one, a section or a free stretch is
// given.
import type { Key } from '../music/pitch'
import { ANALYSIS_VERSION, type Analysis, type Given, type HeardSection } from './analysis'
import { beatDescriptions, oneScores, placeInBar, type PlaceInBar } from './decode/bars'
import { decode, medianBpm, type BeatTrack } from './decode/beats'
import { writeLabel } from './decode/chord-labels'
import {
  chordEvidence,
  decodeChords,
  joinChords,
  supportReturns,
  type HeardChord,
  type Span,
} from './decode/chords'
import { divisionOf, groupingOf, type Division } from './decode/feel'
import {
  describeBars,
  findBoundaries,
  labelSections,
  likenessMatrix,
  repetitionIn,
  type BarSound,
} from './decode/form'
import { checkpoint, type JobContext } from './job'
import { findKey, flavourOf, spellKey, type HeardKey } from './decode/key'
import type { OnsetStrength } from './features/onset-strength'
import { pulseScore } from './decode/pulse'
import { drumlessStretches, isPulse, pulsedRange } from './decode/pulsed-range'
import { barActivity } from './features/stereo-field'
import type { Sound } from './features/feature-extraction'
import { rankTunings } from './evidence/tuning-words'

const round = (value: number): number => Math.round(value * 1e4) / 1e4
const hundredth = (value: number): number => Math.round(Math.max(0, Math.min(1, value)) * 100) / 100
const medianGap = (beats: readonly number[]): number => {
  const gaps = beats
    .slice(1)
    .map((beat, index) => beat - beats[index]!)
    .sort((a, b) => a - b)
  return gaps[gaps.length >> 1] ?? 0.5
}

/** Fewer beats than this are no pulse. */
const FEWEST_BEATS = 6

export interface Pulse {
  track: BeatTrack
  beats: number[]
  rivals: { bpm: number; share: number }[]
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
    .map((track) => ({ track, score: pulseScore(track, onsets) }))
    .sort((a, b) => b.score - a.score)
  const best = scored[0]
  if (!best) return undefined
  const sum = scored.reduce((total, { score }) => total + Math.exp(score - best.score), 0)
  const [start, end] = pulsedRange(best.track, onsets)
  const { framesPerSecond } = best.track
  const inFree = (seconds: number): boolean =>
    given.free?.some((span) => seconds >= span.start - 0.05 && seconds < span.end - 0.05) ?? false
  const beatFrames = best.track.beatFrames
    .slice(start, end)
    .filter((frame) => !inFree(frame / framesPerSecond))
  if (beatFrames.length < FEWEST_BEATS || !isPulse({ ...best.track, beatFrames }, onsets)) return undefined
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

async function pulseOf(sound: Sound, given: Given, job: JobContext): Promise<Pulse | undefined> {
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

/** What kind of beat stands at a place of a bar of `length` beats. */
function beatKind(place: number, length: number): 'one' | 'middle' | 'beat' {
  if (place === 0) return 'one'
  return place * 2 === length ? 'middle' : 'beat'
}

const FREE_SPAN_SECONDS = 0.45
/**
 * Stretches that chords are heard in: halves or thirds of beats, and a plain raster where there is no
 * pulse.
 */
function chordSpans(
  beats: readonly number[],
  places: readonly PlaceInBar[],
  division: Division,
  durationSeconds: number,
): Span[] {
  const spans: Span[] = []
  const fill = (from: number, to: number): void => {
    const count = Math.round((to - from) / FREE_SPAN_SECONDS)
    for (let k = 0; k < count; k++)
      spans.push({
        start: from + ((to - from) * k) / count,
        end: from + ((to - from) * (k + 1)) / count,
        at: k % 2 ? 'between' : 'beat',
        early: false,
      })
  }
  if (beats.length < 2) {
    fill(0, durationSeconds)
    return spans
  }
  fill(0, beats[0]!)
  const cuts = division.compound ? [0, 1 / 3, 2 / 3] : [0, division.swing ?? 0.5]
  const usual = medianGap(beats)
  beats.forEach((beat, index) => {
    const next = beats[index + 1] ?? Math.min(durationSeconds, beat + (beat - beats[index - 1]!))
    // A hole in the beats: a free stretch.
    if (next - beat > 2.6 * usual) {
      fill(beat, next)
      return
    }
    const { place, length } = places[index]!
    const nextPlace = (place + 1) % length
    cuts.forEach((cut, step) => {
      const start = beat + (next - beat) * cut
      const end = beat + (next - beat) * (cuts[step + 1] ?? 1)
      if (end - start < 0.04) return
      spans.push({
        start,
        end,
        at: step > 0 ? 'between' : beatKind(place, length),
        early: step === cuts.length - 1 && (nextPlace === 0 || nextPlace * 2 === length),
      })
    })
  })
  const end = spans.at(-1)!.end
  if (durationSeconds - end > 1) fill(end, durationSeconds)
  return spans
}

interface Harmony {
  chords: HeardChord[]
  key: HeardKey | undefined
  noteWeights: Float64Array
}
/**
 * Chords and key: decoded once freely, then again with the key that came out and with what returning
 * sections say of each other.
 */
function listenToChords(sound: Sound, spans: readonly Span[], sections: readonly HeardSection[]): Harmony {
  const evidence = chordEvidence(sound.notesAt, spans)
  const noteWeights = new Float64Array(84)
  for (const { notes } of evidence)
    notes.forEach((value, pitch) => {
      noteWeights[pitch]! += value
    })
  const starts = sections.length ? sections.map((section) => section.start) : [0]
  const first = findKey(joinChords(spans, evidence, decodeChords(spans, evidence)), starts)
  const supported = supportReturns(spans, evidence, sections)
  const decoded = decodeChords(spans, supported, first)
  const chords = joinChords(spans, evidence, decoded, first && spellKey(first.tonic, first.mode))
  return { chords, key: findKey(chords, starts), noteWeights }
}

const nearestIndex = (values: readonly number[], wanted: number): number => {
  let best = 0
  values.forEach((value, index) => {
    if (Math.abs(value - wanted) < Math.abs(values[best]! - wanted)) best = index
  })
  return best
}

/**
 * Reads a recording. Silence and noise give no beats rather than invented ones. `job.found` receives what
 * is known so far after each stage.
 */
export async function interpret(sound: Sound, given: Given, job: JobContext): Promise<Analysis> {
  const { durationSeconds, onsets, tuning } = sound
  let result: Analysis = { version: ANALYSIS_VERSION, durationSeconds, beats: [], downbeats: [] }
  if (sound.silent) return result
  const pulse = await pulseOf(sound, given, job)
  const beats = pulse?.beats ?? []
  if (tuning.cents !== undefined && tuning.pitched)
    result = {
      ...result,
      tuningCents: tuning.cents,
      tuningConfidence: hundredth(tuning.confidence),
      tuningOverTime: tuning.overTime,
      tuningHistogram: tuning.histogram.map(Math.round),
    }
  await checkpoint(job, 'bars', 0)
  const near = (seconds: number): number => nearestIndex(beats, seconds)
  const fixed = new Map<number, boolean>(
    beats.length
      ? [
          ...(given.notOnes ?? []).map((seconds): [number, boolean] => [near(seconds), false]),
          ...(given.ones ?? []).map((seconds): [number, boolean] => [near(seconds), true]),
        ]
      : [],
  )
  const places = pulse
    ? placeInBar(oneScores(beatDescriptions(pulse.track, onsets, sound.pitches)), fixed, given.beatsPerBar)
    : []
  const division = divisionOf(beats, onsets)
  const downbeats = beats.filter((_, index) => places[index]!.place === 0)
  if (pulse) {
    const lengths = places
      .filter((place) => place.place === 0)
      .map((place) => place.length)
      .sort((a, b) => a - b)
    const length = lengths[lengths.length >> 1] ?? 4
    result = {
      ...result,
      beats,
      downbeats,
      tempo: Math.round(6000 / medianGap(beats)) / 100,
      tempoRivals: pulse.rivals,
      meter: division.compound ? { beats: 3 * length, unit: 8 } : { beats: length, unit: 4 },
      ...(division.swing === undefined ? {} : { swing: Math.max(0.5, Math.min(0.7, division.swing)) }),
      stretches: stretchesOf(beats, onsets, durationSeconds),
    }
  }
  job.found?.(result)

  await checkpoint(job, 'form', 0)
  const end = beats.length ? Math.min(durationSeconds, beats.at(-1)! + medianGap(beats)) : durationSeconds
  const bars =
    downbeats.length >= 4 && tuning.pitched ? describeBars(downbeats, end, onsets, sound.chromaAt) : []
  const matrix = likenessMatrix(bars)
  const form = bars.length ? formOf(bars, matrix, given) : []
  const sections = form.length ? withOpening(form, beats, onsets) : []
  if (sections.length) result = { ...result, sections }
  job.found?.(result)

  await checkpoint(job, 'chords', 0)
  const spans = chordSpans(beats, places, division, durationSeconds)
  const { chords, key, noteWeights } = tuning.pitched
    ? listenToChords(sound, spans, sections)
    : { chords: [], key: undefined, noteWeights: [] }
  const spelled = key && spellKey(key.tonic, key.mode)
  if (chords.some((chord) => chord.chord))
    result = {
      ...result,
      chords: chords.map((chord) => ({
        start: round(chord.start),
        end: round(chord.end),
        label: writeLabel(chord.chord, spelled),
        confidence: hundredth(chord.confidence),
        rivals: chord.rivals,
      })),
      tuningMeans: rankTunings(noteWeights, key?.tonic).map((meaning) => ({
        ...meaning,
        share: hundredth(meaning.share),
      })),
    }
  if (key && spelled)
    result = {
      ...result,
      key: { tonic: spelled.tonic, mode: key.mode },
      keyConfidence: hundredth(key.confidence),
      keyRivals: key.rivals.map((rival) => ({
        tonic: spellKey(rival.tonic, rival.mode).tonic,
        mode: rival.mode,
        share: hundredth(rival.share),
      })),
    }
  if (sections.length)
    result = {
      ...result,
      sections: sections.map((section) => ({
        ...section,
        ...sectionFacts(section, { chords, key: spelled, beats, onsets, sound }),
      })),
    }
  if (bars.length)
    result = {
      ...result,
      likeness: matrix.map((row) => Array.from(row, (value) => Math.round(99 * value))),
      chroma: bars.map(barChroma),
    }
  if (bars.length && sound.sides)
    result = {
      ...result,
      activity: barActivity(sound.sides, downbeats, end).map(
        (bar) =>
          (bar.left ? 'l' : '') + (bar.centre ? 'c' : '') + (bar.right ? 'r' : '') + (bar.low ? 'b' : ''),
      ),
    }
  await checkpoint(job, 'form', 1)
  return result
}

function barChroma(bar: BarSound): number[] {
  const sums = Array.from({ length: 12 }, (_, k) =>
    bar.harmony.reduce((sum, quarter) => sum + quarter[k]! + quarter[12 + k]! + quarter[24 + k]!, 0),
  )
  const top = Math.max(1e-6, ...sums)
  return sums.map((value) => Math.round((99 * value) / top))
}

function formOf(bars: readonly BarSound[], matrix: readonly Float64Array[], given: Given): HeardSection[] {
  const starts = bars.map((bar) => bar.start)
  const fixed = new Map<number, boolean>([
    ...(given.notSectionStarts ?? []).map((seconds): [number, boolean] => [
      nearestIndex(starts, seconds),
      false,
    ]),
    ...(given.sectionStarts ?? []).map((seconds): [number, boolean] => [nearestIndex(starts, seconds), true]),
  ])
  return labelSections(bars, findBoundaries(bars, matrix, fixed)).map((section): HeardSection => {
    const own = bars.slice(section.firstBar, section.firstBar + section.barCount)
    const pattern = repetitionIn(own)
    return {
      start: round(own[0]!.start),
      end: round(own.at(-1)!.end),
      label: section.letter,
      bars: section.barCount,
      confidence: hundredth(1 / (1 + Math.exp(-section.odds))),
      loudness: Math.round((own.reduce((sum, bar) => sum + bar.loudness, 0) / own.length) * 100) / 100,
      ...(pattern ? { pattern } : {}),
      ...(section.returns
        ? {
            returns: {
              ...section.returns,
              likeness: hundredth(section.returns.likeness),
              perBar: section.returns.perBar.map(hundredth),
            },
          }
        : {}),
    }
  })
}

/** Longer than this before the pulse and not silent: an opening of its own, in free time. */
const OPENING_SECONDS = 3.5
const FAINT = 1e-4
function firstSound(onsets: OnsetStrength): number {
  const loudest = onsets.loudness.reduce((top, value) => Math.max(top, value), 0)
  return (
    Math.max(
      0,
      onsets.loudness.findIndex((value) => value > loudest * FAINT),
    ) / onsets.framesPerSecond
  )
}
function withOpening(
  sections: HeardSection[],
  beats: readonly number[],
  onsets: OnsetStrength,
): HeardSection[] {
  const sounds = firstSound(onsets)
  if (beats[0]! - sounds < OPENING_SECONDS) return sections
  const moved = sections.map((section) =>
    section.returns
      ? { ...section, returns: { ...section.returns, section: section.returns.section + 1 } }
      : section,
  )
  return [{ start: round(sounds), end: moved[0]!.start, label: 'free', bars: 0, confidence: 0.8 }, ...moved]
}

function stretchesOf(
  beats: readonly number[],
  onsets: OnsetStrength,
  durationSeconds: number,
): NonNullable<Analysis['stretches']> {
  const free: NonNullable<Analysis['stretches']> = []
  const sounds = firstSound(onsets)
  if (beats[0]! - sounds > OPENING_SECONDS) free.push({ start: round(sounds), end: beats[0]!, kind: 'free' })
  const usual = medianGap(beats)
  beats.forEach((beat, index) => {
    const next = beats[index + 1]
    if (next !== undefined && next - beat > 2.6 * usual) free.push({ start: beat, end: next, kind: 'free' })
  })
  if (durationSeconds - beats.at(-1)! > 6)
    free.push({ start: round(beats.at(-1)! + usual), end: round(durationSeconds), kind: 'free' })
  return [...free, ...drumlessStretches(beats, onsets)].sort((a, b) => a.start - b.start)
}

/** A section's own key, its flavour, its swing and grouping, where they are clear. */
function sectionFacts(
  { start, end }: HeardSection,
  heard: {
    chords: readonly HeardChord[]
    key: Key | undefined
    beats: readonly number[]
    onsets: OnsetStrength
    sound: Sound
  },
): Partial<HeardSection> {
  const inside = heard.chords
    .filter((chord) => chord.end > start + 0.2 && chord.start < end - 0.2)
    .map((chord) => ({ ...chord, start: Math.max(start, chord.start), end: Math.min(end, chord.end) }))
  const key = findKey(inside, [start])
  const beats = heard.beats.filter((beat) => beat >= start - 0.05 && beat <= end + 0.05)
  const { swing } = divisionOf(beats, heard.onsets)
  const grouping = groupingOf(beats, heard.onsets)
  const flavour = key && flavourOf(key, heard.sound.chromaAt(start, end))
  return {
    ...(key && key.confidence > 0.6
      ? { key: { tonic: spellKey(key.tonic, key.mode).tonic, mode: key.mode } }
      : {}),
    ...(flavour ? { flavour } : {}),
    ...(swing === undefined ? {} : { swing: Math.max(0.5, Math.min(0.7, swing)) }),
    ...(grouping ? { grouping } : {}),
  }
}
