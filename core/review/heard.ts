// Where an analysis and a document meet: what was heard and is not yet in the document (suggestions), the
// document as it would be with them, and what a bar line of the document can say about what was heard
// there.
import type { Analysis } from '../listen/analysis'
import { beatsFromAnalysis } from '../listen/beats-from-analysis'
import { labelSymbol } from '../listen/decode/chord-labels'
import { entrances, type BarActivity } from '../listen/features/stereo-field'
import { nameSections } from './section-names'
import { centsWords } from '../listen/evidence/tuning-words'
import { INSTRUMENTS } from '../instrument/instruments'
import { tuningsFor } from '../instrument/tunings'
import { keyName } from '../music/pitch'
import { mainSource, orderedParts, orderedSections, sectionPlaces } from '../document/form'
import type { Section, Song } from '../document/schema'
import { transact } from '../editing/transact'
import type { ArgsOf } from '../document/transactions'
import { clock } from '../time/beat-grid'
import { meterName, type Meter } from '../time/meter'

export const KINDS = ['bars', 'sections', 'chords', 'key', 'feel', 'tuning'] as const
export type SuggestionKind = (typeof KINDS)[number]
export interface Suggestion {
  kind: SuggestionKind
  text: string
  why: string
  confidence: number
}

type HeardArgs = ArgsOf<'acceptHeard'>
/** Swing below this is people being human. */
const SWUNG = 0.545
/** A new song stands in C major until somebody says otherwise. */
const keyIsUnset = (song: Song): boolean =>
  song.key.tonic === 'C' &&
  song.key.mode === 'major' &&
  orderedSections(song).every((section) => section.harmony.length === 0)
const meterOf = (analysis: Analysis, song: Song): Meter => analysis.meter ?? song.meter
/** Swung rather than only human. */
export const isSwung = (analysis: Analysis): boolean => (analysis.swing ?? 0.5) >= SWUNG
const swingOf = (analysis: Analysis): number => {
  const ratio = analysis.swing ?? 0.5
  return isSwung(analysis) ? Math.round(ratio * 100) / 100 : 0.5
}
/** Nearer than this a band is simply in tune. */
const IN_TUNE_CENTS = 4
const list = (words: string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`
const plural = (count: number, word: string): string => `${count} ${word}${count === 1 ? '' : 's'}`

/** The tuning of a part that the recording speaks for, when it is another than the part has. */
function retuned(
  song: Song,
  analysis: Analysis,
): { partId: string; tuning: Song['parts'][string]['tuning'] }[] {
  const meaning = analysis.tuningMeans?.[0]
  if (!meaning || meaning.share < 0.4 || meaning.semitones === 0) return []
  return orderedParts(song).flatMap((part) => {
    // Only a part that stands as its instrument comes: what a person tuned stays.
    if (
      part.instrument.kind === 'baritone-6' ||
      part.tuning.openMidi.some(
        (midi, index) => midi !== INSTRUMENTS[part.instrument.kind].standardMidi[index],
      )
    )
      return []
    const tuning = tuningsFor(part.instrument.kind).find(
      (candidate) => candidate.shapeOffset === meaning.semitones && !/^Dropped/.test(candidate.name),
    )
    return tuning ? [{ partId: part.id, tuning }] : []
  })
}
export const tuningWords = (analysis: Analysis): string | undefined =>
  analysis.tuningCents === undefined
    ? undefined
    : [
        analysis.tuningMeans?.[0] && analysis.tuningMeans[0].share >= 0.4
          ? analysis.tuningMeans[0].name
          : undefined,
        centsWords(analysis.tuningCents),
      ]
        .filter(Boolean)
        .join(', ')

/** What is open, in the order in which it stands on each other. */
export function openSuggestions(song: Song, analysis: Analysis): Suggestion[] {
  const open: Suggestion[] = []
  const source = mainSource(song)
  const hasGrid = Boolean(source?.grid)
  if (!hasGrid && analysis.beats.length) {
    const bars = analysis.downbeats.length
    open.push({
      kind: 'bars',
      text: `${plural(bars, 'bar')} of ${meterName(meterOf(analysis, song))}, ♩ = ${analysis.tempo?.toFixed(1)}`,
      why: 'attacks that return evenly; the one where harmony and kick change together',
      confidence: analysis.tempoRivals?.[0]?.share ?? 0.5,
    })
  }
  const sections = analysis.sections ?? []
  if (sections.length > 1 && orderedSections(song).length <= 1)
    open.push({
      kind: 'sections',
      text: `${sections.length} sections: ${[...new Set(nameSections(sections).map((section) => section.kind))].join(', ')}`,
      why: 'sound, drums and harmony change there; what is alike shares a name',
      confidence: sections.reduce((sum, section) => sum + section.confidence, 0) / sections.length,
    })
  const bare = orderedSections(song).filter((section) => section.harmony.length === 0)
  const chords = (analysis.chords ?? []).filter((chord) => chord.label !== 'N')
  if (chords.length && (bare.length > 0 || !hasGrid))
    open.push({
      kind: 'chords',
      text:
        hasGrid && bare.length < orderedSections(song).length
          ? `chords for ${list(bare.slice(0, 3).map((section) => section.name))}${bare.length > 3 ? ` and ${bare.length - 3} more` : ''}`
          : `${plural(chords.length, 'chord change')}`,
      why: 'the pitches of each half beat against the tones of each chord',
      confidence:
        chords.reduce((sum, chord) => sum + chord.confidence * (chord.end - chord.start), 0) /
        chords.reduce((sum, chord) => sum + chord.end - chord.start, 0),
    })
  if (analysis.key && keyIsUnset(song) && !(analysis.key.tonic === 'C' && analysis.key.mode === 'major'))
    open.push({
      kind: 'key',
      text: keyName(analysis.key),
      why: 'which chords last longest, begin and end',
      confidence: analysis.keyConfidence ?? 0.5,
    })
  if (analysis.swing !== undefined && swingOf(analysis) !== 0.5 && song.feel.swing.ratio === 0.5)
    open.push({
      kind: 'feel',
      text: `swung ${Math.round(swingOf(analysis) * 100)} %`,
      why: 'where attacks fall between the beats',
      confidence: 0.7,
    })
  if (
    source &&
    analysis.tuningCents !== undefined &&
    source.offsetCents === 0 &&
    (Math.abs(analysis.tuningCents) > IN_TUNE_CENTS || retuned(song, analysis).length)
  )
    open.push({
      kind: 'tuning',
      text: tuningWords(analysis)!,
      why: `the peaks of the spectrum lie ${analysis.tuningCents.toFixed(0)} cents off; ${analysis.tuningMeans?.[0]?.why ?? ''}`,
      confidence: analysis.tuningConfidence ?? 0.5,
    })
  return open
}

/**
 * What to run `acceptHeard` with for some kinds of suggestion; `section` limits sections and chords to one
 * heard section.
 */
export function acceptArgs(
  song: Song,
  analysis: Analysis,
  kinds: readonly SuggestionKind[],
  only?: { startSeconds: number; endSeconds: number; sectionId?: string | undefined },
): HeardArgs {
  const open = new Set(openSuggestions(song, analysis).map((suggestion) => suggestion.kind))
  const want = (kind: SuggestionKind): boolean =>
    kinds.includes(kind) &&
    (open.has(kind) || (only !== undefined && (kind === 'sections' || kind === 'chords')))
  const words: string[] = []
  const args: HeardArgs = { words: '' }
  if (open.has('bars') && (kinds.includes('bars') || want('sections') || want('chords'))) {
    const laid = beatsFromAnalysis(analysis, song.meter)
    args.beats = {
      beats: laid.beats.map((beat) => ({ ...beat })),
      endSeconds: Math.max(laid.endSeconds, (laid.beats.at(-1)?.seconds ?? 0) + 0.05),
      what: 'the bars heard',
      newSectionId: 'heard-bars',
    }
    if (analysis.meter) args.meter = analysis.meter
    words.push('bars')
  }
  if (want('sections')) {
    args.sections = heardSections(analysis, only)
    words.push(only ? `the section at ${clock(only.startSeconds)}` : plural(args.sections.length, 'section'))
  }
  if (want('chords')) {
    args.chords = (analysis.chords ?? []).map((chord) => ({
      startSeconds: chord.start,
      endSeconds: chord.end,
      symbol: labelSymbol(chord.label),
      confidence: chord.confidence,
    }))
    if (only) {
      args.chords = args.chords.filter(
        (chord) => chord.endSeconds > only.startSeconds && chord.startSeconds < only.endSeconds,
      )
      if (only.sectionId) args.chordSectionIds = [only.sectionId]
    }
    words.push(only ? 'its chords' : 'chords')
  }
  if (want('key') && analysis.key) {
    args.key = analysis.key
    words.push(keyName(analysis.key))
  }
  if (want('feel')) {
    args.feel = { ...song.feel, swing: { ...song.feel.swing, ratio: swingOf(analysis) } }
    words.push('swing')
  }
  if (want('tuning') && analysis.tuningCents !== undefined) {
    args.tuning = { offsetCents: analysis.tuningCents, parts: retuned(song, analysis) }
    words.push('tuning')
  }
  return { ...args, words: `what was heard: ${words.join(', ')}`.slice(0, 120) }
}

function heardSections(
  analysis: Analysis,
  only: { startSeconds: number } | undefined,
): NonNullable<HeardArgs['sections']> {
  const sections = analysis.sections ?? []
  const names = nameSections(sections)
  const all = sections.map((section, index) => ({
    startSeconds: section.start,
    id: `heard-${index}`,
    name: names[index]!.name,
    kind: names[index]!.kind,
    ...(index === 0 ? { opens: true } : {}),
    ...(section.returns && sections[section.returns.section]
      ? {
          returnsStartSeconds: sections[section.returns.section]!.start,
          shiftSemitones: section.returns.shift,
        }
      : {}),
  }))
  if (!only) return all
  const at = all.findIndex((section) => Math.abs(section.startSeconds - only.startSeconds) < 0.1)
  const next = all[at + 1]
  // What follows a single accepted section stays open: it begins there, without a name.
  return at === -1
    ? []
    : [
        all[at]!,
        ...(next
          ? [
              {
                startSeconds: next.startSeconds,
                id: `heard-rest-${at + 1}`,
                name: 'Whole song',
                kind: 'other' as const,
              },
            ]
          : []),
      ]
}

/**
 * The document with everything open taken over, for drawing suggestions where they would be; the document
 * itself when nothing is open.
 */
export function proposed(song: Song, analysis: Analysis): Song {
  const kinds = openSuggestions(song, analysis).map((suggestion) => suggestion.kind)
  if (kinds.length === 0) return song
  const result = transact(song, 'acceptHeard', acceptArgs(song, analysis, kinds))
  return result.ok ? result.value.song : song
}

/**
 * Who plays where, a sentence each: "left: from 0:21 to 1:02, from 1:40". Parts of the band are for a
 * person to name.
 */
export function sideWords(analysis: Analysis): string[] {
  const { activity, downbeats } = analysis
  if (!activity || downbeats.length < 4) return []
  const bars: BarActivity[] = activity.map((letters) => ({
    left: letters.includes('l'),
    centre: letters.includes('c'),
    right: letters.includes('r'),
    low: letters.includes('b'),
  }))
  return (['left', 'right', 'low'] as const).flatMap((place): string[] => {
    const stretches = entrances(bars, place)
    if (stretches.length === 0) return []
    const whole =
      stretches.length === 1 && stretches[0]!.firstBar === 0 && stretches[0]!.lastBar >= bars.length - 2
    return [
      `${place}: ${
        whole
          ? 'throughout'
          : stretches
              .slice(0, 4)
              .map(
                (stretch) =>
                  `${clock(downbeats[stretch.firstBar]!)}–${clock(downbeats[stretch.lastBar + 1] ?? analysis.durationSeconds)}`,
              )
              .join(', ')
      }${stretches.length > 4 ? ' …' : ''}`,
    ]
  })
}

export interface HeardReturn {
  ofName: string
  likeness: number
  differs: number[]
}
/**
 * How like a section is to the one it returns, bar by bar as heard; undefined without an analysis of these
 * bars. Bars differ when clearly less like than the rest.
 */
export function heardReturn(song: Song, section: Section, analysis: Analysis): HeardReturn | undefined {
  const target = section.returns && song.sections[section.returns.sectionId]
  const grid = mainSource(song)?.grid
  if (!target || !grid || !analysis.chroma || !analysis.likeness) return undefined
  const places = new Map(sectionPlaces(song).map((place) => [place.section.id, place.firstBar]))
  const heardBar = (bar: number): number => {
    const start = grid.bars[bar]?.beatSeconds[0]
    return start === undefined ? -1 : analysis.downbeats.findIndex((one) => Math.abs(one - start) < 0.15)
  }
  const shift = section.returns!.shiftSemitones
  const values = section.bars.slice(0, target.bars.length).map((_, bar) => {
    const [own, other] = [heardBar(places.get(section.id)! + bar), heardBar(places.get(target.id)! + bar)]
    if (own === -1 || other === -1) return undefined
    return shift === 0
      ? analysis.likeness![own]![other]! / 99
      : turnedLikeness(analysis.chroma![other]!, analysis.chroma![own]!, shift)
  })
  const known = values.filter((value): value is number => value !== undefined)
  if (known.length < section.bars.length / 2) return undefined
  const typical = [...known].sort((a, b) => a - b)[known.length >> 1]!
  return {
    ofName: target.name,
    likeness: known.reduce((sum, value) => sum + value, 0) / known.length,
    differs: values.flatMap((value, bar) => (value !== undefined && value < typical - 0.14 ? [bar] : [])),
  }
}
function turnedLikeness(a: readonly number[], b: readonly number[], shift: number): number {
  let dot = 0
  let aa = 1e-9
  let bb = 1e-9
  for (let k = 0; k < 12; k++) {
    const other = b[(k + shift + 12) % 12]!
    dot += a[k]! * other
    aa += a[k]! ** 2
    bb += other ** 2
  }
  return dot / Math.sqrt(aa * bb)
}
