// What was heard as beats to lay out. By itself, so that a page which only shows an analysis need not load
// what makes one.
import { countedBeats, type Meter } from '../time/meter'
import type { FlatBeat } from '../time/flat-beats'
import type { Analysis } from './analysis'

/**
 * An analysis as beats to lay out: a free bar before the pulse where there is more than a bar of it, then
 * bars as heard.
 */
export function beatsFromAnalysis(
  analysis: Analysis,
  usual: Meter,
): { beats: FlatBeat[]; endSeconds: number } {
  const meter: Meter = analysis.meter ?? usual
  const ones = new Set(analysis.downbeats)
  const gap =
    analysis.beats.length > 1
      ? (analysis.beats.at(-1)! - analysis.beats[0]!) / (analysis.beats.length - 1)
      : 2
  const beats: FlatBeat[] = analysis.beats.map((seconds, index) =>
    index === 0 || (ones.size > 0 ? ones.has(seconds) : index % countedBeats(meter) === 0)
      ? {
          seconds,
          one: true,
          meter: { beats: meter.unit === 8 ? meter.beats : countedBeats(meter), unit: meter.unit },
        }
      : { seconds, one: false },
  )
  const first = beats[0]?.seconds
  if (first === undefined)
    return {
      beats: [{ seconds: 0, one: true, free: true, meter: usual }],
      endSeconds: analysis.durationSeconds,
    }
  if (first > 4 * gap) beats.unshift({ seconds: 0, one: true, free: true, meter: usual })
  return { beats, endSeconds: Math.min(analysis.durationSeconds, beats.at(-1)!.seconds + gap) }
}
