// How far a note is bent: its partials are followed one by one from where it is written, and believed where
// they agree.
// Each note of a band has its own partials; only those of the note itself move together.
import { median } from 'd3-array'
import { frameSize, type MakeFft } from '../features/spectrum'
import { hzOf, type Answer, type Listened } from './evidence'

const FRAME_SECONDS = 0.093
const HOP_SECONDS = 0.02
/** Partials that are followed lie between these: under, a quarter tone is less than a bin; over, noise. */
const LOWEST_HZ = 230
const HIGHEST_HZ = 4500
const MOST_PARTIALS = 6
/** From one look to the next a partial goes at most so far, cents. */
const FARTHEST_STEP = 90
/** A note begins where it is written, or up to so much above: struck when already bent. */
const HIGHEST_START = 420
const NEAR_START = 55
/** A partial stands out from what is around it by this factor. */
const PROMINENT = 2.5
/** Two partials agree within so many cents. */
const SAME_CENTS = 22
/** At least this share of the looks must have partials that agree. */
const LEAST_AGREEING = 0.7
const LEAST_PARTIALS = 3
const BENT_CENTS = 35
/** So many of the partials where the note is written, and it was not bent. */
const STAYING = 0.3
/** The room keeps what a bend has left: it is weaker than this share of the bent tone. */
const STRONG = 0.4

type Track = { seconds: number; cents: number }[]

/** Looks through the spectrum around one partial. */
interface Partial {
  /** Cents of the peak nearest to `near` within `reach`; undefined where none stands out. */
  peak: (magnitudes: Float32Array, near: number, reach: number) => number | undefined
  level: (magnitudes: Float32Array, cents: number) => number
}

function partialAt(hertz: number, sampleRate: number): Partial {
  const size = frameSize(FRAME_SECONDS, sampleRate)
  const binOf = (cents: number): number => (hertz * 2 ** (cents / 1200) * size) / sampleRate
  return {
    level: (magnitudes, cents) => magnitudes[Math.round(binOf(cents))] ?? 0,
    peak(magnitudes, near, reach) {
      const low = Math.max(2, Math.floor(binOf(near - reach)))
      const high = Math.min(magnitudes.length - 3, Math.ceil(binOf(near + reach)))
      let best = low
      for (let bin = low; bin <= high; bin++) if (magnitudes[bin]! > magnitudes[best]!) best = bin
      const level = magnitudes[best]!
      const around = Math.min(magnitudes[best - 3] ?? level, magnitudes[best + 3] ?? level)
      const isPeak = level >= magnitudes[best - 1]! && level >= magnitudes[best + 1]!
      if (!isPeak || level < 0.02 || level < PROMINENT * around) return undefined
      const [a, b, c] = [best - 1, best, best + 1].map((bin) => Math.log(magnitudes[bin]! + 1e-12)) as [
        number,
        number,
        number,
      ]
      const exact = best + (0.5 * (a - c)) / (a - 2 * b + c)
      return 1200 * Math.log2((exact * sampleRate) / size / hertz)
    },
  }
}

/** One partial followed through all looks; where it is lost it is looked for where it was last. */
function followed(partial: Partial, looks: readonly Float32Array[], start: number): (number | undefined)[] {
  let at = start
  return looks.map((magnitudes) => {
    const found = partial.peak(magnitudes, at, FARTHEST_STEP)
    if (found !== undefined) at = found
    return found
  })
}

/** Where most of the partials are at each look; undefined where too few agree. */
function agreed(tracks: readonly (number | undefined)[][], look: number): number | undefined {
  const values = tracks.flatMap((track) => track[look] ?? [])
  const middle = median(values)
  if (middle === undefined) return undefined
  const near = values.filter((value) => Math.abs(value - middle) <= SAME_CENTS)
  return near.length >= LEAST_PARTIALS ? median(near) : undefined
}

/** The furthest deviation that lasts: the median of five neighbours, so that a misread look is no bend. */
function furthestSteady(track: Track): number {
  let value = 0
  for (let k = 2; k < track.length - 2; k++) {
    const local = median(track.slice(k - 2, k + 3), ({ cents }) => cents) ?? 0
    if (Math.abs(local) > Math.abs(value)) value = local
  }
  return value
}

/** How far a note is bent: `value` is the furthest deviation that lasts, in cents from the written pitch. */
export function bendOf(
  place: Listened,
  midi: number,
  span: { start: number; end: number },
  makeFft: MakeFft,
): Answer<'bent' | 'straight'> & { track: Track } {
  const unit = 'cents'
  const looks = looksOf(place, span, makeFft)
  const base = hzOf(midi, place.tuningCents)
  const partials = Array.from({ length: 12 }, (_, index) => base * (index + 1))
    .filter((hertz) => hertz >= LOWEST_HZ && hertz <= Math.min(HIGHEST_HZ, place.sampleRate / 2.2))
    .slice(0, MOST_PARTIALS)
    .map((hertz) => partialAt(hertz, place.sampleRate))
  const best = [0, 100, 200, 300, HIGHEST_START - NEAR_START]
    .filter((start) => begins(partials, looks, start))
    .map((start) => tracked(partials, looks, start, span.start))
    .at(0)
  const track = best ?? []
  if (track.length < Math.max(5, LEAST_AGREEING * looks.length))
    return {
      verdict: 'cannot tell',
      value: 0,
      unit,
      why: 'no pitch is heard there long enough, or other notes lie over it',
      track,
    }
  const value = furthestSteady(track)
  if (Math.abs(value) > BENT_CENTS && stays(partials, looks, track, span.start))
    return {
      verdict: 'cannot tell',
      value,
      unit,
      why: 'something else sounds above it while it stays where it is written',
      track,
    }
  return {
    verdict: Math.abs(value) > BENT_CENTS ? 'bent' : 'straight',
    value,
    unit,
    why: `from ${Math.round(track[0]!.cents)} to ${Math.round(value)} cents off the written pitch`,
    track,
  }
}

/** Whether partials still stand where the note is written while it is said to be bent. */
function stays(
  partials: readonly Partial[],
  looks: readonly Float32Array[],
  track: Track,
  from: number,
): boolean {
  const bent = track.filter(({ cents }) => Math.abs(cents) > BENT_CENTS + SAME_CENTS)
  const staying = bent.map(({ seconds, cents }) => {
    const magnitudes = looks[Math.round((seconds - from) / HOP_SECONDS)]!
    const there = partials.filter((partial) => {
      const found = partial.peak(magnitudes, 0, SAME_CENTS)
      const written = found !== undefined && Math.abs(found) <= SAME_CENTS
      return written && partial.level(magnitudes, 0) > STRONG * partial.level(magnitudes, cents)
    })
    return there.length / Math.max(1, partials.length)
  })
  return (median(staying) ?? 0) >= STAYING
}

function looksOf(
  { mono, sampleRate }: Listened,
  span: { start: number; end: number },
  makeFft: MakeFft,
): Float32Array[] {
  const size = frameSize(FRAME_SECONDS, sampleRate)
  const fft = makeFft(size)
  const count = Math.max(0, Math.floor((span.end - span.start) / HOP_SECONDS))
  return Array.from({ length: count }, (_, index) => {
    const centre = Math.round((span.start + index * HOP_SECONDS) * sampleRate)
    const magnitudes = new Float32Array(size / 2 + 1)
    fft.hannMagnitudes(mono, centre - size / 2, magnitudes)
    return magnitudes
  })
}

/** Whether enough partials stand there among the first looks. */
function begins(partials: readonly Partial[], looks: readonly Float32Array[], start: number): boolean {
  return looks.slice(0, 6).some((magnitudes) => {
    const near = partials.filter((partial) => {
      const found = partial.peak(magnitudes, start, NEAR_START)
      return found !== undefined && Math.abs(found - start) <= NEAR_START
    })
    return near.length >= LEAST_PARTIALS
  })
}

function tracked(
  partials: readonly Partial[],
  looks: readonly Float32Array[],
  start: number,
  from: number,
): Track {
  const tracks = partials.map((partial) => followed(partial, looks, start))
  return looks.flatMap((_, look) => {
    const cents = agreed(tracks, look)
    return cents === undefined ? [] : [{ seconds: from + look * HOP_SECONDS, cents }]
  })
}
