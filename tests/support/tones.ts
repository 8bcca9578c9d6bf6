// Sounds with known answers, for tests of listening.
export const RATE = 22_050
export const hz = (midi: number): number => 440 * 2 ** ((midi - 69) / 12)

/** Repeatable noise between −1 and 1. */
export function noise(seed = 1): () => number {
  let state = seed
  return () => {
    state = (state * 16807) % 2147483647
    return state / 1073741823.5 - 1
  }
}
export const silence = (seconds: number): Float32Array => new Float32Array(Math.round(seconds * RATE))

export interface Pluck {
  midi: number
  start: number
  length: number
  loudness?: number
  /** Seconds to fall by 60 dB. */ decay?: number
  /** A burst of noise, as a pick makes. */ attack?: boolean
  /** Semitones reached by the end of the rise, and how long that takes. */ bend?: {
    semitones: number
    from: number
    to: number
  }
}
/** Adds a string-like note: eight decaying partials, softened at the start when not attacked. */
export function pluck(
  out: Float32Array,
  { midi, start, length, loudness = 0.3, decay = 3, attack = true, bend }: Pluck,
): void {
  const random = noise(Math.round(midi * 7 + start * 100) + 1)
  let phase = 0
  const first = Math.round(start * RATE)
  for (let i = 0; i < length * RATE && first + i < out.length; i++) {
    const t = i / RATE
    const raised = bend
      ? bend.semitones * Math.min(1, Math.max(0, (t - bend.from) / (bend.to - bend.from)))
      : 0
    phase += (2 * Math.PI * hz(midi + raised)) / RATE
    const fall = 10 ** ((-3 * t) / decay)
    const rise = attack ? Math.min(1, t / 0.002) : Math.min(1, t / 0.03)
    let value = 0
    for (let partial = 1; partial <= 8; partial++) value += Math.sin(phase * partial) / partial
    out[first + i]! +=
      loudness * fall * rise * value * 0.5 +
      (attack && t < 0.012 ? loudness * 1.2 * random() * (1 - t / 0.012) : 0)
  }
}
/** Kick on the ones and threes, snare on twos and fours, hats between, over `bars` bars; returns beats. */
export function drumKit(
  out: Float32Array,
  options: { bpm: number; start: number; beats: number; perBar?: number; swing?: number },
): number[] {
  const random = noise(7)
  const gap = 60 / options.bpm
  const hit = (at: number, kind: 'kick' | 'snare' | 'hat'): void => {
    const first = Math.round(at * RATE)
    const length = kind === 'kick' ? 0.18 : kind === 'snare' ? 0.14 : 0.04
    for (let i = 0; i < length * RATE && first + i < out.length; i++) {
      const fall = Math.exp((-5 * i) / (length * RATE))
      out[first + i]! +=
        fall *
        (kind === 'kick'
          ? 0.8 * Math.sin((2 * Math.PI * 58 * i) / RATE)
          : kind === 'snare'
            ? 0.45 * random()
            : 0.14 * random() * (i % 2 ? 1 : -1))
    }
  }
  const perBar = options.perBar ?? 4
  return Array.from({ length: options.beats }, (_, beat) => {
    const at = options.start + beat * gap
    hit(at, beat % perBar === 0 || (perBar === 4 && beat % 4 === 2) ? 'kick' : 'snare')
    hit(at, 'hat')
    hit(at + gap * (options.swing ?? 0.5), 'hat')
    return at
  })
}
/** A chord of plucked strings. */
export const strum = (out: Float32Array, midis: readonly number[], start: number, length: number): void =>
  midis.forEach((midi, index) => pluck(out, { midi, start: start + index * 0.008, length, loudness: 0.13 }))
