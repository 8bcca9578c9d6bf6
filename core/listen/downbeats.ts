// Which beats are "the one", and where there is no pulse at all.
import type { BeatTrack } from './beats'
import type { OnsetStrength } from './onsets'

export interface BeatFeatures { low: number; high: number; change: number; all: number }

/** Strengths around each beat, scaled to their means. */
export function beatFeatures(track: BeatTrack, onsets: OnsetStrength): BeatFeatures[] {
  const around = (curve: Float32Array, frame: number): number => {
    let best = 0
    for (let t = Math.max(0, Math.round(frame) - 4); t <= Math.min(curve.length - 1, Math.round(frame) + 6); t++) best = Math.max(best, curve[t]!)
    return best
  }
  const features = track.beatFrames.map((frame) => ({ low: around(onsets.low, frame), high: around(onsets.high, frame), change: around(onsets.change, frame), all: around(onsets.all, frame) }))
  const mean = (name: keyof BeatFeatures): number => features.reduce((sum, feature) => sum + feature[name], 0) / Math.max(1, features.length) || 1
  const means = { low: mean('low'), high: mean('high'), change: mean('change'), all: mean('all') }
  return features.map((feature) => ({ low: feature.low / means.low, high: feature.high / means.high, change: feature.change / means.change, all: feature.all / means.all }))
}

const BAR_LENGTHS = [4, 3] as const
/** Cost of leaving the regular order of beats, and of going to the other bar length at a bar line. */
const SLIP = 14
const NEW_METER = 9

/**
 * Place of each beat in its bar (0 = the one) by Viterbi over bars of four and three. The one has the harmony change and the kick, the second and
 * fourth of four have the snare; slips of the order cost much, so a lost beat is followed but a fill is not.
 */
export function placeInBar(features: readonly BeatFeatures[]): { place: number; length: number }[] {
  const states = BAR_LENGTHS.flatMap((length) => Array.from({ length }, (_, place) => ({ place, length })))
  const fit = (state: { place: number; length: number }, feature: BeatFeatures): number => {
    const backbeat = feature.high - 0.6 * feature.low
    if (state.place === 0) return 1.5 * Math.min(3, feature.change) + 0.8 * feature.low - 0.8 * backbeat
    if (state.length === 4 && state.place % 2 === 1) return 0.8 * backbeat - 0.25 * Math.min(3, feature.change)
    return (state.length === 4 ? 0.3 * Math.min(3, feature.change) : 0) - 0.15
  }
  let score = states.map((state) => (state.length === 4 ? 0 : -NEW_METER))
  const back: number[][] = []
  for (const feature of features) {
    const from: number[] = []
    const next = states.map((state, to) => {
      let best = Number.NEGATIVE_INFINITY
      states.forEach((previous, index) => {
        const regular = previous.length === state.length && (previous.place + 1) % previous.length === state.place
        const newMeter = previous.length !== state.length && previous.place === previous.length - 1 && state.place === 0
        const value = score[index]! - (regular ? 0 : newMeter ? NEW_METER : SLIP)
        if (value > best) { best = value; from[to] = index }
      })
      return best + fit(state, feature)
    })
    back.push(from)
    score = next
  }
  let at = score.indexOf(Math.max(...score))
  const places: { place: number; length: number }[] = []
  for (let index = features.length - 1; index >= 0; index--) { places.push(states[at]!); at = back[index]![at]! }
  return places.reverse()
}

/** First and one-past-last beat of the stretch that has a pulse: outside it onsets do not agree with the beats or nothing sounds. */
export function pulsedRange(track: BeatTrack, onsets: OnsetStrength): [number, number] {
  const { beatFrames } = track
  const strength = beatFrames.map((frame) => {
    let best = 0
    for (let t = Math.max(0, Math.round(frame) - 2); t <= Math.min(onsets.all.length - 1, Math.round(frame) + 2); t++) best = Math.max(best, onsets.all[t]! + onsets.low[t]!)
    return best
  })
  const typical = [...strength].sort((a, b) => a - b)[strength.length >> 1] ?? 0
  const clear = (index: number): boolean => strength[index]! > 0.42 * typical
  const runOf = (from: number, step: 1 | -1): number => {
    for (let at = from; at >= 0 && at < strength.length; at += step) {
      const window = Array.from({ length: 6 }, (_, k) => at + k * step).filter((index) => index >= 0 && index < strength.length)
      if (clear(at) && window.filter(clear).length >= Math.min(window.length, 5)) return at
    }
    return from
  }
  const start = runOf(0, 1)
  const end = runOf(strength.length - 1, -1) + 1
  return start < end ? [start, end] : [0, strength.length]
}
