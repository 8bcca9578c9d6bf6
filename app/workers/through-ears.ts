// A recording heard through ears piece by piece: the whole is handed over again and again, as far as it is
// heard.
import { earsPieces, type Ears } from '#core/hear/ears/ears'
import type { PackedFft } from '#core/hear/features/packed-fft'
import type { Recording } from '#core/hear/features/recording'
import { Cancelled } from '#core/hear/job'
import { Given, type DeskJob } from '#platform/worker-desk'

/** After so many pieces what is heard so far is handed over: soon at first, then seldom. */
const HANDED_OVER = new Set([1, 3, 8, 20, 50])

interface Listening {
  recording: Recording
  ears: Ears
  /** What is played next is heard first. */
  fromSeconds: number
}

/** Left and right as heard; on the way the same, with the recording as it was where it is not heard yet. */
export async function throughEars(
  { recording: { channels, sampleRate }, ears, fromSeconds }: Listening,
  fft: PackedFft,
  job: DeskJob,
): Promise<Given> {
  const left = channels[0] ?? new Float32Array(0)
  const right = channels[1] ?? left
  // Not in shared memory: the player is given what is heard.
  const whole = [Float32Array.from(left), Float32Array.from(right)] as const
  let [heard, pieces] = [0, 0]
  for (const piece of earsPieces(channels, ears, { sampleRate, fromSeconds }, fft)) {
    if (job.isCancelled()) throw new Cancelled()
    whole[0].set(piece.channels[0], piece.startFrame)
    whole[1].set(piece.channels[1], piece.startFrame)
    heard += piece.channels[0].length
    pieces++
    const done = heard / Math.max(1, left.length)
    if (HANDED_OVER.has(pieces) && done < 1) {
      const copies = whole.map((channel) => channel.slice())
      job.found(
        copies,
        copies.map(({ buffer }) => buffer),
      )
    }
    job.report('hearing', done)
    await job.pause()
  }
  return new Given(
    [...whole],
    whole.map(({ buffer }) => buffer),
  )
}
