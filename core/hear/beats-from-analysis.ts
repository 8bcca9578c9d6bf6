// What was heard as beats to lay out. By itself, so that a page which only shows an analysis need not load
// what makes one.
import { countedBeats, type Meter } from '../time/meter'
import type { FlatBeat } from '../time/flat-beats'
import type { Analysis } from './analysis'

/** The tempo at the beginning is measured over so many beats. */
const FIRST_BEATS = 9
/** A file that was cut on its first beat may miss this share of a gap of it. */
const CUT_SHARE = 0.25

/**
 * Beats before the first that was heard: those that fill its bar, and a whole bar more where something
 * sounds there and the file has no room for two. A bar that the file itself begins in stays cut.
 */
function beatsBefore(analysis: Analysis, perBar: number): { seconds: number; one: boolean }[] {
  const { beats, downbeats, chords } = analysis
  const first = beats[0] ?? 0
  const gap = meanGap(beats.slice(0, FIRST_BEATS))
  const counted = beats.findIndex((seconds) => downbeats.includes(seconds))
  if (counted < 0) return []
  const missing = (perBar - (counted % perBar)) % perBar
  const room = Math.floor(first / gap + CUT_SHARE)
  if (missing > room) return []
  const sounds = chords?.some(({ start, label }) => start < first - gap / 2 && label !== 'N') ?? false
  const left = room - missing
  const whole = sounds && left >= perBar && left < 2 * perBar ? perBar : 0
  const count = missing + whole
  return Array.from({ length: count }, (_, index) => ({
    seconds: Math.max(0, first - (count - index) * gap),
    one: index % perBar === 0,
  }))
}

const meanGap = (times: readonly number[]): number =>
  times.length > 1 ? ((times.at(-1) ?? 0) - (times[0] ?? 0)) / (times.length - 1) : 2

/**
 * An analysis as beats to lay out: a free bar before the pulse where there is more than a bar of it, then
 * bars as heard, the first of them whole where the file has room for it.
 */
export function beatsFromAnalysis(
  analysis: Analysis,
  usual: Meter,
): { beats: FlatBeat[]; endSeconds: number } {
  const meter: Meter = analysis.meter ?? usual
  const perBar = countedBeats(meter)
  const ones = new Set(analysis.downbeats)
  const isOne = (seconds: number, index: number): boolean =>
    ones.size > 0 ? ones.has(seconds) : index % perBar === 0
  const before = beatsBefore(analysis, perBar)
  const heard = analysis.beats.map((seconds, index) => ({ seconds, one: isOne(seconds, index) }))
  const counts = { beats: meter.unit === 8 ? meter.beats : perBar, unit: meter.unit }
  const beats = [...before, ...heard].map(({ seconds, one }, index): FlatBeat =>
    one || index === 0 ? { seconds, one: true, meter: counts } : { seconds, one: false },
  )
  const first = beats[0]?.seconds
  if (first === undefined)
    return {
      beats: [{ seconds: 0, one: true, free: true, meter: usual }],
      endSeconds: analysis.durationSeconds,
    }
  const gap = meanGap(analysis.beats)
  if (first > 4 * gap) beats.unshift({ seconds: 0, one: true, free: true, meter: usual })
  const last = beats.at(-1)?.seconds ?? first
  return { beats, endSeconds: Math.min(analysis.durationSeconds, last + gap) }
}
