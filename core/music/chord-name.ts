// From sounding pitches to chord names, ranked. The qualities and their intervals are the theory library's;
// what is ours is the ranking: how a guitarist would say it (few omitted tones, plain symbol, root in the
// bass).
import { ChordType, Interval, Note } from 'tonal'
import { fifthsOf, nameAtFifths, pitchClassOf, signatureOf, spellPitchClass, type Key } from './pitch'

export interface ChordName {
  symbol: string
  root: string
  quality: string
  bass: string
  /**
   * 0 = root position, 1 = third in the bass, 2 = fifth, 3 = seventh; undefined when the bass is no chord
   * tone.
   */
  inversion: number | undefined
  /** Degree of each distinct pitch class, keyed by pitch class. */
  degrees: Record<number, string>
  /** How each of them is spelled in this chord: the third of E is G#, in whatever key. */
  tones: Record<number, string>
  omitted: string[]
  /** Why it stands where it stands among the names, in words. */
  reason: string
  cost: number
}

/** `mask`: its semitones above the root as bits. */
interface Quality {
  alias: string
  intervals: string[]
  semitones: number[]
  mask: number
}

// Two that ring on open strings and are no stranger to a guitarist than a ninth.
ChordType.add(['1P', '3M', '5P', '11P'], ['Madd11', 'add11', 'add4'], 'added eleventh')
ChordType.add(['1P', '3M', '5P', '7m', '11P'], ['7add11', '7add4'], 'seventh added eleventh')

/**
 * The library's name of a quality → how it is written behind the root, commonest first: the later one
 * stands, the more it costs.
 */
const WRITTEN_AS: readonly (readonly [alias: string, written: string])[] = [
  ['M', ''],
  ['m', 'm'],
  ['5', '5'],
  ['7', '7'],
  ['maj7', 'maj7'],
  ['m7', 'm7'],
  ['sus2', 'sus2'],
  ['sus4', 'sus4'],
  ['dim', 'dim'],
  ['aug', 'aug'],
  ['6', '6'],
  ['m6', 'm6'],
  ['9', '9'],
  ['maj9', 'maj9'],
  ['m9', 'm9'],
  ['Madd9', 'add9'],
  ['madd9', 'm(add9)'],
  ['7sus4', '7sus4'],
  ['m11', 'm11'],
  ['6add9', '6/9'],
  ['7#9', '7#9'],
  ['7b9', '7b9'],
  ['m7b5', 'm7b5'],
  ['dim7', 'dim7'],
  ['9sus4', '9sus4'],
  ['7#5', '7#5'],
  ['11', '11'],
  ['13', '13'],
  ['m/ma7', 'm(maj7)'],
  ['maj7#11', 'maj7#11'],
  ['m7add11', 'm7(add11)'],
  ['Madd11', 'add11'],
  ['madd4', 'm(add11)'],
  ['sus24', 'sus2sus4'],
  ['maj13', 'maj13'],
  ['13sus4', '13sus4'],
  ['7add11', '7(add11)'],
  ['m69', 'm6/9'],
  ['7b5', '7b5'],
  ['7#11', '7#11'],
  ['7b13', '7b13'],
  ['maj7#5', 'maj7#5'],
  ['7#5#9', '7#5#9'],
  ['7b9b13', '7b9b13'],
  ['mM9', 'm9(maj7)'],
  ['m13', 'm13'],
  ['maj9#11', 'maj9#11'],
  ['b9sus', '7b9sus4'],
  ['M7sus4', 'maj7sus4'],
  ['M7b5', 'maj7b5'],
  ['Maddb9', 'add(b9)'],
]
const PLAIN: Record<string, string> = Object.fromEntries(WRITTEN_AS)
// Not the keys of the record: numbers would come first there.
const ORDER = WRITTEN_AS.map(([alias]) => alias)

const maskOf = (semitones: readonly number[]): number =>
  semitones.reduce((mask, semitone) => mask | (1 << semitone), 0)
const QUALITIES: Quality[] = ORDER.flatMap((alias) => {
  const type = ChordType.get(alias)
  if (type.empty) return []
  const semitones = type.intervals.map((name) => Interval.semitones(name) % 12)
  return [{ alias, intervals: type.intervals, semitones, mask: maskOf(semitones) }]
})

/**
 * Most roots and qualities are out at a glance: more than one tone that is foreign to the chord, or more
 * than two missing.
 */
function farOff(mask: number, bassClass: number, root: number, quality: Quality): boolean {
  const above = ((mask >> root) | (mask << (12 - root))) & 0xfff
  const foreign = above & ~quality.mask
  const missing = quality.mask & ~above
  return (foreign !== 0 && foreign !== 1 << ((bassClass - root + 12) % 12)) || bitsOf(missing) > 2
}
function bitsOf(mask: number): number {
  let count = 0
  for (let rest = mask; rest; rest &= rest - 1) count++
  return count
}

/** Degrees that may be missing without the chord losing its name; the rest costs dearly. */
const OMISSIBLE = new Set(['5P', '9M', '11P', '11A'])
/** Chords of six tones and more are played without their fifth and their ninth as a matter of course. */
const mayMiss = (quality: Quality): number => (quality.intervals.length > 5 ? 2 : 1)

/** A minor eleventh is called one without its ninth or fifth too: what is played is said shortly. */
const EASILY_MISSED: Record<string, readonly string[]> = { m11: ['5P', '9M'] }
const EASY_COST = 0.4
const MISSING_COST = 1.5
const missedCost = (quality: Quality, interval: string): number =>
  EASILY_MISSED[quality.alias]?.includes(interval) ? EASY_COST : MISSING_COST

const degreeText = (interval: string): string => {
  const number = interval.replace(/\D/g, '')
  const sign = interval.replace(/\d/g, '')
  const fourthKind = ['1', '4', '5', '8', '11'].includes(number)
  const altered = { m: 'b', d: fourthKind ? 'b' : 'bb', A: '#' }[sign] ?? ''
  return altered + (number === '1' ? 'R' : number)
}

/** Qualities that are also heard without their root, the bass playing it. */
const ROOTLESS = new Set(['7', '9', '7b9', 'm9', 'maj9'])

/**
 * All reasonable names for MIDI pitches, best first, spelled in the key. Empty for fewer than two pitch
 * classes (one class with its octave is named as the single note by the caller). @example nameChord([40,
 * 47, 52], { tonic: 'E', mode: 'minor' })[0].symbol // "E5"
 */
export function nameChord(midis: readonly number[], key: Key): ChordName[] {
  if (midis.length === 0) return []
  const bassClass = Math.min(...midis) % 12
  const classes = [...new Set(midis.map((midi) => midi % 12))]
  if (classes.length < 2) return []
  // A song names the same few chords again and again.
  const text = `${bassClass}/${classes.toSorted((a, b) => a - b).join()}/${key.tonic}${key.mode}`
  let names = known.get(text)
  if (!names) {
    names = namesOf(classes, bassClass, key)
    if (known.size >= MOST_KNOWN) known.clear()
    known.set(text, names)
  }
  return [...names]
}
const known = new Map<string, ChordName[]>()
const MOST_KNOWN = 600

function namesOf(classes: number[], bassClass: number, key: Key): ChordName[] {
  const mask = maskOf(classes)
  const near = Array.from({ length: 12 }, (_, root) =>
    QUALITIES.flatMap((quality, rank) =>
      farOff(mask, bassClass, root, quality) ? [] : [{ root, quality, rank, classes, bassClass, key }],
    ),
  ).flat()
  const strict = near.flatMap((reading) => nameAs(reading) ?? [])
  const names = strict.some((name) => name.cost < LOOSE_COST)
    ? strict
    : [...strict, ...near.flatMap((reading) => nameAs({ ...reading, loose: true }) ?? [])]
  return names.sort((a, b) => a.cost - b.cost)
}

const TRIADS = new Set(['M', 'm', '5'])
/** From this cost on a name is a stretch, and names that lack their third are looked at as well. */
const LOOSE_COST = 7
const ROOTLESS_COST = 6.5

interface Reading {
  root: number
  quality: Quality
  rank: number
  classes: number[]
  bassClass: number
  key: Key
  loose?: boolean
}

/** What a name leaves out of its chord. */
function omittedWords(omitted: readonly string[], rootless: boolean): string {
  const missing = omitted.filter((degree) => degree !== 'R')
  if (missing.length) return `without ${missing.map(degreeWords).join(' and ')}`
  return rootless ? 'all else is there' : 'nothing missing'
}

/** How the pitch classes lie in a quality over a root. */
interface Held {
  /** Index of each pitch class among the quality's tones, -1 for none. */
  present: number[]
  foreign: number[]
  missing: string[]
  /** Missing tones that a chord is poorer without. */
  heavy: string[]
  rootless: boolean
}

/** Undefined when the quality does not hold over this root. `loose` lets the third be missing. */
function heldAs({ root, quality, classes, bassClass, loose }: Reading): Held | undefined {
  const present = classes.map((pitchClass) => quality.semitones.indexOf((pitchClass - root + 12) % 12))
  const foreign = classes.filter((_, index) => present[index] === -1)
  // A bass note outside the chord is a slash bass; any other foreign tone rules the name out.
  if (foreign.length > 1 || (foreign.length === 1 && foreign[0] !== bassClass)) return undefined
  const missing = quality.intervals.filter((_, index) => !present.includes(index))
  const rootless = !classes.includes(root)
  if (rootless && (foreign.length || missing.length !== 1 || !ROOTLESS.has(quality.alias))) return undefined
  // The tone a quality is named after cannot be missing: Cadd9 without its ninth is C.
  if (foreign.length && missing.length) return undefined
  if (missing.includes(quality.intervals.at(-1)!) && !TRIADS.has(quality.alias)) return undefined
  const heavy = missing.filter((interval) => !OMISSIBLE.has(interval) && interval !== '1P')
  const refused = loose
    ? rootless || heavy.join() !== '3M' || missing.length > 1 || classes.length < 3
    : heavy.length > 0 || missing.length > mayMiss(quality)
  return refused ? undefined : { present, foreign, missing, heavy, rootless }
}

/** How far-fetched a name is: its bass, what it lacks, how rare it is. */
function nameCost({ quality, rank, loose }: Reading, held: Held, bassIndex: number): number {
  const { foreign, missing, rootless } = held
  const inverted = 2.2 + 0.3 * bassIndex + (bassIndex > 3 || quality.intervals[bassIndex] === '9M' ? 3 : 0)
  const chordBass = bassIndex === 0 || rootless ? 0 : inverted
  // A chord without a third that lacks its fifth as well is better said as what is whole in it: D/E, not E11.
  const third = quality.semitones.some((semitones) => semitones === 3 || semitones === 4)
  return (
    (foreign.length ? 5 : chordBass) +
    missing.reduce((sum, interval) => sum + missedCost(quality, interval), 0) +
    (missing.length > 0 && !third ? 3 : 0) +
    rank * 0.09 +
    Math.max(0, quality.semitones.length - 3) * 0.5 +
    (rootless ? ROOTLESS_COST : 0) +
    (loose ? LOOSE_COST : 0)
  )
}

/** What is said of the bass of a chord. */
function bassWords(held: Held, bassIndex: number, bass: string, degree: string): string {
  if (bassIndex === 0) return 'root in the bass'
  if (held.rootless) return 'the bass player has the root'
  return held.foreign.length ? `${bass} in the bass is no chord tone` : `${degreeWords(degree)} in the bass`
}

/** One root and quality tried on the pitch classes; undefined when it does not hold. */
function nameAs(reading: Reading): ChordName | undefined {
  const { root, quality, classes, bassClass, key } = reading
  const held = heldAs(reading)
  if (!held) return undefined
  const { present, foreign, missing, heavy, rootless } = held
  const bassIndex = present[classes.indexOf(bassClass)]!
  const rootName = spellRoot(root, quality, key)
  const degrees: Record<number, string> = {}
  const tones: Record<number, string> = {}
  classes.forEach((pitchClass, index) => {
    const interval = quality.intervals[present[index]!]
    degrees[pitchClass] = interval ? degreeText(interval) : 'bass'
    tones[pitchClass] = spellTone(pitchClass, rootName, interval, key)
  })
  const bass = tones[bassClass]!
  const omitted = missing.map(degreeText)
  const heavyNames = heavy.map((interval) => degreeText(interval).replace(/^b/, '')).join(', ')
  const without = rootless ? '(no root)' : heavyNames && `(no ${heavyNames})`
  const slash = bassIndex === 0 || rootless ? '' : `/${bass}`
  return {
    symbol: rootName + PLAIN[quality.alias]! + without + slash,
    root: rootName,
    quality: quality.alias,
    bass,
    inversion: foreign.length || rootless ? undefined : bassIndex,
    degrees,
    tones,
    omitted,
    cost: nameCost(reading, held, bassIndex),
    reason: `${bassWords(held, bassIndex, bass, degrees[bassClass]!)}, ${omittedWords(omitted, rootless)}`,
  }
}

const accidentals = (fifths: number): number => Math.abs(Math.floor((fifths + 1) / 7))
/**
 * Steps on the line of fifths from the root to a tone of the chord: a major third is four up, a minor third
 * three down.
 */
const fifthsOfInterval = (interval: string): number => fifthsOf(Note.transpose('C', interval))

/**
 * A root of the key is spelled as the key spells it; one from outside so that its chord needs the fewer
 * signs: G#m, not Abm, but Ab.
 */
function spellRoot(root: number, quality: Quality, key: Key): string {
  const inKey = spellPitchClass(root, key)
  const fifths = fifthsOf(inKey)
  const step = fifths - signatureOf(key)
  if (step >= -1 && step <= 5) return inKey
  const signs = (start: number): number =>
    quality.intervals.reduce((sum, interval) => sum + accidentals(start + fifthsOfInterval(interval)), 0)
  const other = fifths > signatureOf(key) ? fifths - 12 : fifths + 12
  return signs(other) < signs(fifths) ? nameAtFifths(other) : inKey
}

/**
 * A tone spelled from its root; what is no chord tone as near to the root on the line of fifths as it gets
 * (Am/G#), and in doubt as in the key.
 */
function spellTone(pitchClass: number, rootName: string, interval: string | undefined, key: Key): string {
  const root = fifthsOf(rootName)
  const inKey = fifthsOf(spellPitchClass(pitchClass, key))
  const spelled =
    interval === undefined
      ? [inKey, inKey - 12, inKey + 12].reduce((best, next) =>
          Math.abs(next - root) < Math.abs(best - root) ? next : best,
        )
      : root + fifthsOfInterval(interval)
  // A double flat helps nobody at a fretboard.
  return nameAtFifths(accidentals(spelled) > 1 || interval === '7d' ? inKey : spelled)
}

const DEGREE_WORDS: Record<string, string> = {
  R: 'the root',
  '2': 'the second',
  b3: 'the minor third',
  '3': 'the third',
  '4': 'the fourth',
  b5: 'the flat fifth',
  '5': 'the fifth',
  '#5': 'the sharp fifth',
  '6': 'the sixth',
  b7: 'the minor seventh',
  '7': 'the major seventh',
  bb7: 'the diminished seventh',
  '9': 'the ninth',
}
/** A degree as it is said: "b3" → "the minor third". */
export const degreeWords = (degree: string): string => DEGREE_WORDS[degree] ?? `the ${degree}`

/** The theory library's name of a quality: "minor seventh", "suspended fourth". */
export const qualityName = (alias: string): string =>
  ({
    Madd9: 'added ninth',
    madd9: 'minor added ninth',
    '6add9': 'sixth added ninth',
    '9sus4': 'ninth suspended fourth',
    '7sus4': 'seventh suspended fourth',
  })[alias] ??
  (ChordType.get(alias).name || alias)

/** Inversion in words; empty for root position. */
export function inversionWords(name: ChordName): string {
  if (name.inversion === undefined) return `slash bass ${name.bass}`
  return ['', 'first inversion', 'second inversion', 'third inversion'][name.inversion] ?? 'ninth in the bass'
}

/** Ways of writing that the theory library does not read. */
const WRITTEN = new Map([
  ['maj', 'M'],
  ['major', 'M'],
  ['minor', 'm'],
  ['sus4sus2', 'sus24'],
  ['7sus', '7sus4'],
  ['2', 'Madd9'],
  ['4', 'Madd11'],
  ['no3', '5'],
])

function qualityOf(suffix: string): { alias: string; semitones: number[] } | undefined {
  const bare = suffix.replace(/[()\s]/g, '')
  for (const text of [suffix, bare]) {
    const alias =
      ORDER.find((name) => PLAIN[name] === text) ??
      ORDER.find((name) => PLAIN[name]!.replace(/[()]/g, '') === text) ??
      WRITTEN.get(text) ??
      text
    const quality = QUALITIES.find((candidate) => candidate.alias === alias)
    if (quality) return quality
    const type = ChordType.get(text)
    if (!type.empty)
      return (
        QUALITIES.find((candidate) => candidate.intervals.join() === type.intervals.join()) ?? {
          alias: text,
          semitones: type.intervals.map((name) => Interval.semitones(name) % 12),
        }
      )
  }
  return undefined
}

/**
 * Semitones above the root and root pitch class of a chord symbol, and its bass; undefined when it is not
 * understood.
 */
export function readChordSymbol(
  symbol: string,
): { root: number; bass: number; semitones: number[]; quality: string } | undefined {
  const match = /^([A-G][#b]?)(m?6\/9|m\/maj?7|[^/]*)(?:\/([A-G][#b]?))?$/.exec(
    symbol.trim().replaceAll('♯', '#').replaceAll('♭', 'b'),
  )
  const quality = match && qualityOf(match[2]!)
  if (!quality) return undefined
  const root = pitchClassOf(match[1]!)
  return {
    root,
    bass: match[3] ? pitchClassOf(match[3]) : root,
    semitones: quality.semitones,
    quality: quality.alias,
  }
}

/** A chord symbol moved by semitones and spelled in a key; unchanged when it is not understood. */
export function transposeSymbol(symbol: string, semitones: number, key: Key): string {
  return symbol
    .replaceAll('♯', '#')
    .replaceAll('♭', 'b')
    .replace(
      /(^|\/)([A-G][#b]?)/g,
      (_, slash: string, name: string) =>
        slash + spellPitchClass((pitchClassOf(name) + semitones + 120) % 12, key),
    )
}
