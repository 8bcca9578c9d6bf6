// What the record says for and against each reading of a doubt: small measured answers in words, among them
// "cannot tell". Listening happens on a short piece of the recording around the place.
import type { Claim, DoubtReading, Place, Song } from '../document/schema'
import { bendOf } from '../hear/evidence/bend'
import { isPitchSounding, wasAttacked, type Answer } from '../hear/evidence/evidence'
import { isMutedShort } from '../hear/evidence/mute'
import { chromaOf, notesIn, pitchSpectrum, spectrumOf } from '../hear/features/pitch-spectrum'
import type { MakeFft } from '../hear/features/spectrum'
import type { JobContext } from '../hear/job'
import { readChordSymbol } from '../music/chord-name'
import { pretty, spellMidi, transposeKey, type Key } from '../music/pitch'
import { namesAt } from '../check/names'
import { handEvidence, passEvidence } from './evidence-of-chart'

export type Speaks = 'for' | 'against' | 'cannot tell'
/** One measured answer: what was measured, and what it says to the reading. */
export type Evidence = DoubtReading['evidence'][number] & { speaks: Speaks }
/** What sounds at a place: of each pitch class from C, how strong, the strongest 1. */
export interface Proof {
  levels: number[]
  readings: { id: string; evidence: Evidence[] }[]
}

/** A piece of the recording, as the part sits in it. */
export interface Excerpt {
  /** What its side has more than the other: attacks, bends and muting are its own there. */
  mono: Float32Array
  /** The channel in which it sits: all its tones are there. */
  near: Float32Array
  sampleRate: number
  tuningCents: number
  /** Where the place lies in the piece, seconds from its beginning. */
  start: number
  end: number
}

/** From this share of the strongest on a pitch class sounds; under the other it does not. */
const SOUNDS = 0.3
const SILENT = 0.12
/** So far under what is around, nothing plays; within the other, something does. */
const QUIET_DB = 18
const LOUD_DB = 8

const share = (value: number): string => `${Math.round(100 * value)} %`

/** Strength of the pitch classes over the place, the strongest 1. */
async function pitchLevels(excerpt: Excerpt, makeFft: MakeFft, job: JobContext): Promise<number[]> {
  const pitches = await pitchSpectrum(excerpt.near, excerpt, makeFft, job)
  const chroma = chromaOf(notesIn(spectrumOf(pitches, excerpt.start, excerpt.end)))
  const levels = Array.from(
    { length: 12 },
    (_, tone) => (chroma[tone] ?? 0) + (chroma[12 + tone] ?? 0) + (chroma[24 + tone] ?? 0),
  )
  const top = Math.max(...levels, 1e-9)
  return levels.map((level) => level / top)
}

/** Evidence for all readings of a doubt. Throws `Cancelled` when the job is. */
export async function proveDoubt(
  question: { song: Song; place: Place; readings: readonly DoubtReading[]; nameShift: number },
  excerpt: Excerpt,
  makeFft: MakeFft,
  job: JobContext,
): Promise<Proof> {
  const levels = await pitchLevels(excerpt, makeFft, job)
  const claims = question.readings.flatMap(({ claim }) => (claim ? [claim] : []))
  const { song, nameShift } = question
  const listening = { excerpt, levels, makeFft, key: song.key, nameShift }
  return {
    levels,
    readings: question.readings.map(({ id, claim }) => ({
      id,
      evidence: claim ? evidenceFor(claim, claims, listening, question) : [],
    })),
  }
}

interface Listening {
  excerpt: Excerpt
  levels: readonly number[]
  makeFft: MakeFft
  key: Key
  /** Notes are called so many semitones from how they sound. */
  nameShift: number
}

function evidenceFor(
  claim: Claim,
  all: readonly Claim[],
  listening: Listening,
  { song, place }: { song: Song; place: Place },
): Evidence[] {
  const { excerpt } = listening
  switch (claim.kind) {
    case 'chord':
      return chordEvidence(claim.symbol, all, listening)
    case 'note':
      return noteEvidence(claim.midi, all, listening)
    case 'attack':
      return [attackEvidence(claim.picked, listening)]
    case 'mute':
      return [
        told(isMutedShort(excerpt, claim.midi, excerpt, listening.makeFft), claim.short ? 'short' : 'rings'),
      ]
    case 'bend':
      return [bendEvidence(claim, listening)]
    case 'silence':
      return [silenceEvidence(excerpt)]
    case 'passes':
      return passEvidence(song, place, claim.count)
    case 'string':
      return handEvidence(song, place, claim)
  }
}

/** An answer for a reading that wants one of its two verdicts. */
function told<Verdict extends string>(
  { verdict, value, unit, why }: Answer<Verdict>,
  wanted: Verdict,
): Evidence {
  const decided: Speaks = verdict === wanted ? 'for' : 'against'
  return { measured: why, value, unit, speaks: verdict === 'cannot tell' ? 'cannot tell' : decided }
}

/** A pick that is heard speaks for one reading and against the other; none that is heard, for neither. */
function attackEvidence(picked: boolean, { excerpt, makeFft }: Listening): Evidence {
  const { verdict, value, unit, why } = wasAttacked(excerpt, excerpt.start, makeFft)
  const heard: Speaks = picked ? 'for' : 'against'
  return { measured: why, value, unit, speaks: verdict === 'cannot tell' ? verdict : heard }
}

const tonesOf = (symbol: string): Set<number> => {
  const chord = readChordSymbol(symbol)
  return new Set(chord ? [chord.bass, ...chord.semitones.map((step) => (chord.root + step) % 12)] : [])
}

/** Tones in which the chords that are asked about differ; of one alone, all of its own. */
function tonesAtIssue(all: readonly Claim[]): number[] {
  const chords = all.flatMap((claim) => (claim.kind === 'chord' ? [tonesOf(claim.symbol)] : []))
  const union = new Set(chords.flatMap((tones) => [...tones]))
  const differing = [...union].filter((tone) => !chords.every((tones) => tones.has(tone)))
  return differing.length ? differing : [...union]
}

function chordEvidence(
  symbol: string,
  all: readonly Claim[],
  { levels, key, nameShift }: Listening,
): Evidence[] {
  const own = tonesOf(symbol)
  return tonesAtIssue(all).map((tone): Evidence => {
    const level = levels[tone] ?? 0
    const name = namesAt(nameShift).tone(tone, key)
    const sounds = level >= SOUNDS
    const clear = sounds || level <= SILENT
    const speaks: Speaks = sounds === own.has(tone) ? 'for' : 'against'
    return {
      measured: `${own.has(tone) ? 'wants' : 'has no'} ${name}: ${share(level)} of the strongest`,
      value: level,
      unit: 'of the strongest',
      speaks: clear ? speaks : 'cannot tell',
    }
  })
}

/** Of two notes that both sound, one is meant when it is so much stronger. */
const CLEARLY_STRONGER = 1.5

/** Readings that are notes exclude each other: each is measured, and the stronger one is the likelier. */
function noteEvidence(midi: number, all: readonly Claim[], listening: Listening): Evidence[] {
  const { excerpt, key, nameShift } = listening
  const notes = [...new Set(all.flatMap((claim) => (claim.kind === 'note' ? [claim.midi] : [])))]
  const span = { start: excerpt.start, end: excerpt.end }
  const answers = notes.map((one) => ({
    one,
    ...isPitchSounding({ ...excerpt, mono: excerpt.near }, one, span),
  }))
  const own = answers.find(({ one }) => one === midi)!
  const others = answers.filter(({ one }) => one !== midi)
  const rival = Math.max(0, ...others.map(({ value, verdict }) => (verdict === 'not heard' ? 0 : value)))
  return answers.map(({ one, value, unit, why, verdict }): Evidence => {
    const measured = `${pretty(spellMidi(one + nameShift, transposeKey(key, nameShift)))}: ${why}`
    if (one === midi) return { measured, value, unit, speaks: weighed(verdict, value, rival) }
    const against = weighed(verdict, value, own.verdict === 'not heard' ? 0 : own.value)
    const turned: Record<Speaks, Speaks> = { for: 'against', against: 'for', 'cannot tell': 'cannot tell' }
    return { measured, value, unit, speaks: turned[against] }
  })
}

/** What a note's own strength says beside that of its rival. */
function weighed(verdict: 'sounding' | 'not heard' | 'cannot tell', value: number, rival: number): Speaks {
  if (verdict === 'not heard') return 'against'
  if (verdict === 'cannot tell') return 'cannot tell'
  if (value >= CLEARLY_STRONGER * rival) return 'for'
  return rival >= CLEARLY_STRONGER * value ? 'against' : 'cannot tell'
}

/** A bend counts as this one within so many semitones. */
const SAME_BEND = 0.6

function bendEvidence(
  { midi, semitones }: Extract<Claim, { kind: 'bend' }>,
  { excerpt, makeFft }: Listening,
): Evidence {
  const { verdict, value, why, unit } = bendOf(
    excerpt,
    midi,
    { start: excerpt.start, end: excerpt.end },
    makeFft,
  )
  const near: Speaks = Math.abs(value / 100 - semitones) <= SAME_BEND ? 'for' : 'against'
  return { measured: why, value, unit, speaks: verdict === 'cannot tell' ? verdict : near }
}

function silenceEvidence({ mono, sampleRate, start, end }: Excerpt): Evidence {
  const level = (from: number, to: number): number => {
    const [first, last] = [
      Math.max(0, Math.round(from * sampleRate)),
      Math.min(mono.length, Math.round(to * sampleRate)),
    ]
    let sum = 0
    for (let i = first; i < last; i++) sum += (mono[i] ?? 0) ** 2
    return 10 * Math.log10(sum / Math.max(1, last - first) + 1e-12)
  }
  const around = Math.max(level(0, start), level(end, mono.length / sampleRate))
  const under = around - level(start, end)
  const loud: Speaks = under <= LOUD_DB ? 'against' : 'cannot tell'
  return {
    measured: under > 0 ? `${under.toFixed(0)} dB under what is around it` : 'as loud as what is around it',
    value: -under,
    unit: 'dB',
    speaks: under >= QUIET_DB ? 'for' : loud,
  }
}

/** Of a reading: what its evidence comes to. */
export function verdictOf(evidence: DoubtReading['evidence']): Speaks {
  if (evidence.some(({ speaks }) => speaks === 'against')) return 'against'
  return evidence.some(({ speaks }) => speaks === 'for') ? 'for' : 'cannot tell'
}
