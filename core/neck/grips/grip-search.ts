// From a chord to grips. Every window of the neck is searched string by string (a fret of the chord, open,
// or muted); what survives is fingered and ranked by how it plays: difficulty, ringing and muted strings,
// register, what is in the bass and on top, and the way from the grip before and to the next. A whole
// progression is chosen together by dynamic programming (Viterbi 1967) over the best grips of each chord.
import { degreeWords, nameChord, readChordSymbol } from '../../music/chord-name'
import { degreeAbove } from '../../music/scale'
import { fingerPlaceMm } from '../../instrument/neck'
import { isBass } from '../../instrument/instruments'
import { ok, refuse, type Result } from '../../result'
import type { Grip, GripSpan, Part } from '../../document/schema'
import { fingeredGrip, fingerGrip, type Fingering } from './fingering'
import { USUAL_HAND, type Hand } from '../hand'
import { soundingMidi } from '../../document/part-pitch'
import { usualGain } from './usual-shapes'

export interface GripWishes {
  hand?: Hand
  after?: Grip
  before?: Grip
  /** Sounding pitch classes wanted at the ends. */
  topClass?: number
  bassClass?: number
  /** Weight of difficulty: easier grips first. */
  easierFirst?: boolean
  /** Only up to, or from, this fret. */
  frets?: { from: number; to: number }
  count?: number
}
export interface RankedGrip {
  grip: Grip
  fingering: Fingering
  cost: number
  reasons: string[]
}

interface Chord {
  classes: number[]
  needed: number[]
  bass: number
  root: number
  third: number | undefined
}

/** Grips that are fingered and ranked; the rest are too far behind to matter. */
const CANDIDATES = 44
const WINDOW_FRETS = 4

/**
 * Grips for a chord symbol as sounding, best first. Refused when the symbol is not understood or nothing on
 * this neck plays it.
 */
export function gripsFor(symbol: string, part: Part, wishes: GripWishes = {}): Result<RankedGrip[]> {
  const chord = chordOf(symbol)
  if (!chord)
    return refuse(
      'chord',
      `“${symbol}” is not a chord symbol I know. Write a root and a quality, like F#m7, Bb, Dsus4, G/B.`,
    )
  const hand = wishes.hand ?? USUAL_HAND
  const shapes = isBass(part.instrument.kind) ? bassShapes(chord, part) : searchShapes(chord, part, wishes)
  const rough = shapes
    .map((frets) => ({ frets, cost: roughCost(frets, chord, part, wishes) }))
    .sort((a, b) => a.cost - b.cost)
    .slice(0, CANDIDATES)
  const ranked = rough
    .flatMap(({ frets }): RankedGrip[] => {
      const grip: Grip = { strings: frets.map((fret) => ({ fret })) }
      const fingering = fingerGrip(grip, part, hand)
      return fingering ? [rank(grip, fingering, chord, part, wishes)] : []
    })
    .sort((a, b) => a.cost - b.cost)
  const between = wishes.frets ? ` between frets ${wishes.frets.from} and ${wishes.frets.to}` : ''
  if (ranked.length === 0)
    return refuse(
      'no-grip',
      `No grip for ${symbol} lies within a hand on this tuning${between}: ` +
        'leave out a tone, or play it higher up.',
    )
  return ok(ranked.slice(0, wishes.count ?? 12))
}

function chordOf(symbol: string): Chord | undefined {
  const read = readChordSymbol(symbol)
  if (!read) return undefined
  const classes = [...new Set(read.semitones.map((semitones) => (read.root + semitones) % 12))]
  const fifth = (read.root + 7) % 12
  // The fifth may go when there is a colour to keep; of an eleventh or thirteenth the ninth may too.
  const spare = new Set([
    ...(classes.length > 3 ? [fifth] : []),
    ...(classes.length > 5 ? [(read.root + 2) % 12, (read.root + 5) % 12] : []),
  ])
  return {
    classes: read.bass === read.root ? classes : [...new Set([...classes, read.bass])],
    needed: classes.filter((pitchClass) => !spare.has(pitchClass)),
    bass: read.bass,
    root: read.root,
    third: [3, 4].map((step) => (read.root + step) % 12).find((pitchClass) => classes.includes(pitchClass)),
  }
}

/**
 * All sets of frets (string 1 first, null muted) that lie in one window and sound the needed tones and
 * nothing else.
 */
function searchShapes(chord: Chord, part: Part, wishes: GripWishes): (number | null)[][] {
  const highest = Math.min(part.instrument.fretCount - part.instrument.capo, 17, wishes.frets?.to ?? 99)
  const found: (number | null)[][] = []
  const allowed = maskOf(chord.classes)
  const openClasses = part.tuning.openMidi.map((midi) => (midi + part.instrument.capo) % 12)
  const first = Math.max(1, wishes.frets?.from ?? 1)
  for (let low = first; low <= highest; low++) {
    // Frets get narrower: from the seventh on a hand spans one more.
    const high = Math.min(highest, low + WINDOW_FRETS - (low < 7 ? 1 : 0))
    const options = openClasses.map((open) =>
      [0, ...Array.from({ length: high - low + 1 }, (_, offset) => low + offset)].filter(
        (fret) => (allowed >> ((open + fret) % 12)) & 1,
      ),
    )
    walkStrings({ options, openClasses, chord, low, allowOpenOnly: low === first }, found)
  }
  return found
}
const maskOf = (classes: readonly number[]): number =>
  classes.reduce((mask, pitchClass) => mask | (1 << pitchClass), 0)

interface Walk {
  options: number[][]
  openClasses: number[]
  chord: Chord
  low: number
  allowOpenOnly: boolean
}

/**
 * Walks all choices from the lowest string up: at most one muted string inside, at most four held above the
 * window's first fret, and something held at that fret (else the shape belongs to another window). Pitch
 * classes are kept as bits: this is the hot loop of the search.
 */
function walkStrings(
  { options, openClasses, chord, low, allowOpenOnly }: Walk,
  found: (number | null)[][],
): void {
  const needed = maskOf(chord.needed)
  const least = Math.min(3, chord.needed.length + 1)
  const strictBass = chord.bass !== chord.root || chord.classes.length > 4
  const frets: (number | null)[] = options.map(() => null)
  const walk = (
    index: number,
    mask: number,
    sounding: number,
    gap: number,
    gaps: number,
    above: number,
    atLow: boolean,
  ): void => {
    if (index < 0) {
      if (sounding >= least && (mask & needed) === needed && (atLow || (allowOpenOnly && above === 0)))
        found.push(frets.slice())
      return
    }
    frets[index] = null
    walk(index - 1, mask, sounding, sounding ? gap + 1 : 0, gaps, above, atLow)
    const nextGaps = gaps + gap
    if (nextGaps > 1) return
    for (const fret of options[index]!) {
      const pitchClass = (openClasses[index]! + fret) % 12
      if (sounding === 0 && strictBass && pitchClass !== chord.bass) continue
      const nextAbove = above + (fret > low ? 1 : 0)
      if (nextAbove > 4) continue
      frets[index] = fret
      walk(index - 1, mask | (1 << pitchClass), sounding + 1, 0, nextGaps, nextAbove, atLow || fret === low)
    }
    frets[index] = null
  }
  walk(options.length - 1, 0, 0, 0, 0, 0, false)
}

/** Root, fifth, octave and tenth on a bass: one string or two, never a full chord. */
function bassShapes(chord: Chord, part: Part): (number | null)[][] {
  const strings = part.tuning.openMidi.length
  const shapes: (number | null)[][] = []
  const highest = Math.min(part.instrument.fretCount - part.instrument.capo, 14)
  for (let string = strings; string >= 1; string--)
    for (let fret = 0; fret <= highest; fret++) {
      if (soundingMidi(part, string, fret) % 12 !== chord.bass) continue
      const single = Array.from({ length: strings }, (): number | null => null)
      single[string - 1] = fret
      shapes.push(single)
      for (let upper = string - 1; upper >= 1; upper--)
        for (let other = 0; other <= highest; other++) {
          const interval = soundingMidi(part, upper, other) - soundingMidi(part, string, fret)
          const isTone = chord.classes.includes(soundingMidi(part, upper, other) % 12)
          if (
            ![7, 12, 15, 16].includes(interval) ||
            !isTone ||
            (fret > 0 && other > 0 && Math.abs(other - fret) > 3)
          )
            continue
          const pair = [...single]
          pair[upper - 1] = other
          shapes.push(pair)
        }
    }
  return shapes
}

interface Shape {
  sounding: number
  inner: number
  open: number
  low: number
  high: number
  bass: number
  top: number
  doubledThirds: number
  missing: number
  /** Strings above the highest sounding one: a strum has to stop short of them. */
  above: number
  /** Open strings that lie above a held one in number but sound under it: hard to keep apart. */
  openBelow: number
}
const NO_SHAPE: Readonly<Shape> = {
  sounding: 0,
  inner: 0,
  open: 0,
  low: 0,
  high: 0,
  bass: -1,
  top: -1,
  doubledThirds: -1,
  missing: 0,
  above: 0,
  openBelow: 0,
}

/** What a set of frets amounts to, told from the lowest string up. */
function shapeOf(frets: readonly (number | null)[], chord: Chord, part: Part): Shape {
  const shape: Shape = { ...NO_SHAPE }
  let mask = 0
  let lowest = Number.POSITIVE_INFINITY
  let highest = -1
  for (let index = frets.length - 1; index >= 0; index--) {
    const fret = frets[index]!
    if (fret === null) {
      if (shape.sounding) shape.above++
      continue
    }
    const midi = part.tuning.openMidi[index]! + part.instrument.capo + fret
    if (midi < lowest) shape.bass = midi % 12
    if (midi > highest) shape.top = midi % 12
    lowest = Math.min(lowest, midi)
    highest = Math.max(highest, midi)
    if (fret === 0) {
      shape.open++
      if (shape.high > 0 && frets.slice(0, index).some((other) => other)) shape.openBelow++
    } else {
      shape.low = shape.low ? Math.min(shape.low, fret) : fret
      shape.high = Math.max(shape.high, fret)
    }
    if (midi % 12 === chord.third) shape.doubledThirds++
    // Strings passed over since the last one that sounds lie inside the shape.
    shape.inner += shape.above
    shape.above = 0
    shape.sounding++
    mask |= 1 << (midi % 12)
  }
  shape.doubledThirds = Math.max(0, shape.doubledThirds)
  for (const pitchClass of chord.classes) if (!((mask >> pitchClass) & 1)) shape.missing++
  return shape
}

/** Who asks for something of his own does not ask for what is taught first. */
function usualShare({ easierFirst, topClass, bassClass, frets, after, before }: GripWishes): number {
  if (easierFirst || topClass !== undefined || bassClass !== undefined || frets) return 0
  return after || before ? 0.4 : 1
}

/** The part of the cost that needs no fingering. */
function roughCost(frets: readonly (number | null)[], chord: Chord, part: Part, wishes: GripWishes): number {
  const shape = shapeOf(frets, chord, part)
  const { capo, scaleLengthMm } = part.instrument
  // A power chord wants two or three strings, anything else as many as ring.
  const fullChord =
    chord.classes.length === 2
      ? 0.45 * Math.abs(shape.sounding - 3)
      : 0.72 * Math.max(0, Math.min(6, frets.length) - shape.sounding)
  const fullness = isBass(part.instrument.kind) ? 0.3 * (shape.sounding - 1) : fullChord
  const spanMm = shape.low
    ? fingerPlaceMm(shape.high + capo, scaleLengthMm) - fingerPlaceMm(shape.low + capo, scaleLengthMm)
    : 0
  let cost =
    shape.inner * 1.3 +
    fullness +
    (chord.classes.length > 2 && !isBass(part.instrument.kind) ? 0.75 * shape.above : 0) +
    shape.missing * 0.6 +
    shape.doubledThirds * 0.25 +
    (shape.bass === chord.bass ? 0 : 3) +
    shape.low * 0.18 +
    spanMm * 0.012 -
    shape.open * 0.1 +
    shape.openBelow * 0.25
  // Open strings far from the hand ring on by themselves, but are awkward to keep apart from it.
  if (shape.open && shape.low > 3) cost += 0.45 * (shape.low - 3)
  // A movable shape without a gap is what a hand already knows.
  if (!shape.open && !shape.inner && (shape.sounding >= 4 || chord.classes.length === 2)) cost -= 1.1
  if (shape.bass === chord.bass) cost -= usualShare(wishes) * usualGain(frets, part)
  if (wishes.topClass !== undefined && shape.top !== wishes.topClass) cost += 5
  if (wishes.bassClass !== undefined && shape.bass !== wishes.bassClass) cost += 5
  if (wishes.after) cost += 0.8 * wayCost(wishes.after, frets, part)
  if (wishes.before) cost += 0.8 * wayCost(wishes.before, frets, part)
  return cost
}

/**
 * How far the hand travels between two grips: along the neck in units of a comfortable shift, plus strings
 * whose fret changes.
 */
function wayCost(from: Grip, to: readonly (number | null)[], part: Part): number {
  const lows = [from.strings.map((string) => string.fret), to]
    .map((frets) => frets.flatMap((fret) => (fret ? [fret] : [])))
    .map((fretted) => (fretted.length ? Math.min(...fretted) : undefined))
  const shiftMm =
    lows[0] === undefined || lows[1] === undefined
      ? 0
      : Math.abs(
          fingerPlaceMm(lows[0] + part.instrument.capo, part.instrument.scaleLengthMm) -
            fingerPlaceMm(lows[1] + part.instrument.capo, part.instrument.scaleLengthMm),
        )
  const kept = from.strings.filter((string, index) => string.fret && string.fret === to[index]).length
  return shiftMm / 70 - kept * 0.35
}

function rank(grip: Grip, fingering: Fingering, chord: Chord, part: Part, wishes: GripWishes): RankedGrip {
  const frets = grip.strings.map((string) => string.fret)
  const shape = shapeOf(frets, chord, part)
  const usualWeight = isBass(part.instrument.kind) ? 0.75 : 0.62
  const cost =
    roughCost(frets, chord, part, wishes) + fingering.difficulty * (wishes.easierFirst ? 2.2 : usualWeight)
  const reasons = [shape.sounding === 1 ? 'one string rings' : `${shape.sounding} strings ring`]
  if (shape.inner) reasons.push(`${shape.inner} damped between them`)
  if (shape.bass !== chord.bass) reasons.push('not the root in the bass')
  const sounding = new Set(
    frets.flatMap((fret, index) => (fret === null ? [] : [soundingMidi(part, index + 1, fret) % 12])),
  )
  const left = chord.classes
    .filter((pitchClass) => !sounding.has(pitchClass))
    .map((pitchClass) => degreeWords(degreeAbove(pitchClass, chord.root)))
  if (left.length) reasons.push(`${left.join(' and ')} left out`)
  if (wishes.after) {
    const way = wayCost(wishes.after, frets, part)
    if (way < -0.3) reasons.push('fingers stay from the grip before')
    else reasons.push(way < 0.6 ? 'near the grip before' : 'a shift from the grip before')
  }
  return {
    grip: { strings: fingeredGrip(grip, fingering).strings },
    fingering,
    cost: Math.round(cost * 100) / 100,
    reasons,
  }
}

/** One grip a chord for a whole progression, chosen together. Refused with the chord that has none. */
export function gripProgression(
  symbols: readonly string[],
  part: Part,
  wishes: GripWishes = {},
): Result<RankedGrip[]> {
  const layers: RankedGrip[][] = []
  const known = new Map<string, RankedGrip[]>()
  for (const symbol of symbols) {
    let list = known.get(symbol)
    if (!list) {
      const found = gripsFor(symbol, part, { ...wishes, count: 30 })
      if (!found.ok) return found
      list = found.value
      known.set(symbol, list)
    }
    layers.push(list)
  }
  if (layers.length === 0) return ok([])
  let costs = layers[0]!.map((candidate) => candidate.cost)
  const back: number[][] = []
  for (let at = 1; at < layers.length; at++) {
    const steps = layers[at]!.map((candidate) => {
      const frets = candidate.grip.strings.map((string) => string.fret)
      let best = { cost: Number.POSITIVE_INFINITY, from: 0 }
      layers[at - 1]!.forEach((before, from) => {
        const cost = costs[from]! + 1.6 * wayCost(before.grip, frets, part)
        if (cost < best.cost) best = { cost, from }
      })
      return { cost: best.cost + candidate.cost, from: best.from }
    })
    costs = steps.map((step) => step.cost)
    back.push(steps.map((step) => step.from))
  }
  let index = costs.indexOf(Math.min(...costs))
  const chosen = [layers.at(-1)![index]!]
  for (let at = layers.length - 2; at >= 0; at--) {
    index = back[at]![index]!
    chosen.unshift(layers[at]![index]!)
  }
  return ok(chosen)
}

/**
 * Grips laid under the chords they were chosen for, within a figure; bare frets, the fingers stay a
 * proposal.
 */
export const gripSpans = (
  chords: readonly { startTicks: number; lengthTicks: number }[],
  grips: readonly Grip[],
  lengthTicks: number,
  newId: () => string,
): GripSpan[] =>
  chords.flatMap((chord, index) => {
    const startTicks = Math.max(0, chord.startTicks)
    const length = Math.min(lengthTicks, chord.startTicks + chord.lengthTicks) - startTicks
    return length > 0
      ? [
          {
            id: newId(),
            startTicks,
            lengthTicks: length,
            grip: { strings: grips[index]!.strings.map(({ fret }) => ({ fret })) },
          },
        ]
      : []
  })

/** Symbol of a grip as sounding, for asking for others of the same chord; undefined when it has no name. */
export const symbolOf = (grip: Grip, part: Part, key: Parameters<typeof nameChord>[1]): string | undefined =>
  nameChord(
    grip.strings.flatMap((string, index) =>
      string.fret === null ? [] : [soundingMidi(part, index + 1, string.fret)],
    ),
    key,
  )[0]?.symbol
