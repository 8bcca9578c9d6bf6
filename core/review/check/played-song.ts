// The song as the check looks at it: every note that sounds, in ticks of the song, with where it is written;
// and the chord that sounds with it. Worked out once for each document.
import { bisector } from 'd3-array'
import { figureContent } from '../../document/figure-content'
import type { Figure, Part, Song } from '../../document/schema'
import { performContent, type PlayedNote } from '../../timeline/perform'
import { timelineOf, type Play } from '../../timeline/timeline'

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

/** A chord of the form in song time. */
export interface SongChord {
  sectionId: string
  /** Within its section: by it the chord is known. */
  inSection: number
  startTicks: number
  endTicks: number
  symbol: string
}

const notesOf = new WeakMap<Song, SongNote[]>()
const chordsOf = new WeakMap<Song, SongChord[]>()

/** All notes with a pitch, in time order. */
export function songNotes(song: Song): SongNote[] {
  const known = notesOf.get(song)
  if (known) return known
  const performed = new Map<string, PlayedNote[]>()
  const made = song.partOrder.flatMap((partId) => {
    const part = song.parts[partId]!
    return (timelineOf(song).playsByPart.get(partId) ?? []).flatMap((play) => {
      const { figure, placement, startTicks } = play
      if (!figure || placement.kind !== 'figure') return []
      const key = `${figure.id}/${placement.shiftFrets}/${placement.form}`
      let notes = performed.get(key)
      if (!notes) {
        const content = figureContent(song, figure, placement.form)
        notes = performContent(content, figure, part, placement.shiftFrets).filter(({ dead }) => !dead)
        performed.set(key, notes)
      }
      return notes.map((played) => ({
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
    })
  })
  made.sort((a, b) => a.startTicks - b.startTicks)
  notesOf.set(song, made)
  return made
}

/** The chords of all sections in song time; one that begins before its section takes from the one before. */
export function songChords(song: Song): SongChord[] {
  const known = chordsOf.get(song)
  if (known) return known
  const chords = timelineOf(song).places.flatMap(({ section, startTicks }) =>
    section.harmony.map((chord) => ({
      sectionId: section.id,
      inSection: chord.startTicks,
      startTicks: startTicks + chord.startTicks,
      endTicks: startTicks + chord.startTicks + chord.lengthTicks,
      symbol: chord.symbol,
    })),
  )
  chords.sort((a, b) => a.startTicks - b.startTicks)
  const made = chords.map((chord, index) => {
    const next = chords[index + 1]
    return next && next.startTicks < chord.endTicks ? { ...chord, endTicks: next.startTicks } : chord
  })
  chordsOf.set(song, made)
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
export function notesWithin(notes: readonly SongNote[], from: number, to: number): SongNote[] {
  const found: SongNote[] = []
  for (let index = firstFrom(notes, from); index < notes.length && notes[index]!.startTicks < to; index++)
    found.push(notes[index]!)
  return found
}
