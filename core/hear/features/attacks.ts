// Attacks at the recording's own rate, where they are sharpest: how much the energy of the second difference
// rises. Clicks, picks and sticks bend the signal most.

/** Attacks are counted so many times a second. */
export const ATTACK_RATE = 200
const STEEPEST = 3

export interface AttackMeter {
  take: (samples: Float32Array) => void
  /** What was taken so far, ATTACK_RATE values a second; a stretch begun is not among them. */
  rises: () => Float32Array
}

export function attackMeter(sampleRate: number): AttackMeter {
  const hop = sampleRate / ATTACK_RATE
  const rises: number[] = []
  let [first, second] = [0, 0]
  let place = 0
  let energy = 0
  let before = 0
  let end = Math.round(hop)
  const close = (): void => {
    const level = Math.log(energy / hop + 1e-9)
    rises.push(rises.length === 0 ? 0 : Math.min(STEEPEST, Math.max(0, level - before)))
    before = level
    energy = 0
    end = Math.round((rises.length + 1) * hop)
  }
  return {
    take(samples) {
      // Every sample of a record passes here: plain indices, and what changes kept at hand.
      for (let from = 0; from < samples.length;) {
        const until = Math.min(samples.length, from + end - place)
        let [x, y, bent] = [first, second, energy]
        for (let i = from; i < until; i++) {
          const value = samples[i]!
          const bend = value - 2 * x + y
          bent += bend * bend
          y = x
          x = value
        }
        place += until - from
        from = until
        ;[first, second, energy] = [x, y, bent]
        if (place === end) close()
      }
    },
    rises: () => Float32Array.from(rises),
  }
}
