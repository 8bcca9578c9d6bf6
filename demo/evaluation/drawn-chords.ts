// One guitar alone, playing chords drawn at random: power chords, triads on neighbouring strings, grips
// over all of them, thirds and octaves, single notes between, strummed or together, picked or muted. What
// the draft of a chord part learns from and is measured on.
import type { SoundingEvent } from '../../core/score/sounding-event'

/** Semitones over the lowest note, as they lie under a hand. */
const SHAPES = [
  [0, 7],
  [0, 7, 12],
  [0, 5],
  [0, 12],
  [0, 4],
  [0, 3],
  [0, 9],
  [0, 8],
  [0, 4, 7],
  [0, 3, 7],
  [0, 5, 9],
  [0, 5, 8],
  [0, 3, 8],
  [0, 4, 9],
  [0, 5, 7],
  [0, 7, 14],
  [0, 4, 10],
  [0, 3, 10],
  [0, 7, 12, 16],
  [0, 7, 12, 15],
  [0, 7, 10, 16],
  [0, 7, 10, 15],
  [0, 7, 11, 16],
  [0, 7, 12, 16, 19],
  [0, 7, 12, 15, 19],
  [0, 7, 12, 16, 19, 24],
  [0, 7, 12, 15, 19, 24],
  [0, 7, 12, 17, 19],
  [0, 7, 12, 14, 19],
] as const
const LENGTHS = [0.15, 0.25, 0.25, 0.3, 0.5, 0.5, 0.8, 1.2] as const
const SOUNDS = ['clean', 'driven', 'distorted', 'steel'] as const

const BASE = {
  curve: [],
  slurred: false,
  dead: false,
  harmonic: false,
  vibrato: 'none' as const,
  releaseSeconds: 0.09,
}

const OPEN_STRINGS = [0, 5, 10, 15, 19, 24] as const
const HARMONIES = [
  [0, 4, 7],
  [0, 3, 7],
  [0, 4, 7, 10],
  [0, 3, 7, 10],
  [0, 4, 7, 11],
  [0, 2, 7],
  [0, 5, 7],
  [0, 2, 4, 7],
] as const

type Pick = <T>(list: readonly T[]) => T

/** A grip: neighbouring strings, each open or at a fret under the hand that the harmony holds. */
function drawnGrip(lowest: number, pick: Pick, random: () => number): number[] {
  const root = Math.floor(12 * random())
  const classes = pick(HARMONIES).map((semitones) => (root + semitones) % 12)
  const position = Math.floor(10 * random())
  const first = Math.floor(4 * random())
  const count = 3 + Math.floor(random() * (4 - Math.max(0, first - 2)))
  return OPEN_STRINGS.slice(first, first + count).flatMap((open) => {
    const frets = [0, 1, 2, 3].map((over) => position + over)
    const reach = position < 4 ? [0, ...frets] : frets
    const fits = reach.filter((fret) => classes.includes((lowest + open + fret) % 12))
    return fits.length ? [lowest + open + pick(fits)] : []
  })
}

/** Chords of one sound for so many seconds, some repeated as songs repeat them, some picked apart. */
export function drawnChords(
  { sound, seconds }: { sound: SoundingEvent['sound']; seconds: number },
  random: () => number,
): SoundingEvent[] {
  const pick: Pick = (list) => list[Math.floor(random() * list.length)]!
  const events: SoundingEvent[] = []
  const lowest = pick([40, 40, 38, 36, 35])
  const shape = (): number[] => {
    const root = lowest + Math.floor(random() * (random() < 0.6 ? 14 : 28))
    if (random() < 0.1) return [root]
    const grip = random() < 0.5 ? drawnGrip(lowest, pick, random) : []
    return grip.length > 1 ? grip : pick(SHAPES).map((semitones) => root + semitones)
  }
  let [chord, length, strokes, apart] = [[45, 52, 57], 0.25, 4, false]
  for (let at = 0.4; at < seconds - 2; at += strokes * length) {
    if (random() < 0.7) chord = shape()
    length = random() < 0.6 ? pick(LENGTHS) : length
    apart = chord.length > 2 && random() < 0.45
    strokes = apart ? chord.length + Math.floor(4 * random()) : 1 + Math.floor(5 * random() * random())
    const times = Array.from({ length: strokes }, (_, index) => at + index * length)
    const ends = at + strokes * length
    for (const [index, start] of times.entries()) {
      // Up the chord, then about it; each string rings until it is struck again.
      const string = chord[index] === undefined ? Math.floor(random() * chord.length) : index
      if (apart) events.push(note(chord[string]!, { sound, start, end: ends, string }, random))
      else events.push(...stroke(chord, { sound, start, end: start + length }, random))
    }
  }
  return events.filter(({ startSeconds }) => startSeconds < seconds - 1)
}

interface Struck {
  sound: SoundingEvent['sound']
  start: number
  end: number
}

function note(
  midi: number,
  { sound, start, end, string }: Struck & { string: number },
  random: () => number,
): SoundingEvent {
  const loudness = (0.5 + 0.4 * random()) * (0.85 + 0.3 * random())
  return { ...BASE, string, startSeconds: start, endSeconds: end, midi, loudness, sound }
}

/** All strings of a chord, together or one after another, left to ring or muted. */
function stroke(
  chord: readonly number[],
  { sound, start, end }: Struck,
  random: () => number,
): SoundingEvent[] {
  const spread = random() < 0.5 ? 0 : 0.016 * random()
  const down = random() < 0.6
  const muted = random() < 0.15
  return chord.map((midi, index) => {
    const late = spread * (down ? index : chord.length - 1 - index) + 0.006 * (random() - 0.5)
    const until = start + (end - start) * (muted ? 0.6 : 1)
    const played = note(midi, { sound, start: start + late, end: until, string: index }, random)
    return muted ? { ...played, palmMute: 'firm' as const } : played
  })
}

export { SOUNDS as CHORD_SOUNDS }
