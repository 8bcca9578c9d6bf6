// Which scale a line is in, what each note is in it, and where the notes outside it go. Scales are the
// theory library's; the ranking is ours: how much of the sounding time lies inside, how few tones that
// took, whether the line starts, ends and dwells on the tonic.
import { Scale, Interval } from 'tonal'
import { pitchClass, pitchClassOf, spellPitchClass, type Key, type Mode } from './pitch'

/** Names as teachers say them, with the theory library's; ordered by how soon one would think of them. */
const SCALES: [string, string, Mode][] = [
  ['major', 'major', 'major'],
  ['minor', 'aeolian', 'minor'],
  ['minor pentatonic', 'minor pentatonic', 'minor'],
  ['major pentatonic', 'major pentatonic', 'major'],
  ['blues', 'minor blues', 'minor'],
  ['mixolydian', 'mixolydian', 'mixolydian'],
  ['dorian', 'dorian', 'dorian'],
  ['harmonic minor', 'harmonic minor', 'minor'],
  ['phrygian', 'phrygian', 'phrygian'],
  ['lydian', 'lydian', 'lydian'],
  ['major blues', 'major blues', 'major'],
  ['melodic minor', 'melodic minor', 'minor'],
  ['phrygian dominant', 'phrygian dominant', 'phrygian'],
  ['locrian', 'locrian', 'locrian'],
]
export interface ScaleKind {
  name: string
  semitones: number[]
  intervals: string[]
  mode: Mode
}
export const SCALE_KINDS: ScaleKind[] = SCALES.map(([name, alias, mode]) => {
  const { intervals } = Scale.get(alias)
  return { name, intervals, semitones: intervals.map((interval) => Interval.semitones(interval) % 12), mode }
})

export interface LineNote {
  midi: number
  startTicks: number
  lengthTicks: number
}
export interface ScaleFit {
  tonic: string
  name: string
  /** Share of the sounding time inside. */ share: number
  outside: number
  tones: number
  score: number
  reason: string
}

const MINORISH = new Set<Mode>(['minor', 'dorian', 'phrygian', 'locrian'])

interface LineFacts {
  /** Ticks each pitch class sounds. */
  weights: number[]
  total: number
  /** How many pitch classes are used. */
  used: number
  first: number
  last: number
  lowest: number
}

function lineFacts(line: readonly LineNote[]): LineFacts {
  const weights = Array.from({ length: 12 }, () => 0)
  for (const note of line) weights[pitchClass(note.midi)]! += Math.max(1, note.lengthTicks)
  const sorted = line.toSorted((a, b) => a.startTicks - b.startTicks || a.midi - b.midi)
  return {
    weights,
    total: weights.reduce((sum, weight) => sum + weight, 0),
    used: weights.filter((weight) => weight > 0).length,
    first: sorted[0]!.midi % 12,
    last: sorted.at(-1)!.midi % 12,
    lowest: Math.min(...line.map((note) => note.midi)) % 12,
  }
}

/** What speaks for a tonic: where the line begins, ends and lies lowest, and how long it sounds. */
const touches = (facts: LineFacts, tonic: number): number =>
  (facts.first === tonic ? 0.06 : 0) +
  (facts.last === tonic ? 0.09 : 0) +
  (facts.lowest === tonic ? 0.03 : 0) +
  0.1 * (facts.weights[tonic]! / facts.total)

/** What speaks for the song's own key. */
function keyBonus(kind: ScaleKind, tonic: number, key: Key): number {
  if (tonic !== pitchClassOf(key.tonic)) return 0
  const sameSide = MINORISH.has(kind.mode) === MINORISH.has(key.mode)
  return 0.13 + (sameSide ? 0.03 : 0) + (kind.name === key.mode ? 0.02 : 0)
}

function fitScale(facts: LineFacts, tonic: number, rank: number, key: Key): ScaleFit {
  const kind = SCALE_KINDS[rank]!
  const { weights, total, used } = facts
  const inside = new Set(kind.semitones.map((semitones) => (tonic + semitones) % 12))
  const share = weights.reduce((sum, weight, at) => sum + (inside.has(at) ? weight : 0), 0) / total
  const idle = [...inside].filter((at) => weights[at] === 0).length
  const outside = weights.filter((weight, at) => weight > 0 && !inside.has(at)).length
  // A scale whose tones are nearly all played and all there is: pentatonic and blues before what holds them.
  const close = outside === 0 && idle <= 1 ? 0.02 : 0
  const against = 0.1 * outside + 0.018 * idle + 0.004 * rank
  const score = share - against + close + touches(facts, tonic) + keyBonus(kind, tonic, key)
  const said = [
    outside === 0 ? `all ${used} pitches inside` : `${outside} of ${used} pitches outside`,
    idle ? `${idle} of its tones unused` : 'every tone used',
  ]
  if (facts.last === tonic) said.push('ends on its tonic')
  else if (facts.first === tonic) said.push('starts on its tonic')
  return {
    tonic: spellPitchClass(tonic, key),
    name: kind.name,
    share: Math.round(share * 1000) / 1000,
    outside,
    tones: kind.semitones.length,
    score: Math.round(score * 1000) / 1000,
    reason: said.join(', '),
  }
}

/**
 * Scales a line may be in, best first. Empty for an empty line. `key` is the song's: it breaks ties and
 * spells.
 */
export function fitScales(line: readonly LineNote[], key: Key, count = 8): ScaleFit[] {
  if (line.length === 0) return []
  const facts = lineFacts(line)
  const tonics = Array.from({ length: 12 }, (_, tonic) => tonic)
  return tonics
    .flatMap((tonic) => SCALE_KINDS.map((_, rank) => fitScale(facts, tonic, rank, key)))
    .sort((a, b) => b.score - a.score)
    .slice(0, count)
}

const DEGREES = ['1', 'b2', '2', 'b3', '3', '4', 'b5', '5', 'b6', '6', 'b7', '7']
/** Degree of a pitch above a tonic, by its distance: "1", "b3", "#4" where the scale has a raised fourth. */
export function degreeAbove(midi: number, tonicClass: number, kind?: ScaleKind): string {
  const semitones = (((Math.round(midi) - tonicClass) % 12) + 12) % 12
  const at = kind?.semitones.indexOf(semitones) ?? -1
  if (kind && at !== -1) {
    const interval = kind.intervals[at]!
    const number = interval.replace(/\D/g, '')
    const plain = Interval.semitones(`${number}${['4', '5', '1'].includes(number) ? 'P' : 'M'}`)
    const shift = semitones - (plain % 12)
    return (shift < 0 ? 'b'.repeat(-shift) : '#'.repeat(shift)) + number
  }
  return DEGREES[semitones]!
}

export interface OutsideNote {
  index: number
  midi: number
  name: string
  resolves: string
}
export const scaleKind = (name: string): ScaleKind =>
  SCALE_KINDS.find((kind) => kind.name === name) ?? SCALE_KINDS[0]!

/** How a note outside the scale goes on: "resolves a half step up to E". */
function resolution(midi: number, next: number | undefined, spell: (midi: number) => string): string {
  if (next === undefined) return 'ends there'
  const step = Math.round(next - midi)
  if (step === 0) return `stays on ${spell(midi)}`
  const size = ['', 'a half step', 'a whole step'][Math.abs(step)]
  if (!size) return `leaps to ${spell(next)}`
  return `resolves ${size} ${step > 0 ? 'up' : 'down'} to ${spell(next)}`
}

/** Notes of a line (in time order) outside a scale, and where each goes next. */
export function outsideNotes(
  line: readonly LineNote[],
  fit: { tonic: string; name: string },
  key: Key,
): OutsideNote[] {
  const tonic = pitchClassOf(fit.tonic)
  const inside = new Set(scaleKind(fit.name).semitones.map((semitones) => (tonic + semitones) % 12))
  const isInside = (midi: number): boolean => inside.has(((Math.round(midi) % 12) + 12) % 12)
  const spell = (midi: number): string => spellPitchClass(((Math.round(midi) % 12) + 12) % 12, key)
  return line.flatMap((note, index): OutsideNote[] => {
    if (isInside(note.midi)) return []
    const next = line.slice(index + 1).find((later) => later.startTicks > note.startTicks)
    const resolves = resolution(note.midi, next?.midi, spell)
    return [{ index, midi: note.midi, name: spell(note.midi), resolves }]
  })
}
