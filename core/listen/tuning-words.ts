// What a measured tuning means for a band: which tuning, and how far the tape is off. The pitch classes alone cannot tell a half step down from standard
// with every chord one fret lower: the low notes and the ringing open strings can.
import { pretty } from '../music/pitch'
import { LOWEST_MIDI } from './pitch-spectrum'

export interface TuningMeaning { name: string; /** Semitones all strings are moved; the low one by `drop` more. */ semitones: number; drop: number; share: number; why: string }

const GUITAR = [40, 45, 50, 55, 59, 64]
const BASS = [28, 33, 38, 43]
const STEPS = ['standard', 'a half step down', 'a whole step down', 'one and a half steps down', 'two whole steps down', 'five semitones down (B standard)']
const NAMES = ['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B']

/**
 * Tunings ranked by how well they explain the notes heard. `weights` is the strength of each pitch from LOWEST_MIDI up, summed over the song.
 * A note below a tuning's lowest string speaks against it; low and open strings that are used much speak for it.
 */
export function rankTunings(weights: ArrayLike<number>): TuningMeaning[] {
  const at = (midi: number): number => weights[midi - LOWEST_MIDI] ?? 0
  let bassTotal = 1e-9
  let total = 1e-9
  for (let midi = LOWEST_MIDI; midi < 52; midi++) bassTotal += at(midi)
  for (let midi = LOWEST_MIDI; midi < 90; midi++) total += at(midi)
  const candidates = [0, -1, -2, -3, -4, -5].flatMap((semitones) => [0, -2].map((drop) => ({ semitones, drop })))
  const scored = candidates.map(({ semitones, drop }) => {
    const bassLow = BASS[0]! + semitones + drop
    let below = 0
    for (let midi = LOWEST_MIDI; midi < bassLow; midi++) below += at(midi)
    const lowest = (at(bassLow) + 0.7 * at(GUITAR[0]! + semitones + drop)) / bassTotal
    const open = [...GUITAR.slice(1), ...BASS.slice(1)].reduce((sum, midi) => sum + at(midi + semitones), 0) / total
    return { semitones, drop, lowest, below: below / bassTotal, score: 5 * Math.min(0.25, lowest) + 2.2 * open - 14 * Math.max(0, below / bassTotal - 0.015) - 0.1 * Math.abs(semitones) - (drop ? 0.14 : 0) }
  }).sort((a, b) => b.score - a.score)
  const sum = scored.reduce((all, entry) => all + Math.exp(6 * (entry.score - scored[0]!.score)), 0)
  return scored.slice(0, 4).map(({ semitones, drop, score, lowest }) => {
    const note = NAMES[(GUITAR[0]! + semitones + drop) % 12]!
    const name = drop ? `low string dropped to ${pretty(note)}${semitones ? `, the rest ${STEPS[-semitones]}` : ''}` : STEPS[-semitones]!
    return { name, semitones, drop, share: Math.exp(6 * (score - scored[0]!.score)) / sum, why: lowest > 0.04 ? `low ${pretty(note)} is played often (${Math.round(100 * lowest)} % of the low notes)` : 'nothing lower is heard' }
  })
}

/** "14 cents flat", "6 cents sharp", "in tune". */
export function centsWords(cents: number): string {
  const whole = Math.round(cents)
  return Math.abs(whole) <= 2 ? 'at concert pitch' : `${Math.abs(whole)} cents ${whole < 0 ? 'flat' : 'sharp'}`
}
