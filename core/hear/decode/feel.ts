// How the beat is divided: in two, swung or straight, or in three.
import type { OnsetStrength } from '../features/onset-strength'

const PLACES = 48
export interface Division {
  /**
   * Where the second half of a beat begins, 0.5 = straight; undefined when nothing is struck there or the
   * beat is in three.
   */
  swing: number | undefined
  compound: boolean
}

/** Strength of onsets over the beat, PLACES places, from beats in seconds. */
function profile(beats: readonly number[], onsets: OnsetStrength): Float64Array {
  const out = new Float64Array(PLACES)
  const rate = onsets.framesPerSecond
  for (let beat = 0; beat + 1 < beats.length; beat++) {
    const gap = beats[beat + 1]! - beats[beat]!
    if (gap > 2) continue
    for (let place = 0; place < PLACES; place++) {
      const at = (beats[beat]! + (gap * place) / PLACES) * rate
      const frame = Math.floor(at)
      const share = at - frame
      out[place]! += (onsets.all[frame] ?? 0) * (1 - share) + (onsets.all[frame + 1] ?? 0) * share
    }
  }
  return out
}
/** Eighths that open a group of three, three and two; and those of plain beats. */
const THREES = [0, 3, 6]
const TWOS = [0, 2, 4, 6]
/** How much better the groups of three must explain the accents. */
const CLEARLY = 0.35

/**
 * "3+3+2" when accents over each four beats fall in threes rather than on the beats; undefined when they do
 * not. Beats in seconds, from a one.
 */
export function groupingOf(beats: readonly number[], onsets: OnsetStrength): string | undefined {
  const accents = new Float64Array(8)
  for (let beat = 0; beat + 4 < beats.length; beat += 4)
    for (let step = 0; step < 8; step++) {
      const [a, b] = [beats[beat + (step >> 1)]!, beats[beat + (step >> 1) + 1]!]
      const frame = Math.round((a + (step % 2 ? (b - a) / 2 : 0)) * onsets.framesPerSecond)
      let top = 0
      for (let t = frame - 3; t <= frame + 4; t++)
        top = Math.max(top, (onsets.low[t] ?? 0) + (onsets.mid[t] ?? 0))
      accents[step]! += top
    }
  const mean = (steps: number[]): number =>
    steps.reduce((sum, step) => sum + accents[step]!, 0) / steps.length
  const lean = (group: number[]): number =>
    (mean(group) - mean([0, 1, 2, 3, 4, 5, 6, 7].filter((step) => !group.includes(step)))) /
    (mean([0, 1, 2, 3, 4, 5, 6, 7]) + 1e-6)
  return beats.length > 12 && lean(THREES) > lean(TWOS) + CLEARLY ? '3+3+2' : undefined
}

const peak = (values: Float64Array, from: number, to: number): { place: number; value: number } => {
  let best = { place: from, value: 0 }
  for (let place = Math.round(from * PLACES); place <= Math.round(to * PLACES); place++)
    if (values[place]! > best.value) best = { place: place / PLACES, value: values[place]! }
  return best
}

export function divisionOf(beats: readonly number[], onsets: OnsetStrength): Division {
  if (beats.length < 5) return { swing: undefined, compound: false }
  const values = profile(beats, onsets)
  const floor = [...values].sort((a, b) => a - b)[Math.floor(PLACES * 0.3)]!
  const third = peak(values, 0.28, 0.39).value - floor
  const late = peak(values, 0.6, 0.72).value - floor
  const half = peak(values, 0.46, 0.56).value - floor
  if (third > 0.5 * late && third > 1.15 * half && late > 1.15 * half)
    return { swing: undefined, compound: true }
  const offbeat = peak(values, 0.46, 0.72)
  const top = peak(values, 0, 0.1).value - floor
  if (offbeat.value - floor < 0.12 * top) return { swing: undefined, compound: false }
  // Centre of the hill around the strongest place.
  let moment = 0
  let mass = 1e-9
  for (let k = -2; k <= 2; k++) {
    const at = Math.round(offbeat.place * PLACES) + k
    const weight = Math.max(0, (values[at] ?? 0) - floor)
    moment += weight * at
    mass += weight
  }
  return { swing: Math.round((moment / mass / PLACES) * 100) / 100, compound: false }
}
