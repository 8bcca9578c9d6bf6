// Where an analysis and a document meet: what was heard and is not yet in the document (suggestions), the
// document as it would be with them, and what a bar line of the document can say about what was heard
// there.
import { counted, listed } from '../words/words'
import type { Analysis } from '../hear/analysis'
import { beatsFromAnalysis } from '../hear/beats-from-analysis'
import { labelSymbol } from '../hear/decode/chord-labels'
import { barsSure, doubtfulBars } from './bars-sure'
import { doubtfulBeginnings, sectionsSure } from './sections-sure'
import { openChords, spellingKey } from './heard-chords'
import { nameSections } from './section-names'
import { centsWords } from '../hear/evidence/tuning-words'
import { INSTRUMENTS } from '../instrument/instruments'
import { tuningsFor } from '../instrument/tunings'
import { transposeSymbol } from '../music/chord-name'
import { keyName } from '../music/pitch'
import { mainSource, orderedParts, orderedSections, sectionPlaces } from '../document/form'
import type { Part, Section, Song } from '../document/schema'
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
const meterOf = (analysis: Analysis, song: Song): Meter => analysis.meter ?? song.meter
/** Swung rather than only human. */
export const isSwung = (analysis: Analysis): boolean => (analysis.swing ?? 0.5) >= SWUNG
const swingOf = (analysis: Analysis): number => {
  const ratio = analysis.swing ?? 0.5
  return isSwung(analysis) ? Math.round(ratio * 100) / 100 : 0.5
}
/** Nearer than this a band is simply in tune. */
const IN_TUNE_CENTS = 4

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
/** How the band is tuned by the recording; undefined where it does not say. */
function bandTuning(analysis: Analysis): Song['bandTuning'] {
  const meaning = analysis.tuningMeans?.[0]
  return meaning && meaning.share >= 0.4
    ? { shapeOffset: meaning.semitones, dropped: meaning.drop !== 0 }
    : undefined
}

/** What taking over the tuning changes in the band, and what it leaves: a sentence or two. */
export function tuningTaken(song: Song, analysis: Analysis): string {
  const changed = new Map(retuned(song, analysis).map(({ partId, tuning }) => [partId, tuning.name]))
  const [tuned, left] = [true, false].map((is) =>
    orderedParts(song).filter(({ id }) => changed.has(id) === is),
  ) as [Part[], Part[]]
  const names = (parts: readonly Part[]): string => listed(parts.map(({ name }) => name))
  const said = [
    ...tuned.map(({ id, name }) => `${name} is tuned to ${changed.get(id) ?? ''}.`),
    ...(left.length
      ? [`${names(left)} ${left.length === 1 ? 'stays' : 'stay'} as set: change it in Set up if it is meant.`]
      : []),
  ]
  return said.length ? said.join(' ') : 'Every part you add from now on is tuned so.'
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

type Propose = (song: Song, analysis: Analysis) => Omit<Suggestion, 'kind'> | undefined

const tempoWords = ({ tempo }: Analysis): string => (tempo ? `, ♩ = ${tempo.toFixed(1)}` : '')
const proposeBars: Propose = (song, analysis) => {
  if (mainSource(song)?.grid || analysis.downbeats.length < 2) return undefined
  const bars = counted(analysis.downbeats.length, 'bar')
  const doubt = doubtfulBars(analysis)
  return {
    text: `${bars} of ${meterName(meterOf(analysis, song))}${tempoWords(analysis)}`,
    why: `attacks that return evenly; the one where harmony and kick change together. ${doubt}`.trim(),
    confidence: barsSure(analysis) ?? 0.5,
  }
}

const proposeSections: Propose = (song, { sections = [] }) => {
  if (sections.length <= 1 || orderedSections(song).length > 1) return undefined
  const kinds = new Set(nameSections(sections).map((section) => section.kind))
  const doubt = doubtfulBeginnings(sections)
  return {
    text: `${sections.length} sections: ${[...kinds].join(', ')}`,
    why: `sound, drums and harmony change there; what is alike shares a name. ${doubt}`.trim(),
    confidence: sectionsSure(sections) ?? 0.5,
  }
}

const proposeChords: Propose = (song, analysis) => {
  const hasGrid = Boolean(mainSource(song)?.grid)
  const chords = (analysis.chords ?? []).filter((chord) => chord.label !== 'N')
  const open = openChords(song, analysis)
  if (!chords.length || (open.length === 0 && hasGrid)) return undefined
  const names = listed(open.slice(0, 3).map((section) => section.name))
  const more = open.length > 3 ? ` and ${open.length - 3} more` : ''
  const some = hasGrid && (open.length < orderedSections(song).length || open.some(({ bare }) => !bare))
  const seconds = chords.reduce((sum, chord) => sum + chord.end - chord.start, 0)
  const sure = chords.reduce((sum, chord) => sum + chord.confidence * (chord.end - chord.start), 0)
  return {
    text: some ? `chords for ${names}${more}` : counted(chords.length, 'chord change'),
    why: 'the pitches of each half beat against the tones of each chord',
    confidence: sure / seconds,
  }
}

const proposeKey: Propose = (song, { key, keyConfidence }) =>
  key && song.keyUnknown
    ? {
        text: keyName(key),
        why: 'which chords last longest, begin and end',
        confidence: keyConfidence ?? 0.5,
      }
    : undefined

const proposeFeel: Propose = (song, analysis) =>
  analysis.swing !== undefined && swingOf(analysis) !== 0.5 && song.feel.swing.ratio === 0.5
    ? {
        text: `swung ${Math.round(swingOf(analysis) * 100)} %`,
        why: 'where attacks fall between the beats',
        confidence: 0.7,
      }
    : undefined

const proposeTuning: Propose = (song, analysis) => {
  const { tuningCents: cents, tuningMeans, tuningConfidence } = analysis
  if (cents === undefined || mainSource(song)?.offsetCents !== 0) return undefined
  if (Math.abs(cents) <= IN_TUNE_CENTS && !retuned(song, analysis).length) return undefined
  return {
    text: tuningWords(analysis)!,
    why: `the peaks of the spectrum lie ${cents.toFixed(0)} cents off; ${tuningMeans?.[0]?.why ?? ''}`,
    confidence: tuningConfidence ?? 0.5,
  }
}

/** In the order in which they stand on each other. */
const PROPOSALS: Readonly<Record<SuggestionKind, Propose>> = {
  bars: proposeBars,
  sections: proposeSections,
  chords: proposeChords,
  key: proposeKey,
  feel: proposeFeel,
  tuning: proposeTuning,
}

/** What is open, in the order in which it stands on each other. */
export function openSuggestions(song: Song, analysis: Analysis): Suggestion[] {
  return (Object.keys(PROPOSALS) as SuggestionKind[]).flatMap((kind) => {
    const proposal = PROPOSALS[kind](song, analysis)
    return proposal ? [{ kind, ...proposal }] : []
  })
}

/** Only one heard section is taken over. */
type OnlySection = { startSeconds: number; endSeconds: number; sectionId?: string | undefined } | undefined
/** A part of what is accepted, with the words for it. */
type Taken = Partial<HeardArgs> & { said: string }

function takeBars(song: Song, analysis: Analysis): Taken {
  const laid = beatsFromAnalysis(analysis, song.meter)
  return {
    said: 'bars',
    beats: {
      beats: laid.beats.map((beat) => ({ ...beat })),
      endSeconds: Math.max(laid.endSeconds, (laid.beats.at(-1)?.seconds ?? 0) + 0.05),
      what: 'the bars heard',
      newSectionId: freshIds(song, 'heard-bars')(),
    },
    ...(analysis.meter ? { meter: analysis.meter } : {}),
  }
}
function takeSections(song: Song, analysis: Analysis, only: OnlySection): Taken {
  const sections = heardSections(song, analysis, only)
  const said = only ? `the section at ${clock(only.startSeconds)}` : counted(sections.length, 'section')
  return { sections, said }
}
function takeChords(song: Song, analysis: Analysis, only: OnlySection): Taken {
  const key = spellingKey(song, analysis)
  const chords = (analysis.chords ?? []).map((chord) => ({
    startSeconds: chord.start,
    endSeconds: chord.end,
    symbol: transposeSymbol(labelSymbol(chord.label), 0, key),
    confidence: chord.confidence,
  }))
  if (!only) return { chords, said: 'chords' }
  return {
    said: 'its chords',
    chords: chords.filter(
      (chord) => chord.endSeconds > only.startSeconds && chord.startSeconds < only.endSeconds,
    ),
    ...(only.sectionId ? { chordSectionIds: [only.sectionId] } : {}),
  }
}

/**
 * What to run `acceptHeard` with for some kinds of suggestion; `section` limits sections and chords to one
 * heard section.
 */
export function acceptArgs(
  song: Song,
  analysis: Analysis,
  kinds: readonly SuggestionKind[],
  only?: OnlySection,
): HeardArgs {
  const open = new Set(openSuggestions(song, analysis).map((suggestion) => suggestion.kind))
  const want = (kind: SuggestionKind): boolean =>
    kinds.includes(kind) &&
    (open.has(kind) || (only !== undefined && (kind === 'sections' || kind === 'chords')))
  const onBars = kinds.includes('bars') || want('sections') || want('chords')
  const { swing } = song.feel
  const band = bandTuning(analysis)
  const taken: (Taken | undefined)[] = [
    open.has('bars') && onBars ? takeBars(song, analysis) : undefined,
    want('sections') ? takeSections(song, analysis, only) : undefined,
    want('chords') ? takeChords(song, analysis, only) : undefined,
    want('key') && analysis.key ? { key: analysis.key, said: keyName(analysis.key) } : undefined,
    want('feel')
      ? { feel: { ...song.feel, swing: { ...swing, ratio: swingOf(analysis) } }, said: 'swing' }
      : undefined,
    want('tuning') && analysis.tuningCents !== undefined
      ? {
          tuning: {
            offsetCents: analysis.tuningCents,
            parts: retuned(song, analysis),
            ...(band ? { band } : {}),
          },
          said: 'tuning',
        }
      : undefined,
  ]
  const parts = taken.flatMap((one) => one ?? [])
  const words = `what was heard: ${parts.map((one) => one.said).join(', ')}`.slice(0, 120)
  return parts.reduce<HeardArgs>((args, { said: _said, ...part }) => ({ ...args, ...part }), { words })
}

/** Ids of sections that are not there yet, a new one each time. */
function freshIds(song: Song, prefix: string): () => string {
  let number = 0
  return () => {
    let id = `${prefix}-${number++}`
    while (Object.hasOwn(song.sections, id)) id = `${prefix}-${number++}`
    return id
  }
}

function heardSections(
  song: Song,
  analysis: Analysis,
  only: { startSeconds: number } | undefined,
): NonNullable<HeardArgs['sections']> {
  const sections = analysis.sections ?? []
  const newId = freshIds(song, 'heard')
  const names = nameSections(sections)
  const all = sections.map((section, index) => ({
    startSeconds: section.start,
    id: newId(),
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
                id: newId(),
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
