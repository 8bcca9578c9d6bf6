// A named phrase found again: where else in the song it is played, moved or not, with what small
// differences, and how often in all. Two phrases are laid on each other by one pair of notes that is taken
// to be the same one, as melodies are compared by pitch and onset differences (Mongeau and Sankoff 1990),
// without their edit costs: what counts is how many notes fall together.
import { counted } from '../words/words'
import { bisector } from 'd3-array'
import { figureContent } from '../document/figure-content'
import { soundingMidi } from '../document/part-pitch'
import type { Figure, Lick, Note, Song } from '../document/schema'
import { pitched } from '../neck/lines/line'
import { playsOfPart } from '../timeline/timeline'

export interface LickPlace {
  figureId: string
  startTicks: number
  /** Half steps the phrase is moved there. */
  shiftSemitones: number
  /** Notes of the lick that are not there so, by their place in it. */
  differing: number[]
  /** Notes there within its span that it does not have. */
  added: number
  /** How often the figure is played in the song. */
  plays: number
}
export interface LickFound {
  lick: Lick
  figureId: string
  notes: number
  places: LickPlace[]
  /** How often it is played in all, at home too. */
  plays: number
}

/** A phrase is found again when so many of its notes are there, and no fewer than three. */
const LEAST_SHARE = 0.7
const LEAST_NOTES = 3

interface Tone {
  tick: number
  midi: number
}

/** Per document: what a figure sounds depends on its base, its pattern and its part too. */
const linesCache = new WeakMap<Song, Map<string, Tone[]>>()
function toneLine(song: Song, figure: Figure): Tone[] {
  let lines = linesCache.get(song)
  if (!lines) linesCache.set(song, (lines = new Map<string, Tone[]>()))
  const known = lines.get(figure.id)
  if (known) return known
  const part = song.parts[figure.partId]
  const tones = part
    ? pitched(figureContent(song, figure)).map((note) => ({
        tick: note.startTicks,
        midi: Math.round(soundingMidi(part, note.string, note.fret)),
      }))
    : []
  lines.set(figure.id, tones)
  return tones
}

/** The notes of a lick, as they are in its figure. */
export const lickNotes = (
  song: Song,
  figure: Figure,
  { startTicks, lengthTicks }: Omit<Lick, 'id' | 'name'>,
): Note[] =>
  pitched(figureContent(song, figure)).filter(
    (note) => note.startTicks >= startTicks && note.startTicks < startTicks + lengthTicks,
  )

/** Index of the first note at or after a tick; lines are in time order. */
const byTick = bisector(({ tick }: Tone) => tick).left

type Found = Omit<LickPlace, 'figureId' | 'plays'>

/** The phrase laid on a line with its start at a tick, moved by semitones. */
function laidOn(
  phrase: readonly Tone[],
  line: readonly Tone[],
  lay: { at: number; shift: number; length: number },
): Found {
  const inSpan = line.slice(byTick(line, lay.at), byTick(line, lay.at + lay.length))
  const has = ({ tick, midi }: Tone): boolean =>
    inSpan.some((tone) => tone.tick === lay.at + tick && tone.midi === midi + lay.shift)
  const differing = phrase.flatMap((tone, index) => (has(tone) ? [] : [index]))
  const added = inSpan.filter(({ tick }) => !phrase.some((tone) => tone.tick === tick - lay.at)).length
  return { startTicks: lay.at, shiftSemitones: lay.shift, differing, added }
}

const weightOf = ({ differing, added, shiftSemitones }: Found): number =>
  differing.length + 0.5 * added + (shiftSemitones === 0 ? 0 : 0.1)

/** Where a phrase is played in a line: the best of those that lie over each other. */
function placesIn(phrase: readonly Tone[], line: readonly Tone[], length: number): Found[] {
  const tried = new Set<string>()
  const found: Found[] = []
  const most = phrase.length - Math.max(LEAST_NOTES, Math.ceil(phrase.length * LEAST_SHARE))
  // One of the first notes has to be there: with more missing it is another phrase.
  for (const anchor of phrase.slice(0, most + 1))
    for (const tone of line) {
      const lay = { at: tone.tick - anchor.tick, shift: tone.midi - anchor.midi, length }
      const key = `${lay.at}/${lay.shift}`
      if (lay.at < 0 || tried.has(key)) continue
      tried.add(key)
      const place = laidOn(phrase, line, lay)
      if (place.differing.length <= most && place.added <= phrase.length) found.push(place)
    }
  found.sort((a, b) => weightOf(a) - weightOf(b))
  const kept: Found[] = []
  for (const place of found)
    if (kept.every((other) => Math.abs(other.startTicks - place.startTicks) >= length)) kept.push(place)
  return kept.sort((a, b) => a.startTicks - b.startTicks)
}

const playsOf = (song: Song, figure: Figure): number =>
  playsOfPart(song, figure.partId).filter((play) => play.figure?.id === figure.id).length

/** Where else a lick is played; nothing for fewer than three notes. */
export function findLick(song: Song, figureId: string, lick: Lick): LickFound {
  const home = song.figures[figureId]!
  const phrase = toneLine(song, home)
    .filter(({ tick }) => tick >= lick.startTicks && tick < lick.startTicks + lick.lengthTicks)
    .map(({ tick, midi }) => ({ tick: tick - lick.startTicks, midi }))
  const places =
    phrase.length < LEAST_NOTES
      ? []
      : Object.values(song.figures).flatMap((figure): LickPlace[] =>
          placesIn(phrase, toneLine(song, figure), lick.lengthTicks)
            .filter(({ startTicks }) => figure.id !== figureId || startTicks !== lick.startTicks)
            .map((place) => ({ ...place, figureId: figure.id, plays: playsOf(song, figure) })),
        )
  const plays = playsOf(song, home) + places.reduce((sum, place) => sum + place.plays, 0)
  return { lick, figureId, notes: phrase.length, places, plays }
}

/** Every named phrase of the song, with where else it is played. */
export const findLicks = (song: Song): LickFound[] =>
  Object.values(song.figures).flatMap((figure) =>
    (figure.licks ?? []).map((lick) => findLick(song, figure.id, lick)),
  )

/** "5 half steps higher, with another ending", "the same". */
export function lickPlaceWords({ shiftSemitones, differing, added }: LickPlace, notes: number): string {
  const size = Math.abs(shiftSemitones)
  const moved = shiftSemitones
    ? `${size} half ${size === 1 ? 'step' : 'steps'} ${shiftSemitones > 0 ? 'higher' : 'lower'}`
    : ''
  const words = [moved, differenceWords(differing, added, notes)].filter(Boolean)
  return words.length ? words.join(', ') : 'the same'
}

function differenceWords(differing: readonly number[], added: number, notes: number): string {
  const third = notes / 3
  if (differing.length && differing.every((index) => index >= notes - third)) return 'with another ending'
  if (differing.length && differing.every((index) => index < third)) return 'with another beginning'
  const count = differing.length + added
  if (count === 0) return ''
  return `with ${counted(count, 'note')} otherwise`
}
