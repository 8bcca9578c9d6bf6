// The key a stretch of chords is in. A fitted network weighs how long each degree sounds as major, minor or
// neither, where phrases start and end.
import { nameAtFifths, signatureOf, type Key } from '../../music/pitch'
import { TONES, type ChordLabel } from './chord-labels'
import { network, type NetWeights } from '../models/net'
import weights from '../models/key.json'

export interface TimedChord {
  start: number
  end: number
  chord: ChordLabel | undefined
}
export interface HeardKey {
  tonic: number
  mode: 'major' | 'minor'
  confidence: number
  rivals: { tonic: number; mode: 'major' | 'minor'; share: number }[]
}

const KEY_INPUTS = 12 * 3 + 12 * 2 + 12
/** Index of a chord's third: major, minor, or neither. */
function third(chord: ChordLabel): number {
  if (TONES[chord.quality].includes(4)) return 0
  return TONES[chord.quality].includes(3) ? 1 : 2
}

/**
 * Shares of time per degree and third, of phrase starts, and the last chord, seen from a tonic. `starts`
 * are times at which sections begin.
 */
export function keyInput(
  chords: readonly TimedChord[],
  starts: readonly number[],
  tonic: number,
): Float64Array {
  const input = new Float64Array(KEY_INPUTS)
  const sounding = chords.filter(
    (entry): entry is TimedChord & { chord: ChordLabel } => entry.chord !== undefined,
  )
  const total = sounding.reduce((sum, entry) => sum + entry.end - entry.start, 0) || 1
  const degree = (root: number): number => (root - tonic + 12) % 12
  for (const { chord, start, end } of sounding)
    input[degree(chord.root) * 3 + third(chord)]! += (end - start) / total
  for (const begin of starts) {
    const first = sounding.find((entry) => entry.end > begin + 0.3)
    if (first)
      input[36 + degree(first.chord.root) * 2 + (third(first.chord) === 1 ? 1 : 0)]! += 1 / starts.length
  }
  const last = sounding.at(-1)
  if (last) input[60 + degree(last.chord.root)] = 1
  return input
}

const net = network(weights as NetWeights)
/** The likeliest key of these chords; undefined when there are none. */
export function findKey(chords: readonly TimedChord[], starts: readonly number[]): HeardKey | undefined {
  // One chord is no key.
  if (new Set(chords.flatMap((entry) => (entry.chord ? [entry.chord.root] : []))).size < 2) return undefined
  const scores = Array.from(
    { length: 12 },
    (_, tonic) => [...net(keyInput(chords, starts, tonic))] as [number, number],
  )
  const top = Math.max(...scores.flat())
  const powers = scores.map((pair) => pair.map((value) => Math.exp(value - top)))
  const sum = powers.flat().reduce((a, b) => a + b, 0)
  const ranked = powers
    .flatMap((pair, tonic) =>
      pair.map((power, index) => ({
        tonic,
        mode: index === 0 ? ('major' as const) : ('minor' as const),
        share: power / sum,
      })),
    )
    .sort((a, b) => b.share - a.share)
  return {
    tonic: ranked[0]!.tonic,
    mode: ranked[0]!.mode,
    confidence: ranked[0]!.share,
    rivals: ranked.slice(0, 3),
  }
}

/**
 * What colours a major or minor key beyond its scale: "mixolydian", "dorian", "blues-like"; undefined when
 * it is plain. `chroma` as 36 strengths.
 */
export function flavourOf(
  { tonic, mode }: { tonic: number; mode: 'major' | 'minor' },
  chroma: Float32Array,
): string | undefined {
  const at = (degree: number): number => {
    const k = (tonic + degree) % 12
    return chroma[12 + k]! + chroma[24 + k]! + 0.5 * chroma[k]!
  }
  const clearly = (one: number, other: number): boolean => at(one) > 1.8 * at(other) && at(one) > 0.12 * at(0)
  if (mode === 'major') {
    if (!clearly(10, 11)) return undefined
    return at(3) > 0.3 * at(4) ? 'blues-like' : 'mixolydian'
  }
  if (clearly(9, 8)) return 'dorian'
  return at(6) > 0.3 * at(7) && at(6) > at(5) * 0.5 ? 'blues-like' : undefined
}

/**
 * The key spelled with the fewer accidentals; at six of either kind minor keys take flats (E♭ minor) and
 * major keys sharps (F♯).
 */
export function spellKey(tonic: number, mode: 'major' | 'minor'): Key {
  const fifths = (tonic * 7) % 12
  const candidates = [fifths - 12, fifths].map((place) => ({ tonic: nameAtFifths(place), mode }))
  const [flat, sharp] = candidates.map((key) => Math.abs(signatureOf(key))) as [number, number]
  return flat < sharp || (flat === sharp && mode === 'minor') ? candidates[0]! : candidates[1]!
}
