// Hearing a part of a stereo recording: a place in the field, a register, without drums or drums only, in any
// combination. Each is a mask over the short-time spectrum of both channels; masks multiply. Place: the share
// of a cell in left and right says where its source was panned (after Avendano and Jot, 2002). Steady and
// sudden sounds: medians along time and along frequency (FitzGerald, 2010). What is heard is the recording
// itself, with the rest turned down: nothing is made up.
import type { PackedFft } from '../features/packed-fft'

export interface Ears {
  /** Where a source sits, −1 left to 1 right, and how wide around it is still heard. */
  place?: { pan: number; width: number } | undefined
  /** All but the middle. */
  sides?: boolean | undefined
  /** Only what lies between two frequencies, Hz. */
  register?: { lowHz: number; highHz: number } | undefined
  drums?: 'without' | 'only' | undefined
}

export const EARS_SIZE = 4096
const HOP = EARS_SIZE / 2
/** What is masked away is still this loud: silence between sounds tires more than a trace of the band. */
const FLOOR = 0.03
/** Frames along time and bins along frequency for the medians, odd. */
const STEADY_FRAMES = 13
const SUDDEN_BINS = 25

/** A factor for every bin of every frame. */
export type Mask = Float32Array[]

const window = Float32Array.from({ length: EARS_SIZE }, (_, i) =>
  Math.sqrt(0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / EARS_SIZE)),
)
const BINS = EARS_SIZE / 2 + 1

function spectraOf(channel: Float32Array, fft: PackedFft): Float32Array[] {
  const frame = new Float32Array(EARS_SIZE)
  const frames: Float32Array[] = []
  for (let start = -HOP; start < channel.length; start += HOP) {
    for (let i = 0; i < EARS_SIZE; i++) frame[i] = (channel[start + i] ?? 0) * (window[i] ?? 0)
    const packed = new Float32Array(EARS_SIZE)
    fft.forward(frame, packed)
    frames.push(packed)
  }
  return frames
}

/** Magnitude of a bin of a packed spectrum: bins 0 and size/2 share the first pair. */
function magnitude(packed: Float32Array, bin: number): number {
  if (bin === 0) return Math.abs(packed[0] ?? 0)
  if (bin === EARS_SIZE / 2) return Math.abs(packed[1] ?? 0)
  return Math.hypot(packed[2 * bin] ?? 0, packed[2 * bin + 1] ?? 0)
}
function magnitudesOf(packed: readonly Float32Array[]): Float32Array[] {
  return packed.map((frame) => {
    const out = new Float32Array(BINS)
    for (let bin = 0; bin < BINS; bin++) out[bin] = magnitude(frame, bin)
    return out
  })
}

const bell = (distance: number, width: number): number => Math.exp(-0.5 * (distance / width) ** 2)

/** How much of a cell that lies at a place in the field is let through. */
function placeGain(pan: number, ears: Ears): number {
  const { place, sides } = ears
  const inside = place ? bell(Math.max(0, Math.abs(pan - place.pan) - place.width / 2), place.width / 2) : 1
  const aside = sides ? 1 - bell(pan, 0.18) : 1
  return inside * aside
}

/** From 0 to 1 over a third of an octave on either side of a border. */
const edge = (hz: number, borderHz: number): number =>
  borderHz <= 0 ? 1 : 1 / (1 + (borderHz / Math.max(1, hz)) ** 8)

function registerGain(hz: number, { register }: Ears): number {
  if (!register) return 1
  const { lowHz, highHz } = register
  return edge(hz, lowHz) * (1 - (Number.isFinite(highHz) ? edge(hz, highHz) : 0))
}

/** The middle one of an odd number of values, few enough to be put in order one by one; reorders them. */
function median(values: Float32Array): number {
  for (let i = 1; i < values.length; i++) {
    const value = values[i] ?? 0
    let at = i
    for (; at > 0 && (values[at - 1] ?? 0) > value; at--) values[at] = values[at - 1] ?? 0
    values[at] = value
  }
  return values[values.length >> 1] ?? 0
}

/** Higher up, where an ear tells less apart, neighbours share one answer. */
function stepAt(bin: number): number {
  if (bin < 256) return 1
  return bin < 768 ? 2 : 4
}

/** The share of each cell that is sudden: spread over frequencies rather than held in time. */
function suddenShare(levels: readonly Float32Array[]): Mask {
  const [half, reach] = [STEADY_FRAMES >> 1, SUDDEN_BINS >> 1]
  const along = new Float32Array(STEADY_FRAMES)
  const across = new Float32Array(SUDDEN_BINS)
  return levels.map((level, frame) => {
    const share = new Float32Array(BINS)
    for (let bin = 0; bin < BINS; bin += stepAt(bin)) {
      for (let i = -half; i <= half; i++) along[i + half] = levels[frame + i]?.[bin] ?? 0
      for (let i = -reach; i <= reach; i++) across[i + reach] = level[Math.abs(bin + i)] ?? 0
      const steady = median(along) ** 2
      const sudden = median(across) ** 2
      share.fill(sudden / (steady + sudden + 1e-12), bin, bin + stepAt(bin))
    }
    return share
  })
}

/** The factor for every cell of a recording. Levels are magnitudes of both channels, frame by frame. */
function maskOf(
  left: readonly Float32Array[],
  right: readonly Float32Array[],
  ears: Ears,
  sampleRate: number,
): Mask {
  const levels = left.map((frame, index) => frame.map((value, bin) => value + (right[index]?.[bin] ?? 0)))
  const sudden = ears.drums ? suddenShare(levels) : undefined
  const register = Float32Array.from({ length: BINS }, (_, bin) =>
    registerGain((bin * sampleRate) / EARS_SIZE, ears),
  )
  const placed = Boolean(ears.place ?? ears.sides)
  const none = new Float32Array(BINS)
  return levels.map((_, frame) => {
    const mask = register.slice()
    if (placed) placeInto(mask, left[frame] ?? none, right[frame] ?? none, ears)
    const share = sudden?.[frame]
    if (share) drumsInto(mask, share, ears)
    return mask.map((gain) => FLOOR + (1 - FLOOR) * gain)
  })
}
function placeInto(mask: Float32Array, left: Float32Array, right: Float32Array, ears: Ears): void {
  for (let bin = 0; bin < BINS; bin++)
    mask[bin] = (mask[bin] ?? 0) * placeGain(panOf(left[bin] ?? 0, right[bin] ?? 0), ears)
}
function drumsInto(mask: Float32Array, sudden: Float32Array, { drums }: Ears): void {
  for (let bin = 0; bin < BINS; bin++) {
    const share = sudden[bin] ?? 0
    mask[bin] = (mask[bin] ?? 0) * (drums === 'only' ? share : 1 - share)
  }
}
/** Where a cell lies, −1 to 1, for a source panned with constant power. */
const panOf = (left: number, right: number): number => (Math.atan2(right, left) * 4) / Math.PI - 1
function maskedSpectrum(packed: Float32Array, gains: Float32Array): Float32Array {
  const masked = new Float32Array(packed.length)
  masked[0] = (packed[0] ?? 0) * (gains[0] ?? 0)
  masked[1] = (packed[1] ?? 0) * (gains[BINS - 1] ?? 0)
  for (let bin = 1; bin < BINS - 1; bin++) {
    const gain = gains[bin] ?? 0
    masked[2 * bin] = (packed[2 * bin] ?? 0) * gain
    masked[2 * bin + 1] = (packed[2 * bin + 1] ?? 0) * gain
  }
  return masked
}

function applied(spectra: readonly Float32Array[], mask: Mask, length: number, fft: PackedFft): Float32Array {
  const out = new Float32Array(length)
  const frame = new Float32Array(EARS_SIZE)
  spectra.forEach((packed, index) => {
    const gains = mask[index]
    if (!gains) return
    const masked = maskedSpectrum(packed, gains)
    fft.inverse(masked, frame)
    const start = (index - 1) * HOP
    for (let i = 0; i < EARS_SIZE; i++) {
      const at = start + i
      if (at >= 0 && at < length) out[at] = (out[at] ?? 0) + (frame[i] ?? 0) * (window[i] ?? 0)
    }
  })
  return out
}

/** The mask that a recording gives for these ears; for measuring what it does to what is in it. */
export function earsMask(
  channels: readonly Float32Array[],
  ears: Ears,
  sampleRate: number,
  fft: PackedFft,
): Mask {
  const [left, right] = bothOf(channels)
  return maskOf(magnitudesOf(spectraOf(left, fft)), magnitudesOf(spectraOf(right, fft)), ears, sampleRate)
}
/** A sound as long as the recording the mask was made of, through the mask. */
export const throughMask = (channel: Float32Array, mask: Mask, fft: PackedFft): Float32Array =>
  applied(spectraOf(channel, fft), mask, channel.length, fft)

function bothOf(channels: readonly Float32Array[]): [Float32Array, Float32Array] {
  const left = channels[0] ?? new Float32Array(0)
  return [left, channels[1] ?? left]
}

/** A stretch of a recording through the ears, both channels. */
function heardThrough(
  [left, right]: [Float32Array, Float32Array],
  ears: Ears,
  sampleRate: number,
  fft: PackedFft,
): [Float32Array, Float32Array] {
  const spectra = { left: spectraOf(left, fft), right: spectraOf(right, fft) }
  const mask = maskOf(magnitudesOf(spectra.left), magnitudesOf(spectra.right), ears, sampleRate)
  return [applied(spectra.left, mask, left.length, fft), applied(spectra.right, mask, right.length, fft)]
}

/** A piece of a recording as it is heard, and where it lies, in samples. */
export interface HeardPiece {
  startFrame: number
  channels: [Float32Array, Float32Array]
}
const PIECE_SECONDS = 8
/** Around a piece, so that its borders hear what lies beyond them. */
const MARGIN_SECONDS = 0.6

/**
 * The recording through the ears, piece by piece, beginning with the one at `fromSeconds`: what is played
 * next is heard first.
 */
export function* earsPieces(
  channels: readonly Float32Array[],
  ears: Ears,
  { sampleRate, fromSeconds }: { sampleRate: number; fromSeconds: number },
  fft: PackedFft,
): Generator<HeardPiece> {
  const [left, right] = bothOf(channels)
  const piece = Math.round(PIECE_SECONDS * sampleRate)
  const margin = Math.round(MARGIN_SECONDS * sampleRate)
  const count = Math.ceil(left.length / piece)
  const first = Math.min(count - 1, Math.max(0, Math.floor((fromSeconds * sampleRate) / piece)))
  for (let number = 0; number < count; number++) {
    const start = ((first + number) % count) * piece
    const from = Math.max(0, start - margin)
    const end = Math.min(left.length, start + piece)
    const to = Math.min(left.length, end + margin)
    const heard = heardThrough([left.subarray(from, to), right.subarray(from, to)], ears, sampleRate, fft)
    yield {
      startFrame: start,
      channels: heard.map((channel) => channel.slice(start - from, end - from)) as [
        Float32Array,
        Float32Array,
      ],
    }
  }
}
