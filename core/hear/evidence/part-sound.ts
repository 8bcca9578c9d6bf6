// What of a stereo piece belongs to a player: the channel in which he sits; and what that has more than the
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

/** The channel in which a player sits, or both; `pan` from −1 left to 1 right. */
export function nearSound(channels: readonly Float32Array[], pan: number): Float32Array {
  const [left = new Float32Array(0), right] = channels
  if (!right) return left
  if (Math.abs(pan) >= MIDDLE_PAN) return pan < 0 ? left : right
  const both = new Float32Array(left.length)
  for (let i = 0; i < left.length; i++) both[i] = 0.5 * (left[i]! + right[i]!)
  return both
}

/** What a player's side has more than the other; as `nearSound` where he sits in the middle. */
export function partSound(channels: readonly Float32Array[], pan: number): Float32Array {
  const [left, right] = channels
  const near = nearSound(channels, pan)
  if (!left || !right || Math.abs(pan) < MIDDLE_PAN) return near
  const far = pan < 0 ? right : left
  const apart = new Float32Array(near.length)
  for (let i = 0; i < near.length; i++) apart[i] = near[i]! - far[i]!
  return energy(apart) >= EMPTY_SHARE * energy(near) ? apart : near
}
