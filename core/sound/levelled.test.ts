import { describe, expect, it } from 'vitest'
import { AIM_DB, HIGHEST, levelTo } from './levelled'
import { loudnessOf } from './loudness'

const RATE = 22_050
/** A plucked note every so many seconds, for half a minute. */
function plucked(every: number, level: number): Float32Array {
  const sound = new Float32Array(30 * RATE)
  for (let start = 0; start < sound.length; start += Math.round(every * RATE))
    for (let at = 0; at < RATE && start + at < sound.length; at++)
      sound[start + at]! += level * Math.exp(-at / (0.06 * RATE)) * Math.sin((2 * Math.PI * 196 * at) / RATE)
  return sound
}
const top = (channel: Float32Array): number =>
  channel.reduce((most, value) => Math.max(most, Math.abs(value)), 0)

describe('a track brought to one loudness', () => {
  it.each([
    ['dense', 0.25, 0.2],
    ['as loud as full scale', 0.25, 1.4],
    ['half as dense', 0.5, 0.2],
    ['sparse', 0.7, 0.1],
  ])('%s is as loud as any other, and never at full scale', (_, every, level) => {
    const one = plucked(every, level)
    const channels = [one, one.slice()]
    levelTo(channels, RATE)
    expect(Math.abs(loudnessOf(channels, RATE) - AIM_DB)).toBeLessThan(1)
    expect(top(channels[0]!)).toBeLessThanOrEqual(HIGHEST + 1e-6)
  })
  it('stays silent where nothing sounds', () => {
    const channels = [new Float32Array(RATE), new Float32Array(RATE)]
    expect(levelTo(channels, RATE)).toBe(1)
    expect(top(channels[0]!)).toBe(0)
  })
})
