// Which beats are "the one". Each beat is described by what is struck on it and after it and by how much
// the harmony changes there; a small fitted network looks at four beats to either side and says how much a
// beat sounds like the one; Viterbi finds the bars.
import type { BeatTrack } from './beats'
import { network, type NetWeights } from '../models/net'
import type { OnsetStrength } from '../features/onset-strength'
import { LOWEST_MIDI, spectrumOf, type PitchSpectrum } from '../features/pitch-spectrum'
import weights from '../models/bars.json'

const PER_BEAT = 11
const AROUND = 4
const BAR_INPUTS = PER_BEAT * (2 * AROUND + 1)

function around(curve: Float32Array, frame: number): number {
  let best = 0
  for (
    let t = Math.max(0, Math.round(frame) - 4);
    t <= Math.min(curve.length - 1, Math.round(frame) + 6);
    t++
  )
    best = Math.max(best, curve[t]!)
  return best
}
const distance = (a: Float32Array, b: Float32Array, from: number, to: number): number => {
  let dot = 0
  let aa = 1e-9
  let bb = 1e-9
  for (let i = from; i < to; i++) {
    dot += a[i]! * b[i]!
    aa += a[i]! ** 2
    bb += b[i]! ** 2
  }
  return 1 - dot / Math.sqrt(aa * bb)
}
/** Bins of the pitch spectrum below this belong to the bass. */
const BASS_BINS = (50 - LOWEST_MIDI) * 3

/** PER_BEAT values for each beat, scaled to the song's own mean and deviation. */
export function beatDescriptions(
  { beatFrames, framesPerSecond }: BeatTrack,
  onsets: OnsetStrength,
  pitches: PitchSpectrum,
): Float64Array[] {
  const count = beatFrames.length
  const frame = (beat: number): number => {
    if (beat < 0) return 0
    return beatFrames[beat] ?? 2 * beatFrames[count - 1]! - beatFrames[count - 2]!
  }
  const seconds = (beat: number): number => frame(beat) / framesPerSecond
  const spectra = beatFrames.map((_, beat) => spectrumOf(pitches, seconds(beat) + 0.03, seconds(beat + 1)))
  const pairs = spectra.map((spectrum, beat) =>
    spectrum.map((value, bin) => value + (spectra[beat + 1]?.[bin] ?? 0)),
  )
  const loud = beatFrames.map((frame, beat) => {
    let sum = 0
    const end = seconds(beat + 1) * framesPerSecond
    for (let t = Math.round(frame); t < end; t++) sum += onsets.loudness[t] ?? 0
    return Math.log(1e-6 + sum / Math.max(1, end - frame))
  })
  const rows = beatFrames.map((frame, beat) => {
    const middle = frame + (seconds(beat + 1) * framesPerSecond - frame) / 2
    const [before, now] = [spectra[beat - 1] ?? spectra[beat]!, spectra[beat]!]
    return Float64Array.of(
      around(onsets.low, frame),
      around(onsets.mid, frame),
      around(onsets.high, frame),
      around(onsets.low, middle),
      around(onsets.mid, middle),
      around(onsets.high, middle),
      distance(before, now, 0, BASS_BINS),
      distance(before, now, BASS_BINS, now.length),
      distance(pairs[Math.max(0, beat - 2)]!, pairs[beat]!, 0, BASS_BINS),
      distance(pairs[Math.max(0, beat - 2)]!, pairs[beat]!, BASS_BINS, now.length),
      loud[beat]! - (loud[beat - 1] ?? loud[beat]!),
    )
  })
  for (let column = 0; column < PER_BEAT; column++) {
    const mean = rows.reduce((sum, row) => sum + row[column]!, 0) / Math.max(1, count)
    const deviation =
      Math.sqrt(rows.reduce((sum, row) => sum + (row[column]! - mean) ** 2, 0) / Math.max(1, count)) + 1e-6
    for (const row of rows) row[column] = Math.max(-4, Math.min(4, (row[column]! - mean) / deviation))
  }
  return rows
}

/** What the network sees of a beat: it and its neighbours, silence beyond the ends. */
export function barInput(rows: readonly Float64Array[], beat: number): Float64Array {
  const input = new Float64Array(BAR_INPUTS)
  for (let k = -AROUND; k <= AROUND; k++) {
    const row = rows[beat + k]
    if (row) input.set(row, (k + AROUND) * PER_BEAT)
  }
  return input
}

const net = network(weights as NetWeights)
/** Log odds that each beat is the one. */
export const oneScores = (rows: readonly Float64Array[]): number[] =>
  rows.map((_, beat) => net(barInput(rows, beat))[0]!)

export interface PlaceInBar {
  place: number
  length: number
}
const LENGTHS = [4, 3, 2] as const
/**
 * Prior of each bar length for a song, and what it costs to leave the regular order and to change the meter
 * at a bar line.
 */
const LENGTH_PRIOR: Record<number, number> = { 4: 0, 3: -2.5, 2: -3.5 }
const SLIP = 9
const NEW_METER = 7
/** The network's odds are too sure of themselves when beats are counted as if independent. */
const TRUST = 0.55

/**
 * A person who fixes a one says that the network was wrong about the count: it is believed less, and the
 * count is kept longer, so that the whole song follows.
 */
const HUMBLED = 0.3
const STEADY = 5
const LOCKED = 30
const STEADY_METER = 4
/** A song played to a click was counted before it was played: its bars go wrong less often. */
const CLICK = 2
/** Cost a beat of another bar length than the one counted. */
const UNUSUAL = 0.7

/**
 * A beat that sounds like the one, but much less than those two beats before and after it, is the third of
 * four.
 */
const CLEARLY_LESS = 2.5
const DEMOTION = 4
const contrasted = (scores: readonly number[]): number[] =>
  scores.map((score, beat) => {
    const beside = [scores[beat - 2], scores[beat + 2]].filter(
      (value): value is number => value !== undefined,
    )
    return beside.length && beside.every((value) => score < value - CLEARLY_LESS) ? score - DEMOTION : score
  })

/** What is known of the bars before they are heard. */
interface BarsKnown {
  /** Beats that are the one, or are not: a condition, around which all else is found. */
  fixed: ReadonlyMap<number, boolean>
  /** How many beats a person counts to the bar. */
  usual: number | undefined
  /** The song was played to a click. */
  toClick: boolean
  /** What is fixed holds for the whole song, whatever it sounds like. */
  locked?: boolean
}
/** Place of each beat in its bar (0 = the one), by Viterbi over bars of four, three and two. */
export function placeInBar(
  scores: readonly number[],
  { fixed, usual, toClick, locked }: BarsKnown,
): PlaceInBar[] {
  const states = LENGTHS.flatMap((length) => Array.from({ length }, (_, place) => ({ place, length })))
  const [trust, slip, newMeterCost] = fixed.size
    ? [TRUST * HUMBLED, SLIP * (locked ? LOCKED : STEADY), NEW_METER * (locked ? LOCKED : STEADY_METER)]
    : [TRUST, SLIP * (toClick ? CLICK : 1), NEW_METER * (toClick ? CLICK : 1)]
  const odds = contrasted(scores)
  const logistic = (x: number): number => -Math.log1p(Math.exp(-x))
  const fit = (state: PlaceInBar, beat: number): number => {
    const known = fixed.get(beat)
    if (known !== undefined) return known === (state.place === 0) ? 0 : -1000
    return (
      trust * (state.place === 0 ? logistic(odds[beat]!) : logistic(-odds[beat]!)) +
      LENGTH_PRIOR[state.length]! / 16 -
      (usual !== undefined && state.length !== usual ? UNUSUAL : 0)
    )
  }
  let score = states.map((state) => LENGTH_PRIOR[state.length]!)
  const back: number[][] = []
  scores.forEach((_, beat) => {
    const from: number[] = []
    const next = states.map((state, to) => {
      let best = Number.NEGATIVE_INFINITY
      states.forEach((previous, index) => {
        const regular =
          previous.length === state.length && (previous.place + 1) % previous.length === state.place
        const newMeter =
          previous.length !== state.length && previous.place === previous.length - 1 && state.place === 0
        const irregular = newMeter ? newMeterCost : slip
        const value = score[index]! - (beat === 0 || regular ? 0 : irregular)
        if (value > best) {
          best = value
          from[to] = index
        }
      })
      return best + fit(state, beat)
    })
    back.push(from)
    score = next
  })
  let at = score.indexOf(Math.max(...score))
  const places: PlaceInBar[] = []
  for (let beat = scores.length - 1; beat >= 0; beat--) {
    places.push(states[at]!)
    at = back[beat]![at]!
  }
  return places.reverse()
}
