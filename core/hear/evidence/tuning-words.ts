// What a measured tuning means for a band: which tuning, and how far the tape is off. The pitch classes
// alone cannot tell a half step down from standard with every chord one fret lower: the low notes and the
// ringing open strings can.
import { pretty } from '../../music/pitch'
import { LOWEST_MIDI } from '../features/pitch-spectrum'

export interface TuningMeaning {
  name: string
  /** Semitones all strings are moved; the low one by `drop` more. */ semitones: number
  drop: number
  share: number
  why: string
}

const GUITAR_LOW = 40
const BASS_LOW = 28
const STEPS = [
  'standard',
  'a half step down',
  'a whole step down',
  'one and a half steps down',
  'two whole steps down',
  'five semitones down (B standard)',
]
const NAMES = ['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B']

/** Share of all notes below which a low pitch is kick drum and leakage, not a string. */
const LEAKAGE = 0.012
/** How seldom a band tunes down by so many semitones. */
const RARE = [0, 0.1, 0.32, 0.45, 0.5, 0.4]
/** How readily a hand plays in a key by shape, by its tonic: open-string keys first. */
const FRIENDLY: Record<number, number> = { 4: 1, 9: 1, 2: 0.9, 7: 0.9, 0: 0.75, 11: 0.6, 6: 0.45, 5: 0.4 }

/**
 * Tunings ranked by how well they explain what is heard. `weights` is the strength of each pitch from
 * LOWEST_MIDI up, summed over the song; `tonic` the pitch class of the sounding key. A note below a
 * tuning's lowest string speaks against it, a much used lowest string and a key that lies well in the hand
 * speak for it.
 */
export function rankTunings(weights: ArrayLike<number>, tonic: number | undefined): TuningMeaning[] {
  let total = 1e-9
  for (let midi = LOWEST_MIDI; midi < 90; midi++) total += weights[midi - LOWEST_MIDI] ?? 0
  const played = (midi: number): number => Math.max(0, (weights[midi - LOWEST_MIDI] ?? 0) / total - LEAKAGE)
  const candidates = [0, -1, -2, -3, -4, -5].flatMap((semitones) =>
    [0, -2].map((drop) => ({ semitones, drop })),
  )
  const scored = candidates
    .map(({ semitones, drop }) => {
      const bassLow = BASS_LOW + semitones + drop
      let below = 0
      for (let midi = LOWEST_MIDI; midi < bassLow; midi++) below += played(midi)
      const lowest = played(bassLow) + 0.5 * played(GUITAR_LOW + semitones + drop)
      const friendly = tonic === undefined ? 0 : (FRIENDLY[(tonic - semitones + 24) % 12] ?? 0.15)
      return {
        semitones,
        drop,
        lowest,
        score:
          0.75 * friendly +
          8 * Math.min(0.03, lowest) -
          40 * Math.min(0.05, below) -
          RARE[-semitones]! -
          (drop ? 0.22 : 0),
      }
    })
    .sort((a, b) => b.score - a.score)
  const sum = scored.reduce((all, entry) => all + Math.exp(7 * (entry.score - scored[0]!.score)), 0)
  return scored.slice(0, 4).map(({ semitones, drop, score, lowest }) => {
    const note = NAMES[(GUITAR_LOW + semitones + drop) % 12]!
    const name = drop
      ? `low string dropped to ${pretty(note)}${semitones ? `, the rest ${STEPS[-semitones]}` : ''}`
      : STEPS[-semitones]!
    return {
      name,
      semitones,
      drop,
      share: Math.exp(7 * (score - scored[0]!.score)) / sum,
      why:
        lowest > 0.004
          ? `low ${pretty(note)} is played, nothing lower`
          : 'the key lies well in the hand so, and nothing lower is heard',
    }
  })
}

/** "14 cents flat", "6 cents sharp", "in tune". */
export function centsWords(cents: number): string {
  const whole = Math.round(cents)
  return Math.abs(whole) <= 2
    ? 'at concert pitch'
    : `${Math.abs(whole)} cents ${whole < 0 ? 'flat' : 'sharp'}`
}
