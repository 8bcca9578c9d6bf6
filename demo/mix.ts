// Stems to a mastered stereo file: places, a room, glue, level.
import type { Bank } from '../core/sound/bank'
import { renderEvents } from '../core/sound/player'
import { amplified } from './amplifier'
import type { Stem } from './perform-band'

export interface MixOptions {
  sampleRate: number
  seconds: number
  targetRms: number
  drive: number
  reverbSeconds: number
}

const COMBS = [1116, 1188, 1277, 1356, 1422, 1491]
const ALLPASSES = [556, 441, 341]

/**
 * Reverberation by parallel combs and series all-passes (Schroeder 1962, tunings in the manner of later
 * practice), darkened in the loop.
 */
function room(input: Float32Array, seconds: number, sampleRate: number, spread: number): Float32Array {
  const out = new Float32Array(input.length)
  for (const comb of COMBS) {
    const length = Math.round(((comb + spread) * sampleRate) / 44_100)
    const line = new Float32Array(length)
    const feedback = 10 ** ((-3 * length) / (seconds * sampleRate))
    let dark = 0
    for (let i = 0, at = 0; i < input.length; i++) {
      const value = line[at]!
      dark = value * 0.75 + dark * 0.25
      line[at] = input[i]! + dark * feedback
      out[i]! += value / COMBS.length
      at = at + 1 === length ? 0 : at + 1
    }
  }
  for (const pass of ALLPASSES) {
    const length = Math.round(((pass + spread) * sampleRate) / 44_100)
    const line = new Float32Array(length)
    for (let i = 0, at = 0; i < out.length; i++) {
      const held = line[at]!
      const value = out[i]! + held * 0.5
      line[at] = value
      out[i] = held - value * 0.5
      at = at + 1 === length ? 0 : at + 1
    }
  }
  return out
}

export function mix(bank: Bank, stems: readonly Stem[], options: MixOptions): [Float32Array, Float32Array] {
  const frames = Math.ceil(options.seconds * options.sampleRate)
  const left = new Float32Array(frames)
  const right = new Float32Array(frames)
  const send = new Float32Array(frames)
  for (const stem of stems) {
    const dry = renderEvents(bank, stem.events, options)
    const mono = stem.amplifier ? amplified(dry, stem.amplifier, options.sampleRate) : dry
    const angle = ((stem.pan + 1) * Math.PI) / 4
    const [gainLeft, gainRight] = [Math.cos(angle) * stem.gain * 1.414, Math.sin(angle) * stem.gain * 1.414]
    for (let i = 0; i < frames; i++) {
      left[i]! += mono[i]! * gainLeft
      right[i]! += mono[i]! * gainRight
      send[i]! += mono[i]! * stem.gain * stem.room
    }
  }
  const wet = [
    room(send, options.reverbSeconds, options.sampleRate, 0),
    room(send, options.reverbSeconds, options.sampleRate, 23),
  ] as const
  const channels = [left, right] as const
  let energy = 0
  for (const [side, channel] of channels.entries())
    for (let i = 0; i < frames; i++) {
      channel[i]! += wet[side]![i]!
      energy += channel[i]! ** 2
    }
  const gain = (options.targetRms / Math.sqrt(energy / (2 * frames))) * options.drive
  // Soft limiting: loud places are pressed together, never over full scale.
  for (const channel of channels)
    for (let i = 0; i < frames; i++) channel[i] = 0.96 * Math.tanh(channel[i]! * gain)
  return [left, right]
}
