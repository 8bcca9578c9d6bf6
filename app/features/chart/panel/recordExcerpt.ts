// A stretch of the recording to be handed to a worker, with a little around it.
import { useRecording } from '~/session/recording'

/** So much around a stretch is handed over with it. */
const MARGIN_SECONDS = 0.5

export interface Excerpt {
  channels: Float32Array[]
  sampleRate: number
  /** Seconds of the recording at which it begins. */
  offset: number
}

export function useExcerpt() {
  const recordings = useRecording()
  /** Undefined when there is no recording on this machine. */
  return (span: { from: number; to: number }): Excerpt | undefined => {
    const recording = recordings.lent()
    if (!recording) return undefined
    const { sampleRate } = recording
    const first = Math.max(0, Math.round((span.from - MARGIN_SECONDS) * sampleRate))
    const last = Math.round((span.to + MARGIN_SECONDS) * sampleRate)
    const channels = recording.channels.slice(0, 2).map((channel) => channel.slice(first, last))
    return { channels, sampleRate, offset: first / sampleRate }
  }
}
