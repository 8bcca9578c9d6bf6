// What of a stereo piece belongs to a player: who sits at a side is heard in what that side has more than the
// other, where voice, bass and drums in the middle cancel out.

/** Nearer to the middle than this a player is heard in both channels. */
const MIDDLE_PAN = 0.15
/** Below this share of the side's energy the difference holds nobody: then the side itself is listened to. */
const EMPTY_SHARE = 0.02

const energy = (samples: Float32Array): number => {
  let sum = 0
  for (let i = 0; i < samples.length; i++) sum += samples[i]! ** 2
  return sum
}

/** `pan` from −1 left to 1 right; one channel is given back as it is. */
export function partSound(channels: readonly Float32Array[], pan: number): Float32Array {
  const [left = new Float32Array(0), right] = channels
  if (!right) return left
  const sum = new Float32Array(left.length)
  if (Math.abs(pan) < MIDDLE_PAN) {
    for (let i = 0; i < left.length; i++) sum[i] = 0.5 * (left[i]! + right[i]!)
    return sum
  }
  const [near, far] = pan < 0 ? [left, right] : [right, left]
  for (let i = 0; i < near.length; i++) sum[i] = near[i]! - far[i]!
  return energy(sum) >= EMPTY_SHARE * energy(near) ? sum : near
}
