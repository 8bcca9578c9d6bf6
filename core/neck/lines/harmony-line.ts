// A second line to a first: diatonic (a third above in the key) or parallel (every note by the same
// semitones), laid on the neck with the same rhythm and marks; what clashes with the chord under
// it; and the check of a second line that exists against the first.
import { pitchClass, pitchClassOf, spellPitchClass, type Key } from '../../music/pitch'
import { TICKS_PER_QUARTER } from '../../time/meter'
import { readChordSymbol } from '../../music/chord-name'
import { SCALE_KINDS } from '../../music/scale'
import { ok, refuse, type Result } from '../../result'
import type { Mark, Content, LineDerivation, Note, Part } from '../../document/schema'
import { inTimeOrder, onPath, pathNotes, pitched } from './line'
import { soundingMidi } from '../../document/part-pitch'
import { isWish, pathWhere } from './neck-wish'
import { findPaths, type LinePath, type PathNote } from './path'

export type HarmonyRule = Pick<LineDerivation, 'interval' | 'kind' | 'key' | 'exceptions' | 'where'>
export interface ChordAt {
  startTicks: number
  lengthTicks: number
  symbol: string
}
/**
 * `pitchClass` of the second line is no tone of the chord under it: a half step above `against`, one of its
 * tones, or only outside of it where the first line is in it.
 */
export interface Clash {
  startTicks: number
  index: number
  text: string
  pitchClass: number
  against: number | undefined
  symbol: string
  /** Semitones to move this note by so that it sits in the chord. */ betterStep: number | undefined
}
export interface HarmonyLine {
  notes: Note[]
  /** Semitones from the first line, per note. */ intervals: number[]
  clashes: Clash[]
  remarks: { startTicks: number; text: string }[]
}

const scaleOf = (key: Key): number[] => {
  const kind = SCALE_KINDS.find((candidate) => candidate.name === key.mode) ?? SCALE_KINDS[0]!
  return kind.semitones.map((semitones) => (pitchClassOf(key.tonic) + semitones) % 12).sort((a, b) => a - b)
}

/**
 * The pitch a diatonic interval away: 3 is a third above, −3 a third below, 8 an octave, 1 unison. A note
 * outside the key keeps its distance from the scale tone below it.
 */
export function diatonic(midi: number, interval: number, key: Key): number {
  // A string that a part does not have sounds nothing: no pitch is a third above it.
  if (!Number.isFinite(midi)) return midi
  const scale = scaleOf(key)
  const rounded = Math.round(midi)
  let altered = 0
  while (!scale.includes((((rounded - altered) % 12) + 12) % 12)) altered++
  const plain = rounded - altered
  const steps = interval > 0 ? interval - 1 : interval + 1
  const index = scale.indexOf(((plain % 12) + 12) % 12) + steps
  const octave = Math.floor(index / scale.length)
  const from = scale.indexOf(((plain % 12) + 12) % 12)
  return (
    plain +
    (scale[((index % scale.length) + scale.length) % scale.length]! + 12 * octave - scale[from]!) +
    altered
  )
}

/** Pitch of the second line at a note of the first. */
function harmonyPitch(midi: number, startTicks: number, rule: HarmonyRule): number {
  const exception = rule.exceptions.find((one) => one.startTicks === startTicks)
  if (exception) return midi + exception.semitones
  if (rule.kind === 'parallel')
    return midi + PARALLEL_SEMITONES[Math.abs(rule.interval)]! * Math.sign(rule.interval)
  return diatonic(midi, rule.interval, rule.key)
}
/** Parallel intervals are major or perfect. */
const PARALLEL_SEMITONES: Record<number, number> = {
  1: 0,
  2: 2,
  3: 4,
  4: 5,
  5: 7,
  6: 9,
  7: 11,
  8: 12,
  9: 14,
  10: 16,
  11: 17,
  12: 19,
  13: 21,
  14: 23,
  15: 24,
}

/** A bend as the second line has it: as far as the key asks, held, or slid to when it would be too far. */
function followBend(
  mark: Mark,
  bent: (semitones: number) => number,
): { mark: Mark | undefined; text?: string } {
  if (mark.kind !== 'bend') return { mark }
  const top = bent(mark.semitones)
  if (top < 0.5) return { mark: undefined, text: 'the bend has no room in the key: the note is held' }
  if (top <= 3) return { mark: { ...mark, semitones: top } }
  return {
    mark: { kind: 'slide', how: 'shift' },
    text: `the bend would have to reach ${top} semitones: slide or pick it instead`,
  }
}

/** The second line, on the neck of a part. Refused when it leaves the neck or no hand can play it. */
export function harmonyLine(
  content: Content,
  from: Part,
  to: Part,
  rule: HarmonyRule,
  chords: readonly ChordAt[] = [],
): Result<HarmonyLine> {
  const lead = pitched(content)
  if (lead.length === 0) return refuse('no-notes', 'There are no notes here to put a second line to.')
  const remarks: HarmonyLine['remarks'] = []
  const wanted = lead.map((note) =>
    harmonyPitch(soundingMidi(from, note.string, note.fret), note.startTicks, rule),
  )
  const drafts = lead.map((note, index) => {
    const own = soundingMidi(from, note.string, note.fret)
    const bent = (by: number): number =>
      harmonyPitch(own + by, note.startTicks, { ...rule, exceptions: [] }) - wanted[index]!
    const marks = note.marks.map((mark) => followBend(mark, bent))
    remarks.push(...marks.flatMap(({ text }) => (text ? [{ startTicks: note.startTicks, text }] : [])))
    return { ...note, marks: marks.flatMap(({ mark }) => mark ?? []) }
  })
  const neck: PathNote[] = pathNotes(drafts, from).map((note, index) => ({
    ...note,
    midi: wanted[index]!,
    slurred: note.slurred && keepsDirection(drafts, wanted, index),
  }))
  const path =
    rule.where && isWish(rule.where)
      ? pathWhere(neck, to, rule.key, rule.where)
      : nearFirst(neck, lead, to, rule.key)
  if (!path.ok) return path
  const laid = onPath(drafts, path.value, false).map((note, index): Note => ({
    ...note,
    id: lead[index]!.id,
    marks: redirected(note, index, drafts, wanted),
  }))
  return ok({
    notes: laid,
    intervals: wanted.map((midi, index) => midi - soundingMidi(from, lead[index]!.string, lead[index]!.fret)),
    clashes: clashes(lead, wanted, chords, { from, rule }),
    remarks,
  })
}

/**
 * Frets beside the first line's within which a second line is looked for, and by how much harder it may be
 * there than at its easiest.
 */
const BESIDE_FRETS = 4
const HARDER = { factor: 1.4, more: 4 }
/**
 * The best path near where the first line is played: two guitarists look at each other's hands. Elsewhere
 * only where that is much easier.
 */
function nearFirst(
  notes: readonly PathNote[],
  lead: readonly Note[],
  part: Part,
  key: Key,
): Result<LinePath> {
  const beside = besideFirst(notes, lead, part, key)
  if (beside) return ok(beside)
  const best = findPaths(notes, part, key, {}, 1)
  const frets = lead.flatMap((note) => (note.fret > 0 ? [note.fret] : []))
  if (!best.ok || frets.length === 0) return best.ok ? ok(best.value[0]!) : best
  const [easiest] = best.value
  const near = findPaths(
    notes,
    part,
    key,
    {
      frets: { from: Math.max(1, Math.min(...frets) - BESIDE_FRETS), to: Math.max(...frets) + BESIDE_FRETS },
      noOpen: true,
    },
    1,
  )
  return ok(
    near.ok && near.value[0]!.cost <= easiest!.cost * HARDER.factor + HARDER.more ? near.value[0]! : easiest!,
  )
}

/** Fewer notes on one string are no run along it. */
const LEAST_RUN = 3
/** Where the first line runs along one string, the second runs along one too, beside it, where it can. */
function besideFirst(
  notes: readonly PathNote[],
  lead: readonly Note[],
  part: Part,
  key: Key,
): LinePath | undefined {
  const own = new Set(lead.map(({ string }) => string))
  const frets = new Set(lead.map(({ fret }) => fret))
  if (own.size !== 1 || frets.size < LEAST_RUN) return undefined
  const strings = part.tuning.openMidi.flatMap((_, index) => {
    if (own.has(index + 1)) return []
    const open = soundingMidi(part, index + 1, 0)
    const apart = notes.map(({ midi }, at) => Math.abs(midi - open - (lead[at]?.fret ?? 0)))
    const pressed = notes.every(({ midi }) => midi > open)
    return pressed && Math.max(...apart) <= BESIDE_FRETS
      ? [{ string: index + 1, far: Math.max(...apart) }]
      : []
  })
  const nearest = strings.sort((a, b) => a.far - b.far)[0]
  const path = nearest && pathWhere(notes, part, key, { strings: [nearest.string] })
  return path?.ok ? path.value : undefined
}

const slurSource = (notes: readonly Note[], index: number): number => {
  for (let at = index - 1; at >= 0; at--) if (notes[at]!.string === notes[index]!.string) return at
  return -1
}
/** A slur needs two different pitches on the second line as well. */
function keepsDirection(notes: readonly Note[], wanted: readonly number[], index: number): boolean {
  const source = slurSource(notes, index)
  return source >= 0 && wanted[source] !== wanted[index]
}
/**
 * Where the second line moves the other way, a hammer-on is a pull-off; where it stays, the note is picked.
 */
function redirected(
  note: Note,
  index: number,
  drafts: readonly Note[],
  wanted: readonly number[],
): Note['marks'] {
  const source = slurSource(drafts, index)
  const step = source < 0 ? 0 : wanted[index]! - wanted[source]!
  return note.marks.flatMap((mark): Note['marks'] => {
    if (mark.kind === 'hammer-on' || mark.kind === 'pull-off') {
      if (step === 0) return []
      return [step > 0 ? { kind: 'hammer-on' } : { kind: 'pull-off' }]
    }
    if (mark.kind === 'slide' && (mark.how === 'legato' || mark.how === 'shift') && step === 0) return []
    return [mark]
  })
}

/** Shorter, a note is passing by: a half step above a chord tone, or only outside the chord. */
const RUBS_FROM = TICKS_PER_QUARTER / 2
const OUTSIDE_FROM = TICKS_PER_QUARTER
/** Steps to the next tone of a chord, the nearest first. */
const STEPS = [1, -1, 2, -2, 3, -3]

/** Notes that do not sit in the chord under them, and what would. */
function clashes(
  lead: readonly Note[],
  wanted: readonly number[],
  chords: readonly ChordAt[],
  { from, rule }: { from: Part; rule: HarmonyRule },
): Clash[] {
  return lead.flatMap((note, index): Clash[] => {
    const chord = chords.find(
      (one) => one.startTicks <= note.startTicks && note.startTicks < one.startTicks + one.lengthTicks,
    )
    const read = chord && readChordSymbol(chord.symbol)
    const midi = wanted[index]
    if (!chord || !read || midi === undefined) return []
    const tones = new Set(read.semitones.map((semitones) => (read.root + semitones) % 12))
    const tone = pitchClass(midi)
    if (tones.has(tone)) return []
    const below = (tone + 11) % 12
    const rubs = tones.has(below) && note.lengthTicks >= RUBS_FROM
    // Where the first line leaves the chord as well, both pass through together.
    const first = pitchClass(soundingMidi(from, note.string, note.fret))
    if (!rubs && (note.lengthTicks < OUTSIDE_FROM || !tones.has(first))) return []
    const name = spellPitchClass(tone, rule.key)
    return [
      {
        startTicks: note.startTicks,
        index,
        text: rubs
          ? `${name} rubs against ${spellPitchClass(below, rule.key)} of ${chord.symbol}`
          : `${name} is no tone of ${chord.symbol}`,
        pitchClass: tone,
        against: rubs ? below : undefined,
        symbol: chord.symbol,
        betterStep: STEPS.find((by) => tones.has(pitchClass(midi + by))),
      },
    ]
  })
}

const NUMBER = [
  'unison',
  'second',
  'second',
  'third',
  'third',
  'fourth',
  'tritone',
  'fifth',
  'sixth',
  'sixth',
  'seventh',
  'seventh',
  'octave',
]
const QUALITY = [
  '',
  'minor ',
  'major ',
  'minor ',
  'major ',
  '',
  '',
  '',
  'minor ',
  'major ',
  'minor ',
  'major ',
  '',
]
/** "minor third below" */
export function intervalWords(semitones: number): string {
  const size = Math.abs(Math.round(semitones))
  const within = size > 12 ? ((size - 1) % 12) + 1 : size
  const name = `${QUALITY[within]}${NUMBER[within]}${size > 12 ? ' and an octave' : ''}`
  if (semitones === 0) return name
  return `${name} ${semitones < 0 ? 'below' : 'above'}`
}

export interface IntervalCheck {
  startTicks: number
  semitones: number | undefined
  expected: number | undefined
  fits: boolean
  text: string
}

/** The diatonic interval most of a second line keeps to a first; undefined when they never sound together. */
export function usualInterval(
  first: Content,
  second: Content,
  parts: { first: Part; second: Part },
  key: Key,
): number | undefined {
  const pairs = pairsOf(first, second, parts)
  const candidates = [3, -3, 6, -6, 4, -4, 5, -5, 8, -8, 1, 10, -10].map((interval) => ({
    interval,
    hits: pairs.filter(({ a, b }) => b !== undefined && diatonic(a, interval, key) === b).length,
  }))
  const best = candidates.reduce((most, next) => (next.hits > most.hits ? next : most))
  return best.hits > 0 ? best.interval : undefined
}

function pairsOf(
  first: Content,
  second: Content,
  parts: { first: Part; second: Part },
): { startTicks: number; a: number; b: number | undefined }[] {
  const others = new Map(
    inTimeOrder(second.notes).map((note) => [
      note.startTicks,
      soundingMidi(parts.second, note.string, note.fret),
    ]),
  )
  return pitched(first).map((note) => ({
    startTicks: note.startTicks,
    a: soundingMidi(parts.first, note.string, note.fret),
    b: others.get(note.startTicks),
  }))
}

/** Interval by interval: what a second line does against a rule, and what deviates, in words. */
export function checkHarmony(
  first: Content,
  second: Content,
  parts: { first: Part; second: Part },
  rule: HarmonyRule,
  spell: (pitchClass: number) => string = (pitchClass) => spellPitchClass(pitchClass, rule.key),
): IntervalCheck[] {
  return pairsOf(first, second, parts).map(({ startTicks, a, b }): IntervalCheck => {
    const expected = harmonyPitch(a, startTicks, rule) - a
    if (b === undefined)
      return {
        startTicks,
        semitones: undefined,
        expected,
        fits: false,
        text: 'the second line is silent here',
      }
    const semitones = b - a
    const fits = semitones === expected
    return {
      startTicks,
      semitones,
      expected,
      fits,
      text: fits
        ? intervalWords(semitones)
        : `${intervalWords(semitones)} instead of ${intervalWords(expected)}: ` +
          `${spell(((b % 12) + 12) % 12)} against ${spell(((a % 12) + 12) % 12)}`,
    }
  })
}
