// The quick half of listening: beats, bars, form, chords and key from what was taken in, around what a
// person has already said. Runs again in a second or two when a beat, a one, a section or a free stretch is
// given.
import { leastIndex } from 'd3-array'
import { pitchClassOf, type Key } from '../music/pitch'
import { ANALYSIS_VERSION, type Analysis, type Given, type HeardSection } from './analysis'
import { barConfidence } from './decode/bar-confidence'
import { oneFromFileStart } from './decode/file-start'
import { beatDescriptions, oneScores, placeInBar, type PlaceInBar } from './decode/bars'
import { nameRoot } from './decode/chord-labels'
import { decodeChords, type Span } from './decode/chord-chain'
import { chordEvidence, supportReturns } from './decode/chord-evidence'
import { joinChords, type HeardChord } from './decode/chords'
import { divisionOf, groupingOf, type Division } from './decode/feel'
import { describeBars, likenessMatrix, type BarSound } from './decode/bar-sound'
import { labelSections, repetitionIn } from './decode/section-returns'
import { findBeginnings } from './decode/section-starts'
import { findKey, flavourOf, spellKey } from './decode/key'
import { riffRoot } from './decode/riff'
import type { OnsetStrength } from './features/onset-strength'
import type { Sound } from './features/feature-extraction'
import { barsDescribed, barsFound, chordsFound, keyFound, tuningFound, type Harmony } from './found'
import { checkpoint, type JobContext } from './job'
import { pulseOf } from './pulse-choice'
import { hundredth, medianGap, round } from './rounding'
import { firstSound, OPENING_SECONDS } from './stretches'

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

/**
 * Chords and key: decoded once freely, then again with the key that came out and with what returning
 * sections say of each other.
 */
function listenToChords(
  sound: Sound,
  spans: readonly Span[],
  sections: readonly HeardSection[],
  given: Given,
): Harmony {
  const evidence = chordEvidence(sound, spans)
  const noteWeights = new Float64Array(84)
  for (const { notes } of evidence)
    notes.forEach((value, pitch) => {
      noteWeights[pitch]! += value
    })
  const starts = sections.length ? sections.map((section) => section.start) : [0]
  const first = findKey(joinChords(spans, evidence, decodeChords(spans, evidence)), starts)
  const supported = supportReturns(spans, evidence, sections)
  const said = given.key && { tonic: pitchClassOf(given.key.tonic), mode: given.key.mode }
  const key = said ?? first
  const decoded = decodeChords(spans, supported, key)
  const spelled = given.key ?? (first && spellKey(first.tonic, first.mode))
  const chords = joinChords(spans, evidence, decoded, spelled)
  return { chords, key: findKey(chords, starts), noteWeights }
}

const nearestIndex = (values: readonly number[], wanted: number): number =>
  leastIndex(values, (a, b) => Math.abs(a - wanted) - Math.abs(b - wanted)) ?? 0

/** Beats of which is known whether they are ones. */
function fixedOnes(beats: readonly number[], given: Given): Map<number, boolean> {
  if (!beats.length) return new Map()
  return new Map<number, boolean>([
    ...(given.notOnes ?? []).map((seconds): [number, boolean] => [nearestIndex(beats, seconds), false]),
    ...(given.ones ?? []).map((seconds): [number, boolean] => [nearestIndex(beats, seconds), true]),
  ])
}

/**
 * The bars as they are heard; where a person has set none, the beginning of a file cut on the grid counts.
 */
function barPlaces(
  scores: readonly number[],
  beats: readonly number[],
  { given, toClick }: { given: Given; toClick: boolean },
): PlaceInBar[] {
  const known = { fixed: fixedOnes(beats, given), usual: given.beatsPerBar, toClick }
  const places = placeInBar(scores, known)
  const opens = toClick && known.fixed.size === 0 ? oneFromFileStart(beats, places, scores) : undefined
  if (!opens) return places
  return placeInBar(scores, { ...known, fixed: new Map([[opens.beat, true]]), locked: opens.throughout })
}

/**
 * Reads a recording. Silence and noise give no beats rather than invented ones. `job.found` receives what
 * is known so far after each stage.
 */
export async function interpret(sound: Sound, given: Given, job: JobContext): Promise<Analysis> {
  const { durationSeconds, onsets, tuning } = sound
  let result: Analysis = { version: ANALYSIS_VERSION, durationSeconds, beats: [], downbeats: [] }
  const add = (found: Partial<Analysis>): void => {
    result = { ...result, ...found }
  }
  if (sound.silent) return result
  const pulse = await pulseOf(sound, given, job)
  const beats = pulse?.beats ?? []
  add(tuningFound(sound))
  await checkpoint(job, 'bars', 0)
  const scores = pulse ? oneScores(beatDescriptions(pulse.track, onsets, sound.pitches)) : []
  const places = barPlaces(scores, beats, { given, toClick: pulse?.track.click !== undefined })
  const division = divisionOf(beats, onsets)
  if (pulse) add(barsFound(pulse, { places, sure: barConfidence(scores, places), division }, sound))
  job.found?.(result)

  await checkpoint(job, 'form', 0)
  const { downbeats } = result
  const end = beats.length ? Math.min(durationSeconds, beats.at(-1)! + medianGap(beats)) : durationSeconds
  const described = downbeats.length >= 4 && tuning.pitched
  const bars = described ? describeBars(downbeats, end, onsets, sound.chromaAt) : []
  const matrix = likenessMatrix(bars)
  const form = bars.length ? formOf(bars, matrix, { given, sure: result.barConfidence ?? [] }) : []
  const sections = form.length ? withOpening(form, beats, onsets) : []
  if (sections.length) add({ sections })
  job.found?.(result)

  await checkpoint(job, 'chords', 0)
  const spans = chordSpans(beats, places, division, durationSeconds)
  const nothing: Harmony = { chords: [], key: undefined, noteWeights: new Float64Array() }
  const heard = tuning.pitched ? listenToChords(sound, spans, sections, given) : nothing
  const { chords, key } = heard
  add(chordsFound(heard))
  add(keyFound(heard))
  const facts = { chords, key: key && spellKey(key.tonic, key.mode), beats, onsets, sound }
  if (sections.length)
    add({ sections: sections.map((section) => ({ ...section, ...sectionFacts(section, facts) })) })
  add(barsDescribed(bars, matrix, sound, { downbeats, end }))
  await checkpoint(job, 'form', 1)
  return result
}

/** `sure` says of each bar how sure it is: a section that begins with it cannot be surer. */
function formOf(
  bars: readonly BarSound[],
  matrix: readonly Float64Array[],
  { given, sure }: { given: Given; sure: readonly number[] },
): HeardSection[] {
  const starts = bars.map((bar) => bar.start)
  const fixed = new Map<number, boolean>([
    ...(given.notSectionStarts ?? []).map((seconds): [number, boolean] => [
      nearestIndex(starts, seconds),
      false,
    ]),
    ...(given.sectionStarts ?? []).map((seconds): [number, boolean] => [nearestIndex(starts, seconds), true]),
  ])
  return labelSections(bars, findBeginnings(bars, matrix, fixed)).map((section): HeardSection => {
    const own = bars.slice(section.firstBar, section.firstBar + section.barCount)
    const pattern = repetitionIn(own)
    return {
      start: round(own[0]!.start),
      end: round(own.at(-1)!.end),
      label: section.letter,
      bars: section.barCount,
      confidence: hundredth(section.sure * (sure[section.firstBar] ?? 1)),
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
  const root = riffRoot(inside)
  const riffOn = root === undefined ? undefined : nameRoot(root, heard.key)
  const flavour = key && flavourOf(key, heard.sound.chromaAt(start, end))
  return {
    ...(key && key.confidence > 0.6
      ? { key: { tonic: spellKey(key.tonic, key.mode).tonic, mode: key.mode } }
      : {}),
    ...(flavour ? { flavour } : {}),
    ...(swing === undefined ? {} : { swing: Math.max(0.5, Math.min(0.7, swing)) }),
    ...(grouping ? { grouping } : {}),
    ...(riffOn ? { riffOn } : {}),
  }
}
