// The strokes of a stretch as one player's side shows them: where each begins, what sounds after it and what
// did before.
import { mean } from 'd3-array'
import type { JobContext } from '../job'
import type { MakeFft } from '../features/spectrum'
import { beginnings, loudness } from './beginnings'
import { combs, levelsOf, salienceOf, soundingIn, type Comb, type Range, type Sounding } from './salience'
import { sideSpectra, type DraftSide, type SideSpectra } from './side-spectra'

export interface DraftWish extends Range {
  side: DraftSide
  /** Seconds of the recording. */
  from: number
  to: number
}
export interface StrokeLook {
  /** Seconds from the beginning of the piece. */
  start: number
  end: number
  /** Levels of the spectrum after the beginning, when its pick has gone, and before it. */
  after: Float32Array
  before: Float32Array
  /** What explains it, the strongest first. */
  notes: Sounding[]
}
export interface Strokes {
  looks: StrokeLook[]
  /** Seconds of the recording at which the piece begins. */
  offset: number
  /** Levels frame by frame, and how many there are a second. */
  heard: Float32Array[]
  framesPerSecond: number
  all: Comb[]
}

/** So much around the stretch is listened to, so that what begins at its border is heard whole. */
const MARGIN_SECONDS = 0.4
/** A note is looked at after its beginning, when its pick has gone, and for so long. */
const AFTER_SECONDS = 0.035
const LOOK_SECONDS = 0.22
/** What sounded before: the window must not reach into the stroke. */
const BEFORE_SECONDS = [0.08, 0.05] as const
const MOST_NOTES = 6

/** Throws `Cancelled` when the job is. */
export async function strokeLooks(
  recording: { channels: readonly Float32Array[]; sampleRate: number },
  wish: DraftWish,
  makeFft: MakeFft,
  job: JobContext,
): Promise<Strokes> {
  const { sampleRate } = recording
  const first = Math.max(0, Math.round((wish.from - MARGIN_SECONDS) * sampleRate))
  const last = Math.round((wish.to + MARGIN_SECONDS) * sampleRate)
  const piece = { sampleRate, channels: recording.channels.slice(0, 2).map((one) => one.slice(first, last)) }
  const [longer, shorter] = [
    { side: wish.side, windowSeconds: 0.093, hopSeconds: 0.01 },
    { side: wish.side, windowSeconds: 0.023, hopSeconds: 0.005 },
  ]
  const long = await sideSpectra(piece, longer!, makeFft, job)
  const short = await sideSpectra(piece, shorter!, makeFft, job)
  const all = combs(wish, long)
  const heard = frameLevels(long)
  const { framesPerSecond } = long
  const starts = withPitchChanges(beginnings(short), heard, all)
  const end = heard.length / framesPerSecond
  const looks = starts.map((start, index) => {
    const next = starts[index + 1] ?? end
    const until = Math.min(next - 0.02, start + LOOK_SECONDS)
    const after = meanLevels(heard, (start + AFTER_SECONDS) * framesPerSecond, until * framesPerSecond)
    const [far, near] = BEFORE_SECONDS.map((seconds) => (start - seconds) * framesPerSecond)
    const before = meanLevels(heard, far!, near!)
    return { start, end: next, after, before, notes: soundingIn(after, all, MOST_NOTES, 0.35) }
  })
  return { looks, offset: first / sampleRate, heard, framesPerSecond, all }
}

/** Levels of each frame against the loudest around it. */
function frameLevels({ frames }: SideSpectra): Float32Array[] {
  const top = loudness(frames)
  return frames.map((frame) => levelsOf(frame, top))
}

/** The mean of the frames from one to another, at least one; none before the piece. */
function meanLevels(heard: readonly Float32Array[], from: number, to: number): Float32Array {
  const first = Math.round(from)
  const frames = first < 0 ? [] : heard.slice(first, Math.max(first + 1, Math.round(to)))
  const levels = new Float32Array(heard[0]?.length ?? 0)
  for (let bin = 0; bin < levels.length; bin++) levels[bin] = mean(frames, (frame) => frame[bin]) ?? 0
  return levels
}

/** Beginnings where only the pitch changes: a slur, a hammer. */
function withPitchChanges(
  starts: readonly number[],
  heard: readonly Float32Array[],
  all: readonly Comb[],
): number[] {
  const best = heard.map((levels) => {
    let [top, midi] = [0.08, 0]
    for (const comb of all) {
      const own = salienceOf(levels, comb)
      if (own > top) [top, midi] = [own, comb.midi]
    }
    return midi
  })
  const added: number[] = []
  const HOLD = 6
  for (let t = HOLD; t < best.length - HOLD; t++) {
    const [before, after] = [best.slice(t - HOLD, t), best.slice(t, t + HOLD)]
    const steady = (list: number[]): boolean => list.every((midi) => midi === list[0] && midi !== 0)
    if (!steady(before) || !steady(after) || before[0] === after[0]) continue
    const seconds = t / 100
    if ([...starts, ...added].every((start) => Math.abs(start - seconds) > 0.09)) added.push(seconds)
  }
  return [...starts, ...added].sort((a, b) => a - b)
}
