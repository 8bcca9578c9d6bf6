// Sound brought to one loudness: turned up or down as a whole, and where single peaks would then leave the
// full scale, these alone held down for a moment, so that sparse playing is as loud as dense.
import { loudnessOf } from './loudness'

/** Loudness aimed at (ITU-R BS.1770, LUFS) and the highest sample, of full scale. */
export const AIM_DB = -16
export const HIGHEST = 0.89
/** No peak is held down to less than half: an accent stays one. */
const MOST_HELD = 2
/** Peaks are seen so long before they come, and let go of so slowly after. */
const AHEAD_SECONDS = 0.004
const RELEASE_SECONDS = 0.09
/** What is held down loses loudness, which is made up for; after a few rounds little is left to gain. */
const ROUNDS = 3
const NEAR_DB = 0.2

/** Levels channels in place, in time with each other. Returns the gain of what was not held down. */
export function levelTo(channels: readonly Float32Array[], sampleRate: number): number {
  const most = (MOST_HELD * HIGHEST) / Math.max(1e-9, peakOf(channels))
  let all = 1
  for (let round = 0; round < ROUNDS; round++) {
    const off = AIM_DB - loudnessOf(channels, sampleRate)
    if (!Number.isFinite(off) || (Math.abs(off) < NEAR_DB && peakOf(channels) <= HIGHEST)) break
    const gain = Math.min(most / all, 10 ** (off / 20))
    all *= gain
    // By index throughout: walking minutes of samples by iterators takes minutes.
    for (const channel of channels)
      for (let at = 0; at < channel.length; at++) channel[at] = (channel[at] ?? 0) * gain
    holdDown(channels, sampleRate)
  }
  return all
}

function peakOf(channels: readonly Float32Array[]): number {
  let top = 0
  for (const channel of channels)
    for (let at = 0; at < channel.length; at++) top = Math.max(top, Math.abs(channel[at] ?? 0))
  return top
}

/** For each frame the gain at which its highest sample stays within bounds. */
function neededGains(channels: readonly Float32Array[]): Float32Array {
  const needed = new Float32Array(channels[0]?.length ?? 0).fill(1)
  for (const channel of channels)
    for (let at = 0; at < channel.length; at++) {
      const value = Math.abs(channel[at] ?? 0)
      if (value > HIGHEST) needed[at] = Math.min(needed[at] ?? 1, HIGHEST / value)
    }
  return needed
}

/** A limiter: a gain that is down before a peak comes and slowly up again after it. */
function holdDown(channels: readonly Float32Array[], sampleRate: number): void {
  if (peakOf(channels) <= HIGHEST) return
  const needed = neededGains(channels)
  const release = 1 - Math.exp(-1 / (RELEASE_SECONDS * sampleRate))
  // From the end: before each peak the gain has been brought down in a straight line.
  const fall = 1 / Math.max(1, Math.round(AHEAD_SECONDS * sampleRate))
  for (let at = needed.length - 2; at >= 0; at--)
    needed[at] = Math.min(needed[at] ?? 1, (needed[at + 1] ?? 1) + fall)
  let gain = 1
  for (let at = 0; at < needed.length; at++) {
    gain = Math.min(needed[at] ?? 1, gain + (1 - gain) * release)
    for (const channel of channels) channel[at] = (channel[at] ?? 0) * gain
  }
}
