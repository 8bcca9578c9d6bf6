// Every note that sounds in the song, in its ticks, with where it is written. Worked out once a document.
import { bisector } from 'd3-array'
import type { Figure, Part, Song } from '../document/schema'
import { notesOfPlay, type PlayedNote } from './perform'
import { playsOfPart, type Play } from '../timeline/timeline'

/** A note as it sounds in one pass. */
export interface SongNote {
  figure: Figure
  part: Part
  play: Play
  /** Within its figure. */
  figureTicks: number
  /** Within the song. */
  startTicks: number
  endTicks: number
  midi: number
  string: number
  played: PlayedNote
}

const notesOf = new WeakMap<Song, SongNote[]>()

function soundingIn(song: Song, part: Part, play: Play): SongNote[] {
  const { figure, startTicks } = play
  if (!figure) return []
  return notesOfPlay(song, play)
    .filter(({ dead }) => !dead)
    .map((played) => ({
      figure,
      part,
      play,
      figureTicks: played.startTicks,
      startTicks: startTicks + played.startTicks,
      endTicks: startTicks + played.endTicks,
      midi: played.midi,
      string: played.string,
      played,
    }))
}

/** All notes with a pitch, in time order. */
export function songNotes(song: Song): SongNote[] {
  const known = notesOf.get(song)
  if (known) return known
  const made = song.partOrder.flatMap((partId) => {
    const part = song.parts[partId]
    const plays = part ? playsOfPart(song, partId) : []
    return plays.flatMap((play) => (part ? soundingIn(song, part, play) : []))
  })
  made.sort((a, b) => a.startTicks - b.startTicks)
  notesOf.set(song, made)
  return made
}

const firstNote = bisector<SongNote, number>(({ startTicks }) => startTicks).left
/** The first note of a list in time order that begins at a tick or later. */
export const firstFrom = (notes: readonly SongNote[], tick: number): number => firstNote(notes, tick)

/** Of a list in time order the notes that begin in a span: the index of the first, and of the first after. */
export const spanIn = (notes: readonly SongNote[], from: number, to: number): [number, number] => [
  firstFrom(notes, from),
  firstFrom(notes, to),
]

/** The notes that sound in a span and begin in it, from a list in time order. */
export const notesWithin = (notes: readonly SongNote[], from: number, to: number): SongNote[] =>
  notes.slice(...spanIn(notes, from, to))
