// What was found in a recording, put into the shape of the analysis.
import { spellKey, type HeardKey } from './decode/key'
import type { Analysis } from './analysis'
import type { PlaceInBar } from './decode/bars'
import type { HeardChord } from './decode/chords'
import { writeLabel } from './decode/chord-labels'
import type { Division } from './decode/feel'
import type { BarSound } from './decode/bar-sound'
import { rankTunings } from './evidence/tuning-words'
import type { Sound } from './features/feature-extraction'
import { barActivity, barNotes, type BarActivity } from './features/activity'
import type { Pulse } from './pulse-choice'
import { hundredth, medianGap, round } from './rounding'
import { stretchesOf } from './stretches'

/** Chords and key as they were heard together. */
export interface Harmony {
  chords: HeardChord[]
  key: HeardKey | undefined
  noteWeights: Float64Array
}

/** What is known of the tuning. */
export function tuningFound({ tuning }: Sound): Partial<Analysis> {
  if (tuning.cents === undefined || !tuning.pitched) return {}
  return {
    tuningCents: tuning.cents,
    tuningConfidence: hundredth(tuning.confidence),
    tuningOverTime: tuning.overTime,
    tuningHistogram: tuning.histogram.map(Math.round),
  }
}

/** Bars, tempo, meter, swing and stretches without a pulse. */
export function barsFound(
  pulse: Pulse,
  bars: { places: readonly PlaceInBar[]; sure: readonly number[]; division: Division },
  sound: Sound,
): Partial<Analysis> {
  const { beats } = pulse
  const { places, sure, division } = bars
  const lengths = places
    .filter((place) => place.place === 0)
    .map((place) => place.length)
    .sort((a, b) => a - b)
  const length = lengths[lengths.length >> 1] ?? 4
  const { swing, compound } = division
  return {
    beats,
    downbeats: beats.filter((_, index) => places[index]!.place === 0),
    barConfidence: sure.map(hundredth),
    tempo: Math.round(6000 / medianGap(beats)) / 100,
    tempoRivals: pulse.rivals,
    meter: compound ? { beats: 3 * length, unit: 8 } : { beats: length, unit: 4 },
    ...(swing === undefined ? {} : { swing: Math.max(0.5, Math.min(0.7, swing)) }),
    stretches: stretchesOf(beats, sound.onsets, sound.durationSeconds),
  }
}

export function chordsFound({ chords, key, noteWeights }: Harmony): Partial<Analysis> {
  if (!chords.some((chord) => chord.chord)) return {}
  const spelled = key && spellKey(key.tonic, key.mode)
  return {
    chords: chords.map((chord) => ({
      start: round(chord.start),
      end: round(chord.end),
      label: writeLabel(chord.chord, spelled),
      confidence: hundredth(chord.confidence),
      rivals: chord.rivals,
    })),
    tuningMeans: rankTunings(noteWeights, key?.tonic).map((meaning) => ({
      ...meaning,
      share: hundredth(meaning.share),
    })),
  }
}

export function keyFound({ key }: Harmony): Partial<Analysis> {
  if (!key) return {}
  return {
    key: { tonic: spellKey(key.tonic, key.mode).tonic, mode: key.mode },
    keyConfidence: hundredth(key.confidence),
    keyRivals: key.rivals.map((rival) => ({
      tonic: spellKey(rival.tonic, rival.mode).tonic,
      mode: rival.mode,
      share: hundredth(rival.share),
    })),
  }
}

/** What every bar sounds like, how like the others it is, and who plays in it. */
export function barsDescribed(
  bars: readonly BarSound[],
  matrix: readonly Float64Array[],
  { sides }: Sound,
  span: { downbeats: readonly number[]; end: number },
): Partial<Analysis> {
  if (!bars.length) return {}
  const letters = (bar: BarActivity): string =>
    (bar.left ? 'l' : '') + (bar.centre ? 'c' : '') + (bar.right ? 'r' : '') + (bar.low ? 'b' : '')
  return {
    likeness: matrix.map((row) => Array.from(row, (value) => Math.round(99 * value))),
    chroma: bars.map(barChroma),
    ...(sides
      ? {
          activity: barActivity(sides, span.downbeats, span.end).map(letters),
          registers: {
            left: barNotes(sides, 'left', span),
            right: barNotes(sides, 'right', span),
          },
        }
      : {}),
  }
}

function barChroma(bar: BarSound): number[] {
  const sums = Array.from({ length: 12 }, (_, k) =>
    bar.harmony.reduce((sum, quarter) => sum + quarter[k]! + quarter[12 + k]! + quarter[24 + k]!, 0),
  )
  const top = Math.max(1e-6, ...sums)
  return sums.map((value) => Math.round((99 * value) / top))
}
