// Where there is a pulse at all.
import type { BeatTrack } from './beats'
import type { OnsetStrength } from './onsets'

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
