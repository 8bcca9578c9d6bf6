// Which of the notes that may sound in a chord do: every candidate is described by its harmonics, what was
// there before the stroke, and the notes that could explain it instead, and a small network fitted to chords
// drawn at random (tools/fit-draft.ts) says how likely it is.
import { network } from '../models/net'
import weights from '../models/chord-tones.json'
import { levelAt, salienceOf, soundingIn, type Comb, type Sounding } from './salience'

const HARMONICS = 8
const BETWEEN = 4
const GROWN = 4
/** Semitones to the notes that share harmonics with one, or smear into it. */
const RIVALS = [-24, -19, -12, -7, -5, -1, 1, 5, 7, 12, 19] as const
/** A candidate has at least this share of the strongest salience. */
const CANDIDATE_SHARE = 0.3
const MOST_NOTES = 6

export interface ToneCandidate {
  midi: number
  salience: number
  input: number[]
}

/** Candidates of a stroke: levels just after it and just before, on the same scale. */
export function toneCandidates(
  after: Float32Array,
  before: Float32Array,
  all: readonly Comb[],
): ToneCandidate[] {
  const saliences = all.map((comb) => salienceOf(after, comb))
  const top = Math.max(...saliences)
  if (top < 0.05) return []
  const growth = all.map((comb, index) => saliences[index]! - salienceOf(before, comb))
  // Where one note of many grows, the others only ring on.
  const most = Math.max(...growth)
  const greedy = new Map(
    soundingIn(after, all, MOST_NOTES, 0.2).map((note, rank) => [note.midi, { ...note, rank }]),
  )
  const lowest = all.find((_comb, index) => saliences[index]! > 0.6 * top)!.midi
  return all.flatMap((comb, index) => {
    const salience = saliences[index]!
    if (salience < CANDIDATE_SHARE * top) return []
    const at = (place: number | undefined): number => (place === undefined ? 0 : levelAt(after, place))
    const found = greedy.get(comb.midi)
    return {
      midi: comb.midi,
      salience,
      input: [
        ...Array.from({ length: HARMONICS }, (_, h) => at(comb.bins[h])),
        ...Array.from({ length: BETWEEN }, (_, h) => at(comb.between[h])),
        ...Array.from({ length: GROWN }, (_, h) => {
          const place = comb.bins[h]
          return place === undefined ? 0 : levelAt(after, place) - levelAt(before, place)
        }),
        ...RIVALS.map((semitones) => (saliences[index + semitones] ?? 0) / top),
        salience / top,
        growth[index]! / top,
        most / top,
        (most - growth[index]!) / top,
        top,
        found ? found.salience / top : 0,
        found ? found.rank / MOST_NOTES : 1,
        (comb.midi - 40) / 24,
        (comb.midi - lowest) / 12,
      ],
    }
  })
}

let net: ReturnType<typeof network> | undefined

/** The notes of a stroke, the likeliest first, at most one a string. */
export function chordTones(candidates: readonly ToneCandidate[]): (Sounding & { likely: number })[] {
  net ??= network(weights)
  const ask = net
  return candidates
    .map(({ midi, salience, input }) => ({ midi, salience, likely: 1 / (1 + Math.exp(-ask(input)[0]!)) }))
    .sort((a, b) => b.likely - a.likely)
    .filter(({ likely }, rank) => rank < MOST_NOTES && (likely > 0.5 || rank === 0))
}
