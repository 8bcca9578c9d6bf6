// What sits where: the energy of each bar left, right, in the centre, and low, so that "a guitar enters on
// the left at 0:21" can be suggested. Each bin of the spectrum is put to the side on which it is clearly
// louder (after the panning index of Avendano 2003, with magnitudes only).
import { greatestIndex } from 'd3-array'
import { checkpoint, type JobContext } from '../job'
import { binsNeeded, compressed, harmonicsOf, harmonicSum } from './harmonic-sum'
import type { MakeFft } from './spectrum'

const SIZE = 4096
/** A bar has ten of these or so: enough to tell whether somebody plays in it. */
const FRAMES_PER_SECOND = 5
export const PLACES = ['left', 'centre', 'right', 'low'] as const
export type Place = (typeof PLACES)[number]
/** Where single players sit, whose notes can be told. */
export const SIDES = ['left', 'right'] as const
export type Side = (typeof SIDES)[number]

/** At so many frames a second: decibels per place, and the strongest note of each side as a MIDI number. */
export interface Sides {
  framesPerSecond: number
  levels: Record<Place, Float32Array>
  notes: Record<Side, Uint8Array>
}

/**
 * Between these guitars and keys have most of their sound; above, cymbals and the room reach the sides, and
 * a player who rests seems to play.
 */
const LOW_HZ = 140
const HIGH_HZ = 2500
/** How much louder one side must be (as a share of both energies) to own a bin. */
const CLEAR = 0.45
/** Notes that are looked for on a side: from B0, five octaves up. */
const NOTES = { lowestMidi: 23, count: 60 }

/** Of the sum of both channels and their difference, each halved. Throws `Cancelled` when the job is. */
export async function measureSides(
  record: { middle: Float32Array; side: Float32Array; sampleRate: number; tuningCents: number },
  makeFft: MakeFft,
  job: JobContext,
): Promise<Sides> {
  const { middle, sampleRate, tuningCents } = record
  const fft = makeFft(SIZE)
  const hop = Math.round(sampleRate / FRAMES_PER_SECOND)
  const count = Math.max(1, Math.floor(middle.length / hop))
  const frame = new Float32Array(SIZE)
  const harmonics = harmonicsOf({ ...NOTES, tuningCents }, { size: SIZE, sampleRate })
  const needed = binsNeeded(harmonics)
  const both = { left: new Float32Array(needed), right: new Float32Array(needed) }
  const curve = (): Float32Array => new Float32Array(count)
  const levels = { left: curve(), centre: curve(), right: curve(), low: curve() }
  const notes = { left: new Uint8Array(count), right: new Uint8Array(count) }
  for (let t = 0; t < count; t++) {
    if (t % 200 === 0) await checkpoint(job, 'sides', t / count)
    for (const one of SIDES) {
      channelFrame(record, one, t * hop - SIZE / 2, frame)
      fft.hannMagnitudes(frame, 0, both[one])
    }
    const energies = shareOut(both, sampleRate)
    for (const place of PLACES) levels[place][t] = 10 * Math.log10(energies[place])
    for (const one of SIDES) {
      const compact = compressed(both[one], SIZE)
      const strengths = harmonics.map((own) => harmonicSum(compact, own))
      notes[one][t] = NOTES.lowestMidi + (greatestIndex(strengths) ?? 0)
    }
  }
  return { framesPerSecond: sampleRate / hop, levels, notes }
}

/** `out` = the samples of a channel from a place on, silence beyond the ends. */
function channelFrame(
  { middle, side }: { middle: Float32Array; side: Float32Array },
  channel: Side,
  start: number,
  out: Float32Array,
): void {
  const sign = channel === 'left' ? 1 : -1
  const first = Math.max(0, -start)
  const last = Math.min(out.length, middle.length - start)
  out.fill(0)
  for (let i = first; i < last; i++) out[i] = middle[start + i]! + sign * side[start + i]!
}

/** Where a bin sits whose energy is shared so: −1 left to 1 right. */
function placeAt(pan: number): Place {
  if (pan > CLEAR) return 'right'
  return pan < -CLEAR ? 'left' : 'centre'
}

/** The energy of each place in one frame; in `magnitudes` is left what each side has more than the other. */
function shareOut(magnitudes: Record<Side, Float32Array>, sampleRate: number): Record<Place, number> {
  const low = Math.round((LOW_HZ * SIZE) / sampleRate)
  const high = Math.round((HIGH_HZ * SIZE) / sampleRate)
  const energies = { left: 1e-9, centre: 1e-9, right: 1e-9, low: 1e-9 }
  const { left, right } = magnitudes
  for (let bin = 1; bin < left.length; bin++) {
    const [l, r] = [left[bin]! ** 2, right[bin]! ** 2]
    const pan = (r - l) / (l + r + 1e-12)
    const more = left[bin]! - right[bin]!
    left[bin] = Math.max(0, more)
    right[bin] = Math.max(0, -more)
    if (bin > high) continue
    if (bin < low) energies.low += l + r
    else energies[placeAt(pan)] += l + r
  }
  return energies
}
