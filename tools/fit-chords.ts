// Lessons for the chord network: each true chord cut into stretches of a beat or half a beat, with what is
// heard there.
import type { Truth } from '../demo/evaluation/perform'
import { QUALITIES, readLabel } from '../core/hear/decode/chord-labels'
import { scaledChroma, turned } from '../core/hear/decode/chord-input'
import { chromaOf, notesIn, spectrumOf, type PitchSpectrum } from '../core/hear/features/pitch-spectrum'
import type { Group } from './fit-net'

export function chordRows(truth: Truth, pitches: PitchSpectrum): Group[] {
  const beat = 60 / truth.tempo
  const lengths = [beat / 2, beat, beat * 2]
  let turn = 0
  return truth.chords.flatMap(({ start, end, label }): Group[] => {
    const chord = readLabel(label)
    if (!chord) return []
    const groups: Group[] = []
    for (let at = start; at + 0.1 < end;) {
      const length = Math.min(end - at, lengths[turn++ % 3]!)
      const scaled = scaledChroma(chromaOf(notesIn(spectrumOf(pitches, at + 0.02, at + length))))
      groups.push({
        rows: Array.from({ length: 12 }, (_, root) =>
          [...turned(scaled, root)].map((value) => Number(value.toFixed(3))),
        ),
        right: chord.root * QUALITIES.length + QUALITIES.indexOf(chord.quality),
      })
      at += length
    }
    return groups
  })
}
