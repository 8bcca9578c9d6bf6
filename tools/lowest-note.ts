// The lowest note of a guitar that plays alone, beat by beat: an independent check of roots, not a truth. A
// note counts where it is the same from the beginning of a beat to the end of the next.
import { hann, type MakeFft } from '../core/hear/features/spectrum'
import { readLabel } from '../core/hear/decode/chord-labels'
import type { Analysis } from '../core/hear/analysis'

const SIZE = 8192
const LOWEST_MIDI = 28
const NOTES = 30
const HARMONICS = 6
/** Mean square below which nobody plays. */
const SILENT = 1e-4
/** How much a note must stand out from every other pitch class. */
const CLEAR = 1.15
/** Where in two beats it is looked at, in beats. */
const LOOKS = [0.15, 0.45, 0.75, 1.15, 1.45]

/** Reads pitch classes out of a guitar's samples; undefined where none is clear. */
function lowestNotes(samples: Float32Array, sampleRate: number, makeFft: MakeFft) {
  const fft = makeFft(SIZE)
  const window = hann(SIZE)
  const magnitudes = new Float32Array(SIZE / 2 + 1)
  return (seconds: number): number | undefined => {
    const start = Math.round(seconds * sampleRate)
    const frame = Float32Array.from(window, (_, index) => samples[start + index] ?? 0)
    if (frame.reduce((sum, value) => sum + value * value, 0) / SIZE < SILENT) return undefined
    fft.magnitudes(
      frame.map((value, index) => value * (window[index] ?? 0)),
      magnitudes,
    )
    const level = (bin: number): number => Math.log1p((200 * (magnitudes[bin] ?? 0)) / SIZE)
    const scores = Array.from({ length: NOTES }, (_, note) => {
      const bins = (440 * 2 ** ((LOWEST_MIDI + note - 69) / 12) * SIZE) / sampleRate
      let sum = 0
      for (let h = 1; h <= HARMONICS; h++) {
        const bin = Math.round(bins * h)
        sum += Math.max(level(bin - 1), level(bin), level(bin + 1)) / Math.sqrt(h)
        sum -= 0.5 * level(Math.round(bins * (h - 0.5)))
      }
      return { sum, pitchClass: (LOWEST_MIDI + note) % 12 }
    }).sort((a, b) => b.sum - a.sum)
    const [best] = scores
    const rival = scores.find(({ pitchClass }) => pitchClass !== best?.pitchClass)
    return best && rival && best.sum > CLEAR * rival.sum ? best.pitchClass : undefined
  }
}

/**
 * Share of the steady beats of a guitar alone on which the chord heard in the mix has its lowest note as root
 * or bass; NaN without a steady beat.
 */
export function rootAgreement(
  guitar: { samples: Float32Array; sampleRate: number },
  click: { seconds: number; bpm: number },
  chords: NonNullable<Analysis['chords']>,
  makeFft: MakeFft,
): number {
  const lowest = lowestNotes(guitar.samples, guitar.sampleRate, makeFft)
  const period = 60 / click.bpm
  let steady = 0
  let agree = 0
  for (let at = 2; at + 2 * period < click.seconds; at += period) {
    const [first, ...others] = LOOKS.map((beats) => lowest(at + beats * period))
    if (first === undefined || others.some((other) => other !== first)) continue
    steady++
    const said = chords.find((chord) => chord.start <= at + period && chord.end > at + period)
    const chord = said && readLabel(said.label)
    if (chord && (chord.root === first || chord.bass === first)) agree++
  }
  return agree / steady
}
