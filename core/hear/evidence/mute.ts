// Is a note cut short by the hand, or does it ring? Its partials are watched one by one: all of a muted note
// fall together; where some fall and some stay, another player sounds there and it cannot be told.
import { median } from 'd3-array'
import { frameSize, type MakeFft } from '../features/spectrum'
import { hzOf, type Answer, type Listened } from './evidence'

const FRAME_SECONDS = 0.046
const HOP_SECONDS = 0.012
const PARTIALS = 8
/** Partials are told apart from this frequency on. */
const LOWEST_HZ = 70
const HIGHEST_HZ = 4000
/** Heard at its beginning: so much over what was there before. */
const ENTERS_DB = 6
/** A muted note has fallen so far after SETTLED_SECONDS; one that rings, at most so far. */
const MUTED_DB = 15
const RINGS_DB = 7
const SETTLED_SECONDS = 0.2
/** Of the partials that enter, so many must say the same. */
const AGREEING = 0.75
const LEAST_PARTIALS = 2

/** Decibels of each partial at a moment. */
function partialLevels(place: Listened, midi: number, makeFft: MakeFft): (at: number) => number[] {
  const size = frameSize(FRAME_SECONDS, place.sampleRate)
  const fft = makeFft(size)
  const magnitudes = new Float32Array(size / 2 + 1)
  const base = hzOf(midi, place.tuningCents)
  const bins = Array.from({ length: PARTIALS }, (_, index) => base * (index + 1))
    .filter((hertz) => hertz > LOWEST_HZ && hertz < Math.min(HIGHEST_HZ, place.sampleRate / 2.2))
    .map((hertz) => Math.round((hertz * size) / place.sampleRate))
  return (at) => {
    fft.hannMagnitudes(place.mono, Math.round(at * place.sampleRate) - size / 2, magnitudes)
    return bins.map((bin) => {
      const level = Math.max(magnitudes[bin - 1]!, magnitudes[bin]!, magnitudes[bin + 1]!)
      return 20 * Math.log10(level + 1e-6)
    })
  }
}

/** `value` is how far the partials that enter have fallen after two tenths of a second, in decibels. */
export function isMutedShort(
  place: Listened,
  midi: number,
  { start: atSeconds, end: untilSeconds }: { start: number; end: number },
  makeFft: MakeFft,
): Answer<'short' | 'rings'> {
  const unit = 'dB'
  const cannot = (why: string): Answer<'short' | 'rings'> => ({ verdict: 'cannot tell', value: 0, unit, why })
  if (untilSeconds - atSeconds < SETTLED_SECONDS + 0.05) return cannot('the next note comes too soon')
  const levels = partialLevels(place, midi, makeFft)
  const before = levels(atSeconds - 0.04)
  const early = [0.02, 0.035, 0.05, 0.065].map((after) => levels(atSeconds + after))
  const late = [0, HOP_SECONDS, 2 * HOP_SECONDS].map((after) => levels(atSeconds + SETTLED_SECONDS + after))
  const falls = before.flatMap((level, partial) => {
    const peak = Math.max(...early.map((look) => look[partial]!))
    return peak - level >= ENTERS_DB && peak > -60 ? [peak - median(late, (look) => look[partial]!)!] : []
  })
  if (falls.length < LEAST_PARTIALS) return cannot('no such note is heard to begin there')
  const value = median(falls)!
  const share = (fits: (fall: number) => boolean): number => falls.filter(fits).length / falls.length
  const why = `two tenths of a second later it is ${value.toFixed(0)} dB softer`
  if (share((fall) => fall >= MUTED_DB) >= AGREEING) return { verdict: 'short', value, unit, why }
  if (share((fall) => fall <= RINGS_DB) >= AGREEING) return { verdict: 'rings', value, unit, why }
  return { verdict: 'cannot tell', value, unit, why: `${why}, but not all of it` }
}
