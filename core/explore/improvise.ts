// What to improvise with over a section and why: scales of the key held against every chord that sounds
// there.
import { readChordSymbol } from '../music/chord-name'
import { pitchClassOf, pretty, spellPitchClass, type Key } from '../music/pitch'
import { SCALE_KINDS, type ScaleKind } from '../music/scale'
import type { Section, Song } from '../document/schema'

export interface Improvised {
  tonic: string
  /** A name of SCALE_KINDS. */
  name: string
  /** Share of the section’s time whose chords lie wholly inside. */
  share: number
  /** What it is ranked by: its share, and how simple it is. */
  score: number
  why: string
  /** Chords that ask for another tone: "over A: C♯ instead of C". */
  mind: string[]
}

/** Scales tried, with what speaks for each whatever the chords. */
const TRIED: readonly { name: string; bonus: number; why: string }[] = [
  { name: 'minor pentatonic', bonus: 0.16, why: 'five tones that rub against nothing in the key' },
  { name: 'major pentatonic', bonus: 0.16, why: 'five tones that rub against nothing in the key' },
  { name: 'blues', bonus: 0.1, why: 'the minor pentatonic and the flat five in passing' },
  { name: 'minor', bonus: 0.05, why: 'all tones of the key' },
  { name: 'major', bonus: 0.05, why: 'all tones of the key' },
  { name: 'mixolydian', bonus: 0.03, why: 'major with the flat seventh of the chords' },
  { name: 'dorian', bonus: 0.03, why: 'minor with the raised sixth of the chords' },
  { name: 'harmonic minor', bonus: 0.01, why: 'minor with the leading tone of the dominant' },
]

interface Sounding {
  symbol: string
  ticks: number
  tones: number[]
}

function chordsOf(section: Section): Sounding[] {
  const sums = new Map<string, number>()
  for (const { symbol, lengthTicks } of section.harmony)
    sums.set(symbol, (sums.get(symbol) ?? 0) + lengthTicks)
  return [...sums].flatMap(([symbol, ticks]): Sounding[] => {
    const read = readChordSymbol(symbol)
    if (!read) return []
    return [{ symbol, ticks, tones: read.semitones.map((semitones) => (read.root + semitones) % 12) }]
  })
}

/** Minor tonalities take minor scales on the tonic; blues keeps its minor pentatonic in major too. */
function suits(kind: ScaleKind, key: Key): boolean {
  const minorKey = ['minor', 'dorian', 'phrygian', 'locrian'].includes(key.mode)
  const minorScale = kind.semitones.includes(3)
  return minorKey === minorScale || kind.name === 'minor pentatonic' || kind.name === 'blues'
}

/**
 * The tone of the scale a foreign chord tone takes the place of: the one of the same letter, C for C flat,
 * else one beside it.
 */
function neighbour(
  tone: number,
  chord: readonly number[],
  { inside, key }: { inside: ReadonlySet<number>; key: Key },
): number | undefined {
  const letter = (one: number): string => spellPitchClass(one, key).slice(0, 1)
  const near = [11, 1, 10, 2].map((step) => (tone + step) % 12).filter((other) => inside.has(other))
  const free = near.filter((other) => !chord.includes(other))
  return free.find((other) => letter(other) === letter(tone)) ?? free[0] ?? near[0]
}

/** How tones and chords are named to whoever reads. */
export interface Names {
  tone: (pitchClass: number) => string
  chord: (symbol: string) => string
}
const soundingNames = (key: Key): Names => ({
  tone: (pitchClass) => pretty(spellPitchClass(pitchClass, key)),
  chord: pretty,
})

/**
 * Of a whole scale every chord tone is expected. Five or six tones leave chord tones out and need not mind
 * what is in the key anyway: only a tone from outside the key rubs, where the scale has its neighbour
 * instead.
 */
function clashesWith(tone: number, inside: ReadonlySet<number>, inKey: ReadonlySet<number>): boolean {
  if (inside.has(tone)) return false
  return (
    inside.size > 6 || (!inKey.has(tone) && (inside.has((tone + 11) % 12) || inside.has((tone + 1) % 12)))
  )
}

function tried(
  { name, bonus, why }: (typeof TRIED)[number],
  chords: readonly Sounding[],
  key: Key,
  names: Names,
): Improvised | undefined {
  const kind = SCALE_KINDS.find((one) => one.name === name)
  if (!kind || !suits(kind, key)) return undefined
  const tonic = pitchClassOf(key.tonic)
  const inside = new Set(kind.semitones.map((semitones) => (tonic + semitones) % 12))
  const own = SCALE_KINDS.find((one) => one.name === key.mode) ?? kind
  const inKey = new Set(own.semitones.map((semitones) => (tonic + semitones) % 12))
  const total = chords.reduce((sum, { ticks }) => sum + ticks, 0)
  let kept = 0
  const mind: string[] = []
  for (const { symbol, ticks, tones } of chords) {
    const clashes = tones.filter((tone) => clashesWith(tone, inside, inKey))
    if (clashes.length === 0) kept += ticks
    for (const tone of clashes.slice(0, 2)) {
      const instead = neighbour(tone, tones, { inside, key })
      const rather = instead === undefined ? '' : ` rather than ${names.tone(instead)}`
      mind.push(`over ${names.chord(symbol)}: ${names.tone(tone)}${rather}`)
    }
  }
  const share = total ? kept / total : 0
  const every = share === 1 ? 'fits every chord here' : `fits ${Math.round(share * 100)} % of the time`
  return { tonic: key.tonic, name, share, score: share + bonus, why: `${every}: ${why}`, mind }
}

/** Scales to improvise with over a section, best first; empty where no chord is known. */
export function improviseOver(
  song: Song,
  section: Section,
  names: Names = soundingNames(section.key ?? song.key),
  count = 4,
): Improvised[] {
  const key = section.key ?? song.key
  const chords = chordsOf(section)
  if (chords.length === 0) return []
  return TRIED.flatMap((scale) => tried(scale, chords, key, names) ?? [])
    .sort((a, b) => b.score - a.score)
    .slice(0, count)
}
