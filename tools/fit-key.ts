// Lessons for the key network need no sound: drawn songs' own chords, with the mistakes that listening makes.
import { compose, drawnWish } from '../demo/evaluation/compose'
import { performSong } from '../demo/evaluation/perform'
import { seededRandom } from '../demo/random'
import { pitchClassOf } from '../core/music/pitch'
import { readLabel, type ChordLabel } from '../core/hear/decode/chord-labels'
import { keyInput, type TimedChord } from '../core/hear/decode/key'
import type { Group } from './fit-net'

const SEEDS = [5000, 6500] as const

export function keyGroups(): Group[] {
  const groups: Group[] = []
  for (let seed = SEEDS[0]; seed < SEEDS[1]; seed++) {
    const random = seededRandom(seed)
    const { truth } = performSong(compose({ ...drawnWish(seed), loose: seed % 3 > 0 }))
    const misheard = (chord: ChordLabel): ChordLabel | undefined => {
      const draw = random()
      if (draw < 0.06) return { ...chord, root: (chord.root + 7) % 12, quality: '5' }
      if (draw < 0.14) return { ...chord, quality: '5' }
      if (draw < 0.2)
        return chord.quality === 'maj'
          ? { ...chord, quality: 'min', root: (chord.root + 9) % 12 }
          : chord.quality === 'min'
            ? { ...chord, quality: 'maj', root: (chord.root + 3) % 12 }
            : chord
      return draw < 0.23 ? undefined : chord
    }
    const chords: TimedChord[] = truth.chords.map(({ start, end, label }) => {
      const chord = readLabel(label)
      return { start, end, chord: chord && misheard(chord) }
    })
    // Sometimes only a stretch of the song is heard.
    const from = random() < 0.4 ? random() * truth.sections.at(-1)!.start * 0.6 : 0
    const heard = chords.filter((chord) => chord.end > from)
    const starts = truth.sections.map((section) => section.start).filter((start) => start >= from)
    if (heard.length < 4) continue
    groups.push({
      rows: Array.from({ length: 12 }, (_, tonic) => keyInput(heard, starts, tonic)),
      right: pitchClassOf(truth.key.tonic) * 2 + (truth.key.mode === 'major' ? 0 : 1),
    })
  }
  return groups
}
