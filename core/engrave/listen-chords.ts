// The chords under the ruled lines: each where it sounds, in two rows where one has no room, never one over
// another.
import { sectionPlaces } from '../document/form'
import type { Song } from '../document/schema'

/** A chord where it sounds, with the tick of the song it is known by. */
export interface DrawnChord {
  tick: number
  x: number
  /** In the first or the second row under the bars. */
  row: 0 | 1
  /** Drawn narrower than its letters want, to this width, when its neighbours leave no room. */
  squeezed: number | undefined
  symbol: string
  sure: 'set' | 'firm' | 'likely' | 'unsure'
  /** Nobody has taken it over yet. */
  suggested: boolean
}
/**
 * From these confidences on a heard chord is drawn firm, or likely (dotted); below it carries a question
 * mark.
 */
const FIRM = 0.7
const LIKELY = 0.45
const sureness = (
  confidence: number | undefined,
  suggested: boolean,
): 'set' | 'firm' | 'likely' | 'unsure' => {
  if (confidence === undefined || (!suggested && confidence >= FIRM)) return 'set'
  if (confidence >= FIRM) return 'firm'
  return confidence >= LIKELY ? 'likely' : 'unsure'
}

export interface SongChord {
  tick: number
  symbol: string
  sure: DrawnChord['sure']
  suggested: boolean
}
/** Every chord of the song by the tick at which it sounds; one before its section lies in the bar before. */
export function chordsOfSong(song: Song, accepted: Song): SongChord[] {
  return sectionPlaces(song)
    .flatMap(({ section, startTicks }) => {
      const known = accepted.sections[section.id]?.harmony ?? []
      return section.harmony.map(({ startTicks: start, symbol, confidence }): SongChord => {
        const suggested = !known.some((one) => one.startTicks === start && one.symbol === symbol)
        return { tick: startTicks + start, symbol, sure: sureness(confidence, suggested), suggested }
      })
    })
    .sort((a, b) => a.tick - b.tick)
}

/** A letter of a chord is about so wide, and so much room is left behind it. */
const LETTER_WIDTH = 8.4
const GAP = 6
/** Narrower than this a chord cannot be read. */
const NARROWEST = 14

/** How wide a chord is drawn, with the question mark of one that is unsure. */
export const chordWidth = (shown: string, { sure }: Pick<DrawnChord, 'sure'>): number =>
  LETTER_WIDTH * (shown.length + (sure === 'unsure' ? 1.5 : 0))

/**
 * Gives the chords of a line their rows: the second only where the first has no room. What still collides, or
 * would leave the line, is drawn narrower. True when there is a second row.
 */
export function placeChords(
  chords: readonly DrawnChord[],
  rightX: number,
  widthOf: (chord: DrawnChord) => number,
): boolean {
  const ends = { 0: Number.NEGATIVE_INFINITY, 1: Number.NEGATIVE_INFINITY }
  for (const chord of chords) {
    if (chord.x >= ends[0]) chord.row = 0
    else if (chord.x >= ends[1]) chord.row = 1
    else chord.row = ends[0] <= ends[1] ? 0 : 1
    ends[chord.row] = chord.x + widthOf(chord) + GAP
  }
  const before = { 0: Number.NEGATIVE_INFINITY, 1: Number.NEGATIVE_INFINITY }
  chords.forEach((chord, index) => {
    // At the end of the line it moves back into what room there is.
    const over = chord.x + widthOf(chord) - rightX
    if (over > 0) chord.x = Math.max(Math.min(chord.x, before[chord.row]), chord.x - over)
    before[chord.row] = chord.x + widthOf(chord) + GAP / 2
    const next = chords.slice(index + 1).find((other) => other.row === chord.row)
    const room = Math.max(NARROWEST, (next ? next.x - GAP / 2 : rightX) - chord.x)
    chord.squeezed = widthOf(chord) > room ? room : undefined
  })
  return chords.some((chord) => chord.row === 1)
}
