// The notes at the end of the sheet: doubts and remarks that somebody wants there, each with its place.
import { sectionWords } from '../check/finding'
import { placeTicks } from '../doubts/charted-note'
import type { Doubt, Part, Place, Song, Spot } from '../document/schema'
import { TICKS_PER_QUARTER } from '../time/meter'
import { text } from './primitives'
import { wrap, type Block, type SheetOptions } from './sheet-blocks'

const SIZE = 3.2
const LINE = 4.4

/** "Pre-chorus 1, bar 4, Guitar 2". */
function placeOf(song: Song, place: Place): string {
  const section = song.sections[place.sectionId]
  const part = place.partId === undefined ? undefined : song.parts[place.partId]
  return [section && `${section.name}, ${sectionWords(section, place.startTicks)}`, part?.name]
    .filter(Boolean)
    .join(', ')
}

/** "B7. Or: B9. No C sharp anywhere." A doubt that is open gives all its readings. */
function doubtWords({ question, readings, status, decision, why }: Doubt): string {
  const named = (decided: boolean): string[] =>
    readings.filter(({ id }) => (id === decision) === decided).map((reading) => reading.text)
  if (status === 'open') return `${question} ${named(false).join(', or ')}.`
  const others = named(false)
  const other = others.length ? ` Others read: ${others.join('; ')}.` : ''
  return `${question} ${named(true).join('')}.${why ? ` ${why}.` : ''}${other}`.replaceAll('..', '.')
}

/** The notes for the chosen parts, in the order of the song; nothing where there are none. */
export function noteBlocks(
  song: Song,
  parts: readonly Part[],
  inner: number,
  { reader = 'teacher', sectionId }: Pick<SheetOptions, 'reader' | 'sectionId'> = {},
): Block[] {
  const ids = new Set(parts.map(({ id }) => id))
  const isHere = ({ place, onSheet }: Doubt | Spot): boolean =>
    onSheet === true &&
    (place.partId === undefined || ids.has(place.partId)) &&
    (sectionId === undefined || place.sectionId === sectionId)
  // Landmarks stand at the form; what a teacher noted for himself is not on a student's sheet.
  const isForReader = (spot: Spot): boolean =>
    spot.kind !== 'landmark' && (reader === 'teacher' || spot.reader !== 'teacher')
  const notes = [
    ...Object.values(song.doubts)
      .filter(isHere)
      .map((doubt) => ({ place: doubt.place, words: doubtWords(doubt) })),
    ...Object.values(song.spots)
      .filter((spot) => isHere(spot) && isForReader(spot))
      .map((spot) => ({ place: spot.place, words: spot.text })),
  ]
  const tickOf = (place: Place): number => placeTicks(song, place, TICKS_PER_QUARTER)?.from ?? 0
  notes.sort((a, b) => tickOf(a.place) - tickOf(b.place))
  if (!notes.length) return []
  const head: Block = {
    height: 11,
    keepWithNext: true,
    primitives: [text(0, 8, 'Notes', 5, { face: 'heading' })],
  }
  return [
    head,
    ...notes.map(({ place, words }, index): Block => {
      const lines = wrap(words, inner - 8, SIZE)
      return {
        height: LINE * (lines.length + 1) + 1.5,
        continues: head,
        primitives: [
          text(0, LINE, `${index + 1}`, SIZE, { bold: true }),
          text(8, LINE, placeOf(song, place), SIZE, { bold: true }),
          ...lines.map((one, row) => text(8, LINE * (row + 2), one, SIZE)),
        ],
      }
    }),
  ]
}
