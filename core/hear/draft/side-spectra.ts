// The spectra of one player of a stereo record: of each bin what is on the player's side (after the panning
// index of Avendano 2003), looked at often and briefly.
import { checkpoint, type JobContext } from '../job'
import { frameSize, type MakeFft } from '../features/spectrum'

export const DRAFT_SIDES = ['left', 'right', 'centre', 'all'] as const
export type DraftSide = (typeof DRAFT_SIDES)[number]

export interface SideSpectra {
  /** Magnitudes, frame t centred at t / framesPerSecond from the beginning of the piece. */
  frames: Float32Array[]
  framesPerSecond: number
  size: number
  sampleRate: number
}

/** What stands nearly in the middle is everybody's room. */
const CLEAR = 0.2
const cleared = (pan: number): number => Math.max(0, (pan - CLEAR) / (1 - CLEAR))

/** How much of a bin belongs to a side: `pan` is −1 left to 1 right. */
const SHARE: Record<DraftSide, (pan: number) => number> = {
  left: (pan) => cleared(-pan),
  right: (pan) => cleared(pan),
  centre: (pan) => Math.max(0, 1 - 2 * Math.abs(pan)),
  all: () => 1,
}

/** Throws `Cancelled` when the job is. Mono is all of it, whatever side is asked for. */
export async function sideSpectra(
  { channels, sampleRate }: { channels: readonly Float32Array[]; sampleRate: number },
  wish: { side: DraftSide; windowSeconds: number; hopSeconds: number },
  makeFft: MakeFft,
  job: JobContext,
): Promise<SideSpectra> {
  const [left = new Float32Array(0), right] = channels
  const size = frameSize(wish.windowSeconds, sampleRate)
  const fft = makeFft(size)
  const [l, r] = [new Float32Array(size / 2 + 1), new Float32Array(size / 2 + 1)]
  const count = Math.max(1, Math.floor(left.length / (wish.hopSeconds * sampleRate)))
  const share = SHARE[wish.side]
  const frames: Float32Array[] = []
  for (let t = 0; t < count; t++) {
    if (t % 200 === 0) await checkpoint(job, 'sides', t / count)
    const start = Math.round(t * wish.hopSeconds * sampleRate) - size / 2
    fft.hannMagnitudes(left, start, l)
    if (right) fft.hannMagnitudes(right, start, r)
    frames.push(right ? onSide(l, r, share) : l.slice())
  }
  return { frames, framesPerSecond: 1 / wish.hopSeconds, size, sampleRate }
}

function onSide(l: Float32Array, r: Float32Array, share: (pan: number) => number): Float32Array {
  const out = new Float32Array(l.length)
  for (let bin = 0; bin < out.length; bin++) {
    const [a, b] = [l[bin]! ** 2, r[bin]! ** 2]
    out[bin] = Math.sqrt(a + b) * share((b - a) / (a + b + 1e-9))
  }
  return out
}
