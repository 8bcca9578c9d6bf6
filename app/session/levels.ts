// How loud record, chart and click are. Record and chart start equally loud: both are measured where the
// chart plays, and the louder one is turned down.
import { matchedGains } from '#core/sound/loudness'
import { ticksToSeconds } from '#core/time/beat-grid'
import { playsOfPart } from '#core/timeline/timeline'
import { usePlayingWork } from '../composables/playingWork'
import { measureChart, sendSong } from '../composables/soundPort'
import { usePreferences } from '../stores/preferences'
import { useSong } from '../stores/song'

export interface Levels {
  record: number
  chart: number
  click: number
}
/** So many stretches of so many seconds are measured, spread over the song. */
const STRETCHES = 3
const STRETCH_SECONDS = 4
/** The loudness of a click at 100 %: cuts through a band without jumping out of it. */
const CLICK_GAIN = 0.8

export function useLevels(apply: (levels: Levels) => void) {
  const store = useSong()
  const preferences = usePreferences()
  const matched = ref({ record: 1, chart: 1 })
  const { ask } = usePlayingWork()
  let asked = 0
  const gains = (): Levels => ({
    ...matched.value,
    click: (CLICK_GAIN * preferences.values.clickLoudness) / 100,
  })
  watch(
    () => preferences.values.clickLoudness,
    () => apply(gains()),
  )

  /** Where the chart plays: a few stretches over the recording. */
  function stretches(): { startSeconds: number; endSeconds: number }[] {
    const { song, map, parts } = store
    if (!song || !map) return []
    const starts = parts
      .flatMap((part) => playsOfPart(song, part.id))
      .filter((play) => play.figure && play.startTicks >= 0)
      .map((play) => ticksToSeconds(map, play.startTicks))
      .sort((a, b) => a - b)
    const chosen = Array.from(
      { length: STRETCHES },
      (_, i) => starts[Math.floor(((i + 0.5) * starts.length) / STRETCHES)],
    )
    return [...new Set(chosen)].flatMap((start) =>
      start === undefined ? [] : [{ startSeconds: start, endSeconds: start + STRETCH_SECONDS }],
    )
  }

  /** Measures both and sets them equal; without a chart both stay as they are. */
  async function match(channels: readonly Float32Array[], sampleRate: number): Promise<void> {
    const mine = ++asked
    matched.value = { record: 1, chart: 1 }
    apply(gains())
    const spans = stretches()
    const { song, parts } = store
    if (!song || spans.length === 0) return
    const pieces = channels.map((channel) => {
      const cut = spans.map(({ startSeconds, endSeconds }) =>
        channel.subarray(Math.round(startSeconds * sampleRate), Math.round(endSeconds * sampleRate)),
      )
      const whole = new Float32Array(cut.reduce((sum, piece) => sum + piece.length, 0))
      cut.reduce((at, piece) => {
        whole.set(piece, at)
        return at + piece.length
      }, 0)
      return whole
    })
    sendSong(song)
    const score = { partIds: parts.map((part) => part.id), tuning: { semitones: 0, humanFeel: false } }
    const [record, chart] = await Promise.all([
      ask({ want: 'loudness', channels: pieces, sampleRate }),
      measureChart(score, spans),
    ])
    if (mine !== asked || !record.ok) return
    matched.value = matchedGains(record.value, chart)
    apply(gains())
  }
  return { match, gains, shown: matched }
}
